"""A line or a frame drawn on a board with the pointer: plumb, level, crop."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen

from bralto.ui.theme.tokens import LIGHT

__all__ = ["TOOLS", "Tool"]

TOOLS: dict[str, tuple[str, str]] = {
    "plumb": ("Draw along something truly vertical:", "a door frame, a plumb line, a wall's edge"),
    "level": (
        "Draw along something truly level:",
        "a table's edge, the model stand, a window sill",
    ),
    "stick": (
        "Hold a stick along any line:",
        "its angle and length are carried over",
    ),
    "crop": ("Draw a frame about the figure:", "marks outside it stay where they are"),
}
"""What to do with each, and an example."""

_SHORTEST = 8.0  # board px; a click is no line


@dataclass(slots=True)
class Tool:
    """What is being drawn, board px."""

    name: str
    start: QPointF | None = None
    end: QPointF | None = None

    @property
    def drawn(self) -> tuple[QPointF, QPointF] | None:
        """Both ends, once they lie apart."""
        if self.start is None or self.end is None:
            return None
        apart = (self.end - self.start).manhattanLength()
        return (self.start, self.end) if apart >= _SHORTEST else None

    def paint(self, painter: QPainter, area: QRectF) -> None:
        """The line, or the frame with what is outside it veiled."""
        ends = self.drawn
        if ends is None:
            return
        if self.name == "crop":
            frame = QRectF(*ends).normalized()
            outside, inside = QPainterPath(), QPainterPath()
            outside.addRect(area)
            inside.addRect(frame)
            painter.fillPath(outside - inside, LIGHT.colour("ink", 0.45))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for width, role in ((4.0, "veil"), (1.6, "red")):
            painter.setPen(QPen(LIGHT.colour(role), width))
            if self.name == "crop":
                painter.drawRect(QRectF(*ends).normalized())
            else:
                painter.drawLine(*ends)
