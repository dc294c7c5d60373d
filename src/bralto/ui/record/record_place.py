"""The record: accuracy over time, habits, and the log of studies they come from."""

from __future__ import annotations

from datetime import datetime

from PyQt6.QtCore import QPoint, pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QMenu, QStackedWidget, QVBoxLayout, QWidget

from bralto.core.longitudinal.selection import ALL, ASPECTS, group_words, options_of
from bralto.store.library import Library
from bralto.ui.place import Place
from bralto.ui.prompt import Prompt
from bralto.ui.record.accuracy_page import BESIDE, AccuracyPage
from bralto.ui.record.habit_page import HabitPage
from bralto.ui.record.log_page import LogPage
from bralto.ui.record.page_strip import PageStrip
from bralto.ui.record.record_state import RecordState
from bralto.ui.record.skill_figure import WIDTH
from bralto.ui.record.today_page import TodayPage
from bralto.ui.record.tries_page import TriesPage
from bralto.ui.record.year_page import YearPage
from bralto.ui.shelf.shelf_state import Entry, ShelfState
from bralto.ui.tape import Segment, TapeShown
from bralto.ui.tasks import Tasks
from bralto.ui.theme.tokens import Tokens
from bralto.ui.timeline import months, span_of

__all__ = ["Record"]

_MARGIN, _BETWEEN = 24, 26
ACCURACY, DRAWN, TRIES, TODAY, LOG, YEAR = (
    "Accuracy and habits", "Habits drawn", "Tries", "Today", "Log", "Year",
)  # fmt: skip


_SAID = {
    DRAWN: ("Your habits, twice as strong:", "what you would see from across the room"),
    TRIES: ("The same pose again:", "what was put right, and what came in"),
    TODAY: ("What to do today:", "begin with the first; leave out what does not fit"),
    LOG: ("Every study:", "what you wrote, and how it went"),
    YEAR: ("A year at a glance:", "point at a day to see what was drawn on it"),
}


