"""A drawing's picture as it would look corrected: bent so that marks come to where they belong."""

from __future__ import annotations

import cv2
import numpy as np
from skimage.transform import ThinPlateSplineTransform

from bralto.core.arrays import Floats, Pixels

__all__ = ["bend"]

_GRID = 48
"""Places along the longer side at which the spline is computed; between them it is smooth."""
_EDGE = 6
"""Points along each side of the frame that stay where they are."""


def bend(picture: Pixels, marks: Floats, places: Floats, frame: Floats | None = None) -> Pixels:
    """Bend a picture by a thin-plate spline (Bookstein 1989) so that ``marks`` come to ``places``.

    Args:
        picture: (h, w, 3) uint8.
        marks, places: (n, 2) px of this picture, (0, 0) the corner of its first pixel.
        frame: (m, 2) corners of what is looked at; its edge stays. The picture's own by default.

    Returns:
        (h, w, 3) uint8; what comes from outside the picture repeats its edge.
    """
    height, width = picture.shape[:2]
    if frame is None:
        frame = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=np.float64)
    share = np.linspace(0.0, 1.0, _EDGE, endpoint=False)[:, None]
    sides = zip(frame, np.roll(frame, -1, axis=0), strict=True)
    still = np.concatenate([a + share * (b - a) for a, b in sides])
    # Backwards: from each place of the bent picture to where its colour comes from.
    scale = float(max(width, height))
    spline = ThinPlateSplineTransform.from_estimate(
        np.concatenate([places, still]) / scale, np.concatenate([marks, still]) / scale
    )
    if not spline:  # two marks would come to one place
        return picture
    step = scale / _GRID
    columns, rows = (max(2, int(np.ceil(side / step)) + 1) for side in (width, height))
    x, y = np.meshgrid(np.arange(columns) * step, np.arange(rows) * step)
    coarse = scale * spline(np.column_stack([x.ravel(), y.ravel()]) / scale)
    away = (coarse - np.column_stack([x.ravel(), y.ravel()])).reshape(rows, columns, 2)
    # How far each pixel's colour has come, cubic between the places of the grid.
    grid_x = (np.arange(width, dtype=np.float32) + 0.5) / np.float32(step)
    grid_y = (np.arange(height, dtype=np.float32) + 0.5) / np.float32(step)
    at_x, at_y = np.meshgrid(grid_x, grid_y)
    far = cv2.remap(
        away.astype(np.float32), at_x, at_y, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE
    )
    own_x, own_y = np.meshgrid(
        np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32)
    )
    bent: Pixels = cv2.remap(
        picture,
        own_x + far[:, :, 0],
        own_y + far[:, :, 1],
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return bent
