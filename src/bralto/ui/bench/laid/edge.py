"""What is drawn back while marks are set: its title on a narrow edge that brings it back."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.ui.theme.paint import elided, text, triangle
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Edge"]

_WIDE, _INSET, _DROP = 40, 8.0, 5.0


class Edge(QWidget):
    """A column's edge; a click anywhere on it brings the column back."""

    wanted = pyqtSignal()

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._tokens, self._title = tokens, ""
        self.setFixedWidth(_WIDE)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.hide()

    def say(self, title: str, note: str) -> None:
        """Put the column's title up."""
        words = f"{title}  {note}".strip()
        if words != self._title:
            self._title = words
            self.setAccessibleName(f"{title}: bring it back")
            self.setToolTip(f"Bring {title.lower()} back (F3)")
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        slip = QRectF(self.rect()).adjusted(_INSET, 4.0, -_INSET, -4.0)
        painter.setPen(QPen(tokens.colour("hair", 0.6), 1.0))
        painter.setBrush(tokens.colour("slip"))
        painter.drawRoundedRect(slip, 3.0, 3.0)
        ink = tokens.colour("ink2")
        triangle(painter, QPointF(slip.center().x(), slip.top() + 16.0), "right", ink, 5.0)
        painter.translate(slip.center().x(), slip.top() + 34.0)
        painter.rotate(90.0)
        face = font(Size.NOTE, bold=True)
        text(painter, 0.0, _DROP, elided(self._title, face, slip.height() - 48.0), face, ink)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.wanted.emit()
