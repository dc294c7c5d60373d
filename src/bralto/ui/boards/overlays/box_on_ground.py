"""The ground under a standing figure: horizon, and the box that it stands in, in perspective."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from bralto.core.action.ground import StandingGround
from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.two_boards import Board
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.boards.overlays.instruments import veiled
from bralto.ui.theme.paint import halo_text
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["draw_ground"]

_INKS = LIGHT
_FAR = 60.0
"""Heads to either side by which the horizon leaves the board."""


def draw_ground(painter: QPainter, board: PaintedBoard) -> None:
    """The horizon where it is named or known, or while the box is shown; the box on wish."""
    study = board.study
    if study.imagined:
        return
    shown = study.session.boxed
    if not shown and study.session.picture_name(board.board) not in study.notes.horizon:
        return
    found = study.grounds[board.board == Board.DRAWING]
    if isinstance(found, NotMeasurable):
        return
    level = found.under + np.array(
        [[-_FAR, found.eye.height.value], [_FAR, found.eye.height.value]]
    )
    line = _on_board(board, level)
    if len(line) < 2:
        return
    veiled(painter, line, QPen(_INKS.colour("ochre"), 1.8))
    at = QPointF(6.0, _height_at(line, 6.0) - 6.0)
    ink, veil = _INKS.colour("ochre"), _INKS.colour("veil", 0.85)
    halo_text(painter, at, "height of the eye", font(Size.FINE, bold=True), ink, veil)
    if shown:
        _box(painter, board, found)


def _box(painter: QPainter, board: PaintedBoard, found: StandingGround) -> None:
    places = _on_board(board, found.box)
    if len(places) < len(found.box):
        return
    ground, above = places[:4], places[4:]
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_INKS.colour("ochre", 0.16))
    painter.drawPolygon(QPolygonF(ground))
    strong, thin = QPen(_INKS.colour("ink"), 1.8), QPen(_INKS.colour("ink"), 1.2)
    veiled(painter, ground, strong, closed=True)
    veiled(painter, above, thin, closed=True)
    for low, high in zip(ground, above, strict=True):
        veiled(painter, [low, high], thin)


def _on_board(board: PaintedBoard, heads: Floats) -> list[QPointF]:
    """Places in heads of the picture's sight frame on the board; none where they have no place."""
    figure = board.study.examination.side(board.board).figure
    if isinstance(figure, NotMeasurable):
        return []
    px = image_points(board.study.picture(board.board), heads * figure.head.value)
    if isinstance(px, NotMeasurable):
        return []
    return [board.viewport.to_board(float(x), float(y)) for x, y in px]


def _height_at(line: list[QPointF], x: float) -> float:
    one, two = line
    wide = two.x() - one.x()
    return one.y() if not wide else one.y() + (x - one.x()) / wide * (two.y() - one.y())