class Record(Place):
    """Pages on one time axis, the tape's. What is counted is chosen once for all of them."""

    opened = pyqtSignal(str)
    posed = pyqtSignal(str)
    said = pyqtSignal(str)
    told = pyqtSignal(str)
    begun = pyqtSignal(object)
    """A `practice.Item` of today to begin."""

    def __init__(
        self,
        shelf: ShelfState,
        library: Library,
        tasks: Tasks,
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self.shelf = shelf
        self.state = RecordState(shelf, library, tasks, self)
        self._shown: tuple[Entry, ...] | None = None
        self._months: tuple[tuple[Segment, ...], tuple[tuple[float, float], ...]] = ((), ())
        self._span: tuple[datetime, datetime] | None = None
        self.strip = PageStrip(self)
        self.accuracy = AccuracyPage(self.state, tokens, self)
        self.log = LogPage(shelf, library, tokens, self)
        self.log.refused.connect(self.said)
        self.log.said.connect(self.told)
        self.year = YearPage(shelf, tokens, self)
        self.today = TodayPage(self.state, library, tokens, self)
        self.today.begun.connect(self.begun)
        self.today.refused.connect(self.said)
        self.today.said.connect(self.told)
        self.drawn = HabitPage(self.state, tasks, tokens, self)
        self.tries = TriesPage(self.state, shelf, library, tasks, tokens, self)
        self._pages: dict[str, QWidget] = {
            ACCURACY: self.accuracy, DRAWN: self.drawn, TRIES: self.tries, TODAY: self.today,
            LOG: self.log, YEAR: self.year,
        }  # fmt: skip
        self._stack = QStackedWidget(self)
        for page in self._pages.values():
            self._stack.addWidget(page)
        column = QVBoxLayout(self)
        column.setContentsMargins(_MARGIN, 4, _MARGIN, 10)
        column.setSpacing(2)
        column.addWidget(self.strip)
        column.addWidget(self._stack, 1)
        self.strip.show_pages(tuple(self._pages), ACCURACY)
        self.strip.chosen.connect(self.show_page)
        self.strip.choosing.connect(self._choose)
        for page in (self.accuracy, self.tries, self.log, self.year):
            page.opened.connect(self.opened)
        self.accuracy.posed.connect(self.posed)
        self.state.trouble.connect(self.said)
        self.state.changed.connect(self._on_change)
        shelf.changed.connect(self._while_shown)
        shelf.measured.connect(self._while_shown)
        self._follow()

    @property
    def busy(self) -> bool:
        """Whether habits are being worked out, or drawn."""
        return self.state.busy or self.drawn.busy or self.tries.busy

    # What is shown

    def show_page(self, page: str) -> None:
        """Go to another page."""
        self._stack.setCurrentWidget(self._pages[page])
        self.strip.show_pages(tuple(self._pages), page)
        self._take_keys()
        self.prompt_changed.emit()

    def _follow(self) -> None:
        if self._shown is self.shelf.counted:
            return
        self._shown = self.shelf.counted
        days = [entry.when for entry in self._shown if entry.dated]
        self._span = span_of(days) if days else None
        self._months = months(days)
        self.state.follow()
        self.log.show_entries()
        self.year.look()
        self.tape_changed.emit()

    def _on_change(self) -> None:
        self.accuracy.show_courses(self._span)
        self.strip.show_counted(*self._counted_words())
        self.prompt_changed.emit()

    def _while_shown(self) -> None:
        """Follow a change; out of sight it waits until the record is gone to."""
        if self.isVisible():
            self._follow()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._follow()

    def enter(self) -> None:
        """What was changed on the bench is in the record then."""
        self.shelf.refresh()
        self._take_keys()

    def _take_keys(self) -> None:
        shown = self._stack.currentWidget()
        if shown in {self.drawn, self.year}:
            (self.drawn if shown is self.drawn else self.year).look()
            self.strip.take_keys()
        elif shown is self.tries:
            self.tries.look()
            self.tries.list.setFocus()
        elif shown is self.today:
            self.today.look()
            self.today.items.setFocus()
        else:
            (self.log.studies if shown is self.log else self.accuracy.habits).setFocus()

    # What is counted

    def _counted_words(self) -> tuple[str, str]:
        """What is counted, and how many of how many."""
        chosen = self.state.choices
        said = [
            aspect.words(value)
            for aspect in ASPECTS
            if (value := chosen.get(aspect.key, ALL)) != ALL
        ]
        if "school" in chosen:
            said = [f"{one} school" if one == chosen["school"] else one for one in said]
        many, every = len(self.state.counted), len(self.state.every)
        return " · ".join(said), f"{many} of {every}"

    def _choose(self, at: QPoint) -> None:
        """The menu of all that studies are told apart by, each with the count that it leaves."""
        menu = QMenu(self)
        every, chosen = self.state.every, self.state.choices
        for aspect in ASPECTS:
            options = options_of(every, chosen, aspect)
            if len(options) < (2 if aspect.apart else 3):
                continue
            current = chosen.get(aspect.key, ALL)
            words = next((said for value, said, _ in options if value == current), "all")
            branch = menu.addMenu(f"{aspect.title}: {words}")
            assert branch is not None
            for value, said, many in options:
                action = branch.addAction(f"{said}  ({many})")
                assert action is not None
                action.setCheckable(True)
                action.setChecked(value == current)
                action.setEnabled(many > 0)
                action.triggered.connect(
                    lambda _=False, key=aspect.key, value=value: self.state.count_only(key, value)
                )
        if menu.isEmpty():
            nothing = menu.addAction("all studies are alike in what is known of them")
            assert nothing is not None
            nothing.setEnabled(False)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(at)

    # What the window shows of it

    def tape(self) -> TapeShown:
        """The calendar, its time over the charts'."""
        segments, bars = self._months
        margins = float(_MARGIN + WIDTH), float(_MARGIN + BESIDE + _BETWEEN)
        return TapeShown(segments, None, bars, margins)

    def prompt(self) -> Prompt:
        """What to do next."""
        counted, chosen = self.state.counted, self.state.choices
        shown = self._stack.currentWidget()
        if not counted and shown is not self.today:
            return Prompt("Nothing on record yet:", "mark a study on the bench and it appears here")
        if shown is not self.accuracy:
            lead, words = _SAID[next(key for key, page in self._pages.items() if page is shown)]
            keys = (("↑ ↓", "one by one"), ("Enter", "open it"))
            if shown is self.today:
                return Prompt(lead, words, (("Enter", "begin it"), ("D", "it is done")))
            return Prompt(lead, words, () if shown in {self.drawn, self.year} else keys)
        tracked = sum(bool(one.summary.tracked) for one in counted)
        apart = sum(chosen.get("subject") != one.view.split("-", 1)[0] for one in self.state.every)
        of = f" of {group_words(chosen['subject'])}" if apart else ""
        lead = f"{tracked} {'study' if tracked == 1 else 'studies'}{of} on record:"
        how = []
        if lacking := len(counted) - tracked:
            verb = "counts" if lacking == 1 else "count"
            how.append(f"{lacking} without the whole short set {verb} apart")
        if apart:
            how.append(f"{apart} of other subjects are a series of their own")
        said = ", ".join(how) or "point at a sign to see which study it is"
        return Prompt(lead, said, (("← →", "study by study"), ("Enter", "open it"),
                                   ("↑ ↓", "habits")))  # fmt: skip
