"""Accuracy: each skill on one time axis, habits beside them, and what follows from a habit."""

from __future__ import annotations

from datetime import datetime

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from bralto.core.longitudinal.course import COURSES, Course
from bralto.core.longitudinal.selection import group_words
from bralto.core.longitudinal.traits.trait_habits import Habit
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import day_words, how_many
from bralto.ui.prompt import Prompt
from bralto.ui.record.accuracy.advice_panel import AdvicePanel
from bralto.ui.record.accuracy.chart import Band, Chart, Dots
from bralto.ui.record.accuracy.habit_list import HabitList, HabitScale
from bralto.ui.record.accuracy.skill_figure import SkillFigure, heard_rows
from bralto.ui.record.page import NARROW, Page
from bralto.ui.record.record_state import RecordState
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.heading import Heading

__all__ = ["AccuracyPage", "beside_of"]

BESIDE = 360
"""Width of the habits' column, px."""

_LEAST_BESIDE = 290
_BETWEEN = 26
_CHART = 120
"""Width of a chart at least, px: narrower, months of studies are one block."""
_ALWAYS = ("miss", "heights", "widths", "tilts", "plumb")
"""Skills that have a row whether or not they have been measured."""

_NOT_OF_FIGURES = frozenset({"halves", "thirds"})
_HOW = "studies, where they go; below the dashes no mark can tell"
_TOGETHER = "the middle 80 % of studies together, and where they go"


