"""One figure over time: a sign a study with its interval, and the line of the trend with its band.

Where there are more studies than can be told apart, a band a few px wide stands for those that fall
together. What does not change is painted once; pointing paints one dot over it.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Iterable, Sequence
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QWidget

from bralto.core.longitudinal.course import SKILL_TITLES
from bralto.core.longitudinal.statistics.trend import middle_of
from bralto.ui.record.accuracy.emblems import draw_emblem
from bralto.ui.theme.paint import Align, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["ROOM", "Band", "Chart", "Dot", "Dots"]

ROOM = 4.0
"""Px of the chart's width that a study wants for a sign of its own; else they are painted as
bands."""

_TOGETHER = 12.0
"""Studies that a band stands for, or more where it would be narrower than `_BAND`."""

_AIR = 8.0
_BELOW = 8.0
"""Between a chart and the next, px."""
_BAND = 3.0
_NEAR = 10.0
_ROUND = (1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10)


class Dot(NamedTuple):
    """A study's figure: where in time (0 to 1), value, low and high of its interval, mark limit."""

    study: str
    share: float
    value: float
    low: float
    high: float
    limit: float = 0.0


class Dots(NamedTuple):
    """The same in columns, oldest first: there may be thousands."""

    studies: Sequence[str] = ()
    shares: Sequence[float] = ()
    values: Sequence[float] = ()
    low: Sequence[float] = ()
    high: Sequence[float] = ()
    limits: Sequence[float] = ()

    @classmethod
    def of(cls, dots: Iterable[Dot]) -> Dots:
        """From single ones."""
        columns = list(zip(*dots, strict=True))
        return cls(*columns) if columns else cls()

    def at(self, row: int) -> Dot:
        """One of them; the last is -1."""
        return Dot._make(column[row] for column in self)


