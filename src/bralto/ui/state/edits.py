"""Edits of the open study as undo commands; each is one transaction of the library as well."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from PyQt6.QtGui import QUndoCommand

from bralto.core.study import Mark, Picture

if TYPE_CHECKING:
    from bralto.ui.state.kept_study import KeptStudy

__all__ = ["MarksEdit", "PictureEdit"]

Marks = Mapping[str, Mark | None]


class MarksEdit(QUndoCommand):
    """Marks of one board set, moved or taken away; nudges of one mark merge into one step."""

    def __init__(self, owner: KeptStudy, board: str, after: Marks, *, nudge: bool = False) -> None:
        super().__init__(", ".join(after))
        self.board, self.after, self._nudge, self._owner = board, after, nudge, owner
        self._state, self._against = owner.state_name, owner.against
        there = owner.picture(board).marks
        self.before: Marks = {key: there.get(key) for key in after}

    @property
    def key(self) -> str:
        """The mark that the edit is about, the last of several."""
        return list(self.after)[-1]

    def id(self) -> int:
        return 1 if self._nudge else -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, MarksEdit):
            return False
        theirs = (other.board, list(other.after), other._nudge, other._state, other._against)
        if theirs != (self.board, list(self.after), True, self._state, self._against):
            return False
        self.after = other.after
        return True

    def redo(self) -> None:
        self._owner.show_pair(self._state, self._against)
        self._owner.keep_marks(self.board, self.after)

    def undo(self) -> None:
        self._owner.show_pair(self._state, self._against)
        self._owner.keep_marks(self.board, self.before)


class PictureEdit(QUndoCommand):
    """What is said of one picture, its marks apart: its sheet, plumb, crop or permission."""

    def __init__(self, owner: KeptStudy, board: str, after: Picture, words: str) -> None:
        super().__init__(words)
        self._owner, self._board, self._after = owner, board, after
        self._state, self._against = owner.state_name, owner.against
        self._before = owner.picture(board)

    def redo(self) -> None:
        self._owner.show_pair(self._state, self._against)
        self._owner.keep_picture(self._board, self._after)

    def undo(self) -> None:
        self._owner.show_pair(self._state, self._against)
        self._owner.keep_picture(self._board, self._before)
