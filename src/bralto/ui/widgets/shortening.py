"""A line of text of which less is said where there is less room."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QLabel, QWidget

__all__ = ["Shortening"]

_ENDS = (", ", "; ", " with ")


class Shortening(QLabel):
    """A label that takes no room from what stands beside it: it ends before an earlier comma,
    semicolon or *with*, and says nothing at last. All of it stays as its tip and to a screen
    reader."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._words = ""

    def say(self, words: str) -> None:
        """Say something else."""
        self._words = words
        self.setAccessibleName(words)
        self.updateGeometry()
        self._fit()

    def sizeHint(self) -> QSize:
        wide = self.fontMetrics().horizontalAdvance(self._words)
        return QSize(wide, super().sizeHint().height())

    def minimumSizeHint(self) -> QSize:
        return QSize(0, super().minimumSizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        words = self._words
        ends = [end for end in range(len(words)) if words.startswith(_ENDS, end)]
        shorter = (words[:end] for end in reversed([*ends, len(words)]))
        metrics = self.fontMetrics()
        shown = next((w for w in shorter if metrics.horizontalAdvance(w) <= self.width()), "")
        self.setText(shown)
        self.setToolTip("" if shown == self._words else self._words)