class Band(NamedTuple):
    """A place on the line of a trend: where in time, the line, low and high of its band."""

    share: float
    value: float
    low: float
    high: float


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

    def __init__(self, skill: str, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self._skill, self._tokens = skill, tokens
        self.trend: tuple[Band, ...] = ()
        self.dots = Dots()
        self._rows: dict[str, int] | None = None
        self._top = 1.0
        self.lit = ""
        self._layer: QPixmap | None = None
        self.heard = Heard(self, SKILL_TITLES[skill])

    def show_dots(self, dots: Dots, trend: tuple[Band, ...] = ()) -> None:
        """Put other studies on the chart, and another trend."""
        if (dots, trend) == (self.dots, self.trend):
            return
        self.dots, self.trend = dots, trend
        self._rows = None
        self._top = _top_of(dots.values)
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

    def place_of(self, share: float, value: float) -> QPointF:
        """Where a value stands at a share of the width, px."""
        floor = self.height() - _AIR - _BELOW
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
        if (row := self._row_of(self.lit)) is not None:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._dot(painter, self.dots.at(row), held=True)
        painter.end()

    def _row_of(self, study: str) -> int | None:
        """Of a study's dot; all of them are looked up once one is lit up."""
        if not study:
            return None
        if self._rows is None:
            self._rows = {one: row for row, one in enumerate(self.dots.studies)}
        return self._rows.get(study)

    @property
    def crowded(self) -> bool:
        """Whether studies lie too near each other for a sign each."""
        return ROOM * len(self.dots.studies) > self.width()

    def _paint_layer(self, painter: QPainter) -> None:
        tokens = self._tokens
        floor = self.height() - _AIR - _BELOW
        ground = QRectF(0.0, 0.0, self.width(), self.height() - _BELOW)
        painter.fillRect(ground, tokens.colour("slip", 0.6))
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0, floor), QPointF(self.width(), floor))
        if not self.dots.studies:
            note, ink = font(Size.NOTE, italic=True), tokens.colour("ink2")
            middle = self.width() / 2.0
            words = "no study has this yet"
            text(painter, middle, self.height() / 2.0, words, note, ink, Align.AlignHCenter)
            return
        self._limit(painter, floor)
        if self.crowded:
            self._bands(painter)
            self._line(painter)
            self._dot(painter, self.dots.at(-1), held=True)
            return
        self._line(painter)
        painter.setPen(QPen(tokens.colour("hair", 0.55), 1.6))
        every = list(map(Dot._make, zip(*self.dots, strict=True)))
        for dot in every:
            high = min(dot.high, 1.04 * self._top)
            painter.drawLine(self.place_of(dot.share, dot.low), self.place_of(dot.share, high))
        for dot in every:
            self._dot(painter, dot, held=dot is every[-1])

    def _dot(self, painter: QPainter, dot: Dot, *, held: bool) -> None:
        ink, fill = self._tokens.colour("ink"), self._tokens.colour("ink" if held else "sheet")
        at = self.place_of(dot.share, dot.value)
        draw_emblem(painter, self._skill, at, 5.6 if held else 4.2, ink, fill)

    def _line(self, painter: QPainter) -> None:
        """The trend with its band."""
        if not self.trend:
            return
        floor, wide = self.height() - _AIR - _BELOW, self.width()
        rise = (floor - _AIR) / self._top
        at = np.array(self.trend)  # share, value, low, high
        heights = floor - np.minimum(at[:, 1:], 1.04 * self._top) * rise
        x = (at[:, 0] * wide).tolist()
        line, below, above = (list(map(QPointF, x, column)) for column in heights.T.tolist())
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._tokens.colour("hair", 0.22))
        painter.drawPolygon(QPolygonF([*above, *reversed(below)]))
        painter.setPen(QPen(self._tokens.colour("ink"), 2.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(line))

    def _bands(self, painter: QPainter) -> None:
        """The middle 80 % of the values that fall together."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._tokens.colour("hair", 0.5))
        band = max(_BAND, _TOGETHER * self.width() / len(self.dots.studies))
        wide = band / max(1.0, self.width())
        values = np.array(self.dots.values)
        column = (np.array(self.dots.shares) / wide).astype(np.intp)
        order = np.lexsort((values, column))
        values, column = values[order], column[order]
        first = np.flatnonzero(np.diff(column, prepend=-1))
        many = np.diff(first, append=len(column))
        low, high = values[first + many // 10], values[first + many - 1 - many // 10]
        floor = self.height() - _AIR - _BELOW
        above, below = (floor - np.minimum(one / self._top, 1.04) * (floor - _AIR)
                        for one in (high, low))  # fmt: skip
        left = column[first] * wide * self.width()
        gap = 1.0 if band > _BAND else 0.0
        rows = zip(left.tolist(), above.tolist(), (below - above).tolist(), strict=True)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.drawRects(*[QRectF(x, y - 1.0, band - gap, high + 2.0) for x, y, high in rows])
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    def _limit(self, painter: QPainter, floor: float) -> None:
        """The band in which marks alone could make the figure."""
        limits = [limit for limit in self.dots.limits if limit > 0.0]
        if not limits:
            return
        tokens = self._tokens
        y = self.place_of(0.0, middle_of(sorted(limits))).y()
        painter.fillRect(QRectF(0, y, self.width(), floor - y), tokens.colour("ochre", 0.12))
        painter.setPen(QPen(tokens.colour("ochre"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(0, y), QPointF(self.width(), y))

    # Pointing

    def study_at(self, at: QPointF) -> str:
        """The study whose dot is nearest across, or ""."""
        wide, shares = max(1.0, self.width()), self.dots.shares
        row = bisect_left(shares, at.x() / wide)
        near = range(max(0, row - 1), min(row + 1, len(shares)))
        found = min(near, key=lambda one: abs(shares[one] * wide - at.x()), default=None)
        if found is None or abs(shares[found] * wide - at.x()) >= _NEAR:
            return ""
        return self.dots.studies[found]

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pointed.emit(self.study_at(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        study = self.study_at(event.position())
        if study:
            self.opened.emit(study)
