"""The window: strip, tape, the place one is in, prompt line. It knows no place by name."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeySequence,
    QResizeEvent,
    QShortcut,
)
from PyQt6.QtWidgets import QMainWindow, QStackedWidget, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.ui.arrivals.dropping import Loose, accept_pictures, dropped_files
from bralto.ui.place import Door, Place
from bralto.ui.prompt import Prompt, PromptLine
from bralto.ui.room import room_on_screen, scrolled
from bralto.ui.strip import Strip
from bralto.ui.theme.style import style_sheet
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.tape import Tape

__all__ = ["MainWindow"]

_USUAL = QSize(1280, 800)


class _Front(QStackedWidget):
    """As small as the place in front may be, whatever those behind it want."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.currentChanged.connect(lambda _: self.updateGeometry())

    def minimumSizeHint(self) -> QSize:
        front, least = self.currentWidget(), super().minimumSizeHint()
        if not isinstance(front, Place):
            return least
        return front.minimumSizeHint().expandedTo(QSize(0, front.least_high))


class MainWindow(QMainWindow):
    """Holds the places side by side and shows what the one in front says of itself."""

    gone_to = pyqtSignal(str)
    """One has come to a place, by its title."""
    dropped = pyqtSignal(list)
    settings_wanted = pyqtSignal()
    closing = pyqtSignal()

    def __init__(self, tokens: Tokens, parent: QWidget | None = None, *, minutes: int) -> None:
        """``minutes`` of work until one is asked to step back."""
        super().__init__(parent)
        self.setWindowTitle("Bralto")
        self.setMinimumSize(560, 400)
        self.setAcceptDrops(True)
        room = room_on_screen(self)
        self.resize(_USUAL if room is None else _USUAL.boundedTo(room))
        self.setStyleSheet(style_sheet(tokens))
        self._doors: dict[str, Door] = {}
        self._places: dict[str, Place] = {}
        self._here: Place | None = None
        self.trouble = self.told = ""
        self._loose = Loose()
        self.may_close: Callable[[], bool] = lambda: True
        self.strip = Strip(tokens, self, minutes=minutes)
        self.tape = Tape(tokens, self)
        self.prompt_line = PromptLine(tokens, self)
        self._stack = _Front(self)
        self._lay_out()
        self.strip.chosen.connect(self.go)
        self.strip.settings_wanted.connect(self.settings_wanted)
        self.strip.ticked.connect(self._on_tick)
        self.strip.due.connect(self._on_due)
        self.tape.chosen.connect(self._on_tape)
        self._shortcut("Ctrl+Z", self.undo)
        self._shortcut("Ctrl+Shift+Z", self.redo)
        self._shortcut("F1", self.show_keys)
        self._shortcut("Ctrl+,", self.settings_wanted.emit)

    def _lay_out(self) -> None:
        centre = QWidget(self)
        column = QVBoxLayout(centre)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.strip, self.tape):
            column.addWidget(part)
        column.addWidget(scrolled(self._stack, centre), 1)
        column.addWidget(self.prompt_line)
        self.setCentralWidget(centre)

    def _shortcut(self, keys: str, act: Callable[[], object]) -> None:
        shortcut = QShortcut(QKeySequence(keys), self)
        shortcut.activated.connect(act)

    # Places

    def set_doors(self, doors: Sequence[Door]) -> None:
        """The places in the order of the strip; Alt and their number goes there. The first one is
        made and shown at once."""
        self._doors = {door.title: door for door in doors}
        self.strip.set_places(tuple(self._doors))
        for number, title in enumerate(self._doors, start=1):
            self._shortcut(f"Alt+{number}", partial(self.go, title))
        self.go(doors[0].title)

    @property
    def place(self) -> str:
        """The title of the place one is in."""
        return next(title for title, one in self._places.items() if one is self._here)

    def at(self, title: str) -> Place:
        """A place by its title, made where it is not there yet."""
        if title not in self._places:
            place = self._places[title] = self._doors[title].make()
            place.prompt_changed.connect(partial(self._on_prompt, place))
            place.tape_changed.connect(partial(self._on_tape_changed, place))
            self._stack.addWidget(place)
        return self._places[title]

    def go(self, title: str) -> None:
        """Go to a place."""
        self.trouble = self.told = ""
        place = self.at(title)
        self._here = place
        self._stack.setCurrentWidget(place)
        self.show_place()
        place.enter()
        self.gone_to.emit(title)

    def show_place(self) -> None:
        """Show all that the place in front says of itself."""
        subject = next((one.subject for one in self._places.values() if one.subject), "")
        self.strip.show_place(self.place, subject)
        self.show_tape()
        self.show_prompt()

    def show_tape(self) -> None:
        """Show the tape of the place in front."""
        if self._here is not None:
            self.tape.show_segments(self._here.tape())

    def show_prompt(self) -> None:
        """Show what went wrong, or what was told, or what to do next."""
        if self.trouble:
            self.prompt_line.say(Prompt(self.trouble, trouble=True))
        elif self.told:
            self.prompt_line.say(Prompt(self.told))
        elif self._here is not None:
            self.prompt_line.say(self._here.prompt())

    def _on_prompt(self, place: Place) -> None:
        if place is self._here:
            self.show_prompt()

    def _on_tape_changed(self, place: Place) -> None:
        if place is self._here:
            self.show_tape()

    def _on_tape(self, key: str) -> None:
        if self._here is not None:
            self._here.on_tape(key)

    @property
    def busy(self) -> bool:
        """Whether the place in front is still working something out."""
        return self._here is not None and self._here.busy

    # Saying

    def say_trouble(self, message: str) -> None:
        """Say what went wrong; it stays until something else is done."""
        self.trouble = message
        self.show_prompt()

    def say(self, message: str) -> None:
        """Say what became of something; it stays until something else is done."""
        self.trouble, self.told = "", message
        self.show_prompt()

    def forget_said(self) -> None:
        """One has gone on: say what is next."""
        if self.trouble or self.told:
            self.trouble = self.told = ""
            self.show_prompt()

    def forget_told(self) -> None:
        """What was told is of before."""
        self.told = ""
        self.show_prompt()

    # Files, keys, the clock

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.show_tape()  # what stands under it may stand elsewhere, or scroll now

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_pictures(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        try:
            self.dropped.emit(dropped_files(event, self._loose))
        except UserError as error:
            self.say_trouble(str(error))

    def undo(self) -> None:
        """Take back the last edit of the place in front."""
        self.forget_said()
        if self._here is not None and self._here.undo_stack is not None:
            self._here.undo_stack.undo()

    def redo(self) -> None:
        """Do again what was taken back."""
        self.forget_said()
        if self._here is not None and self._here.undo_stack is not None:
            self._here.undo_stack.redo()

    def show_keys(self) -> None:
        """All keys on one sheet."""
        from bralto.ui.keys import KeySheet  # few starts need it

        sheet = KeySheet(self)
        sheet.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        sheet.open()

    def _on_tick(self) -> None:
        if self._here is not None and self.isActiveWindow():
            self._here.tick()

    def _on_due(self) -> None:
        if self._here is not None:
            self._here.rest()

    def come_up(self) -> None:
        """A second start on the same library: this window is the one."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.show()
        self.raise_()
        self.activateWindow()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if not self.may_close():
            if event is not None:
                event.ignore()
            return
        for place in self._places.values():
            place.release()
        self.closing.emit()
        super().closeEvent(event)
