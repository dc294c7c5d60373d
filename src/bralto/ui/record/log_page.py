"""The log: every study with what was written about it, searched by words; a month on paper."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.core.session.notes import LOG, notes_of, with_notes
from bralto.core.words.phrases import day_words, local, month_words, part_of, time_spent
from bralto.store.library import Library
from bralto.ui.prompt import Prompt
from bralto.ui.record.month_print import write_month
from bralto.ui.record.page import Page
from bralto.ui.saving import file_to_save
from bralto.ui.shelf.card import miss_words
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.slips.log_slip import LOG_TITLES, RATINGS, LogSlip
from bralto.ui.theme.paint import Align, elided, rounded, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heading import Heading
from bralto.ui.widgets.slip_list import SlipList

if TYPE_CHECKING:
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["LogPage"]

_BESIDE = 400
_MOST_MONTHS = 24


class _Studies(SlipList):
    """Newest first."""

    opened = pyqtSignal(str)
    lit = pyqtSignal(str)

    _ROW, _GAP = 60.0, 5.0

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__("Studies", self._slip, tokens, parent, gap=self._GAP)
        self.setUniformItemSizes(True)
        self._tokens, self._lit = tokens, ""
        self.entries: tuple[Entry, ...] = ()
        self.pointed.connect(self._light)
        self.taken.connect(lambda row, _at: self.opened.emit(self.entries[row].id))

    def show_entries(self, entries: tuple[Entry, ...]) -> None:
        """Other studies, or other figures of them."""
        if self.entries is not entries:
            self.entries = entries
            said = [f"{one.title}, {' '.join(miss_words(one))}, {_day(one)}" for one in entries]
            self.say(said, [self._ROW] * len(said))
        self.repaint_slips()

    def _light(self, row: int) -> None:
        if 0 <= row < len(self.entries):  # the last one stays, with what was written of it
            self._lit = self.entries[row].id
            self.lit.emit(self._lit)
        self.repaint_slips()

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        if row >= len(self.entries):
            return
        entry, tokens = self.entries[row], self._tokens
        rounded(painter, area, tokens.colour("here" if entry.id == self._lit else "slip"))
        bold, note = font(Size.BODY, bold=True), font(Size.FINE)
        figure, words = miss_words(entry)
        left, right = area.left() + 10.0, area.right() - 10.0
        ink, ink2 = tokens.colour("ink"), tokens.colour("ink2")
        wide = text(painter, right, area.top() + 18.0, figure, bold, ink, Align.AlignRight)
        title = elided(entry.title, font(Size.BODY), area.width() - wide - 30.0)
        text(painter, left, area.top() + 18.0, title, font(Size.BODY), ink)
        day = _day(entry)
        spent = entry.digest.seconds if entry.digest else 0.0
        day += time_spent(spent, " · ")
        wide = text(painter, left, area.top() + 35.0, day, note, ink2)
        words = elided(words, note, area.width() - wide - 34.0)
        text(painter, right, area.top() + 35.0, words, note, ink2, Align.AlignRight)
        log = dict(entry.log)
        said = log.get("well") or log.get("next") or ""
        italic = font(Size.FINE, italic=True)
        said = elided(" ".join(said.split()), italic, area.width() - 20.0)
        text(painter, left, area.top() + 52.0, said, italic, ink2)


def _day(entry: Entry) -> str:
    return day_words(entry.when) if entry.dated else "no day"


class LogPage(Page):
    """Watches `ShelfState`."""

    def __init__(
        self,
        shelf: ShelfState,
        library: Library,
        tokens: Tokens,
        on_bench: Callable[[], OpenStudy | None],
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._shelf, self._library, self._chosen = shelf, library, ""
        self._on_bench = on_bench
        self._shown: tuple[tuple[Entry, ...], str] | None = None
        self._heading = Heading(tokens, self)
        self.words = QLineEdit(self)
        self.words.setPlaceholderText("find words")
        self.words.setAccessibleName("Find words in the log")
        self.words.setMaximumWidth(240)
        self.words.textChanged.connect(lambda _: self.look())
        self.studies = _Studies(tokens, self)
        self.studies.opened.connect(self.opened)
        self.studies.lit.connect(self._choose)
        self.title = QLabel("", self)
        self.title.setObjectName("panel")
        self.written = QLabel("", self)
        for label in (self.title, self.written):
            label.setWordWrap(True)
            label.setTextFormat(Qt.TextFormat.PlainText)
        self.written.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.write = QPushButton("Write …", self)
        self.write.clicked.connect(self.write_log)
        self.month = QPushButton("Print a month …", self)
        self.month.clicked.connect(self._choose_month)
        self._lay_out()
        self._choose("")

    def _lay_out(self) -> None:
        top = QHBoxLayout()
        top.addWidget(self._heading, 1)
        top.addWidget(self.words)
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(top)
        left.addWidget(self.studies, 1)
        buttons = QHBoxLayout()
        buttons.addWidget(self.write)
        buttons.addStretch(1)
        buttons.addWidget(self.month)
        beside = QWidget(self)
        beside.setFixedWidth(_BESIDE)
        right = QVBoxLayout(beside)
        right.setContentsMargins(0, 6, 0, 0)
        right.setSpacing(10)
        right.addWidget(self.title)
        right.addWidget(self.written, 1)
        right.addLayout(buttons)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(28)
        row.addLayout(left, 1)
        row.addWidget(beside)

    def takes_keys(self) -> QWidget:
        return self.studies

    def prompt(self) -> Prompt:
        keys = (("↑ ↓", "one by one"), ("Enter", "open it"))
        return Prompt("Every study:", "what you wrote, and how it went", keys)

    def look(self) -> None:
        """What the words leave."""
        said, every = self.words.text(), self._shelf.counted
        if self._shown is None or self._shown[0] is not every or self._shown[1] != said:
            self._shown = every, said
            words = said.casefold().split()
            left = tuple(one for one in every if one.matches(words)) if words else every
            many = part_of(len(left), len(every), "study") if words else "newest first"
            self._heading.say("Log", many, "")
            self.studies.show_entries(left)
        self._choose(self._chosen or next((one.id for one in self.studies.entries), ""))

    def _choose(self, study: str) -> None:
        entry = self._shelf.entry(study) if study else None
        self._chosen = "" if entry is None else entry.id
        self.write.setEnabled(entry is not None and not self._library.reading)
        if entry is None:
            self.title.setText("")
            self.written.setText("")
            return
        self.title.setText(entry.title)
        log = dict(entry.log)
        lines = [_day(entry)]
        for key in LOG:
            if key in log:
                rated = key in {"before", "after"} and log[key].isdigit()
                words = RATINGS[int(log[key]) % len(RATINGS)] if rated else log[key]
                title = "How close, after" if key == "after" else LOG_TITLES[key]
                lines.append(f"{title}\n{words}")
        if not log:
            lines.append("Nothing is written about it yet.")
        self.written.setText("\n\n".join(lines))

    # Writing

    def write_log(self) -> None:
        """What went well, what next, of the study that is chosen."""
        if not self._chosen:
            return
        try:
            study = self._library.find(self._chosen)
        except UserError as error:
            self.refused.emit(str(error))
            return
        if study is None:
            return
        slip = LogSlip(study.title or "Untitled study", notes_of(study), self)
        chosen = self._chosen
        slip.accepted.connect(lambda: self._keep(chosen, slip))
        slip.open()

    def _keep(self, study_id: str, slip: LogSlip) -> None:
        there = self._on_bench()
        if there is not None and there.id == study_id:
            # The bench keeps the study's version: written past it, its next edit was refused.
            there.head.note(replace(there.notes, log=slip.noted().log))
            self._shelf.refresh()
            return
        try:
            stored = self._library.stored(study_id)
            if stored is None:
                return
            # What was written on the bench meanwhile stays: only the log is another.
            notes = replace(notes_of(stored.study), log=slip.noted().log)
            changed = with_notes(stored.study, notes)
            self._library.edits.put_head(study_id, stored.version, changed)
        except UserError as error:
            self.refused.emit(str(error))
        self._shelf.refresh()

    # A month on paper

    def _choose_month(self) -> None:
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        months = dict.fromkeys(
            (when.year, when.month)
            for entry in self._shelf.counted
            if entry.dated
            for when in (local(entry.when),)
        )
        for month in list(months)[:_MOST_MONTHS]:
            action = menu.addAction(month_words(*month))
            assert action is not None
            action.triggered.connect(lambda _=False, month=month: self._save_month(*month))
        menu.popup(self.month.mapToGlobal(QPoint(0, -menu.sizeHint().height())))

    def _save_month(self, year: int, month: int) -> None:
        title, name = "The month as PDF", f"{year}-{month:02}.pdf"
        path = file_to_save(self, title, name, "PDF (*.pdf)")
        if path is not None:
            self.print_month(year, month, path)

    def print_month(self, year: int, month: int, path: Path) -> None:
        """One page with the studies of a month and what was written about them."""
        entries = [
            entry
            for entry in self._shelf.counted
            if entry.dated and (local(entry.when).year, local(entry.when).month) == (year, month)
        ]
        try:
            write_month(path, year, month, entries[::-1])
        except UserError as error:
            self.refused.emit(str(error))
            return
        self.said.emit(f"{path.name} is written.")
