"""What finding a sheet gives; apart from the finder, which is slow to load."""

from __future__ import annotations

from dataclasses import dataclass

from bralto.core.arrays import Floats
from bralto.core.curled import Bends

__all__ = ["FoundSheet"]


@dataclass(frozen=True, slots=True)
class FoundSheet:
    """A sheet in a photo.

    Attributes:
        corners: (4, 2) array from the top-left clockwise, image px.
        spread: SD of the corners' places, image px.
        bows: (4,) array, how far each side leaves its chord, image px: the upper, right, lower and
            left one as they lie in the picture.
        bends: the same sides' course between the corners, see `core.curled`.
        seen: (4,) array, share of each side (top, right, bottom, left) that is really there.
    """

    corners: Floats
    spread: float
    bows: Floats
    seen: Floats
    bends: Bends

    @property
    def bow(self) -> float:
        """Of the most bent side, image px."""
        return float(self.bows.max())
