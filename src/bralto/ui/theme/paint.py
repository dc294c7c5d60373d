"""The few shapes that carry meaning, drawn here so that they look alike everywhere."""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPainterPathStroker,
    QPen,
    QPixmap,
    QPolygonF,
    QStaticText,
)

from bralto.core.measures.verdict_names import Verdict
from bralto.ui.theme.tokens import Tokens

__all__ = [
    "Align",
    "check",
    "elided",
    "halo_text",
    "in_lines",
    "mark_dot",
    "ring",
    "rounded",
    "rule",
    "text",
    "text_width",
    "triangle",
    "verdict_mark",
    "wrapped",
]

Align = Qt.AlignmentFlag


class _Face:
    """A shared face as a key; `theme.type.font` keeps one object a face for good."""

    __slots__ = ("face",)

    def __init__(self, face: QFont) -> None:
        self.face = face

    def __hash__(self) -> int:
        return id(self.face)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Face) and other.face is self.face


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
    shaped, ascent = _shaped(words, _Face(face))
    width = text_width(words, face)
    if align == Align.AlignRight:
        x -= width
    elif align == Align.AlignHCenter:
        x -= width / 2.0
    painter.drawStaticText(QPointF(x, baseline - ascent), shaped)
    return width


@lru_cache(maxsize=4096)
def _shaped(words: str, face: _Face) -> tuple[QStaticText, float]:
    """A line of text with its glyphs laid out once; most lines stay as they are."""
    shaped = QStaticText(words)
    shaped.setTextFormat(Qt.TextFormat.PlainText)
    shaped.setPerformanceHint(QStaticText.PerformanceHint.AggressiveCaching)
    shaped.prepare(font=face.face)
    return shaped, QFontMetricsF(face.face).ascent()


def text_width(words: str, face: QFont) -> float:
    """Width of one line of text, px."""
    return _width(words, _Face(face))


@lru_cache(maxsize=4096)
def _width(words: str, face: _Face) -> float:
    return QFontMetricsF(face.face).horizontalAdvance(words)


def elided(words: str, face: QFont, width: float) -> str:
    """The words, cut with an ellipsis where they are wider than ``width`` px."""
    return words if text_width(words, face) <= width else _cut(words, _Face(face), round(width))


@lru_cache(maxsize=1024)
def _cut(words: str, face: _Face, width: int) -> str:
    return QFontMetricsF(face.face).elidedText(words, Qt.TextElideMode.ElideRight, width)


def wrapped(words: str, face: QFont, width: float) -> list[str]:
    """Lines no wider than ``width`` px; a single word that is wider keeps its line, and a figure
    the unit behind it and the sign before it."""
    lines = [""]
    for word in _kept_together(words):
        longer = f"{lines[-1]} {word}".strip()
        if lines[-1] and text_width(longer, face) > width:
            lines.append(word)
        else:
            lines[-1] = longer
    return lines


_UNITS = frozenset({"mm", "in", "%", "px", "head", "heads", "°"})


def _kept_together(words: str) -> list[str]:
    """Words, of which some belong to the one before: *4 mm*, *± 0.05 head*."""
    out: list[str] = []
    for word in words.split():
        before = out[-1] if out else ""
        if before.endswith("±") or (word.rstrip(".,;:)") in _UNITS and before[-1:].isdigit()):
            out[-1] = f"{before} {word}"
        else:
            out.append(word)
    return out


def in_lines(words: str, face: QFont, room: float, most: int) -> list[str]:
    """At most so many lines, of which the last ends early where there is not room."""
    lines = wrapped(words, face, room)
    lines[most - 1 :] = [" ".join(lines[most - 1 :])] if len(lines) >= most else []
    return [elided(line, face, room) for line in lines]


def halo_text(
    painter: QPainter, at: QPointF, words: str, face: QFont, colour: QColor, halo: QColor
) -> None:
    """Text that reads on any picture."""
    inner, outer = _halo_paths(words, _Face(face))
    painter.translate(at)
    painter.fillPath(outer, halo)
    painter.fillPath(inner, colour)
    painter.translate(-at)


