"""The few shapes that carry meaning, drawn here so that they look alike everywhere."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPainterPath, QPen, QPolygonF

from bralto.ui.theme.tokens import Tokens

__all__ = ["elided", "halo_text", "mark_dot", "rounded", "text", "triangle", "verdict_mark"]

Align = Qt.AlignmentFlag


def text(
    painter: QPainter,
    x: float,
    baseline: float,
    words: str,
    face: QFont,
    colour: QColor,
    align: Align = Align.AlignLeft,
) -> float:
    """Draw one line of text at a baseline; gives its width."""
    painter.setFont(face)
    painter.setPen(colour)
    width = QFontMetricsF(face).horizontalAdvance(words)
    if align == Align.AlignRight:
        x -= width
    elif align == Align.AlignHCenter:
        x -= width / 2.0
    painter.drawText(QPointF(x, baseline), words)
    return width


def elided(words: str, face: QFont, width: float) -> str:
    """The words, cut with an ellipsis where they are wider than ``width`` px."""
    return QFontMetricsF(face).elidedText(words, Qt.TextElideMode.ElideRight, width)


def halo_text(
    painter: QPainter, at: QPointF, words: str, face: QFont, colour: QColor, halo: QColor
) -> None:
    """Text that reads on any picture."""
    path = QPainterPath()
    path.addText(at, face, words)
    painter.strokePath(path, QPen(halo, 4.0, join=Qt.PenJoinStyle.RoundJoin))
    painter.fillPath(path, colour)


def triangle(
    painter: QPainter, at: QPointF, direction: str, colour: QColor, size: float = 5.0
) -> None:
    """A filled triangle about a point; direction ``up``, ``down``, ``left`` or ``right``."""
    corners = {
        "up": ((-1.0, 0.8), (1.0, 0.8), (0.0, -0.9)),
        "down": ((-1.0, -0.8), (1.0, -0.8), (0.0, 0.9)),
        "left": ((0.8, -1.0), (0.8, 1.0), (-0.9, 0.0)),
        "right": ((-0.8, -1.0), (-0.8, 1.0), (0.9, 0.0)),
    }[direction]
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    points = [QPointF(at.x() + size * x, at.y() + size * y) for x, y in corners]
    painter.drawPolygon(QPolygonF(points))


def verdict_mark(
    painter: QPainter, at: QPointF, verdict: str, direction: str, tokens: Tokens, size: float = 5.0
) -> None:
    """The shape that repeats a verdict: triangle, equals sign or tilde."""
    colour = tokens.colour(tokens.verdict(verdict))
    if verdict in {"over", "under"}:
        triangle(painter, at, direction, colour, size)
        return
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(colour, 2.0, cap=Qt.PenCapStyle.RoundCap))
    if verdict == "cannot tell":
        wave = QPainterPath(QPointF(at.x() - size, at.y() + 1.0))
        wave.cubicTo(
            QPointF(at.x() - size / 3.0, at.y() - size),
            QPointF(at.x() + size / 3.0, at.y() + size),
            QPointF(at.x() + size, at.y() - 1.0),
        )
        painter.drawPath(wave)
    else:
        for dy in (-2.0, 2.0):
            painter.drawLine(
                QPointF(at.x() - size * 0.8, at.y() + dy), QPointF(at.x() + size * 0.8, at.y() + dy)
            )


def mark_dot(
    painter: QPainter, at: QPointF, colour: QColor, *, ring: QColor, hollow: bool = False
) -> None:
    """A mark on a picture: a small dot with a light ring and a dark hair around it."""
    painter.setPen(QPen(QColor(20, 18, 16, 150), 1.0))
    painter.setBrush(ring)
    painter.drawEllipse(at, 5.2, 5.2)
    if hollow:
        painter.setPen(QPen(colour, 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(at, 2.8, 2.8)
    else:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        painter.drawEllipse(at, 3.3, 3.3)


def rounded(painter: QPainter, area: QRectF, fill: QColor, radius: float = 3.0) -> None:
    """A filled slip of paper."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(fill)
    painter.drawRoundedRect(area, radius, radius)
