"""What a correction does, as a small sign: open arrows in graphite, since a move is no error."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from bralto.core.corrections.correction_words import Correction

__all__ = ["draw_glyph"]

_REACH = 8.0
_BARB = 4.0


def draw_glyph(painter: QPainter, at: QPointF, one: Correction, colour: QColor) -> None:
    """About a point: two arrows apart (larger) or together (smaller), a turn, or a shift."""
    painter.setPen(QPen(colour, 1.5, cap=Qt.PenCapStyle.RoundCap))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if one.move == "shift":
        across, up = one.across or 0.0, one.up or 0.0
        _arrow(painter, at, math.degrees(math.atan2(up, across)), -_REACH, _REACH)
    elif one.move in {"eye", "nod"}:  # the eye, or the face, goes up or down
        _arrow(painter, at, 90.0 if one.amount > 0.0 else -90.0, -_REACH, _REACH)
    elif one.move == "face":
        _arrow(painter, at, 0.0 if one.amount > 0.0 else 180.0, -_REACH, _REACH)
    elif one.move in {"scale", "lengthen", "widen", "stretch"}:
        level = 0.0 if one.move in {"widen", "stretch"} else 90.0
        for turn in (level, level + 180.0):
            ends = (2.0, _REACH) if one.amount > 0.0 else (_REACH, 2.0)
            _arrow(painter, at, turn, *ends)
    else:
        _turn(painter, at, counter=one.amount > 0.0)


def _point(at: QPointF, degrees: float, far: float) -> QPointF:
    turn = math.radians(degrees)
    return at + far * QPointF(math.cos(turn), -math.sin(turn))


def _arrow(painter: QPainter, at: QPointF, degrees: float, start: float, end: float) -> None:
    tip, way = _point(at, degrees, end), 1.0 if end > start else -1.0
    painter.drawLine(_point(at, degrees, start), tip)
    for side in (150.0, -150.0):
        painter.drawLine(tip, _point(tip, degrees + side, way * _BARB))


def _turn(painter: QPainter, at: QPointF, *, counter: bool) -> None:
    """Three quarters of a circle with its arrow at the end that it turns to."""
    box = QRectF(at.x() - 6.5, at.y() - 6.5, 13.0, 13.0)
    painter.drawArc(box, -45 * 16, 270 * 16)
    end = 225.0 if counter else -45.0
    tip = _point(at, end, 6.5)
    ahead = end + (90.0 if counter else -90.0)
    for side in (150.0, -150.0):
        painter.drawLine(tip, _point(tip, ahead + side, _BARB))
