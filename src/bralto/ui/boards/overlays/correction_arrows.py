"""Where the held correction would bring its marks: arrows on the drawing, and how far."""

from __future__ import annotations

import math

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen

from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points, sight_marks
from bralto.core.words.lengths import length
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.theme.paint import halo_text, text_width
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["draw_goals", "goals"]

_HEAD = 7.0  # of an arrow, board px
_NAMED = 4  # arrows whose length is written, the longest ones


def goals(board: PaintedBoard) -> list[tuple[QPointF, QPointF, str]]:
    """From where to where each mark of the held correction goes, board px, and how far in words;
    the longest first."""
    held = board.study.session.held
    if held is None or not held.shifts:
        return []
    picture = board.study.picture(board.board)
    keys = [key for key in held.shifts if key in picture.placed()]
    marks = sight_marks(picture, keys)
    if isinstance(marks, NotMeasurable):
        return []
    away = np.array([held.shifts[key] for key in keys]).reshape(-1, 2)
    places = image_points(picture, marks.xy + away)
    if isinstance(places, NotMeasurable):
        return []
    found = []
    for key, (x, y), (dx, dy) in zip(keys, places.tolist(), away.tolist(), strict=True):
        start = board.at(key)
        if start is not None:
            far = math.hypot(dx, dy)
            words = length(far) if marks.unit == "mm" else ""
            found.append((far, start, board.viewport.to_board(x, y), words))
    found.sort(key=lambda one: -one[0])
    return [one[1:] for one in found]


def draw_goals(painter: QPainter, board: PaintedBoard) -> None:
    """Open, shafted arrows in graphite: a move is no error."""
    shown = goals(board)
    ink, veil = LIGHT.colour("ink"), LIGHT.colour("veil")
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for start, end, _ in shown:
        for pen in (QPen(veil, 4.0), QPen(ink, 1.6)):
            painter.setPen(pen)
            painter.drawLine(start, end)
            away = end - start
            length = math.hypot(away.x(), away.y())
            if length > 3.0:
                turn = math.atan2(away.y(), away.x())
                for side in (2.6, -2.6):
                    barb = QPointF(math.cos(turn + side), math.sin(turn + side))
                    painter.drawLine(end, end + min(_HEAD, length) * barb)
    face = font(Size.FINE, bold=True)
    for _, end, words in shown[:_NAMED]:
        if words:
            wide = text_width(words, face)
            beside = 8.0 if end.x() + 12.0 + wide < board.width() else -10.0 - wide
            halo_text(painter, end + QPointF(beside, 5.0), words, face, ink, veil)
