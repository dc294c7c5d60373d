"""How a picture is laid on its board: as it was taken, or its sheet seen straight on, or a crop."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtGui import QPolygonF

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.study.bend_grid import BendGrid, bend_grid
from bralto.core.study.curled import Bends
from bralto.core.study.frames import sheet_homography, warp
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, Sheet
from bralto.ui.boards.viewport import Viewport

if TYPE_CHECKING:
    from bralto.core.examination.assessment import Assessment

__all__ = ["bends_of", "from_flat_px", "head_px", "in_flat_px", "lay"]

_FULL = 0.75  # px; a scan whose corners are the picture's own is flat already


@dataclass(frozen=True, slots=True)
class _Flat:
    matrix: tuple[float, ...]
    px_per_mm: float
    frame: tuple[float, float, float, float]


def _flat(picture: Picture) -> _Flat | None:
    """The map to the sheet seen straight on, at the photo's own scale in the sheet's middle."""
    sheet = picture.sheet
    if sheet is None:
        return None
    return _flattened(sheet.corners, sheet.size_mm, picture.width, picture.height)


@lru_cache(maxsize=64)  # rails, ghost and sighting ask at every repaint
def _flattened(
    corners: tuple[tuple[float, float], ...], size_mm: tuple[float, float], width: int, height: int
) -> _Flat | None:
    a, b, c, d = corners
    sheet = Sheet((a, b, c, d), size_mm)
    full = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=np.float64)
    if np.abs(np.asarray(sheet.corners) - full).max() < _FULL:
        return None
    homography = sheet_homography(sheet)
    if isinstance(homography, NotMeasurable):
        return None
    _, jacobian = warp(homography, np.asarray(sheet.corners, dtype=np.float64).mean(axis=0)[None])
    scale = 1.0 / float(np.sqrt(abs(np.linalg.det(jacobian[0]))))
    matrix = np.diag([scale, scale, 1.0]) @ homography
    matrix = matrix / matrix[2, 2]
    frame = (0.0, 0.0, sheet.size_mm[0] * scale, sheet.size_mm[1] * scale)
    return _Flat(tuple(matrix.ravel().tolist()), scale, frame)


@lru_cache(maxsize=64)
def _grid_of(
    corners: tuple[tuple[float, float], ...], size_mm: tuple[float, float], bends: Bends
) -> BendGrid | None:
    a, b, c, d = corners
    return bend_grid(Sheet((a, b, c, d), size_mm, bends=bends))


def bends_of(picture: Picture) -> BendGrid | None:
    """How a picture's sheet curls; None where it has none, or it lies flat."""
    sheet = picture.sheet
    if sheet is None or not sheet.bends:
        return None
    return _grid_of(sheet.corners, sheet.size_mm, sheet.bends)


def in_flat_px(view: Viewport, xy: Floats) -> Floats:
    """Places of a picture (n, 2), image px, in its flat px, see `Viewport`."""
    if view.bends is None:
        return xy
    return np.array([view.bends.flat(x, y) for x, y in xy.tolist()]).reshape(-1, 2)


def from_flat_px(view: Viewport, xy: Floats) -> Floats:
    """The image px of places (n, 2) in flat px, see `Viewport`."""
    if view.bends is None:
        return xy
    return np.array([view.bends.curled(x, y) for x, y in xy.tolist()]).reshape(-1, 2)


def lay(picture: Picture, before: Viewport | None = None) -> Viewport:
    """The viewport of a picture, its turns and mirror as they were before."""
    flat = _flat(picture)
    found = Viewport(picture.width, picture.height, picture.plumb_deg, bends=bends_of(picture))
    if flat is not None:
        found = replace(found, flat=flat.matrix, frame=flat.frame)
    if picture.crop is not None:
        bare = replace(found, plumb_deg=0.0, frame=(0.0, 0.0, 0.0, 0.0))
        left, top, wide, high = picture.crop
        edge = ((left, top), (left + wide, top), (left + wide, top + high), (left, top + high))
        looked = QPolygonF([bare.to_board(x, y) for x, y in edge]).boundingRect()
        found = replace(found, frame=(looked.x(), looked.y(), looked.width(), looked.height()))
    if before is not None:
        found = replace(
            found, mirrored=before.mirrored, quarters=before.quarters,
            upright_deg=before.upright_deg,
        )  # fmt: skip
    return found


def head_px(assessment: Assessment, picture: Picture, board: Board) -> float | None:
    """A reference head on a board's picture as it is laid there, px before zooming."""
    unit = assessment.unit
    if isinstance(unit, NotMeasurable):
        return None
    flat = _flat(picture)
    if board == Board.REFERENCE:
        return unit.reference_px if flat is None else unit.reference * flat.px_per_mm
    if flat is not None:
        mm = unit.drawing_mm
        return None if isinstance(mm, NotMeasurable) else mm * flat.px_per_mm
    return None if isinstance(unit.drawing_px, NotMeasurable) else unit.drawing_px
