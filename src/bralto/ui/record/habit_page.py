"""Your habits drawn: the figure as it is seen with a map of the misses, and twice your habits."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.errors import UserError
from bralto.core.longitudinal.selection import group_words
from bralto.core.longitudinal.told import HabitsTold
from bralto.core.longitudinal.traits.habit_words import habit_figure, habit_title
from bralto.core.longitudinal.traits.trait_habits import Habit
from bralto.ui.prompt import Prompt
from bralto.ui.record.page import Page
from bralto.ui.record.record_state import RecordState
from bralto.ui.running.tasks import Tasks
from bralto.ui.theme.paint import Align, elided, rounded, text, text_width, wrapped
from bralto.ui.theme.tokens import LIGHT, Tokens
from bralto.ui.theme.type import Size, font

if TYPE_CHECKING:  # the ray caster takes half a second to load
    from bralto.stand.model.pencil_view import PageDrawing

__all__ = ["HabitPage"]

TIMES = 2.0
_BESIDE = 300.0
_FEWEST = 3
"""Studies that a place of the map wants."""

_ENLARGED = 3.0
"""Arrows of the map are so many times as long as the misses they stand for."""


@dataclass(frozen=True, slots=True, eq=False)
class _Drawing:
    """A drawing as it is shown: marks and lowest place in px of the picture, px a head."""

    image: QImage
    marks: Mapping[str, QPointF]
    head: float
    low: float


@dataclass(frozen=True, slots=True, eq=False)
class _Shown:
    seen: _Drawing
    drawn: _Drawing
    shown: tuple[str, ...]


class HabitPage(Page):
    """Drawn when it is first looked at, off the GUI thread."""

    def __init__(self, state: RecordState, tasks: Tasks, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._state, self._tasks, self._tokens = state, tasks, tokens
        self._asked: tuple[str, tuple[tuple[str, float], ...]] | None = None
        self.pictures: _Shown | None = None
        """What is drawn by now."""
        self._working, self._why = False, ""
        state.habits_changed.connect(self._on_habits)

    @property
    def busy(self) -> bool:
        """Whether the model is being drawn."""
        return self._working

    def prompt(self) -> Prompt:
        return Prompt("Your habits, twice as strong:", "what you would see from across the room")

    def look(self) -> None:
        """Draw what is told by now, where that is not drawn yet."""
        told = self._state.told
        if told is None or self._working:
            return
        wanted = told.group, tuple((one.trait.key, one.value) for one in _habits(told))
        if wanted == self._asked:
            return
        if not told.group:
            self.pictures, self._asked, self._why = None, wanted, "no study has been measured yet"
            self._say()
            return
        self._asked, self._working, self._why = wanted, True, ""
        work = partial(_drawn, wanted[0], dict(wanted[1]))
        self._tasks.run(work, self._on_drawn, self._on_failed)
        self._say()

    def _on_habits(self) -> None:
        if self.isVisible():
            self.look()
        self.update()

    def _on_drawn(self, found: _Shown) -> None:
        self._working = False
        self.pictures = found
        self._say()
        self.look()  # what is told may be another by now

    def _on_failed(self, message: str) -> None:
        self._working, self.pictures, self._why = False, None, message
        self._say()
        self.look()

    def _say(self) -> None:
        told = self._state.told
        habits = () if told is None else _habits(told)
        said = "; ".join(f"{habit_title(one)} {habit_figure(one)}" for one in habits)
        said = self._why or said or "none is told"
        self.setAccessibleName(f"Your habits, twice as strong: {said}")
        self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        told, pictures = self._state.told, self.pictures
        ink, ink2 = self._tokens.colour("ink"), self._tokens.colour("ink2")
        if told is None or pictures is None:
            words = self._why or "drawing the model with your habits …"
            middle = QPointF(self.width() / 2.0, self.height() / 2.0)
            text(painter, middle.x(), middle.y(), words, font(Size.BODY), ink2, Align.AlignHCenter)
            painter.end()
            return
        wide = (self.width() - _BESIDE - 2.0 * 18.0) / 2.0
        titles = (
            ("As it is seen", "and where your misses are"),
            ("As you draw it", "with your habits twice as strong"),
        )
        for place, (title, note) in enumerate(titles):
            left = place * (wide + 18.0)
            board, face = font(Size.BOARD, bold=True), font(Size.NOTE)
            gone = text(painter, left, 22.0, elided(title, board, wide), board, ink)
            if text_width(note, face) <= wide - gone - 10.0:
                text(painter, left + gone + 10.0, 22.0, note, face, ink2)
        areas = [
            QRectF(place * (wide + 18.0), 32.0, wide, self.height() - 32.0) for place in (0, 1)
        ]
        for area in areas:  # paper of one colour around the sheet
            rounded(painter, area, pictures.seen.image.pixelColor(3, 3))
        scale = _scale(areas[0], (pictures.seen, pictures.drawn))
        for area, one in zip(areas, (pictures.seen, pictures.drawn), strict=True):
            self._picture(painter, area, one, scale)
        self._map(painter, areas[0], pictures.seen, scale, told)
        self._words(painter, 2.0 * (wide + 18.0), told, pictures)
        painter.end()

    def _picture(self, painter: QPainter, area: QRectF, one: _Drawing, scale: float) -> None:
        painter.save()
        painter.setClipRect(area.adjusted(1.0, 1.0, -1.0, -1.0))
        by = scale / one.head
        at = _origin(area, one, by)
        size = one.image.size()
        painter.drawImage(QRectF(at.x(), at.y(), size.width() * by, size.height() * by), one.image)
        painter.restore()

    def _map(
        self, painter: QPainter, area: QRectF, one: _Drawing, scale: float, told: HabitsTold
    ) -> None:
        """At each mark a disc as wide as it misses, and an arrow where it goes on the whole."""
        by = scale / one.head
        origin = _origin(area, one, by)
        for key, at in one.marks.items():
            away = told.misses.get(key, ())
            if len(away) < _FEWEST:
                continue
            x, y = (sum(values) / len(away) for values in zip(*away, strict=True))
            spread = math.sqrt(sum(dx * dx + dy * dy for dx, dy in away) / len(away))
            place = QPointF(origin.x() + by * at.x(), origin.y() + by * at.y())
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(LIGHT.colour("ochre", 0.28))  # paper is light in the dark too
            painter.drawEllipse(place, spread * scale, spread * scale)
            end = QPointF(place.x() + _ENLARGED * x * scale, place.y() - _ENLARGED * y * scale)
            _arrow(painter, place, end, LIGHT.colour("ink"))

    def _words(self, painter: QPainter, left: float, told: HabitsTold, pictures: _Shown) -> None:
        tokens = self._tokens
        ink, ink2, note = tokens.colour("ink"), tokens.colour("ink2"), font(Size.NOTE)
        y = 22.0
        text(painter, left, y, "What is drawn", font(Size.BOARD, bold=True), ink)
        y += 12.0
        habits = _habits(told)
        for habit in (one for one in habits if one.trait.key in pictures.shown):
            y += 24.0
            role = "red" if habit.value > habit.nothing else "blue"
            figure = habit_figure(habit)
            text(painter, left, y, figure, font(Size.BODY, bold=True), tokens.colour(role))
            for line in wrapped(habit_title(habit), note, _BESIDE - 70.0):
                text(painter, left + 66.0, y, line, note, ink)
                y += 18.0
            y -= 18.0
        hidden = [habit_title(one) for one in habits if one.trait.key not in pictures.shown]
        sentences = [] if habits else ["No habit is told yet: both drawings are alike."]
        sentences += ["The model cannot show: " + "; ".join(hidden) + "."] if hidden else []
        sentences.append(
            f"Discs are as wide as a mark misses in a study; arrows go where it goes on the whole, "
            f"{_ENLARGED:g} times as far. Size, width, lean and turn of the whole are taken out."
        )
        for sentence in sentences:
            y += 14.0
            for line in wrapped(sentence, note, _BESIDE):
                y += 19.0
                text(painter, left, y, line, note, ink2)


def _habits(told: HabitsTold) -> tuple[Habit, ...]:
    return tuple(one for one in told.habits if one.state == "habit")


def _drawn(group: str, traits: Mapping[str, float]) -> _Shown:
    """Off the GUI thread.

    Raises:
        UserError: the model shows nothing of that group.
    """
    from bralto.stand.model.habit_picture import SHOWN, habit_picture  # half a second to load

    if group not in SHOWN:
        raise UserError(f"the model shows no {group_words(group)}")
    found = habit_picture(group, traits, TIMES)
    return _Shown(_laid(found.seen), _laid(found.drawn), found.shown)


def _laid(one: PageDrawing) -> _Drawing:
    image = one.image.convert("RGB")
    width, height = image.size
    bits = QImage(image.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888)
    marks = {key: QPointF(float(at[0]), float(at[1])) for key, at in one.marks.items()}
    low = max(at.y() for at in marks.values())
    return _Drawing(bits.copy(), marks, float(one.head_px), low)


def _scale(area: QRectF, both: tuple[_Drawing, _Drawing]) -> float:
    """Px a head at which both drawings have room."""
    room = area.height() - 60.0
    tall = max((one.low - min(at.y() for at in one.marks.values())) / one.head for one in both)
    wide = max(
        (max(at.x() for at in one.marks.values()) - min(at.x() for at in one.marks.values()))
        / one.head
        for one in both
    )
    return min(room / (tall + 0.4), (area.width() - 30.0) / (wide + 0.8))


def _origin(area: QRectF, one: _Drawing, by: float) -> QPointF:
    """Where the picture's corner lies, so that both stand on one ground, in the middle."""
    xs = [at.x() for at in one.marks.values()]
    middle = 0.5 * (min(xs) + max(xs))
    return QPointF(area.center().x() - by * middle, area.bottom() - 34.0 - by * one.low)


def _arrow(painter: QPainter, start: QPointF, end: QPointF, ink: QColor) -> None:
    long = math.hypot(end.x() - start.x(), end.y() - start.y())
    if long < 5.0:
        return
    x, y = (end.x() - start.x()) / long, (end.y() - start.y()) / long
    painter.setPen(QPen(ink, 1.8))
    painter.drawLine(start, end)
    for side in (-1.0, 1.0):
        back = QPointF(end.x() - 6.0 * x + side * 3.5 * y, end.y() - 6.0 * y - side * 3.5 * x)
        painter.drawLine(end, back)
