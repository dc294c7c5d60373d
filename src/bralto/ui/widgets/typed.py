"""Fields in which Ctrl+Z takes back what is being typed, and else the last edit of the place."""

from __future__ import annotations

from PyQt6.QtCore import QEvent
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QAbstractSpinBox, QLineEdit

__all__ = ["TypedLine", "share_undo"]


class TypedLine(QLineEdit):
    """Leaves the keys of undo to the window while there is nothing typed to take back: Qt's own
    line takes them in any case."""

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() in _KEYS:
            undo = event.matches(QKeySequence.StandardKey.Undo) and not self.isUndoAvailable()
            redo = event.matches(QKeySequence.StandardKey.Redo) and not self.isRedoAvailable()
            if undo or redo:
                event.ignore()
                return False
        return super().event(event)


_KEYS = (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress)


def share_undo(field: QAbstractSpinBox) -> None:
    """Give a field of figures such a line."""
    field.setLineEdit(TypedLine(field))
