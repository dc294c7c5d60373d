"""One figure over time: a dot a study, its spread, and the middle of the last five."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from bralto.ui.theme.paint import Align, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Chart", "Dot", "running_median"]

_WINDOW = 5
_AIR = 8.0
_ROUND = (1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10)


@dataclass(frozen=True, slots=True)
class Dot:
    """A study's figure: where in time (0 to 1), value with its low and high, mark limit or None."""

    study: str
    share: float
    value: float
    low: float
    high: float
    limit: float | None = None


def running_median(values: Sequence[float], window: int = _WINDOW) -> list[float]:
    """Median of each value and those up to ``window`` - 1 before it."""
    return [median(values[max(0, i + 1 - window) : i + 1]) for i in range(len(values))]


class Chart(QWidget):
    """Lower is closer; the scale begins at 0."""

    pointed = pyqtSignal(str)
    opened = pyqtSignal(str)

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self._tokens = tokens
        self._dots: tuple[Dot, ...] = ()
        self._lit = ""

    def show_dots(self, dots: tuple[Dot, ...]) -> None:
        """Put other studies on the chart, oldest first."""
        self._dots = dots
        self.update()

    def light(self, study: str) -> None:
        """Light up one study."""
        self._lit = study
        self.update()

    def top(self) -> float:
        """Value at the upper edge: a round number above the highest dot."""
        highest = 1.1 * max((dot.value for dot in self._dots), default=0.0)
        if highest <= 0.0:
            return 1.0
        step = 10.0 ** math.floor(math.log10(highest))
        return float(
            next(k * step for k in (1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10) if k * step >= highest)
        )

    def _at(self, share: float, value: float) -> QPointF:
        floor, top = self.height() - _AIR, self.top()
        return QPointF(share * self.width(), floor - min(value / top, 1.04) * (floor - _AIR))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        painter.fillRect(self.rect(), tokens.colour("slip", 0.6))
        floor = self.height() - _AIR
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0, floor), QPointF(self.width(), floor))
        if not self._dots:
            note, ink = font(Size.NOTE, italic=True), tokens.colour("ink2")
            middle = self.width() / 2.0
            words = "no study has this yet"
            text(painter, middle, self.height() / 2.0, words, note, ink, Align.AlignHCenter)
            painter.end()
            return
        self._limit(painter, floor)
        for dot in self._dots:
            painter.setPen(QPen(tokens.colour("hair", 0.55), 2.0))
            high = min(dot.high, 1.04 * self.top())
            painter.drawLine(self._at(dot.share, dot.low), self._at(dot.share, high))
        course = running_median([dot.value for dot in self._dots])
        line = [self._at(dot.share, m) for dot, m in zip(self._dots, course, strict=True)]
        painter.setPen(QPen(tokens.colour("ink"), 2.2))
        painter.drawPolyline(QPolygonF(line))
        for dot in self._dots:
            last = dot is self._dots[-1] or dot.study == self._lit
            painter.setPen(QPen(tokens.colour("ink"), 1.2))
            painter.setBrush(tokens.colour("ink" if last else "sheet"))
            painter.drawEllipse(
                self._at(dot.share, dot.value), *((4.6, 4.6) if last else (3.2, 3.2))
            )
        painter.end()

    def _limit(self, painter: QPainter, floor: float) -> None:
        """The band in which marks alone could make the figure."""
        limits = [dot.limit for dot in self._dots if dot.limit is not None]
        if not limits:
            return
        tokens = self._tokens
        y = self._at(0.0, median(limits)).y()
        painter.fillRect(QRectF(0, y, self.width(), floor - y), tokens.colour("ochre", 0.12))
        painter.setPen(QPen(tokens.colour("ochre"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
        face = font(Size.FINE, italic=True)
        text(painter, 4.0, y - 3.0, "below this a mark cannot tell", face, tokens.colour("ochre"))

    def study_at(self, at: QPointF) -> str:
        """The study whose dot is nearest across, or ""."""
        near = min(self._dots, key=lambda d: abs(d.share * self.width() - at.x()), default=None)
        return near.study if near and abs(near.share * self.width() - at.x()) < 10.0 else ""

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointed.emit(self.study_at(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        study = self.study_at(event.position())
        if study:
            self.opened.emit(study)
