"""Corners of a picture: places that can be found again, as the legs of a chair."""

from __future__ import annotations

import cv2
import numpy as np

from bralto.core.arrays import Floats, Pixels

__all__ = ["find_corners"]

_LONGEST = 800
"""Px of the longer side at which corners are looked for: finer ones are grain and hatching."""

_SOFT = 1.5
"""SD, px of that size, by which grain is softened first (chosen here)."""

_QUALITY = 0.04
"""Least strength against the strongest corner's (chosen here: below it hatching answers)."""

_APART = 0.02
"""Parts of the longer side that corners are apart at least (chosen here)."""


def find_corners(picture: Pixels, most: int = 80) -> Floats:
    """The strongest corners of a picture, by the lesser eigenvalue of its gradients (Shi and
    Tomasi 1994, CVPR, 593), to a fraction of a pixel.

    Args:
        picture: (h, w, 3) uint8, RGB.

    Returns:
        (n, 2) array, image px, the strongest first; n is ``most`` at most, and may be 0.
    """
    high, wide = picture.shape[:2]
    by = min(1.0, _LONGEST / max(high, wide))
    size = (max(1, round(by * wide)), max(1, round(by * high)))
    grey = cv2.cvtColor(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), cv2.COLOR_RGB2GRAY)
    grey = cv2.GaussianBlur(grey, (0, 0), _SOFT)
    found = cv2.goodFeaturesToTrack(grey, most, _QUALITY, _APART * max(size), blockSize=7)
    if found is None:
        return np.empty((0, 2))
    settled = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 30, 0.02)
    at = cv2.cornerSubPix(grey, found, (5, 5), (-1, -1), settled).reshape(-1, 2)
    # OpenCV counts from the middle of the first px, an image frame from its corner.
    corners: Floats = (np.asarray(at, np.float64) + 0.5) * (wide / size[0], high / size[1])
    inside = np.all((corners >= 0.0) & (corners <= (wide, high)), axis=1)
    return corners[inside]
