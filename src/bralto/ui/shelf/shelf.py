"""The shelf: all studies, what is done to them, and the button that begins one."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QModelIndex, QPoint, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QGuiApplication, QKeySequence, QResizeEvent, QShortcut, QUndoStack
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListView,
    QPushButton,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from bralto.core.words.phrases import how_many
from bralto.store.instants import BIN_DAYS
from bralto.store.media import MediaFolder
from bralto.ui.place import Place
from bralto.ui.prompt import Prompt
from bralto.ui.shelf.acts import Acts
from bralto.ui.shelf.card import CARD, Card
from bralto.ui.shelf.entries import Entries
from bralto.ui.shelf.late_pictures import LatePictures
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.shortening import Shortening
from bralto.ui.widgets.tape import Segment, TapeShown
from bralto.ui.widgets.timeline import months

__all__ = ["Shelf"]

_FINDER, _ROOMY = (70, 190), 850
"""Width of the line to find studies by, px, at least and at most; and from which width of the shelf
on it has the most."""

_LEAST_HIGH = 200  # px, where there are studies: their list scrolls by itself

_TITLES = {"shelf": "Shelf", "hidden": "Hidden studies", "bin": "Bin"}


class Shelf(Place):
    """Watches `ShelfState`; asks the window to open or begin studies."""

    opened = pyqtSignal(str)
    begun = pyqtSignal(list)
    life_begun = pyqtSignal()
    example_wanted = pyqtSignal()
    model_wanted = pyqtSignal()
    watch_wanted = pyqtSignal()

    def __init__(
        self,
        state: ShelfState,
        media: MediaFolder,
        acts: Acts,
        late: LatePictures,
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self.state, self.acts, self._tokens = state, acts, tokens
        self._entered = False
        self._dated: tuple[Entry, ...] | None = None
        self._months: tuple[tuple[Segment, ...], tuple[tuple[float, float], ...]] = ((), ())
        self.list = QListView(self)
        self.list.setObjectName("studies")
        self.list.setAccessibleName("Studies")
        self.list.setViewMode(QListView.ViewMode.IconMode)
        self.list.setResizeMode(QListView.ResizeMode.Adjust)
        self.list.setMovement(QListView.Movement.Static)
        self.list.setSelectionMode(QListView.SelectionMode.ExtendedSelection)
        self.list.setDragEnabled(True)
        self.list.setDragDropMode(QListView.DragDropMode.DragOnly)
        self.list.setUniformItemSizes(True)
        self.list.setLayoutMode(QListView.LayoutMode.Batched)
        self.list.setGridSize(QSize(CARD.width() + 6, CARD.height() + 4))
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setMouseTracking(True)
        self.list.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.entries = Entries(state, acts.bundles, self)
        self.list.setModel(self.entries)
        self.cards = Card(media, acts.keep_card, late.expects, tokens, self.list)
        late.changed.connect(self._paint_cards)
        self.list.setItemDelegate(self.cards)
        self.list.activated.connect(self._open)
        self.list.clicked.connect(self._on_click)
        self.list.customContextMenuRequested.connect(self._menu_at)
        selection = self.list.selectionModel()
        assert selection is not None
        selection.selectionChanged.connect(lambda *_: self.prompt_changed.emit())
        acts.selected = self.selected
        acts.arrived.connect(self._show_arrived)
        self._title = QLabel(self)
        self._title.setObjectName("panel")
        self.counted = Shortening(self)
        self.counted.setObjectName("note")
        self.finder = QLineEdit(self)
        self.finder.setPlaceholderText("find by name or tag")
        self.finder.setAccessibleName("Find studies by name or tag")
        self.finder.textChanged.connect(lambda _: self._look(state.show))
        self._lay_out()
        self._shortcuts()
        state.changed.connect(self._on_change)
        self._on_change()

    def _lay_out(self) -> None:
        new = QPushButton("New study …", self)
        new.setObjectName("new_study")
        new.clicked.connect(lambda: self.begun.emit([]))
        self.watch = QPushButton("Watch a folder …", self)
        self.watch.setToolTip("Pictures that your phone or scanner saves there are offered here")
        self.watch.clicked.connect(self.watch_wanted)
        self.back = QPushButton("Back to the shelf", self)
        self.back.clicked.connect(lambda: self._look("shelf"))
        self.menu = QPushButton("Studies", self)
        self.menu.setToolTip("What can be done with the studies that are selected, and with all")
        self.menu.clicked.connect(self._open_menu)
        head = QHBoxLayout()
        head.addWidget(self._title)
        head.addWidget(self.counted, 1)
        head.setSpacing(12)
        for part in (self.finder, self.back, self.menu, self.watch, new):
            head.addWidget(part)
        self._only_shelf = (self.watch, new)
        full = QWidget(self)
        full.setObjectName("ground")
        inner = QVBoxLayout(full)
        inner.setContentsMargins(24, 10, 12, 0)
        head.setContentsMargins(0, 0, 12, 4)
        inner.addLayout(head)
        self._inner = inner
        self.apart: QWidget | None = None
        inner.addWidget(self.list, 1)
        self._stack = QStackedLayout(self)
        self._stack.addWidget(full)

    def _shortcuts(self) -> None:
        for keys, act in (
            ("Ctrl+F", self._go_to_find),
            ("Ctrl+A", self.list.selectAll),
            ("F2", self.acts.rename),
            ("Ctrl+T", self.acts.tag),
            ("Ctrl+D", self.acts.duplicate),
            ("Ctrl+R", self.acts.try_again),
            ("Ctrl+H", self.acts.hide),
            ("Ctrl+E", self.acts.write_out),
            ("Ctrl+O", self.acts.bring_in),
            ("Delete", self.acts.remove),
            ("Esc", self._leave),
        ):
            shortcut = QShortcut(QKeySequence(keys), self)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(act)

    def _empty(self) -> QWidget:
        from bralto.ui.shelf.first_minute import FirstMinute  # only while there is no study

        page = FirstMinute(self._tokens, self)
        page.begin_wanted.connect(lambda: self.begun.emit([]))
        page.life_wanted.connect(self.life_begun)
        page.model_wanted.connect(self.model_wanted)
        page.example_wanted.connect(self.example_wanted)
        page.bring_wanted.connect(self.acts.bring_in)
        return page

    def say_apart(self, act: Callable[[], None], words: str, offer: str) -> None:
        """Say above the studies what holds for all of them; ``offer`` is on the button for
        ``act``, "" for none."""
        line = QWidget(self)
        line.setObjectName("apart")
        said = QLabel(words, line)
        said.setWordWrap(True)
        row = QHBoxLayout(line)
        row.setContentsMargins(14, 8, 14, 8)
        row.addWidget(said, 1)
        if offer:
            button = QPushButton(offer, line)
            button.clicked.connect(lambda: act())
            row.addWidget(button)
        if self.apart is not None:
            self.apart.deleteLater()
        self.apart = line
        self._inner.insertWidget(1, line)

    # What is shown

    def _on_change(self) -> None:
        state = self.state
        if not state.everything and self._stack.count() == 1:
            self._stack.addWidget(self._empty())  # made where it is wanted: few starts need it
        self._stack.setCurrentIndex(0 if state.everything else 1)
        number = len(state.entries) if state.complete else state.total
        studies = how_many(number, "study")
        on_shelf = state.show == "shelf"
        self.updateGeometry()  # how high it has to be at least may be another
        self._title.setText(_TITLES[state.show])
        if state.words:
            self.counted.say(f"{studies} with “{state.words}”")
        elif on_shelf:
            self.counted.say(f"{studies}, newest first; the figure is the typical miss")
        elif state.show == "bin":
            self.counted.say(
                f"{studies}; what has lain here for {BIN_DAYS} days is deleted for good"
            )
        else:
            self.counted.say(f"{studies}, left out of the shelf and still on record")
        self.back.setVisible(not on_shelf)
        for part in self._only_shelf:
            part.setVisible(on_shelf)
        self.tape_changed.emit()
        self.prompt_changed.emit()

    def _look(self, show: str) -> None:
        self.state.look(show, self.finder.text().strip())

    def look_at(self, show: str) -> None:
        """The shelf, what is hidden, or the bin."""
        self._look(show)
        self.list.setFocus()

    def _go_to_find(self) -> None:
        self.finder.setFocus()
        self.finder.selectAll()

    def _leave(self) -> None:
        """Out of finding, out of the bin, out of the selection, in this order."""
        if self.finder.text():
            self.finder.clear()
        elif self.state.show != "shelf":
            self._look("shelf")
        else:
            self.list.clearSelection()
        self.list.setFocus()

    def say_watched(self, folder: Path | None) -> None:
        """Name the folder that is watched."""
        self.watch.setText(
            "Watch a folder …" if folder is None else f"Stop watching “{folder.name}”"
        )

    # Studies

    def selected(self) -> list[Entry]:
        """The studies that are selected, newest first."""
        selection = self.list.selectionModel()
        assert selection is not None
        rows = sorted(index.row() for index in selection.selectedIndexes())
        return [self.state.entries[row] for row in rows if row < len(self.state.entries)]

    def _show_arrived(self, ids: list[str]) -> None:
        """Select what was read in."""
        self.look_at("shelf")
        self.list.clearSelection()
        selection = self.list.selectionModel()
        assert selection is not None
        for row in filter(lambda row: row >= 0, map(self.entries.row_of, ids)):
            index = self.entries.index(row, 0)
            selection.select(index, selection.SelectionFlag.Select)
            self.list.scrollTo(index)

    def _selected_count(self) -> int:
        """How many are selected; by stretches, thousands are few."""
        selection = self.list.selectionModel()
        assert selection is not None
        stretches = selection.selection()
        return sum(stretches[i].height() for i in range(len(stretches)))

    def _on_click(self, index: QModelIndex) -> None:
        # With a key held a click selects.
        if QGuiApplication.keyboardModifiers() == Qt.KeyboardModifier.NoModifier:
            self._open(index)

    def _open(self, index: QModelIndex) -> None:
        if self.state.show == "bin":
            return  # taken out first; nothing is edited in there
        self.opened.emit(self.entries.entry(index).id)

    def _menu_at(self, at: QPoint) -> None:
        index = self.list.indexAt(at)
        selection = self.list.selectionModel()
        assert selection is not None
        if index.isValid() and not selection.isSelected(index):
            self.list.setCurrentIndex(index)
        viewport = self.list.viewport()
        assert viewport is not None
        self.acts.menu(self, self.look_at).popup(viewport.mapToGlobal(at))

    def _paint_cards(self) -> None:
        viewport = self.list.viewport()
        assert viewport is not None
        viewport.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        least, most = _FINDER
        self.finder.setFixedWidth(min(most, max(least, most - 2 * (_ROOMY - self.width()) // 5)))

    def _open_menu(self) -> None:
        below = QPoint(0, self.menu.height() + 2)
        self.acts.menu(self, self.look_at).popup(self.menu.mapToGlobal(below))

    @property
    def least_high(self) -> int:
        return _LEAST_HIGH if self.state.everything else super().least_high

    @property
    def undo_stack(self) -> QUndoStack | None:
        return self.state.undo_stack

    def enter(self) -> None:
        """What was changed on the bench is on the shelf then; at the start it was just read."""
        if self._entered:
            self.state.refresh()
        self._entered = True
        self.list.setFocus()

    def tape(self) -> TapeShown:
        """Months for the tape, and a bar a study."""
        entries = self.state.entries
        if self._dated is not entries:
            self._dated = entries
            days = [entry.when for entry in entries if entry.dated]
            self._months = months(days) if self.state.complete else ((), ())
        segments, bars = self._months
        return TapeShown(segments, None, bars)

    def prompt(self) -> Prompt:
        """What to do next."""
        if not self.state.everything:
            return Prompt("Drop two pictures here:", "the reference first, then your drawing")
        count = self._selected_count()
        keys: tuple[tuple[str, str], ...]
        if self.state.show == "bin":
            keys = (("Delete", "delete for good"), ("Esc", "back to the shelf"))
            if count:
                return Prompt(f"{count} selected:", "take them out again under Studies", keys)
            return Prompt("Select studies with Ctrl and a click,", "then take them out again", keys)
        if count > 1:
            keys = (("Ctrl+T", "tags"), ("Ctrl+E", "write out"), ("Delete", "to the bin"))
            return Prompt(f"{count} studies selected:", "what you choose is done to all", keys)
        keys = (("Enter", "open"), ("Ctrl+F", "find"), ("Ctrl+N", "new study"))
        return Prompt("Open a study,", "or drop two pictures anywhere to begin one", keys)
