"""The pages of the record as words, and at the right what is counted."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QSizePolicy, QWidget

from bralto.ui.widgets.word_button import WordButton

__all__ = ["PageStrip"]


_ARROW = 34
"""Px that the arrow and the button's own edges take."""


class PageStrip(QWidget):
    """Buttons, so that keys and screen readers find them."""

    chosen = pyqtSignal(str)
    choosing = pyqtSignal(QPoint)
    """What is counted is to be chosen; where a menu may open."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedHeight(30)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(18)
        self._group = QButtonGroup(self)
        self._group.setExclusive(True)
        self._pages: dict[str, QPushButton] = {}
        self.counted = QPushButton(self)
        self.counted.setObjectName("word")
        self.counted.setCursor(Qt.CursorShape.PointingHandCursor)
        self.counted.clicked.connect(self._ask)
        # It gives way where there is no room: the words of the pages stay whole.
        policy = self.counted.sizePolicy()
        policy.setHorizontalPolicy(QSizePolicy.Policy.Ignored)
        self.counted.setSizePolicy(policy)
        self.counted.setStyleSheet("text-align: right")
        self._words: tuple[str, ...] = ("",)
        self._row.addWidget(self.counted, 1)

    def show_pages(self, pages: tuple[str, ...], current: str) -> None:
        """Put pages up, one of them as the one that is shown."""
        for place, page in enumerate(pages):
            button = self._pages.get(page)
            if button is None:
                button = WordButton(page, self)
                button.setCursor(Qt.CursorShape.PointingHandCursor)
                button.clicked.connect(lambda _=False, page=page: self.chosen.emit(page))
                self._group.addButton(button)
                self._pages[page] = button
                self._row.insertWidget(place, button)
            button.setChecked(page == current)

    def take_keys(self) -> None:
        """The keys go to the page's own word."""
        found = next((one for one in self._pages.values() if one.isChecked()), None)
        if found is not None:
            found.setFocus()

    def show_counted(self, what: str, many: str) -> None:
        """Other words for what is counted, and how many studies of how many."""
        whole = (f"{many}: {what}", many, many.removesuffix(" studies"))
        self._words = whole if what else ("nothing is counted yet", "none yet")
        self._fit()
        self.counted.setAccessibleName(f"What is counted: {many}{what and f', {what}'}")

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        room = max(0, self.counted.width() - _ARROW)
        metrics = self.counted.fontMetrics()
        fitting = (one for one in self._words if metrics.horizontalAdvance(one) <= room)
        shortest = metrics.elidedText(self._words[-1], Qt.TextElideMode.ElideRight, room)
        self.counted.setText(f"{next(fitting, shortest)} ▾")

    def _ask(self) -> None:
        self.choosing.emit(self.counted.mapToGlobal(QPoint(0, self.counted.height())))
