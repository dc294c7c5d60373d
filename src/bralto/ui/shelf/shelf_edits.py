"""What is done to studies on the shelf, as undo commands: names, tags, hidden, the bin."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtGui import QUndoStack

from bralto.core.errors import UserError
from bralto.ui.document.refusable import RefusableEdit

__all__ = ["ShelfEdit"]


class ShelfEdit(RefusableEdit):
    """A value for each of some studies, written in one transaction; undone by the values before."""

    def __init__(
        self,
        stack: QUndoStack,
        words: str,
        write: Callable[[Any], None],
        before: Any,
        after: Any,
        ended: Callable[[str], None],
    ) -> None:
        """``ended`` is told how it went: "" or why it was refused."""
        super().__init__(stack, words)
        self._write, self._before, self._after, self._ended = write, before, after, ended

    def _apply(self, forward: bool) -> bool:
        try:
            self._write(self._after if forward else self._before)
        except UserError as error:
            self._ended(str(error))
            return False
        self._ended("")
        return True