class AccuracyPage(Page):
    """Left and right go from study to study on all charts; up and down from habit to habit."""

    def __init__(self, state: RecordState, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._state, self._tokens = state, tokens
        self._shares: dict[str, float] = {}
        self._numbers = 0, 0, 0
        self._lit = ""
        self._titles: dict[str, str] = {}
        self.charts = {key: Chart(key, tokens, self) for key in COURSES}
        self.figures = {key: SkillFigure(key, tokens, self) for key in COURSES}
        self.habits = HabitList(tokens, self)
        self._scale = HabitScale(tokens, self)
        self.advice = AdvicePanel(tokens, self)
        self._lay_out(tokens)
        for chart in self.charts.values():
            chart.opened.connect(self.opened)
            chart.pointed.connect(self.light)
        self.habits.lit.connect(self._light_habit)
        self.habits.chosen.connect(self._light_habit)
        self.advice.taken_up.connect(lambda trait, on: state.work_on(trait, on=on))
        self.advice.posed.connect(self.posed)
        state.habits_changed.connect(self.show_habits)
        self.show_habits()

    def _lay_out(self, tokens: Tokens) -> None:
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(0)
        grid.setVerticalSpacing(0)  # rows that are not shown take none
        grid.setColumnMinimumWidth(1, _CHART)
        grid.setColumnMinimumWidth(2, _BETWEEN)
        self._headings = [Heading(tokens, self) for _ in range(3)]
        for column, heading in zip((0, 1, 3), self._headings, strict=True):
            grid.addWidget(heading, 0, column)
        for row, key in enumerate(COURSES, start=1):
            grid.addWidget(self.figures[key], row, 0)
            grid.addWidget(self.charts[key], row, 1)
            grid.setRowStretch(row, 5)
        beside = self._beside = QWidget(self)
        beside.setFixedWidth(BESIDE)
        stack = QVBoxLayout(beside)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        stack.addWidget(self.habits, 1)
        stack.addWidget(self._scale)
        stack.addWidget(self.advice)
        grid.addWidget(beside, 1, 3, len(COURSES), 1)
        grid.setColumnStretch(1, 1)
        self._grid = grid

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.light(self._lit)  # there may be room for a sign a study now, or none any more
        self._beside.setFixedWidth(beside_of(self.width()))

    # What is shown

    def takes_keys(self) -> QWidget:
        return self.habits

    def prompt(self) -> Prompt:
        state, counted = self._state, self._state.counted
        tracked, sighted, apart = self._numbers
        of = f" of {group_words(state.choices['subject'])}" if apart else ""
        lead = f"{how_many(tracked, 'study')}{of} on record:"
        how = []
        if sighted:
            how.append(f"{sighted} only sighted")
        if lacking := len(counted) - tracked - sighted:
            verb = "counts" if lacking == 1 else "count"
            how.append(f"{lacking} without the whole short set {verb} apart")
        if apart:
            how.append(f"{apart} of other subjects are a series of their own")
        said = ", ".join(how) or "point at a sign to see which study it is"
        keys = (("← →", "study by study"), ("Enter", "open it"), ("↑ ↓", "habits"))
        return Prompt(lead, said, keys)

    def _counted_up(self) -> tuple[int, int, int]:
        """How many are tracked, only sighted, and of other subjects."""
        state = self._state
        sighted = frozenset(state.courses["sighting"].studies)
        alike = state.columns.chosen({"subject": state.choices["subject"]})
        return (
            len(state.courses["miss"]),
            sum(one.summary.only_sighted for one in state.counted if one.id in sighted),
            int((~alike).sum()),
        )

    def show_courses(self, span: tuple[datetime, datetime] | None) -> None:
        """Other studies, or another stretch of time."""
        self._numbers = self._counted_up()
        self._titles = {one.id: one.title for one in self._state.counted}
        self._shares = {}
        if span is not None:
            start, whole = span[0], (span[1] - span[0]).total_seconds()
            self._shares = {
                one.id: (one.when - start).total_seconds() / whole for one in self._state.counted
            }
        heads = self._state.choices.get("subject") != "figure"
        for row, key in enumerate(COURSES, start=1):
            course = self._state.courses.get(key)
            there = course is not None and len(course) > 0
            shown = (there and (heads or key not in _NOT_OF_FIGURES)) or key in _ALWAYS
            dots, trend = self._drawn(course if shown else None)
            chart = self.charts[key]
            chart.show_dots(dots, trend)
            chart.heard.say(heard_rows(course, self._titles) if course and shown else ())
            if course is not None and shown:
                self.figures[key].show_course(course, chart.top())
            chart.setVisible(shown)
            self.figures[key].setVisible(shown)
            self._grid.setRowStretch(row, 5 if shown else 0)
        self._headings[0].say("", "lower is closer", "")
        self.light(self._lit)

    def _drawn(self, course: Course | None) -> tuple[Dots, tuple[Band, ...]]:
        if course is None or not len(course):
            return Dots(), ()
        shares = [self._shares[study] for study in course.studies]
        values, reach = np.array(course.values), COVERAGE * np.array(course.u)
        low, high = np.maximum(values - reach, 0.0).tolist(), (values + reach).tolist()
        line = course.line()
        last = shares[len(shares) - len(line) :]
        bands = tuple(Band(share, *at) for share, at in zip(last, line, strict=True))
        return Dots(course.studies, shares, course.values, low, high, course.limits), bands

    def show_habits(self) -> None:
        """Habits that have been worked out by now."""
        told = self._state.told
        if told is None:
            self._headings[2].say("Habits", "working them out …", "")
            self.habits.show_habits((), {})
            self._scale.setVisible(False)
            self.advice.show_habit(None, {})
            self.advice.show_told(None)
            return
        last = "the last " if len(told.studies) < len(self._state.counted) else ""
        note = f"what you do every time, in {last}{how_many(len(told.studies), 'study')}"
        if not told.habits:
            note = "told from four drawings of one subject on"
        self._headings[2].say("Habits", note, "")
        self.habits.show_habits(told.habits, self._state.outcomes)
        self._scale.show_reach(self.habits.reach)
        self._scale.setVisible(bool(self.habits.habits))
        self._light_habit(self.advice.trait)
        self.advice.show_told(told)

    def _light_habit(self, trait: str) -> None:
        """What follows from it stays until another is pointed at."""
        shown = self.habits.habits
        found = next((one for one in shown if one.trait.key == trait), None)
        if found is None and trait:
            return
        if found is None:
            found = _first_to_say(shown, self.advice.trait)
        self.habits.light(trait)
        self.advice.show_habit(found, self._state.outcomes)

    # Study by study

    def light(self, study: str) -> None:
        """Light up one study on every chart; what it is stands over them."""
        self._lit = study
        for chart in self.charts.values():
            chart.light(study)
        title = self._titles.get(study)
        course = self._course()
        if title is None or study not in course.studies:
            crowded = any(chart.crowded for chart in self.charts.values())
            self._headings[1].say("", _TOGETHER if crowded else _HOW, "")
            return
        day = day_words(course.when[course.studies.index(study)])
        self._headings[1].say("", f"{day}: {title}", "")

    def _course(self) -> Course:
        """The course that is gone through study by study."""
        every = self._state.courses
        return next((one for one in every.values() if len(one)), every["miss"])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is not None:
            self._step(step)
        elif event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter} and self._lit:
            self.opened.emit(self._lit)
        else:
            event.ignore()

    def _step(self, by: int) -> None:
        studies = self._course().studies
        if not studies:
            return
        at = studies.index(self._lit) + by if self._lit in studies else len(studies) - 1
        self.light(studies[min(max(at, 0), len(studies) - 1)])


def beside_of(width: int) -> int:
    """How wide the habits' column is on a page of that width, px."""
    return BESIDE if width >= NARROW else _LEAST_BESIDE


def _first_to_say(habits: tuple[Habit, ...], before: str) -> Habit | None:
    """The one that was shown before, or else the first that is told."""
    kept = next((one for one in habits if one.trait.key == before), None)
    return kept or next((one for one in habits if one.state == "habit"), None)
