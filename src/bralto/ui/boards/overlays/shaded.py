"""Shadows over a picture: what is dark, where drawn dark goes too far or falls short, the focus."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QBrush, QPainter, QPainterPath, QPen, QPolygonF

from bralto.core.light.shadows_held import LightReading, Patch
from bralto.core.light.three_values import ThreeValues
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Point
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.boards.overlays.instruments import veil_of
from bralto.ui.theme.tokens import LIGHT

__all__ = ["draw_shadows"]

_INKS = LIGHT


def draw_shadows(painter: QPainter, board: PaintedBoard) -> None:
    """The shapes of shadow; on the drawing, hatched one way in red, where they go beyond the
    reference's and, the other way in blue, where they fall short."""
    study = board.study
    values = study.session.values.get(board.board)
    if isinstance(values, ThreeValues):
        _values(painter, board, values)
        return
    picture = study.picture(board.board)
    path = _path(board, picture.shadows)
    found = study.examination.both.light
    told = board.board == Board.DRAWING and isinstance(found, LightReading)
    if not path.isEmpty():
        painter.fillPath(path, _INKS.colour("ink", 0.10 if told else 0.30))
        pen = QPen(_INKS.colour("ink"), 1.6)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for one in (veil_of(pen), pen):
            painter.setPen(one)
            painter.drawPath(path)
    if told and isinstance(found, LightReading):
        for patches, role, pattern in (
            (found.beyond, "red", Qt.BrushStyle.BDiagPattern),
            (found.short, "blue", Qt.BrushStyle.FDiagPattern),
        ):
            _patches(painter, board, patches, role, pattern)
    _focus(painter, board)


def _values(painter: QPainter, board: PaintedBoard, values: ThreeValues) -> None:
    """Three values as flat tones with their outlines, in place of the shadows."""
    for rings, strength in ((values.half, 0.28), (values.dark, 0.42)):
        path = _path(board, rings)
        painter.fillPath(path, _INKS.colour("ink", strength))
        pen = QPen(_INKS.colour("ink"), 1.3)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for one in (veil_of(pen), pen):
            painter.setPen(one)
            painter.drawPath(path)


def _path(board: PaintedBoard, rings: Sequence[Sequence[Point]]) -> QPainterPath:
    """Outlines in image px; one within another cuts light out of it."""
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for ring in rings:
        path.addPolygon(QPolygonF([board.viewport.to_board(x, y) for x, y in ring]))
        path.closeSubpath()
    return path


def _patches(
    painter: QPainter,
    board: PaintedBoard,
    patches: tuple[Patch, ...],
    role: str,
    pattern: Qt.BrushStyle,
) -> None:
    for patch in patches:
        path = QPainterPath()
        path.setFillRule(Qt.FillRule.OddEvenFill)
        for ring in patch.rings:
            px = image_points(board.study.picture(board.board), np.asarray(ring))
            if isinstance(px, NotMeasurable):
                return
            path.addPolygon(QPolygonF([board.viewport.to_board(float(x), float(y)) for x, y in px]))
            path.closeSubpath()
        painter.fillPath(path, _INKS.colour(role, 0.30))
        painter.fillPath(path, QBrush(_INKS.colour(role), pattern))


def _focus(painter: QPainter, board: PaintedBoard) -> None:
    """A ring where light and dark meet most sharply; a cross where the eye should go to."""
    study = board.study
    tone, named = study.session.tones.get(board.board), study.notes.focal
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if tone is not None:
        at = board.viewport.to_board(tone[1], tone[2])
        for wide, role in ((5.0, "veil"), (2.0, "ochre")):
            painter.setPen(QPen(_INKS.colour(role), wide))
            painter.drawEllipse(at, 15.0, 15.0)
    if named is not None and board.board == Board.REFERENCE:
        at = board.viewport.to_board(*named)
        for wide, role in ((5.0, "veil"), (2.0, "ink")):
            painter.setPen(QPen(_INKS.colour(role), wide))
            for x, y in ((9.0, 9.0), (9.0, -9.0)):
                painter.drawLine(at - QPointF(x, y), at + QPointF(x, y))
