"""What the record shows: which studies are counted, every skill over time, habits. No widgets."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from bralto.core.errors import UserError
from bralto.core.longitudinal.advice_outcome import Outcome, outcome
from bralto.core.longitudinal.course import Course
from bralto.core.longitudinal.focus import KIND, focus_document, worked_on
from bralto.core.longitudinal.selection import ASPECTS, Counted, chosen, first_choice
from bralto.core.longitudinal.told import HabitsTold, habits_told, last_of, skills_told
from bralto.core.longitudinal.trait_table import group_of
from bralto.store.instants import now_utc
from bralto.store.library import Library
from bralto.store.recorded import as_counted, read_traits_of
from bralto.ui.shelf.shelf_state import Entry, ShelfState
from bralto.ui.tasks import Tasks

__all__ = ["RecordState"]


_PAINTED_MS = 60
"""The charts are painted before habits are worked out beside them."""


class _WorkedOut(NamedTuple):
    told: HabitsTold
    outcomes: dict[str, Outcome]


class RecordState(QObject):
    """Follows `ShelfState`. Skills are worked out at once, habits off the GUI thread."""

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
        self.every: tuple[Counted, ...] = ()
        """All that could be counted, newest first."""
        self.choices: dict[str, str] = {}
        """Of each aspect (`selection.ASPECTS`) what is counted."""
        self.counted: tuple[Counted, ...] = ()
        """What the choices leave, newest first."""
        self.courses: Mapping[str, Course] = {}
        self.told: HabitsTold | None = None
        """Habits of what is counted; None until they are worked out."""
        self.outcomes: Mapping[str, Outcome] = {}
        """By trait that is worked on."""
        self._wanted: tuple[Counted, ...] | None = None
        self._working = False
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_PAINTED_MS)
        self._later.timeout.connect(self._begin)

    # What is counted

    def follow(self) -> None:
        """Take over what the shelf has by now."""
        if self._entries is self._shelf.counted:
            return
        self._entries = self._shelf.counted
        self.every = tuple(one for entry in self._entries if (one := _counted(entry)) is not None)
        self._choose()

    def count_only(self, aspect: str, value: str) -> None:
        """Choose what of an aspect is counted; what cannot go with it any more is let go."""
        self._asked[aspect] = value
        order = [one.key for one in ASPECTS]
        if next(one for one in ASPECTS if one.key == aspect).apart:
            for later in order[order.index(aspect) + 1 :]:
                self._asked.pop(later, None)
        self._choose()

    def _choose(self) -> None:
        asked = dict(self._asked)
        left = chosen(self.every, asked)
        while asked and not left:
            asked.popitem()  # what was asked for last is no longer there
            left = chosen(self.every, asked)
        self.choices = first_choice(left) | asked
        self.counted = tuple(chosen(left, self.choices))
        self.courses = skills_told(self.counted)
        self.changed.emit()
        self._work_out()

    # Habits

    @property
    def busy(self) -> bool:
        """Whether habits are being worked out."""
        return self._working

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
        self._working = False
        self.trouble.emit(message)

    def release(self) -> None:
        """Begin nothing more; the window closes."""
        self._later.stop()

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
    told = habits_told(last, traits)
    dated = [
        (one.when, traits[one.id])
        for one in last
        if one.id in traits and group_of(one.view) == told.group
    ]
    working = worked_on(library.practice(), told.group)
    return _WorkedOut(told, {one.trait.key: outcome(one, dated) for one in working})
