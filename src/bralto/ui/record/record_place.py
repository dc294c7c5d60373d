"""The record: accuracy over time, habits, and the log of studies they come from."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QPoint, pyqtSignal
from PyQt6.QtGui import QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QMenu, QStackedWidget, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.core.longitudinal.selection import ALL, ASPECTS, WHOLE
from bralto.core.words.phrases import part_of
from bralto.disk.given import write_given
from bralto.store.library import Library
from bralto.ui.place import Place
from bralto.ui.prompt import Prompt
from bralto.ui.record.accuracy.accuracy_page import AccuracyPage, beside_of
from bralto.ui.record.accuracy.skill_figure import WIDTH
from bralto.ui.record.page import Page
from bralto.ui.record.page_strip import PageStrip
from bralto.ui.record.record_state import RecordState
from bralto.ui.running.tasks import Tasks
from bralto.ui.saving import file_to_save
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.tape import Segment, TapeShown
from bralto.ui.widgets.timeline import months, span_of

if TYPE_CHECKING:
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["ACCURACY", "DRAWN", "LOG", "TODAY", "TRIES", "YEAR", "Record"]

_MARGIN, _BETWEEN = 24, 26
_LEGIBLE = 240
"""px; over charts that are narrower no month can be read, and the tape takes all of its width."""
ACCURACY, DRAWN, TRIES, TODAY, LOG, YEAR = (
    "Accuracy and habits", "Habits drawn", "Tries", "Today", "Log", "Year",
)  # fmt: skip


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
        on_bench: Callable[[], OpenStudy | None],
        parent: QWidget | None = None,
    ) -> None:
        """``on_bench`` tells the study that stands there."""
        super().__init__(parent)
        self.setObjectName("ground")
        self.shelf = shelf
        self.state = RecordState(shelf, library, tasks, self)
        self._shown: tuple[Entry, ...] | None = None
        self._months: tuple[tuple[Segment, ...], tuple[tuple[float, float], ...]] = ((), ())
        self._span: tuple[datetime, datetime] | None = None
        self.strip = PageStrip(self)
        self._stack = QStackedWidget(self)
        self._pages: dict[str, Page] = {}
        self._make: dict[str, Callable[[], Page]] = {
            ACCURACY: lambda: AccuracyPage(self.state, tokens, self),
            DRAWN: lambda: _loaded("habit_page").HabitPage(self.state, tasks, tokens, self),
            TRIES: lambda: _loaded("tries_page").TriesPage(
                self.state, shelf, library, tasks, tokens, self
            ),
            TODAY: lambda: _loaded("today_page").TodayPage(self.state, library, tokens, self),
            LOG: lambda: _loaded("log_page").LogPage(shelf, library, tokens, on_bench, self),
            YEAR: lambda: _loaded("year_page").YearPage(shelf, tokens, self),
        }
        column = QVBoxLayout(self)
        column.setContentsMargins(_MARGIN, 4, _MARGIN, 10)
        column.setSpacing(2)
        column.addWidget(self.strip)
        column.addWidget(self._stack, 1)
        accuracy = self.page(ACCURACY)
        assert isinstance(accuracy, AccuracyPage)
        self.accuracy = accuracy
        self.strip.show_pages(tuple(self._make), ACCURACY)
        self.strip.chosen.connect(self.show_page)
        self.strip.choosing.connect(self._choose)
        self.state.trouble.connect(self.said)
        self.state.changed.connect(self._on_change)
        shelf.changed.connect(self._while_shown)
        shelf.measured.connect(self._while_shown)
        self._follow()

    def release(self) -> None:
        """Begin nothing more; the window closes."""
        self.state.release()

    def page(self, title: str) -> Page:
        """A page by its word, made where it is not yet."""
        if title not in self._pages:
            page = self._pages[title] = self._make[title]()
            self._stack.addWidget(page)
            page.opened.connect(self.opened)
            page.begun.connect(self.begun)
            page.posed.connect(self.posed)
            page.refused.connect(self.said)
            page.said.connect(self.told)
        return self._pages[title]

    @property
    def shown(self) -> Page:
        """The page in sight."""
        page = self._stack.currentWidget()
        assert isinstance(page, Page)
        return page

    @property
    def busy(self) -> bool:
        """Whether habits are being worked out, or drawn."""
        return self.state.busy or any(page.busy for page in self._pages.values())

    # What is shown

    def show_page(self, title: str) -> None:
        """Go to another page."""
        self._stack.setCurrentWidget(self.page(title))
        self.strip.show_pages(tuple(self._make), title)
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
        self.tape_changed.emit()

    def _on_change(self) -> None:
        self.accuracy.show_courses(self._span)
        self.shown.look()  # the others wait until they are gone to
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
        """Bring the page in sight up to date, and give it the keys."""
        self.shown.look()
        keys = self.shown.takes_keys()
        if keys is None:
            self.strip.take_keys()
        else:
            keys.setFocus()

    # What is counted

    def _counted_words(self) -> tuple[str, str]:
        """What is counted, and how many studies of how many."""
        chosen = self.state.choices
        said = [
            aspect.words(value)
            for aspect in ASPECTS
            if (value := chosen.get(aspect.key, ALL)) not in (ALL, WHOLE)
        ]
        if "school" in chosen:
            said = [f"{one} school" if one == chosen["school"] else one for one in said]
        many, every = len(self.state.counted), len(self.state.every)
        return " · ".join(said), part_of(many, every, "study")

    def _choose(self, at: QPoint) -> None:
        """The menu of all that studies are told apart by, each with the count that it leaves."""
        menu = QMenu(self)
        columns, chosen = self.state.columns, self.state.choices
        for aspect in ASPECTS:
            options = columns.options_of(chosen, aspect)
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
        menu.addSeparator()
        for words, ending in (("Save the charts …", "svg"), ("Save the figures …", "csv")):
            save = menu.addAction(words)
            assert save is not None
            save.setEnabled(bool(self.state.counted))
            save.triggered.connect(lambda _=False, ending=ending: self._ask_where(ending))
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(at)

    def _ask_where(self, ending: str) -> None:
        kinds = "Charts (*.svg *.png)" if ending == "svg" else "Figures (*.csv)"
        path = file_to_save(self, "The record", f"record.{ending}", kinds)
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """What is counted, as charts (.svg, .png) or as figures (.csv)."""
        from bralto.exchange.record_chart import write_chart
        from bralto.exchange.record_report import record_csv

        try:
            if path.suffix.lower() == ".csv":
                write_given(path, record_csv(self.state.courses, self.state.counted).encode())
            else:
                what, many = self._counted_words()
                write_chart(path, self.state.courses, f"{many}: {what}")
        except UserError as error:
            self.said.emit(str(error))
            return
        self.told.emit(f"{path.name} is written.")

    # What the window shows of it

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.tape_changed.emit()

    def tape(self) -> TapeShown:
        """The calendar, its time over the charts' where they stand under it and are wide enough."""
        segments, bars = self._months
        window, wide = self.window(), self.accuracy.width()
        beside = beside_of(wide)
        scrolls = window is not None and self.width() > window.width()
        if scrolls or wide - WIDTH - beside - _BETWEEN < _LEGIBLE:
            return TapeShown(segments, None, bars)
        margins = float(_MARGIN + WIDTH), float(_MARGIN + beside + _BETWEEN)
        return TapeShown(segments, None, bars, margins)

    def prompt(self) -> Prompt:
        """What to do next."""
        if not self.state.counted and self.shown is not self._pages.get(TODAY):
            return Prompt("Nothing on record yet:", "mark a study on the bench and it appears here")
        return self.shown.prompt()


def _loaded(module: str) -> Any:
    """The module of a page: each takes a moment to load, and most visits want one."""
    return import_module(f"bralto.ui.record.{module}")
