"""Snapping on a board: only the patch about the mark is handed to the pixels' side."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING

from PyQt6.QtCore import QRect
from PyQt6.QtGui import QImage

from bralto.core.results import NotMeasurable
from bralto.ui.boards.pixels import as_pixels

if TYPE_CHECKING:  # the module is slow to load
    from bralto.imaging.snap import Snap

__all__ = ["snap_in"]

_WIDEST = 80.0  # image px; further off another line is meant
_MARGIN = 12


def snap_in(image: QImage, x: float, y: float, reach: float) -> Snap | NotMeasurable:
    """Snap a place of a picture (image px) to the nearest line within reach."""
    from bralto.imaging.snap import snap

    reach = min(reach, _WIDEST)
    half = math.ceil(reach) + _MARGIN
    patch = QRect(int(x) - half, int(y) - half, 2 * half + 1, 2 * half + 1) & image.rect()
    left, top = patch.x(), patch.y()
    found = snap(as_pixels(image.copy(patch)), x - left, y - top, reach)
    if isinstance(found, NotMeasurable):
        return found
    return replace(found, x=found.x + left, y=found.y + top)
