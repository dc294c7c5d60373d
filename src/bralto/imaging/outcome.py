"""What finding a sheet gives; apart from the finder, which is slow to load."""

from __future__ import annotations

import math
from dataclasses import dataclass

from bralto.core.arrays import Floats
from bralto.core.study.curled import FLAT, Bends

__all__ = ["FoundSheet"]


@dataclass(frozen=True, slots=True)
class FoundSheet:
    """A sheet in a photo.

    Attributes:
        corners: (4, 2) array from the top-left clockwise, image px.
        spread: SD of the corners' places, image px.
        bows: (4,) array, how far each side leaves its chord, image px: the upper, right, lower and
            left one as they lie in the picture.
        bends: the same sides' course between the corners, see `core.study.curled`.
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

    def plane(self) -> tuple[Bends, float]:
        """How the sheet is straightened, and the SD of where its plane lies then, image px.

        A bent lens or curling paper moves what lies between the corners: that is taken out where an
        edge is plainly bent, else half of it is doubt at every mark.
        """
        if self.bow > _PLAIN_SD * self.spread and self.bow > _PLAIN_PX:
            return self.bends, self.spread
        return FLAT, math.hypot(self.spread, self.bow / 2.0)


_PLAIN_SD, _PLAIN_PX = 3.0, 1.5
"""An edge is plainly bent that leaves the line between its corners by more than so many SDs of a
corner, and by more than so many px (chosen here)."""
