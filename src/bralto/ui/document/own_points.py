"""Points of the learner's own: the corner of a shadow, a knot in the drapery, a chair's leg."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from string import ascii_uppercase

from bralto.core.study.two_boards import Board
from bralto.core.study.values import MOST_ANCHORS, Anchor, Mark
from bralto.core.terms import Visibility
from bralto.ui.document.board_edits import BoardEdits
from bralto.ui.document.worked_on import WorkedOn
from bralto.ui.session import prompting

__all__ = ["OwnPoints"]

_WORDS = "a point of one's own"


class OwnPoints:
    """A part of `OpenStudy`: each edit is one gesture of it, undone as one."""

    def __init__(self, study: WorkedOn, marks: BoardEdits, say: Callable[[str], None]) -> None:
        self._study, self._marks, self._say = study, marks, say

    def is_own(self, key: str) -> bool:
        """Whether a mark is a point of one's own."""
        return any(one.key == key for one in self._study.study.anchors)

    def label(self, key: str) -> str:
        """What it is called."""
        return next(one.label for one in self._study.study.anchors if one.key == key)

    def add(
        self,
        board: Board,
        at: tuple[float, float] | None = None,
        spread: float = 0.0,
        name: str = "",
    ) -> str | None:
        """A new point, set on a board (image px) where a place is given; the prompt asks for it
        where it is not set yet. Gives its key, or None where it cannot be."""
        study = self._study
        refusal = self._marks.refusal(board)
        if refusal or len(study.study.anchors) >= MOST_ANCHORS:
            self._say(refusal or f"A study has at most {MOST_ANCHORS} points of its own.")
            return None
        known = {mark.key for mark in study.view.landmarks}
        key = next(k for i in range(1, 10_000) if (k := f"own_{i}") not in known)
        anchor = Anchor(key, name.strip() or self._free_name())
        picture = study.ground(in_hand=False).picture(board)
        if at is not None and not (0 <= at[0] <= picture.width and 0 <= at[1] <= picture.height):
            self._say("That is outside the picture.")
            return None
        on = study.session.picture_name(board)
        marks = {} if at is None else {on: {key: Mark(*at, Visibility.SEEN, spread)}}
        with study.gesture():
            study.document.set_several(self._pair(), marks, (*study.study.anchors, anchor), _WORDS)
            if not self.is_own(key):
                return None  # it was refused
            asked = board if at is None else board.other
            if not self._marks.refusal(asked):
                study.apply(prompting.ask, asked, key)
        return key

    def rename(self, key: str, name: str) -> None:
        """Call it something else."""
        if not self.is_own(key):
            return
        anchors = tuple(
            replace(one, label=name.strip() or one.label) if one.key == key else one
            for one in self._study.study.anchors
        )
        with self._study.gesture():
            self._study.document.set_several(self._pair(), {}, anchors, _WORDS)

    def forget(self, key: str) -> None:
        """Take it away with its marks, also those on other states."""
        study = self._study
        if not self.is_own(key):
            return
        anchors = tuple(one for one in study.study.anchors if one.key != key)
        names = ("", *(state.name for state in study.study.states))
        marks = {
            name: {key: None}
            for name in names
            if (picture := study.document.picture(name)) is not None and key in picture.marks
        }
        with study.gesture():
            study.session = replace(study.session, selected=None, asked=None, pointed=None)
            study.document.set_several(self._pair(), marks, anchors, _WORDS)
            study.apply(prompting.refresh)

    def _free_name(self) -> str:
        taken = {one.label for one in self._study.study.anchors}
        letters = [f"point {one}" for one in ascii_uppercase]
        more = (f"point {i}" for i in range(1, MOST_ANCHORS + 1))
        return next(one for one in (*letters, *more) if one not in taken)

    def _pair(self) -> tuple[str, str]:
        return self._study.session.state_name, self._study.session.against
