"""A photo of a curled sheet as it would be if the sheet lay flat, the corners where they are."""

from __future__ import annotations

import cv2
import numpy as np

from bralto.core.arrays import Floats, Ints, Pixels
from bralto.core.study.bend_grid import BendGrid

__all__ = ["straighten"]

_STRIP = 64
"""Rows at a time: how far each pixel has come takes three times the room of the picture."""


def straighten(picture: Pixels, grid: BendGrid, wide: int, into: Pixels) -> None:
    """Take the bends of a sheet out of its photo.

    Args:
        picture: (h, w, c) uint8, of whatever size.
        wide: the photo's own width, px, in which the grid is given.
        into: (h, w, c) uint8, contiguous, which is written to; what comes from outside the picture
            repeats its edge.
    """
    height, width = picture.shape[:2]
    shrink = width / wide
    away = np.moveaxis(np.array(grid.away) * shrink, 2, 0)  # (2, rows, columns)
    column, s = _between(width, grid.corner[0] * shrink, grid.step[0] * shrink, away.shape[2])
    row, t = _between(height, grid.corner[1] * shrink, grid.step[1] * shrink, away.shape[1])
    across = (away[:, :, column] * (1.0 - s) + away[:, :, column + 1] * s).astype(np.float32)
    part = t.astype(np.float32)[:, None]
    own_x, own_y = np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32)
    for first in range(0, height, _STRIP):
        here = slice(first, first + _STRIP)
        x, y = across[:, row[here]] * (1.0 - part[here]) + across[:, row[here] + 1] * part[here]
        into[here] = cv2.remap(
            picture, x + own_x, y + own_y[here, None], cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        ).reshape(into[here].shape)  # fmt: skip


def _between(count: int, corner: float, step: float, knots: int) -> tuple[Ints, Floats]:
    """For the middle of each pixel of a side, the knot before it and how far it is beyond."""
    at = np.clip((np.arange(count) + 0.5 - corner) / step, 0.0, knots - 1 - 1e-9)
    before = at.astype(np.intp)
    return before, at - before
