"""The sheet seen straight on: a photo warped to the paper's own rectangle."""

from __future__ import annotations

import cv2
import numpy as np

from bralto.core.arrays import Pixels
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sheet_homography
from bralto.core.study.values import Sheet

__all__ = ["flatten"]


def flatten(picture: Pixels, sheet: Sheet, px_per_mm: float) -> Pixels | NotMeasurable:
    """Warp a photo so that its sheet fills the picture.

    Args:
        picture: (h, w, 3) uint8.
        px_per_mm: scale of what is wanted; pixel (0, 0) begins at the sheet's top-left corner.

    Returns:
        (round(height_mm px_per_mm), round(width_mm px_per_mm), 3) uint8, or why there is none.
    """
    homography = sheet_homography(sheet)
    if isinstance(homography, NotMeasurable):
        return homography
    width, height = (max(1, round(side * px_per_mm)) for side in sheet.size_mm)
    # Between pixel centres, which lie half a pixel inside: image px -> mm -> px of the result.
    centre = np.array([[1.0, 0.0, 0.5], [0.0, 1.0, 0.5], [0.0, 0.0, 1.0]])
    scaled = np.diag([width / sheet.size_mm[0], height / sheet.size_mm[1], 1.0]) @ homography
    whole = np.linalg.inv(centre) @ scaled @ centre
    flat: Pixels = cv2.warpPerspective(picture, whole, (width, height), flags=cv2.INTER_LINEAR)
    return flat
