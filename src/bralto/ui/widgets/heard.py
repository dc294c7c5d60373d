"""What is painted, as a list for who hears it: a row for each thing, no pixel of its own.

A widget that paints its rows itself has no children that a screen reader could go through; one
description of all of them is read from its beginning each time. The list is a pixel wide and as
high as its widget, so that all of its rows are shown to who asks for what is on the screen.
"""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QEvent, QObject, QSize, QStringListModel, Qt
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
        self.setObjectName("heard")
        self.setUniformItemSizes(True)
        self._words = QStringListModel(self)
        self.setModel(self._words)
        parent.installEventFilter(self)
        self._lay()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Follow the widget's height."""
        if event is not None and event.type() == QEvent.Type.Resize:
            self._lay()
        return super().eventFilter(watched, event)

    def _lay(self) -> None:
        """All rows on the widget, as far as it has px for them."""
        parent = self.parentWidget()
        high = 1 if parent is None else max(1, parent.height())
        self.setGeometry(0, 0, 1, high)
        self.setGridSize(QSize(1, max(1, high // max(1, self._words.rowCount()))))

    def say(self, words: Iterable[str]) -> None:
        """Other rows."""
        said = list(words)
        if said != self._words.stringList():
            self._words.setStringList(said)
            self._lay()

    @property
    def rows(self) -> list[str]:
        """What is heard."""
        return self._words.stringList()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Nothing: what it says is painted already."""
