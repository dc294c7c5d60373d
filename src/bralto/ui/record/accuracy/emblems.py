"""A small sign for each skill, after what measures it on the Bench: rung, rail, needle, bob.

The same signs, smaller, are the dots of its chart, so that charts are told apart at a glance.
"""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

__all__ = ["draw_emblem"]

_Points = tuple[tuple[float, float], ...]


def _box(left: float, top: float, right: float, bottom: float) -> _Points:
    return ((left, top), (right, top), (right, bottom), (left, bottom))


_SIGNS: dict[str, tuple[tuple[str, _Points], ...]] = {
    "miss": (("round", ((0.8, 0.8),)),),
    "heights": (("paper", _box(-1.0, -0.32, 1.0, 0.32)),),  # a rung
    "widths": (  # a rail between two ends
        ("line", ((-1.0, 0.0), (1.0, 0.0))),
        ("line", ((-1.0, -0.8), (-1.0, 0.8))),
        ("line", ((1.0, -0.8), (1.0, 0.8))),
    ),
    "tilts": (("paper", ((-1.0, 0.75), (1.0, -0.55), (0.55, 0.75))),),  # a needle of the fan
    "plumb": (  # the bob on its line
        ("line", ((0.0, -1.2), (0.0, -0.4))),
        ("paper", ((-0.6, -0.4), (0.6, -0.4), (0.0, 1.1))),
    ),
    "halves": (("paper", _box(-0.35, -1.0, 0.35, 0.0)), ("ink", _box(-0.35, 0.0, 0.35, 1.0))),
    "thirds": (
        ("paper", _box(-0.35, -1.0, 0.35, -0.33)),
        ("ink", _box(-0.35, -0.33, 0.35, 0.33)),
        ("paper", _box(-0.35, 0.33, 0.35, 1.0)),
    ),
    "shapes": (("paper", ((-0.9, -0.3), (0.0, -1.0), (0.9, -0.2), (0.5, 0.9), (-0.6, 0.8))),),
    "bend": (  # a sweep, and the straight line that it should not be
        ("line", ((-0.1, -1.1), (-0.75, -0.45), (-0.75, 0.35), (-0.1, 1.1))),
        ("line", ((0.7, -1.0), (0.7, 1.0))),
    ),
    "seeing": (("round", ((1.0, 0.6),)), ("dot", ((0.25, 0.25),))),  # an eye
    "sighting": (  # a pencil held out, and the thumb on it
        ("line", ((0.0, -1.2), (0.0, 1.2))),
        ("paper", ((-0.5, 0.0), (0.5, 0.0), (0.5, 0.6), (-0.5, 0.6))),
    ),
    "hand": (  # strokes
        ("line", ((-1.0, 0.8), (-0.2, -0.8))),
        ("line", ((-0.4, 0.8), (0.4, -0.8))),
        ("line", ((0.2, 0.8), (1.0, -0.8))),
    ),
}
"""Pieces in the order of painting: what each is, and its corners, or the radii of what is round; y
down, in halves of the extent."""


def draw_emblem(
    painter: QPainter, skill: str, at: QPointF, size: float, ink: QColor, fill: QColor
) -> None:
    """The sign of a skill about a point.

    Args:
        size: half of its extent, px. fill: of what is closed.
    """
    painter.setPen(QPen(ink, max(1.2, 0.22 * size), cap=Qt.PenCapStyle.RoundCap))
    for kind, points in _SIGNS[skill]:
        painter.setBrush(ink if kind in {"ink", "dot"} else fill)
        if kind in {"round", "dot"}:
            ((across, down),) = points
            painter.drawEllipse(at, across * size, down * size)
            continue
        corners = QPolygonF([QPointF(at.x() + size * x, at.y() + size * y) for x, y in points])
        if kind == "line":
            painter.drawPolyline(corners)
        else:
            painter.drawPolygon(corners)
