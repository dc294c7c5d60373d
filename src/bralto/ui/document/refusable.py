"""An undo command that may be refused: what is refused leaves no dead step on the stack."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QUndoCommand, QUndoStack

__all__ = ["RefusableEdit"]


class RefusableEdit(QUndoCommand):
    """Override `_apply`, which gives whether the edit, or its undoing, was kept."""

    def __init__(self, stack: QUndoStack, words: str) -> None:
        super().__init__(words)
        self._stack = stack
        self._made = False
        self._refused = False

    def _apply(self, forward: bool) -> bool:
        raise NotImplementedError

    def redo(self) -> None:
        if self._take_back():
            return
        kept = self._apply(True)
        if not self._made:
            self._made = True
            self.setObsolete(not kept)
        elif not kept:
            self._come_back(self._stack.undo)

    def undo(self) -> None:
        if not self._take_back() and not self._apply(False):
            self._come_back(self._stack.redo)

    def _come_back(self, step: Callable[[], None]) -> None:
        """The stack has gone a step that was refused: it goes back, and nothing is done."""
        self._refused = True
        QTimer.singleShot(0, step)

    def _take_back(self) -> bool:
        refused, self._refused = self._refused, False
        return refused
