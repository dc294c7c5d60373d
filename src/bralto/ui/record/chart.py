"""One figure over time: a dot a study, its spread, and the middle of the last five.

Where there are more studies than can be told apart, a band a few px wide stands for those that fall
together. What does not change is painted once; pointing paints one dot over it.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Sequence
from itertools import groupby
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QWidget

from bralto.ui.theme.paint import Align, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["MOST_DOTS", "Chart", "Dot", "running_median"]

MOST_DOTS = 400
"""More than these are painted as bands."""

_WINDOW = 5
_AIR = 8.0
_BAND = 3.0
_NEAR = 10.0
_ROUND = (1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10)


class Dot(NamedTuple):
    """A study's figure: where in time (0 to 1), value with its low and high, mark limit or None."""

    study: str
    share: float
    value: float
    low: float
    high: float
    limit: float | None = None


def running_median(values: Sequence[float], window: int = _WINDOW) -> list[float]:
    """Median of each value and those up to ``window`` - 1 before it."""
    return [_middle(sorted(values[max(0, i + 1 - window) : i + 1])) for i in range(len(values))]


def _middle(ordered: Sequence[float]) -> float:
    """Median of values in order; `statistics.median` takes twice as long for a handful."""
    half = len(ordered) // 2
    return ordered[half] if len(ordered) % 2 else (ordered[half - 1] + ordered[half]) / 2.0


def _top_of(values: Sequence[float]) -> float:
    """A round number above the highest value."""
    highest = 1.1 * max(values, default=0.0)
    if highest <= 0.0:
        return 1.0
    step = 10.0 ** math.floor(math.log10(highest))
    return float(next(k * step for k in _ROUND if k * step >= highest))


class Chart(QWidget):
    """Lower is closer; the scale begins at 0."""

    pointed = pyqtSignal(str)
    opened = pyqtSignal(str)

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self._tokens = tokens
        self.dots: tuple[Dot, ...] = ()
        self._rows: dict[str, int] = {}
        self._shares: list[float] = []
        self._top = 1.0
        self.lit = ""
        self._layer: QPixmap | None = None

    def show_dots(self, dots: tuple[Dot, ...]) -> None:
        """Put other studies on the chart, oldest first."""
        if dots == self.dots:
            return
        self.dots = dots
        self._rows = {dot.study: row for row, dot in enumerate(dots)}
        self._shares = [dot.share for dot in dots]
        self._top = _top_of([dot.value for dot in dots])
        self._layer = None
        self.update()

    def light(self, study: str) -> None:
        """Light up one study."""
        if study != self.lit:
            self.lit = study
            self.update()

    def top(self) -> float:
        """Value at the upper edge: a round number above the highest dot."""
        return self._top

    def _at(self, share: float, value: float) -> QPointF:
        floor = self.height() - _AIR
        high = min(value / self._top, 1.04) * (floor - _AIR)
        return QPointF(share * self.width(), floor - high)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        ratio = self.devicePixelRatioF()
        size = self.size() * ratio
        if self._layer is None or self._layer.size() != size:
            self._layer = QPixmap(size)
            self._layer.setDevicePixelRatio(ratio)
            self._layer.fill(Qt.GlobalColor.transparent)
            layer = QPainter(self._layer)
            layer.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_layer(layer)
            layer.end()
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._layer)
        if (row := self._rows.get(self.lit)) is not None:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._dot(painter, self.dots[row], held=True)
        painter.end()

    def _paint_layer(self, painter: QPainter) -> None:
        tokens = self._tokens
        painter.fillRect(self.rect(), tokens.colour("slip", 0.6))
        floor = self.height() - _AIR
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0, floor), QPointF(self.width(), floor))
        if not self.dots:
            note, ink = font(Size.NOTE, italic=True), tokens.colour("ink2")
            middle = self.width() / 2.0
            words = "no study has this yet"
            text(painter, middle, self.height() / 2.0, words, note, ink, Align.AlignHCenter)
            return
        self._limit(painter, floor)
        if len(self.dots) > MOST_DOTS:
            self._bands(painter)
            return
        painter.setPen(QPen(tokens.colour("hair", 0.55), 2.0))
        for dot in self.dots:
            high = min(dot.high, 1.04 * self._top)
            painter.drawLine(self._at(dot.share, dot.low), self._at(dot.share, high))
        course = running_median([dot.value for dot in self.dots])
        self._line(painter, list(zip(self._shares, course, strict=True)))
        for dot in self.dots:
            self._dot(painter, dot, held=dot is self.dots[-1])

    def _dot(self, painter: QPainter, dot: Dot, *, held: bool) -> None:
        painter.setPen(QPen(self._tokens.colour("ink"), 1.2))
        painter.setBrush(self._tokens.colour("ink" if held else "sheet"))
        wide = 4.6 if held else 3.2
        painter.drawEllipse(self._at(dot.share, dot.value), wide, wide)

    def _line(self, painter: QPainter, course: list[tuple[float, float]]) -> None:
        painter.setPen(QPen(self._tokens.colour("ink"), 2.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF([self._at(share, value) for share, value in course]))

    def _bands(self, painter: QPainter) -> None:
        """The middle 80 % of the values that fall together, and their middle."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._tokens.colour("hair", 0.5))
        wide, course = _BAND / max(1.0, self.width()), []
        for column, group in groupby(self.dots, key=lambda dot: int(dot.share / wide)):
            values = sorted(dot.value for dot in group)
            low, high = values[len(values) // 10], values[-1 - len(values) // 10]
            share = (column + 0.5) * wide
            above, below = self._at(share, high), self._at(share, low)
            left = share * self.width() - _BAND / 2.0
            painter.drawRect(QRectF(left, above.y() - 1.0, _BAND, below.y() - above.y() + 2.0))
            course.append((share, _middle(values)))
        self._line(painter, course)
        self._dot(painter, self.dots[-1], held=True)

    def _limit(self, painter: QPainter, floor: float) -> None:
        """The band in which marks alone could make the figure."""
        limits = [dot.limit for dot in self.dots if dot.limit is not None]
        if not limits:
            return
        tokens = self._tokens
        y = self._at(0.0, _middle(sorted(limits))).y()
        painter.fillRect(QRectF(0, y, self.width(), floor - y), tokens.colour("ochre", 0.12))
        painter.setPen(QPen(tokens.colour("ochre"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
        face = font(Size.FINE, italic=True)
        text(painter, 4.0, y - 3.0, "below this a mark cannot tell", face, tokens.colour("ochre"))

    # Pointing

    def study_at(self, at: QPointF) -> str:
        """The study whose dot is nearest across, or ""."""
        wide = max(1.0, self.width())
        row = bisect_left(self._shares, at.x() / wide)
        near = self.dots[max(0, row - 1) : row + 1]
        found = min(near, key=lambda dot: abs(dot.share * wide - at.x()), default=None)
        if found is None or abs(found.share * wide - at.x()) >= _NEAR:
            return ""
        return found.study

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointed.emit(self.study_at(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        study = self.study_at(event.position())
        if study:
            self.opened.emit(study)
