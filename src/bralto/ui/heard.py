"""What is painted, as a list for who hears it: a row for each thing, no pixel of its own.

A widget that paints its rows itself has no children that a screen reader could go through; one
description of all of them is read from its beginning each time.
"""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QStringListModel, Qt
from PyQt6.QtGui import QPaintEvent
from PyQt6.QtWidgets import QAbstractItemView, QFrame, QListView, QWidget

__all__ = ["Heard"]


class Heard(QListView):
    """Lies in its widget, takes no pointer and no keys."""

    def __init__(self, parent: QWidget, name: str) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setStyleSheet("background: transparent; border: none;")
        self.setUniformItemSizes(True)
        self.setGeometry(0, 0, 1, 1)
        self._words = QStringListModel(self)
        self.setModel(self._words)

    def say(self, words: Iterable[str]) -> None:
        """Other rows."""
        said = list(words)
        if said != self._words.stringList():
            self._words.setStringList(said)

    @property
    def rows(self) -> list[str]:
        """What is heard."""
        return self._words.stringList()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Nothing: what it says is painted already."""
