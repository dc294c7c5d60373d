"""Edits of the open study as undo commands; each is one transaction of the library as well."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from PyQt6.QtGui import QUndoCommand, QUndoStack

from bralto.core.study.taken import Sightings
from bralto.core.study.values import Anchor, Mark, Picture
from bralto.ui.document.refusable import RefusableEdit

__all__ = [
    "Keeper", "Marks", "MarksEdit", "MirrorEdit", "Pair", "PictureEdit", "SeveralEdit",
    "SightingsEdit",
]  # fmt: skip

Marks = Mapping[str, Mark | None]

Pair = tuple[str, str]
"""The two pictures that an edit was made on: the state, and what stood in the reference's place."""


class Keeper(Protocol):
    """What edits are kept by, the document: one transaction each, True where it was kept."""

    undo_stack: QUndoStack

    def keep_marks(self, pair: Pair, name: str, marks: Marks, /) -> bool:
        """Write marks of a picture; None takes one away."""

    def keep_several(
        self, pair: Pair, marks: Mapping[str, Marks], anchors: tuple[Anchor, ...] | None, /
    ) -> bool:
        """Write marks of several pictures, and the points of one's own unless they are None."""

    def keep_sightings(self, pair: Pair, sightings: Sightings, /) -> bool:
        """Write what was sighted from life."""

    def keep_picture(self, pair: Pair, name: str, picture: Picture, /) -> bool:
        """Write what is said of a picture."""

    def keep_exchanged(self, pair: Pair, name: str, picture: Picture, media: str, /) -> bool:
        """Write another picture in the place of one."""


class _Edit(RefusableEdit):
    """An edit of the picture ``name``."""

    def __init__(self, document: Keeper, pair: Pair, name: str, words: str) -> None:
        super().__init__(document.undo_stack, words)
        self._document, self._pair, self.name = document, pair, name


class MarksEdit(_Edit):
    """Marks of one picture set, moved or taken away; nudges of one mark merge into one step."""

    def __init__(
        self, document: Keeper, pair: Pair, name: str, marks: tuple[Marks, Marks],
        *, nudge: bool = False,
    ) -> None:  # fmt: skip
        super().__init__(document, pair, name, ", ".join(marks[1]))
        self._before, self.after = marks
        self._nudge = nudge

    @property
    def key(self) -> str:
        """The mark that the edit is about, the last of several."""
        return list(self.after)[-1]

    def id(self) -> int:
        return 1 if self._nudge else -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, MarksEdit) or other.isObsolete():
            return False
        theirs = (other.name, list(other.after), other._nudge, other._pair)
        if theirs != (self.name, list(self.after), True, self._pair):
            return False
        self.after = other.after
        return True

    def _apply(self, forward: bool) -> bool:
        marks = self.after if forward else self._before
        return self._document.keep_marks(self._pair, self.name, marks)


class PictureEdit(_Edit):
    """What is said of one picture, its marks apart: its sheet, plumb, crop or permission."""

    def __init__(
        self, document: Keeper, pair: Pair, name: str, pictures: tuple[Picture, Picture],
        words: str,
    ) -> None:  # fmt: skip
        super().__init__(document, pair, name, words)
        self._pictures = pictures

    def _apply(self, forward: bool) -> bool:
        return self._document.keep_picture(self._pair, self.name, self._pictures[forward])


class MirrorEdit(_Edit):
    """A picture's mirror image in its place, with its marks."""

    def __init__(
        self, document: Keeper, pair: Pair, name: str, pictures: tuple[Picture, Picture],
        media: tuple[str, str],
    ) -> None:  # fmt: skip
        super().__init__(document, pair, name, "mirror")
        self._pictures, self._media = pictures, media

    def _apply(self, forward: bool) -> bool:
        picture, media = self._pictures[forward], self._media[forward]
        return self._document.keep_exchanged(self._pair, self.name, picture, media)


class SightingsEdit(_Edit):
    """What was sighted from life, before and after."""

    def __init__(
        self, document: Keeper, pair: Pair, sightings: tuple[Sightings, Sightings],
        words: str,
    ) -> None:  # fmt: skip
        super().__init__(document, pair, "", words)
        self._sightings = sightings

    def _apply(self, forward: bool) -> bool:
        return self._document.keep_sightings(self._pair, self._sightings[forward])


class SeveralEdit(_Edit):
    """Marks of several pictures at once, and the points of one's own where these change with it."""

    def __init__(
        self, document: Keeper, pair: Pair, marks: Mapping[str, tuple[Marks, Marks]],
        anchors: tuple[tuple[Anchor, ...], tuple[Anchor, ...]] | None, words: str,
    ) -> None:  # fmt: skip
        super().__init__(document, pair, "", words)
        self._marks, self._anchors = marks, anchors

    def _apply(self, forward: bool) -> bool:
        marks = {name: both[forward] for name, both in self._marks.items()}
        anchors = None if self._anchors is None else self._anchors[forward]
        return self._document.keep_several(self._pair, marks, anchors)
