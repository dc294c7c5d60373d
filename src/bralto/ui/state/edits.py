"""Edits of the open study as undo commands; each is one transaction of the library as well."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from PyQt6.QtGui import QUndoCommand

from bralto.core.study import Mark, Picture
from bralto.ui.state.refusable import RefusableEdit

if TYPE_CHECKING:
    from bralto.ui.state.kept_study import KeptStudy

__all__ = ["MarksEdit", "MirrorEdit", "PictureEdit"]

Marks = Mapping[str, Mark | None]


class _Edit(RefusableEdit):
    """An edit of one of the two pictures that were on the boards when it was made."""

    def __init__(self, owner: KeptStudy, words: str) -> None:
        super().__init__(owner.undo_stack, words)
        self._owner = owner
        self._state, self._against = owner.state_name, owner.against

    def _apply(self, forward: bool) -> bool:
        self._owner.show_pair(self._state, self._against)
        return self._put(forward)

    def _put(self, forward: bool) -> bool:
        raise NotImplementedError


class MarksEdit(_Edit):
    """Marks of one board set, moved or taken away; nudges of one mark merge into one step."""

    def __init__(self, owner: KeptStudy, board: str, after: Marks, *, nudge: bool = False) -> None:
        super().__init__(owner, ", ".join(after))
        self.board, self.after, self._nudge = board, after, nudge
        there = owner.picture(board).marks
        self.before: Marks = {key: there.get(key) for key in after}

    @property
    def key(self) -> str:
        """The mark that the edit is about, the last of several."""
        return list(self.after)[-1]

    def id(self) -> int:
        return 1 if self._nudge else -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, MarksEdit) or other.isObsolete():
            return False
        theirs = (other.board, list(other.after), other._nudge, other._state, other._against)
        if theirs != (self.board, list(self.after), True, self._state, self._against):
            return False
        self.after = other.after
        return True

    def _put(self, forward: bool) -> bool:
        return self._owner.keep_marks(self.board, self.after if forward else self.before)


class PictureEdit(_Edit):
    """What is said of one picture, its marks apart: its sheet, plumb, crop or permission."""

    def __init__(self, owner: KeptStudy, board: str, after: Picture, words: str) -> None:
        super().__init__(owner, words)
        self._board, self._after = board, after
        self._before = owner.picture(board)

    def _put(self, forward: bool) -> bool:
        return self._owner.keep_picture(self._board, self._after if forward else self._before)


class MirrorEdit(_Edit):
    """A picture's mirror image in its place, with its marks."""

    def __init__(self, owner: KeptStudy, board: str, after: Picture, media: str) -> None:
        super().__init__(owner, "mirror")
        self._board = board
        self._pictures = owner.picture(board), after
        self._media = owner.media_of(board), media

    def _put(self, forward: bool) -> bool:
        return self._owner.keep_exchanged(
            self._board, self._pictures[forward], self._media[forward]
        )
