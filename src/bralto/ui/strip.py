"""The top strip: wordmark, the places as words, the open study's name, the step-back clock."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.quick_tuples import NamedTuple
from bralto.ui.settings import STEP_BACK_MIN
from bralto.ui.theme.paint import Align, elided, text, text_width
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["Strip"]

_MARGIN = 24.0
_PLACES_AT, _CLOSER = 200.0, 68.0
"""Where the places begin, px, beside the wordmark and beside its sign alone."""
_BETWEEN = 34.0  # px from one place's word to the next
_CLOCK, _CLOCK_ALONE = 155.0, 76.0
"""What the step-back clock takes, px, with its words and without."""
_OPEN_SETTINGS, _LEARNERS = "settings", "learners"
_LONGEST_NAME, _DOT = 120.0, 34.0


class _Said(NamedTuple):
    """What of the strip is said in full: the wordmark's name, the clock's words, who draws."""

    mark: bool
    clock: bool
    learner: bool


_FULL = _Said(mark=True, clock=True, learner=True)
_SHORTER = (
    _FULL,
    _FULL._replace(clock=False),
    _FULL._replace(clock=False, mark=False),
    _Said(mark=False, clock=False, learner=False),
)
"""With less and less room; the places and the settings stay in any."""


class Strip(QWidget):
    """Painted; the place one is in stands on a chalked white."""

    chosen = pyqtSignal(str)
    settings_wanted = pyqtSignal()
    learners_wanted = pyqtSignal(QPoint)
    """Where a menu of the learners may open."""
    ticked = pyqtSignal()
    due = pyqtSignal()

    def __init__(
        self,
        tokens: Tokens,
        parent: QWidget | None = None,
        *,
        minutes: int = STEP_BACK_MIN,
    ) -> None:
        super().__init__(parent)
        self.setFixedHeight(46)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.heard = Heard(self, "Places")
        self._tokens = tokens
        self._places: tuple[str, ...] = ()
        self._current = self.title = ""
        self.learner: tuple[str, str] | None = None
        self.spots: dict[str, QRectF] = {}
        self.period_s = self.left_s = 60 * minutes
        self.clock = QTimer(self)
        self.clock.setInterval(1000)
        self.clock.timeout.connect(self.tick)
        self.clock.start()

    def set_places(self, places: tuple[str, ...]) -> None:
        """The words for the places, in order."""
        self._places = places
        self.update()

    def show_learner(self, name: str, colour: str) -> None:
        """Who draws: a name and a colour as #RRGGBB."""
        self.learner = name, colour
        self.update()

    def tick(self) -> None:
        """A second has passed; at the end the clock says so quietly until it is clicked."""
        before, self.left_s = self.left_s, max(0, self.left_s - 1)
        self.ticked.emit()
        if before and not self.left_s:
            self.due.emit()
        self.update(self._clock_area().toAlignedRect())

    def set_minutes(self, minutes: int) -> None:
        """Another time of work between two looks from afar; 0 for never."""
        self.period_s = self.left_s = 60 * minutes
        self.update()

    def rested(self) -> None:
        """The learner has stepped back, or looked in the mirror: the clock runs anew."""
        self.left_s = self.period_s
        self.update(self._clock_area().toAlignedRect())

    def show_place(self, place: str, title: str) -> None:
        """Say where one is, and which study is open."""
        self._current, self.title = place, title
        self.setAccessibleName(f"{place}, {title}" if title else place)
        self.heard.say(
            f"{one}, Alt+{number}{', here' if one == place else ''}"
            for number, one in enumerate(self._places, start=1)
        )
        self.update()

    def _said(self) -> _Said:
        """The most that has room."""
        return next((one for one in _SHORTER if self._wide(one) <= self.width()), _SHORTER[-1])

    def _wide(self, said: _Said) -> float:
        """px that all of it takes beside the name of the study."""
        left = _PLACES_AT if said.mark else _CLOSER
        faces = (font(Size.PLACE, bold=one == self._current) for one in self._places)
        words = zip(self._places, faces, strict=True)
        places = sum(text_width(one, face) + _BETWEEN for one, face in words)
        settings = text_width("Settings", font(Size.NOTE)) + 24.0
        return left + places + self._learner_wide(said) + settings + self._clock_wide(said)

    def _clock_wide(self, said: _Said) -> float:
        return _MARGIN + (_CLOCK if said.clock else _CLOCK_ALONE)

    def _learner_wide(self, said: _Said) -> float:
        if self.learner is None:
            return 0.0
        name = self._learner_name() if said.learner else ""
        return text_width(name, font(Size.NOTE)) + _DOT

    def _learner_name(self) -> str:
        return elided(self.learner[0], font(Size.NOTE), _LONGEST_NAME) if self.learner else ""

    def _clock_area(self) -> QRectF:
        wide = self._clock_wide(self._said())
        return QRectF(self.width() - wide, 0.0, wide, self.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        painter.fillRect(self.rect(), tokens.colour("ground"))
        said = self._said()
        self._wordmark(painter, said)
        x = _PLACES_AT if said.mark else _CLOSER
        for place in self._places:
            here = place == self._current
            face = font(Size.PLACE, bold=here)
            wide = text_width(place, face)
            area = QRectF(x - 10.0, 10.0, wide + 20.0, 27.0)
            if here:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(tokens.colour("here"))
                painter.drawRoundedRect(area, 3.0, 3.0)
            text(painter, x, 29.0, place, face, tokens.colour("ink" if here else "ink2"))
            self.spots[place] = area
            x += wide + _BETWEEN
        face, room = font(Size.BODY), self.width() - self._wide(said) - 52.0
        clock = self.width() - self._clock_wide(said)
        self._settings_word(painter, clock)
        self._learner_word(painter, said)
        if room > 80.0:
            shown = elided(self.title, face, room)
            text(painter, x + 20.0, 29.0, shown, face, tokens.colour("ink2"))
        self._step_back(painter, clock, said)
        painter.end()

    def _settings_word(self, painter: QPainter, right: float) -> None:
        face = font(Size.NOTE)
        wide = text_width("Settings", face)
        self.spots[_OPEN_SETTINGS] = QRectF(right - wide - 24.0, 8.0, wide + 16.0, 30.0)
        text(painter, right - wide - 16.0, 29.0, "Settings", face, self._tokens.colour("ink2"))

    def _learner_word(self, painter: QPainter, said: _Said) -> None:
        """Who draws, left of the settings."""
        if self.learner is None:
            return
        wide, end = self._learner_wide(said), self.spots[_OPEN_SETTINGS].left() - 4.0
        if said.learner:
            face, ink = font(Size.NOTE), self._tokens.colour("ink2")
            text(painter, end, 29.0, self._learner_name(), face, ink, Align.AlignRight)
        painter.setPen(QPen(self._tokens.colour("sheet"), 1.4))
        painter.setBrush(QColor(self.learner[1]))
        painter.drawEllipse(QPointF(end - wide + _DOT - 13.0, 24.0), 6.5, 6.5)
        left = end - wide + _DOT - 26.0
        self.spots[_LEARNERS] = QRectF(left, 8.0, end + 4.0 - left, 30.0)

    def _wordmark(self, painter: QPainter, said: _Said) -> None:
        """Two staffs and a rung that slopes: the ladder."""
        tokens = self._tokens
        painter.setPen(QPen(tokens.colour("ink"), 2.6))
        for x in (_MARGIN + 2.0, _MARGIN + 18.0):
            painter.drawLine(QPointF(x, 10.0), QPointF(x, 36.0))
        painter.drawLine(QPointF(_MARGIN + 2.0, 15.0), QPointF(_MARGIN + 18.0, 15.0))
        painter.setPen(QPen(tokens.colour("red"), 2.6))
        painter.drawLine(QPointF(_MARGIN + 3.5, 24.0), QPointF(_MARGIN + 16.5, 30.0))
        if said.mark:
            name = font(Size.PANEL, heavy=True)
            text(painter, _MARGIN + 30.0, 31.0, "Bralto", name, tokens.colour("ink"))

    def _step_back(self, painter: QPainter, left: float, said: _Said) -> None:
        if not self.period_s:
            return
        tokens, centre = self._tokens, QPointF(left + 20.0, 23.0)
        ring = QRectF(centre.x() - 10.0, centre.y() - 10.0, 20.0, 20.0)
        painter.setPen(QPen(tokens.colour("ink2"), 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(ring)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(tokens.colour("ink2"))
        inner = ring.adjusted(3.5, 3.5, -3.5, -3.5)
        painter.drawPie(inner, 90 * 16, round(-360 * 16 * self.left_s / self.period_s))
        minutes, seconds = divmod(self.left_s, 60)
        right = self.width() - _MARGIN
        if not self.left_s:
            bold = font(Size.BODY, bold=True)
            words = "step back now" if said.clock else "now"
            text(painter, right, 29.0, words, bold, tokens.colour("ink"), Align.AlignRight)
            return
        figure, bold = f"{minutes}:{seconds:02d}", font(Size.BODY, bold=True)
        wide = text(painter, right, 29.0, figure, bold, tokens.colour("ink"), Align.AlignRight)
        if not said.clock:
            return
        words, note = "step back in", font(Size.NOTE)
        text(
            painter, right - wide - 6.0, 29.0, words, note, tokens.colour("ink2"), Align.AlignRight
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for place, area in self.spots.items():
            if area.contains(event.position()):
                if place == _OPEN_SETTINGS:
                    self.settings_wanted.emit()
                elif place == _LEARNERS:
                    below = QPoint(int(area.left()), self.height())
                    self.learners_wanted.emit(self.mapToGlobal(below))
                else:
                    self.chosen.emit(place)
                return
        if self._clock_area().contains(event.position()):
            self.rested()