@lru_cache(maxsize=512)
def _halo_paths(words: str, face: _Face) -> tuple[QPainterPath, QPainterPath]:
    """Letters and the band around them; stroking them anew would cost more than a whole board."""
    inner, outer = QPainterPath(), QPainterPath()
    inner.addText(QPointF(0.0, 0.0), face.face, words)
    outer.setFillRule(Qt.FillRule.WindingFill)
    metrics = QFontMetricsF(face.face)
    for i, letter in enumerate(words):
        outer.addPath(_band(letter, face).translated(metrics.horizontalAdvance(words[:i]), 0.0))
    return inner, outer


@lru_cache(maxsize=1024)
def _band(letter: str, face: _Face) -> QPainterPath:
    """The band around one letter: simplifying that of a whole phrase takes 50 ms."""
    inner = QPainterPath()
    inner.addText(QPointF(0.0, 0.0), face.face, letter)
    pen = QPainterPathStroker(QPen(QColor(0, 0, 0), 4.0, join=Qt.PenJoinStyle.RoundJoin))
    band = QPainterPath()
    for outline in pen.createStroke(inner).simplified().toSubpathPolygons():
        # All turned one way, so that where bands overlap no hole is left.
        points = [outline.at(i) for i in range(outline.count())]
        area = sum(a.x() * b.y() - b.x() * a.y() for a, b in pairwise([*points, points[0]]))
        band.addPolygon(outline if area > 0.0 else QPolygonF(points[::-1]))
        band.closeSubpath()
    return band


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


def rule(painter: QPainter, a: QPointF, b: QPointF, pen: QPen) -> None:
    """A line; a solid level or plumb one is filled on whole px: crisp, and six times as fast."""
    square = a.x() == b.x() or a.y() == b.y()
    if square and pen.style() == Qt.PenStyle.SolidLine:
        half = pen.widthF() / 2.0
        box = QRectF(a, b).normalized()
        box = box.adjusted(-half, 0, half, 0) if a.x() == b.x() else box.adjusted(0, -half, 0, half)
        painter.fillRect(box.toRect(), pen.color())
        return
    if square:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setPen(pen)
    painter.drawLine(a, b)
    if square:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)


def verdict_mark(
    painter: QPainter,
    at: QPointF,
    verdict: Verdict,
    direction: str,
    tokens: Tokens,
    size: float = 5.0,
) -> None:
    """The shape that repeats a verdict: triangle, equals sign or tilde."""
    colour = tokens.colour(tokens.verdict(verdict))
    if verdict.off:
        triangle(painter, at, direction, colour, size)
        return
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(colour, 2.0, cap=Qt.PenCapStyle.RoundCap))
    if verdict == Verdict.CANNOT_TELL:
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
    dot = _dot(colour.rgba(), ring.rgba(), hollow, painter.device().devicePixelRatioF())  # type: ignore[union-attr]
    painter.drawPixmap(at - QPointF(_DOT, _DOT), dot)


_DOT = 7.0


@lru_cache(maxsize=64)
def _dot(colour: int, ring: int, hollow: bool, ratio: float) -> QPixmap:
    """A dot painted once: a picture with forty marks is repainted at every move of the hand."""
    pixmap = QPixmap(round(2 * _DOT * ratio), round(2 * _DOT * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    at, ink = QPointF(_DOT, _DOT), QColor.fromRgba(colour)
    painter.setPen(QPen(QColor(20, 18, 16, 150), 1.0))
    painter.setBrush(QColor.fromRgba(ring))
    painter.drawEllipse(at, 5.2, 5.2)
    painter.setPen(QPen(ink, 1.8) if hollow else QPen(Qt.PenStyle.NoPen))
    painter.setBrush(QBrush() if hollow else QBrush(ink))
    reach = 2.8 if hollow else 3.3
    painter.drawEllipse(at, reach, reach)
    painter.end()
    return pixmap


def rounded(painter: QPainter, area: QRectF, fill: QColor, radius: float = 3.0) -> None:
    """A filled slip of paper."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(fill)
    painter.drawRoundedRect(area, radius, radius)


def check(painter: QPainter, at: QPointF, colour: QColor) -> None:
    """A check mark about a point."""
    painter.setPen(QPen(colour, 2.0))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    corners = [(-6.0, 0.5), (-2.0, 5.0), (6.0, -5.0)]
    painter.drawPolyline(QPolygonF([at + QPointF(x, y) for x, y in corners]))


def ring(painter: QPainter, at: QPointF, colour: QColor) -> None:
    """An open ring about a point: not yet."""
    painter.setPen(QPen(colour, 1.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(at, 4.6, 4.6)
