"""What finding a sheet gives; apart from the finder, which is slow to load."""

from __future__ import annotations

from dataclasses import dataclass

from bralto.core.arrays import Floats

__all__ = ["FoundSheet"]


@dataclass(frozen=True, slots=True)
class FoundSheet:
    """A sheet in a photo.

    Attributes:
        corners: (4, 2) array from the top-left clockwise, image px.
        spread: SD of the corners' places, image px.
        bow: how far the most bent side leaves its chord, image px.
        seen: (4,) array, share of each side (top, right, bottom, left) that is really there.
    """

    corners: Floats
    spread: float
    bow: float
    seen: Floats
