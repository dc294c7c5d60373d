"""Habits below each other, each on one scale from less than seen to more than seen."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.longitudinal.advice_outcome import Outcome
from bralto.core.longitudinal.traits.habit_words import (
    habit_figure,
    habit_title,
    note_words,
    range_words,
    spoken_habit,
)
from bralto.core.longitudinal.traits.trait_habits import Habit
from bralto.core.measures.verdict_names import Verdict
from bralto.ui.theme.paint import Align, elided, rounded, text, triangle, verdict_mark
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["HabitList", "HabitScale", "percent_of", "reach_of"]

_HIGH, _GAP = 74.0, 7.0
_INSET = 12.0
_STEPS = (5.0, 10.0, 20.0, 40.0)
"""Where the scale may end, percent."""


def percent_of(habit: Habit, value: float) -> float:
    """A value of a habit on the scale: percent more than seen; of a lean, percent of its height."""
    if habit.trait.unit == "degrees":
        return 100.0 * math.tan(math.radians(value))
    return 100.0 * (value - habit.nothing)


def reach_of(habits: Sequence[Habit]) -> float:
    """The percent at either end of the scale that holds all means."""
    most = max((abs(percent_of(one, one.value)) for one in habits), default=0.0)
    return next((step for step in _STEPS if step >= most), _STEPS[-1])


class HabitList(SlipList):
    """What is told, then what cannot be told yet, then what is a little off."""

    lit = pyqtSignal(str)
    """Key of the trait that is pointed at or where the keys are, "" for none."""
    chosen = pyqtSignal(str)

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__("Habits", self._slip, tokens, parent, gap=_GAP)
        self.setUniformItemSizes(True)
        self._tokens = tokens
        self.habits: tuple[Habit, ...] = ()
        self._outcomes: Mapping[str, Outcome] = {}
        self._reach, self._lit = _STEPS[0], ""
        self.pointed.connect(lambda row: self.lit.emit(self._key(row)))
        self.taken.connect(lambda row, _at: self.chosen.emit(self._key(row)))

    def show_habits(self, habits: tuple[Habit, ...], outcomes: Mapping[str, Outcome]) -> None:
        """Other habits, or another state of what is worked on."""
        self.habits = tuple(one for one in habits if one.state != "none")
        self._outcomes = outcomes
        self._reach = reach_of(self.habits)
        said = [spoken_habit(one) for one in self.habits]
        self.say(said, [_HIGH] * len(said))
        self.repaint_slips()

    @property
    def reach(self) -> float:
        """Percent at either end of the scale."""
        return self._reach

    def light(self, trait: str) -> None:
        """Light up one habit."""
        if trait != self._lit:
            self._lit = trait
            self.repaint_slips()

    def _key(self, row: int) -> str:
        return self.habits[row].trait.key if 0 <= row < len(self.habits) else ""

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        if row >= len(self.habits):
            return
        habit, tokens = self.habits[row], self._tokens
        key = habit.trait.key
        rounded(painter, area, tokens.colour("here" if key == self._lit else "slip"))
        left, right = area.left() + _INSET, area.right() - _INSET
        role = _role(habit)
        title, figure = font(Size.TITLE, bold=True), habit_figure(habit)
        wide = text(
            painter, right, area.top() + 21.0, figure, title, tokens.colour(role), Align.AlignRight
        )
        at = QPointF(right - wide - 11.0, area.top() + 16.0)
        if role == "ochre":
            verdict_mark(painter, at, Verdict.CANNOT_TELL, "", tokens, 5.0)
        else:
            triangle(painter, at, "right" if role == "red" else "left", tokens.colour(role), 5.0)
        words = elided(habit_title(habit), title, right - wide - 28.0 - left)
        text(painter, left, area.top() + 21.0, words, title, tokens.colour("ink"))
        note, ink2 = font(Size.FINE), tokens.colour("ink2")
        between = range_words(habit)
        wide = text(painter, right, area.top() + 40.0, between, note, ink2, Align.AlignRight)
        said = note_words(habit)
        if key in self._outcomes:
            said = "worked on: " + self._outcomes[key].words
        said = elided(said, note, right - wide - 12.0 - left)
        text(painter, left, area.top() + 40.0, said, note, ink2)
        self._scale(painter, QRectF(left, area.top() + 48.0, right - left, 18.0), habit, role)

    def _scale(self, painter: QPainter, area: QRectF, habit: Habit, role: str) -> None:
        """Zero in the middle; the bar is the interval, and runs on where it is longer."""
        tokens, middle = self._tokens, area.center()
        half = area.width() / 2.0 - 4.0

        def x(value: float) -> float:
            share = percent_of(habit, value) / self._reach
            return middle.x() + half * min(max(share, -1.0), 1.0)

        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(
            QPointF(middle.x() - half, middle.y()), QPointF(middle.x() + half, middle.y())
        )
        for share in (-1.0, -0.5, 0.5, 1.0):
            at = middle.x() + share * half
            painter.drawLine(QPointF(at, middle.y() - 4.0), QPointF(at, middle.y() + 4.0))
        painter.setPen(QPen(tokens.colour("ink"), 2.0))
        painter.drawLine(QPointF(middle.x(), area.top()), QPointF(middle.x(), area.bottom()))
        low, high = x(habit.low), x(habit.high)
        painter.fillRect(
            QRectF(low, middle.y() - 2.5, max(2.0, high - low), 5.0), tokens.colour(role, 0.75)
        )
        painter.setPen(QPen(tokens.colour("sheet"), 1.4))
        painter.setBrush(tokens.colour(role))
        painter.drawEllipse(QPointF(x(habit.value), middle.y()), 5.0, 5.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)


class HabitScale(QWidget):
    """What the scale of the habits means; stands below them."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedHeight(38)
        self._tokens, self._reach = tokens, _STEPS[0]

    def show_reach(self, reach: float) -> None:
        """Another percent at either end."""
        self._reach = reach
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens, fine = self._tokens, font(Size.FINE)
        left, right = _INSET + 4.0, self.width() - _INSET - 4.0
        middle, ink2 = (left + right) / 2.0, tokens.colour("ink2")
        for share in (-1.0, -0.5, 0.5, 1.0):
            said = abs(share) * self._reach
            at = middle + share * (right - middle)
            align = {-1.0: Align.AlignLeft, 1.0: Align.AlignRight}.get(share, Align.AlignHCenter)
            text(painter, at, 14.0, f"{said:g} %", fine, ink2, align)
        text(painter, middle, 14.0, "as seen", fine, tokens.colour("ink"), Align.AlignHCenter)
        triangle(painter, QPointF(left + 4.0, 28.0), "left", tokens.colour("blue"), 4.5)
        text(painter, left + 14.0, 33.0, "less than you see", fine, tokens.colour("blue"))
        triangle(painter, QPointF(right - 4.0, 28.0), "right", tokens.colour("red"), 4.5)
        more, red = "more than you see", tokens.colour("red")
        text(painter, right - 14.0, 33.0, more, fine, red, Align.AlignRight)
        painter.end()


def _role(habit: Habit) -> str:
    """Red is more, blue is less, ochre cannot tell."""
    if habit.state == "open":
        return "ochre"
    return "red" if habit.value > habit.nothing else "blue"
