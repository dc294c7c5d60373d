"""The tape: a drawn measuring tape that each place uses for its own sequence."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.quick_tuples import NamedTuple
from bralto.ui.theme.paint import Align, check, elided, text, text_width, triangle
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["HEIGHT", "Segment", "Tape", "TapeShown"]

HEIGHT = 50
_MARGIN = 24.0
_RIM = 8


class Segment(NamedTuple):
    """A stretch of the tape.

    Attributes:
        key: what `Tape.chosen` says of it.
        start, end: as shares of the tape's length.
        ticks, filled: marks along it and how many are done.
        hint: what it is about, told to who points at it.
        due: the stage that a photo is proposed of while it is held up, or "".
    """

    key: str
    title: str
    note: str
    start: float
    end: float
    ticks: int = 0
    filled: int = 0
    done: bool = False
    hint: str = ""
    due: str = ""


class TapeShown(NamedTuple):
    """What lies on the tape: segments, the key of the one held up, and bars as (share of the
    length, height 0 to 1)."""

    segments: tuple[Segment, ...] = ()
    current: str | None = None
    bars: tuple[tuple[float, float], ...] = ()
    margins: tuple[float, float] = (_MARGIN, _MARGIN)


class Tape(QWidget):
    """Segments side by side, one of them held up; and bars for single days or studies."""

    chosen = pyqtSignal(str)

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(HEIGHT)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setMouseTracking(True)
        self.setAccessibleName("Tape")
        self.heard = Heard(self, "Tape")
        self._tokens = tokens
        self._segments: tuple[Segment, ...] = ()
        self._bars: tuple[tuple[float, float], ...] = ()
        self.current: str | None = None
        self._left, self._right = _MARGIN, _MARGIN
        self._shown: TapeShown | None = None
        self._laid: tuple[object, list[QRectF]] | None = None

    def show_segments(
        self,
        shown: TapeShown,
    ) -> None:
        """Put another sequence on the tape."""
        if shown == self._shown:
            return
        self._shown = shown
        segments, current, bars, margins = shown
        self._segments, self.current, self._bars = segments, current, bars
        self._left, self._right = margins
        said = (
            f"{one.title} {one.note}".rstrip()
            + (f"{_proposed(one)}, here" if one.key == current else "")
            for one in segments
        )
        self.heard.say(said)
        self.update()

    def _x(self, share: float) -> float:
        return self._left + share * (self.width() - self._left - self._right)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        painter.fillRect(self.rect(), tokens.colour("tape"))
        for row in range(_RIM):  # the lower rim turns away from the light
            colour = tokens.colour("slip", (row + 1) / _RIM)
            painter.fillRect(0, HEIGHT - _RIM + row, self.width(), 1, colour)
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0, 0.5), QPointF(self.width(), 0.5))
        painter.drawLine(QPointF(0, HEIGHT - 0.5), QPointF(self.width(), HEIGHT - 0.5))
        small = self._crowded()
        for segment in self._segments:
            self._segment(painter, segment, small=small)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tokens.colour("ink"))
        if columns := self._columns():
            painter.drawRects(*columns)
        painter.end()

    def _columns(self) -> list[QRectF]:
        """The bars as they are painted, worked out where they are others, or the tape as long."""
        wanted = self._bars, self._left, self._right, self.width()
        if self._laid is None or self._laid[0] != wanted:
            columns: dict[int, QRectF] = {}  # thousands of studies are not thousands of bars
            for share, tall in self._bars:
                x = self._x(share)
                if (column := round(x)) not in columns:
                    high = 4.0 + 20.0 * min(max(tall, 0.0), 1.0)
                    columns[column] = QRectF(x - 1.5, HEIGHT - 2.0 - high, 3.0, high)
            self._laid = wanted, list(columns.values())
        return self._laid[1]

    def _crowded(self) -> bool:
        """Whether a title has no room: many passes, or a narrow window."""
        face = font(Size.PLACE, bold=True)
        return any(
            text_width(one.title, face) > self._x(one.end) - self._x(one.start) - 14.0
            for one in self._segments
        )

    def _segment(self, painter: QPainter, one: Segment, *, small: bool) -> None:
        tokens = self._tokens
        x0, x1 = self._x(one.start), self._x(one.end)
        held = one.key == self.current
        if held:
            painter.setPen(QPen(tokens.colour("ink2"), 1.2))
            painter.setBrush(tokens.colour("here"))
            painter.drawRoundedRect(QRectF(x0 + 1, 1.5, x1 - x0 - 2, HEIGHT - 4), 4.0, 4.0)
            triangle(painter, QPointF((x0 + x1) / 2, HEIGHT - 3.5), "up", tokens.colour("ink"), 4.5)
        painter.setPen(QPen(tokens.colour("ink"), 2.0))
        painter.drawLine(QPointF(x0, 1), QPointF(x0, HEIGHT - 1))
        painter.setPen(QPen(tokens.colour("ink" if one.done or held else "hair"), 1.2))
        for i in range(one.ticks):
            x = x0 + (i + 1) * (x1 - x0) / (one.ticks + 1)
            long = i < one.filled
            painter.setPen(QPen(tokens.colour("ink" if long else "hair"), 1.5 if long else 1.0))
            painter.drawLine(QPointF(x, HEIGHT - (15.0 if long else 9.0)), QPointF(x, HEIGHT - 2))
        role = "ink" if held or one.done or one.filled else "ink2"
        bold = held or one.done or bool(one.filled)
        face = font(Size.FINE if small else Size.PLACE, bold=bold)
        inset = 5.0 if small else 10.0
        words = elided(one.title, face, x1 - x0 - inset - 3.0)
        wide = text(painter, x0 + inset, 22.0, words, face, tokens.colour(role))
        if one.done and not small and x0 + 34.0 + wide < x1:
            check(painter, QPointF(x0 + 24.0 + wide, 16.0), tokens.colour("ink"))
        note = font(Size.NOTE)
        if x1 - x0 > wide + 80.0:
            text(painter, x1 - 9.0, 22.0, one.note, note, tokens.colour("ink2"), Align.AlignRight)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        x = event.position().x()
        here = (one for one in self._segments if self._x(one.start) <= x < self._x(one.end))
        self.setToolTip(next((self._told(one) for one in here), ""))

    def _told(self, one: Segment) -> str:
        return one.hint + (_proposed(one) if one.key == self.current else "")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        x = event.position().x()
        for one in self._segments:
            if self._x(one.start) <= x < self._x(one.end):
                self.chosen.emit(one.key)


def _proposed(one: Segment) -> str:
    words = f"; a photo of it now, as '{one.due}', tells later where an error came in"
    return words if one.due else ""
