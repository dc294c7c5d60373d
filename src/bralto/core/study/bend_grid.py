"""The bends of a curled sheet on a grid: for places that are asked one at a time, and for pixels.

A board asks for some hundred places at every picture it paints; `curled.flattened` takes a
millisecond for each. Between the knots of this grid the bend is taken to be straight, which is off
by less than a two thousandth of it.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.study.curled import curls_too_far
from bralto.core.study.frames import as_curled, sheet_homography
from bralto.core.study.values import Point, Sheet

__all__ = ["BendGrid", "bend_grid"]

_CELLS = 64
"""Along each side of the grid."""

_MARGIN = 0.12
"""By how much of the sheet's extent the grid reaches beyond it: paper bends on a little."""

_ROUNDS, _SETTLED = 25, 1e-6
"""Rounds at most, and px by which the last one may still move a place."""


@dataclass(frozen=True, slots=True)
class BendGrid:
    """How far each place of the flat sheet is moved by its bends, image px.

    Two grids are the same where they are of the same corners, size and bends.

    Attributes:
        of: corners, size and bends of the sheet.
        corner: the first knot, image px. step: from knot to knot, across and down.
        away: rows of knots, at each (across, down), px.
    """

    of: tuple[object, ...]
    corner: Point = field(compare=False)
    step: Point = field(compare=False)
    away: tuple[tuple[Point, ...], ...] = field(compare=False, repr=False)

    def curled(self, x: float, y: float) -> Point:
        """Where a place of the flat sheet lies in the photo, both image px."""
        dx, dy = self.away_at(x, y)
        return x + dx, y + dy

    def flat(self, x: float, y: float) -> Point:
        """Where a place in the photo would lie if the sheet lay flat, both image px."""
        return _flat(self, x, y)

    def away_at(self, x: float, y: float) -> Point:
        """How far a place of the flat sheet is moved, image px: between four knots; beyond the last
        as at it."""
        across = min(max((x - self.corner[0]) / self.step[0], 0.0), _CELLS - 1e-9)
        down = min(max((y - self.corner[1]) / self.step[1], 0.0), _CELLS - 1e-9)
        column, row = int(across), int(down)
        s, t = across - column, down - row
        upper, lower = self.away[row], self.away[row + 1]
        (ax, ay), (bx, by) = upper[column], upper[column + 1]
        (cx, cy), (dx, dy) = lower[column], lower[column + 1]
        a, b, c, d = (1.0 - s) * (1.0 - t), s * (1.0 - t), (1.0 - s) * t, s * t
        return a * ax + b * bx + c * cx + d * dx, a * ay + b * by + c * cy + d * dy


@lru_cache(maxsize=16_384)  # every repaint asks for the same places
def _flat(grid: BendGrid, x: float, y: float) -> Point:
    u, v = x, y
    for _ in range(_ROUNDS):  # each round leaves half of what is off at most
        dx, dy = grid.away_at(u, v)
        off = max(abs(x - dx - u), abs(y - dy - v))
        u, v = x - dx, y - dy
        if off < _SETTLED:
            break
    return u, v


def bend_grid(sheet: Sheet) -> BendGrid | None:
    """The grid of a sheet; None where it is flat, or nothing can be told of it."""
    corners = np.asarray(sheet.corners, dtype=np.float64)
    if not sheet.bends or curls_too_far(corners, sheet.bends):
        return None
    homography = sheet_homography(sheet)
    if isinstance(homography, NotMeasurable):
        return None
    least, most = corners.min(axis=0), corners.max(axis=0)
    least, most = least - _MARGIN * (most - least), most + _MARGIN * (most - least)
    step = (most - least) / _CELLS
    x, y = np.meshgrid(*(least[i] + step[i] * np.arange(_CELLS + 1) for i in range(2)))
    knots = np.column_stack([x.ravel(), y.ravel()])
    away = (as_curled(sheet, homography, knots) - knots).reshape(_CELLS + 1, _CELLS + 1, 2)
    rows = tuple(tuple((dx, dy) for dx, dy in row) for row in away.tolist())
    (left, top), (across, down) = least.tolist(), step.tolist()
    of = sheet.corners, sheet.size_mm, sheet.bends
    return BendGrid(of, (left, top), (across, down), rows)
