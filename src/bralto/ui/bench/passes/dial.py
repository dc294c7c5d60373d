"""A number answered by dragging: a line to be tilted, or a staff to be counted."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.kinds import fold_degrees
from bralto.core.session.guesses import Asked
from bralto.ui.theme.paint import triangle
from bralto.ui.theme.tokens import Tokens

__all__ = ["Dial"]


class Dial(QWidget):
    """Emits `moved` with the value in the question's own unit."""

    moved = pyqtSignal(float)

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMinimumHeight(150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Your guess")
        self._tokens = tokens
        self.asked: Asked | None = None
        self.value = 0.0

    def ask(self, asked: Asked) -> None:
        """Another question; it begins where nothing is given away."""
        self.asked = asked
        self.value = 0.0 if asked.unit == "°" else 0.5 * (asked.low + asked.high)
        self.setToolTip("Drag, or use the arrow keys")
        self.update()

    def show_value(self, value: float) -> None:
        """A value that was typed."""
        self.value = value
        self.update()

    @property
    def _tilts(self) -> bool:
        return self.asked is not None and self.asked.unit == "°"

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.asked is not None:
            (self._line if self._tilts else self._staff)(painter, self.asked)
        painter.end()

    def _middle(self) -> tuple[QPointF, float]:
        return QPointF(self.width() / 2.0, self.height() / 2.0), min(
            0.42 * self.width(), 0.9 * self.height()
        )

    def _line(self, painter: QPainter, asked: Asked) -> None:
        tokens = self._tokens
        middle, reach = self._middle()
        painter.setPen(QPen(tokens.colour("hair"), 1.0, Qt.PenStyle.DotLine))
        painter.drawLine(middle - QPointF(reach, 0.0), middle + QPointF(reach, 0.0))
        turn = math.radians(self.value)
        away = reach * QPointF(math.cos(turn), -math.sin(turn))
        painter.setPen(QPen(tokens.colour("ink"), 2.6, cap=Qt.PenCapStyle.RoundCap))
        painter.drawLine(middle - away, middle + away)
        painter.setBrush(tokens.colour("ink"))
        for end in (middle - away, middle + away):
            painter.drawEllipse(end, 5.0, 5.0)

    def _bar(self) -> QRectF:
        return QRectF(20.0, self.height() / 2.0 - 9.0, self.width() - 40.0, 18.0)

    def _staff(self, painter: QPainter, asked: Asked) -> None:
        tokens, bar = self._tokens, self._bar()
        share = (self.value - asked.low) / (asked.high - asked.low)
        painter.setPen(QPen(tokens.colour("ink2"), 1.2))
        painter.setBrush(tokens.colour("sheet"))
        painter.drawRect(bar)
        painter.fillRect(
            QRectF(bar.left(), bar.top(), share * bar.width(), bar.height()),
            tokens.colour("ink2", 0.5),
        )
        at = QPointF(bar.left() + share * bar.width(), bar.bottom() + 9.0)
        triangle(painter, at, "up", tokens.colour("ink"), 8.0)

    def _take(self, at: QPointF) -> None:
        asked = self.asked
        if asked is None:
            return
        if self._tilts:
            middle, _ = self._middle()
            away = at - middle
            if away.manhattanLength() < 6.0:
                return
            value = math.degrees(math.atan2(-away.y(), away.x()))
            value = fold_degrees(value)
        else:
            bar = self._bar()
            share = (at.x() - bar.left()) / bar.width()
            value = asked.low + share * (asked.high - asked.low)
        self._move_to(value)

    def _move_to(self, value: float) -> None:
        assert self.asked is not None
        stepped = self.asked.step * round(value / self.asked.step)
        self.value = min(max(stepped, self.asked.low), self.asked.high)
        self.moved.emit(self.value)
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._take(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._take(event.position())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        up = {Qt.Key.Key_Up, Qt.Key.Key_Right}
        if self.asked is not None and Qt.Key(event.key()) in up | {
            Qt.Key.Key_Down, Qt.Key.Key_Left
        }:  # fmt: skip
            by = self.asked.step if Qt.Key(event.key()) in up else -self.asked.step
            self._move_to(self.value + by)
        else:
            event.ignore()
