"""Tries: the same pose drawn again, and the states of one drawing, side by side."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from itertools import pairwise
from typing import NamedTuple

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.selection import Counted, tries_of
from bralto.core.longitudinal.skills_besides import skills_besides
from bralto.core.longitudinal.steps import step_between
from bralto.core.words.phrases import day_words
from bralto.store.library import Library
from bralto.ui.prompt import Prompt
from bralto.ui.record.page import NARROW, Page
from bralto.ui.record.record_state import RecordState
from bralto.ui.record.tries_table import Compared, TriesTable
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.theme.paint import elided, rounded, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heading import Heading
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["TriesPage"]

_LIST, _NARROW_LIST = 320, 210
"""Width of the list, px, and in a narrow page."""
_MOST_COLUMNS = 5
_HIGH = 46.0


class Series(NamedTuple):
    """Drawings to put side by side.

    Attributes:
        title: what is drawn. note: how many tries or states.
        drawings: (study, state or None for the last, heading) of each, oldest first.
    """

    title: str
    note: str
    drawings: tuple[tuple[str, str | None, str], ...]


class TriesPage(Page):
    """The list at the left, what is chosen of it at the right."""

    def __init__(
        self,
        state: RecordState,
        shelf: ShelfState,
        library: Library,
        tasks: Tasks,
        tokens: Tokens,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._state, self._shelf, self._library, self._tasks = state, shelf, library, tasks
        self._tokens = tokens
        self.series: tuple[Series, ...] = ()
        self._at, self._lit = 0, -1
        self._asked: Series | None = None
        self._working = False
        self._heading = Heading(tokens, self)
        self.list = SlipList("Poses drawn again", self._slip, tokens, self, gap=5.0)
        self.list.setUniformItemSizes(True)
        self.list.pointed.connect(self._point)
        self.list.taken.connect(lambda row, _at: self._take(row))
        self.table = TriesTable(tokens, self)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self._heading)
        left.addWidget(self.list, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(26)
        row.addLayout(left)
        row.addWidget(self.table, 1)
        state.changed.connect(self._follow)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.list.setFixedWidth(_LIST if self.width() >= NARROW else _NARROW_LIST)

    @property
    def busy(self) -> bool:
        """Whether drawings are being measured."""
        return self._working

    def takes_keys(self) -> QWidget:
        return self.list

    def prompt(self) -> Prompt:
        keys = (("↑ ↓", "one by one"), ("Enter", "open it"))
        return Prompt("The same pose again:", "what was put right, and what came in", keys)

    def look(self) -> None:
        """Show what there is by now."""
        found = [_tries(each) for each in tries_of(self._state.counted)]
        found += [
            one for entry in self._state.counted if (one := _states(entry, self._shelf)) is not None
        ]
        if tuple(found) != self.series:
            self.series, self._at = tuple(found), 0
            said = [f"{one.title}, {one.note}" for one in found]
            self.list.say(said, [_HIGH] * len(said))
        self._heading.say("Tries and states", "", "")
        self._compare()

    def _follow(self) -> None:
        if self.isVisible():
            self.look()

    def _point(self, row: int) -> None:
        self._lit = row
        if 0 <= row != self._at:
            self._at = row
            self._compare()
        self.list.repaint_slips()

    def _take(self, row: int) -> None:
        if 0 <= row < len(self.series):
            self.opened.emit(self.series[row].drawings[-1][0])

    def _compare(self) -> None:
        if self._working:
            return
        chosen = self.series[self._at] if self._at < len(self.series) else None
        if chosen is None:
            self.table.show_compared("Draw a pose again: Try again on the shelf", None)
            return
        if chosen == self._asked:
            return
        self._asked, self._working = chosen, True
        work = partial(_compared, self._library, chosen)
        self._tasks.run(work, self._on_compared, self._on_failed)

    def _on_compared(self, found: Compared) -> None:
        self._working = False
        if self._asked is not None:
            self.table.show_compared(self._asked.title, found)
        self._compare()

    def _on_failed(self, message: str) -> None:
        self._working = False
        self.table.show_compared(message, None)

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        if row >= len(self.series):
            return
        one, tokens = self.series[row], self._tokens
        rounded(painter, area, tokens.colour("here" if row == self._at else "slip"))
        left, room = area.left() + 10.0, area.width() - 20.0
        title = elided(one.title, font(Size.BODY), room)
        text(painter, left, area.top() + 19.0, title, font(Size.BODY), tokens.colour("ink"))
        text(painter, left, area.top() + 37.0, one.note, font(Size.FINE), tokens.colour("ink2"))


def _day(study: Counted) -> str:
    return day_words(study.when)


def _tries(each: Sequence[Counted]) -> Series:
    last = each[-_MOST_COLUMNS:]
    drawings = tuple((one.id, None, _day(one)) for one in last)
    return Series(each[-1].title, f"{len(each)} tries", drawings)


def _states(one: Counted, shelf: ShelfState) -> Series | None:
    entry = shelf.entry(one.id)
    if entry is None or entry.states < 2:
        return None
    return Series(one.title, f"{entry.states} states of one drawing", ((one.id, "*", ""),))


def _compared(library: Library, series: Series) -> Compared:
    """Off the GUI thread: every drawing measured, and the steps between them."""
    found = []
    for study_id, state, heading in series.drawings:
        study = library.find(study_id)
        if study is None:
            raise UserError("one of these studies is no longer in the library")
        if state is None:
            found.append((heading, measured(study), skills_besides(study)))
        else:
            last = study.states[-_MOST_COLUMNS:]
            found += [(one.name, measured(study, one), skills_besides(study, one)) for one in last]
    kept = [keep_of(one, besides=more) for _, one, more in found]
    readings = [{} if one.levelled is None else one.levelled.by_id() for one in kept]
    steps = tuple(step_between(before, after) for before, after in pairwise(readings))
    headings = tuple(heading for heading, *_ in found)
    return Compared(headings, tuple(one.summary for one in kept), steps)
