"""The log: every study with what was written about it, searched by words."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, pyqtSignal
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from bralto.core.phrases import minutes
from bralto.ui.heading import Heading
from bralto.ui.shelf.card import miss_words
from bralto.ui.shelf.shelf_state import Entry, ShelfState
from bralto.ui.slip_list import SlipList
from bralto.ui.theme.paint import Align, elided, rounded, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["LogPage"]


class _Studies(SlipList):
    """Newest first."""

    opened = pyqtSignal(str)

    _ROW, _GAP = 41.0, 5.0

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
        self._lit = self.entries[row].id if 0 <= row < len(self.entries) else ""
        self.repaint_slips()

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        if row >= len(self.entries):
            return
        entry, tokens = self.entries[row], self._tokens
        rounded(painter, area, tokens.colour("here" if entry.id == self._lit else "slip"))
        bold, note = font(Size.BODY, bold=True), font(Size.FINE)
        figure, words = miss_words(entry)
        right = area.right() - 10.0
        ink = tokens.colour("ink")
        wide = text(painter, right, area.top() + 18.0, figure, bold, ink, Align.AlignRight)
        title = elided(entry.title, font(Size.BODY), area.width() - wide - 30.0)
        text(painter, area.left() + 10.0, area.top() + 18.0, title, font(Size.BODY), ink)
        day = _day(entry)
        spent = entry.digest.seconds if entry.digest else 0.0
        day += f" · {minutes(spent)}" if spent >= 30.0 else ""
        ink2 = tokens.colour("ink2")
        wide = text(painter, area.left() + 10.0, area.top() + 35.0, day, note, ink2)
        words = elided(words, note, area.width() - wide - 34.0)
        text(painter, right, area.top() + 35.0, words, note, ink2, Align.AlignRight)


def _day(entry: Entry) -> str:
    return f"{entry.when:%d %B %Y}".lstrip("0")


class LogPage(QWidget):
    """Watches `ShelfState`."""

    opened = pyqtSignal(str)

    def __init__(self, shelf: ShelfState, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._shelf = shelf
        self._heading = Heading(tokens, self)
        self.words = QLineEdit(self)
        self.words.setPlaceholderText("find words")
        self.words.setAccessibleName("Find words in the log")
        self.words.setMaximumWidth(260)
        self.words.textChanged.connect(lambda _: self.show_entries())
        self.studies = _Studies(tokens, self)
        self.studies.opened.connect(self.opened)
        top = QHBoxLayout()
        top.addWidget(self._heading, 1)
        top.addWidget(self.words)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(top)
        column.addWidget(self.studies, 1)

    def show_entries(self) -> None:
        """What the words leave."""
        words = self.words.text().casefold().split()
        every = self._shelf.counted
        left = tuple(one for one in every if one.matches(words)) if words else every
        many = f"{len(left)} of {len(every)} studies" if words else "newest first"
        self._heading.say("Log", many, "")
        self.studies.show_entries(left)
