"""The shelf: all studies, and the button that begins one."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListView,
    QPushButton,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from bralto.store.media import MediaFolder
from bralto.ui.prompt import Prompt
from bralto.ui.shelf.card import CARD, Card
from bralto.ui.state.shelf_state import Entry, ShelfState
from bralto.ui.tape import Segment
from bralto.ui.theme.tokens import Tokens
from bralto.ui.timeline import months

__all__ = ["Shelf"]


class _Entries(QAbstractListModel):
    def __init__(self, state: ShelfState, parent: QWidget) -> None:
        super().__init__(parent)
        self._state = state
        state.changed.connect(self._reset)
        state.measured.connect(self._repaint)

    def _repaint(self) -> None:
        last = self.index(max(0, self.rowCount() - 1), 0)
        self.dataChanged.emit(self.index(0, 0), last)

    def _reset(self) -> None:
        self.beginResetModel()
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own
        return 0 if parent.isValid() else len(self._state.entries)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        entry = self._state.entries[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return entry
        text = {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole}
        return entry.title if role in text else None


class Shelf(QWidget):
    """Watches `ShelfState`; asks the window to open or begin studies."""

    opened = pyqtSignal(str)
    begun = pyqtSignal(list)
    example_wanted = pyqtSignal()
    watch_wanted = pyqtSignal()

    def __init__(
        self, state: ShelfState, media: MediaFolder, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self.state = state
        self.list = QListView(self)
        self.list.setObjectName("studies")
        self.list.setViewMode(QListView.ViewMode.IconMode)
        self.list.setResizeMode(QListView.ResizeMode.Adjust)
        self.list.setMovement(QListView.Movement.Static)
        self.list.setUniformItemSizes(True)
        self.list.setGridSize(QSize(CARD.width() + 6, CARD.height() + 4))
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setMouseTracking(True)
        self.list.setModel(_Entries(state, self))
        self.list.setItemDelegate(Card(media, tokens, self))
        self.list.activated.connect(self._open)
        self.list.clicked.connect(self._open)
        self._count = QLabel(self)
        self._count.setObjectName("note")
        self._lay_out()
        state.changed.connect(self._on_change)
        self._on_change()

    def _lay_out(self) -> None:
        title = QLabel("Shelf", self)
        title.setObjectName("panel")
        new = QPushButton("New study …", self)
        new.setObjectName("new_study")
        new.clicked.connect(lambda: self.begun.emit([]))
        self.watch = QPushButton("Watch a folder …", self)
        self.watch.setToolTip("Pictures that your phone or scanner saves there are offered here")
        self.watch.clicked.connect(self.watch_wanted)
        head = QHBoxLayout()
        head.addWidget(title)
        head.addSpacing(12)
        head.addWidget(self._count, 1)
        head.addWidget(self.watch)
        head.addSpacing(10)
        head.addWidget(new)
        full = QWidget(self)
        full.setObjectName("ground")
        inner = QVBoxLayout(full)
        inner.setContentsMargins(24, 10, 12, 0)
        head.setContentsMargins(0, 0, 12, 4)
        inner.addLayout(head)
        inner.addWidget(self.list, 1)
        self._stack = QStackedLayout(self)
        self._stack.addWidget(full)
        self._stack.addWidget(self._empty())

    def _empty(self) -> QWidget:
        page = QWidget(self)
        page.setObjectName("ground")
        title = QLabel("Two pictures make a study", page)
        title.setObjectName("panel")
        words = QLabel(
            "The reference that you drew from, and a photo or scan of your drawing.\n"
            "Drop both anywhere on this window, or choose them.",
            page,
        )
        words.setObjectName("note")
        begin = QPushButton("Start a study …", page)
        begin.setDefault(True)
        begin.clicked.connect(lambda: self.begun.emit([]))
        example = QPushButton("Look at a worked example", page)
        example.setObjectName("example")
        example.clicked.connect(self.example_wanted)
        buttons = QHBoxLayout()
        for one in (begin, example):
            buttons.addWidget(one)
        buttons.addStretch(1)
        column = QVBoxLayout()
        column.setSpacing(14)
        column.addStretch(2)
        column.addWidget(title)
        column.addWidget(words)
        column.addLayout(buttons)
        column.addStretch(3)
        row = QHBoxLayout(page)
        row.addStretch(1)
        row.addLayout(column)
        row.addStretch(1)
        return page

    def _on_change(self) -> None:
        entries = self.state.entries
        self._stack.setCurrentIndex(0 if entries else 1)
        studies = "study" if len(entries) == 1 else "studies"
        self._count.setText(
            f"{len(entries)} {studies}, newest first; the figure is the typical miss"
        )

    def say_watched(self, folder: Path | None) -> None:
        """Name the folder that is watched."""
        self.watch.setText(
            "Watch a folder …" if folder is None else f"Stop watching “{folder.name}”"
        )

    def _open(self, index: QModelIndex) -> None:
        entry: Entry = index.data(Qt.ItemDataRole.UserRole)
        self.opened.emit(entry.stored.id)

    def segments(self) -> tuple[tuple[Segment, ...], tuple[tuple[float, float], ...]]:
        """Months for the tape, and a bar a study."""
        return months([entry.when for entry in self.state.entries])

    def prompt(self) -> Prompt:
        """What to do next."""
        if not self.state.entries:
            return Prompt("Drop two pictures here:", "the reference first, then your drawing")
        keys = (("Enter", "open"), ("Ctrl+N", "new study"))
        return Prompt("Open a study,", "or drop two pictures anywhere to begin one", keys)
