"""The top strip: wordmark, the places as words, the open study's name, the step-back clock."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.ui.settings import STEP_BACK_MIN
from bralto.ui.theme.paint import Align, elided, text, text_width
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["Strip"]

_MARGIN = 24.0
_PLACES_AT = 200.0
_SETTINGS = 84.0  # px that the word takes
_OPEN_SETTINGS, _LEARNERS = "settings", "learners"
_LONGEST_NAME = 120.0


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

    def _clock_area(self) -> QRectF:
        return QRectF(self.width() - _MARGIN - 155.0, 0.0, 155.0 + _MARGIN, self.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        painter.fillRect(self.rect(), tokens.colour("ground"))
        self._wordmark(painter)
        x = _PLACES_AT
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
            x += wide + 34.0
        clock = self._clock_area()
        face = font(Size.BODY)
        self._settings_word(painter, clock.left())
        room = clock.left() - x - 40.0 - _SETTINGS - self._learner_word(painter, clock.left())
        if room > 80.0:
            shown = elided(self.title, face, room)
            text(painter, x + 20.0, 29.0, shown, face, tokens.colour("ink2"))
        self._step_back(painter, clock)
        painter.end()

    def _settings_word(self, painter: QPainter, right: float) -> None:
        face = font(Size.NOTE)
        wide = text_width("Settings", face)
        self.spots[_OPEN_SETTINGS] = QRectF(right - wide - 24.0, 8.0, wide + 16.0, 30.0)
        text(painter, right - wide - 16.0, 29.0, "Settings", face, self._tokens.colour("ink2"))

    def _learner_word(self, painter: QPainter, right: float) -> float:
        """Who draws, left of the settings; gives how wide that is."""
        if self.learner is None:
            return 0.0
        name, colour = self.learner
        face = font(Size.NOTE)
        shown = elided(name, face, _LONGEST_NAME)
        wide = text_width(shown, face)
        end = self.spots[_OPEN_SETTINGS].left() - 4.0
        text(painter, end, 29.0, shown, face, self._tokens.colour("ink2"), Align.AlignRight)
        painter.setPen(QPen(self._tokens.colour("sheet"), 1.4))
        painter.setBrush(QColor(colour))
        painter.drawEllipse(QPointF(end - wide - 13.0, 24.0), 6.5, 6.5)
        self.spots[_LEARNERS] = QRectF(end - wide - 26.0, 8.0, wide + 30.0, 30.0)
        return wide + 34.0

    def _wordmark(self, painter: QPainter) -> None:
        """Two staffs and a rung that slopes: the ladder."""
        tokens = self._tokens
        painter.setPen(QPen(tokens.colour("ink"), 2.6))
        for x in (_MARGIN + 2.0, _MARGIN + 18.0):
            painter.drawLine(QPointF(x, 10.0), QPointF(x, 36.0))
        painter.drawLine(QPointF(_MARGIN + 2.0, 15.0), QPointF(_MARGIN + 18.0, 15.0))
        painter.setPen(QPen(tokens.colour("red"), 2.6))
        painter.drawLine(QPointF(_MARGIN + 3.5, 24.0), QPointF(_MARGIN + 16.5, 30.0))
        name = font(Size.PANEL, heavy=True)
        text(painter, _MARGIN + 30.0, 31.0, "Bralto", name, tokens.colour("ink"))

    def _step_back(self, painter: QPainter, area: QRectF) -> None:
        if not self.period_s:
            return
        tokens, centre = self._tokens, QPointF(area.left() + 20.0, 23.0)
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
            words = "step back now"
            text(painter, right, 29.0, words, bold, tokens.colour("ink"), Align.AlignRight)
            return
        figure, bold = f"{minutes}:{seconds:02d}", font(Size.BODY, bold=True)
        wide = text(painter, right, 29.0, figure, bold, tokens.colour("ink"), Align.AlignRight)
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
