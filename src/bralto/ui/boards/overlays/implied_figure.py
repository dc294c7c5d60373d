"""A figure that sightings imply, as thin lines with ellipses of doubt: never as if it were seen."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QTransform

from bralto.core.canons.figure import HEAD_PX
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.alone import shown_marks
from bralto.core.sightings.figure.implied import Implied, imply
from bralto.core.sightings.figure.sketch import HEAD_WIDE, bones
from bralto.core.study.two_boards import Board
from bralto.core.views.model import View
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.theme.tokens import Tokens

__all__ = ["draw_implied", "draw_sighted", "shows_sighted"]

_SURE = 0.15
"""Heads; a line whose ends are less sure than this is broken."""


def shows_sighted(board: PaintedBoard) -> bool:
    """Whether what was sighted stands on the board."""
    study = board.study
    return board.board == Board.REFERENCE and study.from_life and not study.session.against


def draw_sighted(painter: QPainter, board: PaintedBoard) -> None:
    """What the sightings tell, in the reference's place."""
    study, picture = board.study, board.study.picture(board.board)
    implied = imply(study.view, study.sighted.kept.items)
    hung = picture.marks.get(study.view.plumb)
    if isinstance(implied, NotMeasurable) or hung is None:
        return
    middle = board.viewport.to_board(hung.x, hung.y)
    right = board.viewport.to_board(hung.x + HEAD_PX, hung.y) - middle
    up = board.viewport.to_board(hung.x, hung.y - HEAD_PX) - middle
    to = QTransform(right.x(), right.y(), up.x(), up.y(), middle.x(), middle.y())
    draw_implied(painter, study.view, implied, shown_marks(study.view, implied), to, board.tokens)


def draw_implied(
    painter: QPainter,
    view: View,
    implied: Implied,
    keys: Collection[str],
    to: QTransform,
    tokens: Tokens,
) -> None:
    """Lines between known marks, and their ellipses of doubt (one standard deviation).

    Args:
        keys: the marks that are shown.
        to: from heads, y up, to where it is painted.
    """
    row = {key: i for i, key in enumerate(implied.marks.keys)}
    places = {key: to.map(QPointF(*implied.marks.xy[row[key]].tolist())) for key in keys}
    sizes = {
        key: float(np.sqrt(np.linalg.eigvalsh(implied.marks.cov[row[key]])[-1])) for key in keys
    }
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(tokens.colour("ochre", 0.22))
    scale = float(np.hypot(to.m11(), to.m12()))
    for key, at in places.items():
        _ellipse(painter, at, implied.marks.cov[row[key]], scale)
    ink = tokens.colour("ink")
    for first, last in bones(view, places):
        painter.setPen(_pen(ink, sure=max(sizes[first], sizes[last]) < _SURE))
        painter.drawLine(places[first], places[last])
    crown, chin = view.head
    if crown in places and chin in places and view.size == "figure":
        _egg(painter, places[crown], places[chin], ink)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(ink)
    for at in places.values():
        painter.drawEllipse(at, 2.4, 2.4)


def _pen(ink: QColor, *, sure: bool) -> QPen:
    pen = QPen(ink, 1.8, cap=Qt.PenCapStyle.RoundCap)
    if not sure:
        pen.setDashPattern([4.0, 4.0])
    return pen


def _ellipse(painter: QPainter, at: QPointF, cov: np.ndarray, scale: float) -> None:
    sizes, axes = np.linalg.eigh(cov)
    long, short = scale * np.sqrt(np.maximum(sizes[::-1], 0.0))
    turn = float(np.degrees(np.arctan2(-axes[1, 1], axes[0, 1])))
    painter.save()
    painter.translate(at)
    painter.rotate(turn)
    painter.drawEllipse(QPointF(0.0, 0.0), max(long, 2.0), max(short, 2.0))
    painter.restore()


def _egg(painter: QPainter, crown: QPointF, chin: QPointF, ink: QColor) -> None:
    """The head between crown and chin, three quarters as wide as high."""
    line = chin - crown
    high = float(np.hypot(line.x(), line.y()))
    painter.save()
    painter.translate(0.5 * (crown + chin))
    painter.rotate(float(np.degrees(np.arctan2(line.y(), line.x()))) - 90.0)
    painter.setPen(QPen(ink, 1.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(QPointF(0.0, 0.0), 0.5 * HEAD_WIDE * high, 0.5 * high)
    painter.restore()
