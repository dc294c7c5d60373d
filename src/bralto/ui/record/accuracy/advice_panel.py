"""What follows from a habit: what to check first, what trains it, and whether it helped."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bralto.core.longitudinal.advice_outcome import Outcome
from bralto.core.longitudinal.told import HabitsTold
from bralto.core.longitudinal.traits.habit_words import change_words, habit_title
from bralto.core.longitudinal.traits.trait_habits import Habit
from bralto.core.sightings.sense_words import sighting_words
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["AdvicePanel"]

_MOST_CHANGES = 3


class AdvicePanel(QWidget):
    """Of the habit that is lit, or of the first; below it what changed lately."""

    taken_up = pyqtSignal(str, bool)
    """A trait, and whether it is worked on from now on."""
    posed = pyqtSignal(str)
    """Key of a pose of the model that trains it."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens
        self._habit: Habit | None = None
        self._title = self._label(bold=True)
        self._first, self._drill = self._label(), self._label()
        self._outcome, self._changes = self._label(), self._label()
        self._button = QPushButton(self)
        self._button.clicked.connect(self._take_up)
        self._pose = QPushButton("Set up the model", self)
        self._pose.clicked.connect(self._set_up)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self._button)
        row.addWidget(self._pose)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(2, 6, 2, 0)
        column.setSpacing(5)
        for one in (self._title, self._first, self._drill, self._outcome):
            column.addWidget(one)
        column.addLayout(row)
        column.addWidget(self._changes)

    def _label(self, *, bold: bool = False) -> QLabel:
        label = QLabel(self)
        label.setWordWrap(True)
        label.setFont(font(Size.BODY if bold else Size.NOTE, bold=bold))
        colour = self._tokens.colour("ink" if bold else "ink2").name()
        label.setStyleSheet(f"color: {colour}")
        return label

    @property
    def trait(self) -> str:
        """Key of the trait that it is about, or ""."""
        return "" if self._habit is None else self._habit.trait.key

    def show_habit(self, habit: Habit | None, outcomes: Mapping[str, Outcome]) -> None:
        """Another habit, or none."""
        self._habit = habit
        there = habit is not None
        for one in (self._title, self._first, self._drill, self._button):
            one.setVisible(there)
        if habit is None:
            self._outcome.setVisible(False)
            self._pose.setVisible(False)
            return
        trait, outcome = habit.trait, outcomes.get(habit.trait.key)
        self._title.setText(habit_title(habit))
        self._first.setText(f"First: {trait.first}.")
        self._drill.setText(f"Drill: {trait.drill}.")
        self._outcome.setVisible(outcome is not None)
        words = "" if outcome is None else f"{outcome.words[:1].upper()}{outcome.words[1:]}."
        self._outcome.setText(words)
        self._button.setText("Work on it" if outcome is None else "Work on it no more")
        self._pose.setVisible(bool(trait.poses))

    def show_told(self, told: HabitsTold | None) -> None:
        """What changed in the last ten studies against the ten before, what is overcome, how the
        reference is sighted, and which answers on how it was made go with how close it came."""
        said = []
        for title, some in (
            ("Overcome", () if told is None else told.overcome),
            ("Last ten studies against the ten before", () if told is None else told.changes),
        ):
            if some:
                words = "; ".join(change_words(one) for one in some[:_MOST_CHANGES])
                said.append(f"{title}: {words}.")
        if told is not None:
            said += [words] if (words := sighting_words(told.sighting)) else []
            said += [one.words for one in told.questions[:1]]
        self._changes.setVisible(bool(said))
        self._changes.setText(" ".join(said))

    def _take_up(self) -> None:
        if self._habit is not None:
            self.taken_up.emit(self._habit.trait.key, self._button.text() == "Work on it")

    def _set_up(self) -> None:
        if self._habit is not None and self._habit.trait.poses:
            self.posed.emit(self._habit.trait.poses[0])
