"""The window that is there when the library is not: what is wrong, in a sentence, and ways out."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QEventLoop, Qt
from PyQt6.QtGui import QCloseEvent, QKeyEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.core.words.phrases import sentence
from bralto.store.care.backups import Backup, newest_sound, restore
from bralto.store.failures import Failure, LibraryError
from bralto.store.library import Library
from bralto.store.lock import Lock
from bralto.ui.theme.style import style_sheet
from bralto.ui.theme.tokens import Tokens

__all__ = ["NoLibrary", "ask"]

_TITLES = {
    Failure.FULL: "The disk is full",
    Failure.READ_ONLY: "This library may not be written to",
    Failure.LOCKED: "Another program holds the library",
    Failure.IN_USE: "This library is open already",
    Failure.CANNOT_OPEN: "The library cannot be opened",
    Failure.NOT_A_LIBRARY: "This is not a library of Bralto's",
    Failure.DAMAGED: "The library is damaged",
    Failure.NEWER: "This library is of a newer Bralto",
    Failure.EMPTIED: "The library has lost its list of studies",
}
_READABLE = {Failure.READ_ONLY, Failure.IN_USE, Failure.LOCKED, Failure.DAMAGED, Failure.FULL}
_RESTORABLE = {Failure.DAMAGED, Failure.EMPTIED, Failure.NOT_A_LIBRARY}


class NoLibrary(QWidget):
    """Closed, `library` is the one to go on with, or None."""

    def __init__(self, root: Path, trouble: LibraryError, tokens: Tokens) -> None:
        super().__init__()
        self.setObjectName("ground")
        self.setWindowTitle("Bralto")
        self.setStyleSheet(style_sheet(tokens))
        self.resize(760, 360)
        self.library: Library | None = None
        self.loop = QEventLoop()
        self._root = root
        self.title, self._words = QLabel(self), QLabel(self)
        self.title.setObjectName("panel")
        self._words.setWordWrap(True)
        self._words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._ways = QVBoxLayout()
        self._ways.setSpacing(8)
        column = QVBoxLayout(self)
        column.setContentsMargins(36, 28, 36, 28)
        column.setSpacing(16)
        column.addWidget(self.title)
        column.addWidget(self._words)
        column.addSpacing(6)
        column.addLayout(self._ways)
        column.addStretch(1)
        self.show_trouble(trouble)

    def show_trouble(self, trouble: LibraryError) -> None:
        """Say what is wrong, and offer what helps with that."""
        self.title.setText(_TITLES.get(trouble.kind, "The library cannot be opened"))
        self._words.setText(sentence(str(trouble)))
        while (item := self._ways.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        kind = trouble.kind
        if kind in _RESTORABLE and (backup := newest_sound(self._root)) is not None:
            self._way(
                "restore",
                f"Put back the backup of {backup.words}",
                "What is there now is kept beside it.",
                partial(self._restore, backup),
            )
        if kind not in {Failure.NEWER, Failure.NOT_A_LIBRARY, Failure.EMPTIED}:
            self._way("again", "Try again", "", lambda: self._open())
        if kind in _READABLE:
            words = "Nothing can be changed then."
            self._way("reading", "Look at it for reading only", words,
                      lambda: self._open(reading=True))  # fmt: skip
        if kind is Failure.EMPTIED:
            words = "The pictures that are there are kept for a week, then swept."
            self._way("anew", "Begin with no studies", words, lambda: self._open(anew=True))
        self._way("elsewhere", "Choose another folder …", "", self._choose)
        self._way("quit", "Leave", "", self.close)

    def _way(self, name: str, words: str, note: str, act: Callable[[], object]) -> None:
        line = QWidget(self)
        button = QPushButton(words, line)
        button.setObjectName(name)
        button.setDefault(self._ways.count() == 0)
        button.clicked.connect(lambda: act())
        said = QLabel(note, line)
        said.setObjectName("note")
        row = QHBoxLayout(line)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(button)
        row.addWidget(said)
        row.addStretch(1)
        self._ways.addWidget(line)

    def _open(self, *, reading: bool = False, anew: bool = False) -> None:
        try:
            self.library = Library.open(
                self._root, reading=reading, anew=anew, what="a Bralto window"
            )
        except LibraryError as error:
            self.show_trouble(error)
        else:
            self.close()

    def _restore(self, backup: Backup) -> None:
        try:
            lock = Lock.take(self._root, "a Bralto window")
            try:
                restore(self._root, backup)
            finally:
                lock.let_go()
        except LibraryError as error:
            self.show_trouble(error)
        except UserError as error:
            self._words.setText(sentence(str(error)))
        else:
            self._open()

    def _choose(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "A folder with a library, or an empty one")
        if name:
            self._root = Path(name)
            self._open()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        elif event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            focus = self.focusWidget()
            if isinstance(focus, QPushButton):
                focus.click()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        super().closeEvent(event)
        self.loop.quit()


def ask(root: Path, trouble: LibraryError, tokens: Tokens) -> Library | None:
    """Show what is wrong until there is a library to go on with, or None."""
    window = NoLibrary(root, trouble, tokens)
    window.show()
    window.loop.exec()
    window.deleteLater()
    return window.library
