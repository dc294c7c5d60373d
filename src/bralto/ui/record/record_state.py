"""What the record shows: which studies are counted, every skill over time, habits. No widgets."""

from __future__ import annotations

import gc
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from bralto.core.errors import UserError
from bralto.core.longitudinal.advice_outcome import Outcome, outcome
from bralto.core.longitudinal.columns import Columns
from bralto.core.longitudinal.course import Course, SkillColumns
from bralto.core.longitudinal.focus import KIND, focus_document, worked_on
from bralto.core.longitudinal.selection import ASPECTS, Counted
from bralto.core.longitudinal.told import HabitsTold, habits_told, last_of
from bralto.core.longitudinal.traits.trait_table import group_of
from bralto.store.instants import now_utc
from bralto.store.library import Library
from bralto.store.record.recorded import as_counted, read_traits_of
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState

__all__ = ["MANY", "RecordState"]


MANY = 1000
"""Studies of which more than these are gone through off the GUI thread once some are shown: they
take a tenth of a second and more."""

_PAINTED_MS = 60
"""The charts are painted before habits are worked out beside them."""


class _WorkedOut(NamedTuple):
    told: HabitsTold
    outcomes: dict[str, Outcome]


class _Gathered(NamedTuple):
    """What is counted of some entries."""

    columns: Columns
    skills: SkillColumns
    choices: dict[str, str]
    counted: tuple[Counted, ...]
    courses: Mapping[str, Course]


def _chosen(columns: Columns, skills: SkillColumns, asked: dict[str, str]) -> _Gathered:
    asked = dict(asked)
    left = columns.chosen(asked)
    while asked and not left.any():
        asked.popitem()  # what was asked for last is no longer there
        left = columns.chosen(asked)
    choices = columns.first_choice(left) | asked
    left = left & columns.chosen(choices)
    return _Gathered(columns, skills, choices, columns.of(left), skills.courses(left))


def _gathered(entries: Iterable[Entry], asked: dict[str, str]) -> _Gathered:
    every = [one for e in entries if (one := _counted(e)) is not None]
    return _chosen(Columns(every), SkillColumns(every), asked)


class RecordState(QObject):
    """Follows `ShelfState`. Skills are worked out at once, of thousands of studies that were shown
    before off the GUI thread; habits always so."""

    changed = pyqtSignal()
    habits_changed = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(
        self, shelf: ShelfState, library: Library, tasks: Tasks, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._shelf, self._library, self._tasks = shelf, library, tasks
        self._entries: tuple[Entry, ...] | None = None
        self._asked: dict[str, str] = {}
        self._found = _gathered((), {})
        self.told: HabitsTold | None = None
        """Habits of what is counted; None until they are worked out."""
        self.outcomes: Mapping[str, Outcome] = {}
        """By trait that is worked on."""
        self._wanted: tuple[Counted, ...] | None = None
        self._working = self._gathering = False
        self._later = self._once_painted(self._begin)
        self._gather_later = self._once_painted(self._gather_aside)

    def _once_painted(self, act: Callable[[], None]) -> QTimer:
        """A timer for what another thread begins once the record is painted: two that work in
        Python at a time keep each other waiting."""
        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(_PAINTED_MS)
        timer.timeout.connect(act)
        return timer

    # What is counted

    @property
    def columns(self) -> Columns:
        """All that could be counted, newest first."""
        return self._found.columns

    @property
    def every(self) -> tuple[Counted, ...]:
        """The same, study by study."""
        return self.columns.studies

    @property
    def choices(self) -> Mapping[str, str]:
        """Of each aspect (`selection.ASPECTS`) what is counted."""
        return self._found.choices

    @property
    def counted(self) -> tuple[Counted, ...]:
        """What the choices leave, newest first."""
        return self._found.counted

    @property
    def courses(self) -> Mapping[str, Course]:
        """Every skill over what is counted."""
        return self._found.courses

    def follow(self) -> None:
        """Take over what the shelf has by now."""
        if self._entries is self._shelf.counted:
            return
        self._entries = self._shelf.counted
        if not self.every or len(self._entries) <= MANY:
            self._show(_gathered(self._entries, self._asked))
            if len(self._entries) > MANY:
                gc.freeze()  # what was read of them stays: a collector need not look at it again
        elif not self._gathering:
            self._gathering = True
            self._gather_later.start()

    def _gather_aside(self) -> None:
        """What is shown stays until it has been gone through."""
        assert self._entries is not None
        self._gathering = True
        work = partial(_gathered, self._entries, dict(self._asked))
        done = partial(self._on_gathered, self._entries, dict(self._asked))
        self._tasks.run(work, done, self._on_failed)

    def _on_gathered(
        self, entries: tuple[Entry, ...], asked: dict[str, str], found: _Gathered
    ) -> None:
        self._gathering = False
        if entries is not self._entries or asked != self._asked:
            self._gather_aside()  # something else has changed meanwhile
        else:
            self._show(found)

    def _show(self, found: _Gathered) -> None:
        self._found = found
        self.changed.emit()
        self._work_out()

    def count_only(self, aspect: str, value: str) -> None:
        """Choose what of an aspect is counted; what cannot go with it any more is let go."""
        self._asked[aspect] = value
        order = [one.key for one in ASPECTS]
        if next(one for one in ASPECTS if one.key == aspect).apart:
            for later in order[order.index(aspect) + 1 :]:
                self._asked.pop(later, None)
        self._show(_chosen(self.columns, self._found.skills, self._asked))

    # Habits

    @property
    def busy(self) -> bool:
        """Whether studies are being gone through, or habits worked out."""
        return self._working or self._gathering

    def _work_out(self) -> None:
        if self._working:
            return
        self._working = True
        self._later.start()

    def _begin(self) -> None:
        self._wanted = self.counted
        work = partial(_worked_out, self._library, self.counted)
        self._tasks.run(work, self._on_worked_out, self._on_failed)

    def _on_worked_out(self, found: _WorkedOut) -> None:
        self._working = False
        if self._wanted is not self.counted:
            self._work_out()
            return
        self.told, self.outcomes = found
        self.habits_changed.emit()

    def _on_failed(self, message: str) -> None:
        self._working = self._gathering = False
        self.trouble.emit(message)

    def release(self) -> None:
        """Begin nothing more; the window closes."""
        self._later.stop()
        self._gather_later.stop()

    # What is worked on

    def work_on(self, trait: str, *, on: bool) -> None:
        """Take a habit up, or let it go."""
        if self.told is None:
            return
        document = focus_document(trait, self.told.group, on=on)
        try:
            self._library.note_practice(KIND, document, now_utc())
        except UserError as error:
            self.trouble.emit(str(error))
            return
        self._work_out()


def _counted(entry: Entry) -> Counted | None:
    if not entry.dated or entry.digest is None or not entry.in_force:
        return None
    return as_counted(entry.row, entry.when, entry.digest)


def _worked_out(library: Library, studies: Sequence[Counted]) -> _WorkedOut:
    """Off the GUI thread."""
    last = last_of(studies)
    traits = read_traits_of(library, last)
    told = habits_told(studies, traits)
    dated = [
        (one.when, traits[one.id])
        for one in last
        if one.id in traits and group_of(one.view) == told.group
    ]
    working = worked_on(library.practice(), told.group)
    return _WorkedOut(told, {one.trait.key: outcome(one, dated) for one in working})
