"""A study of the library in hand: every edit of it is an undo command and a transaction at once."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoStack

from bralto.core.errors import UserError
from bralto.core.study.taken import Sightings
from bralto.core.study.values import Anchor, Picture, State, Study
from bralto.store.library import Library
from bralto.store.sqlite.reading import StoredStudy
from bralto.ui.document.edits import (
    Marks,
    MarksEdit,
    MirrorEdit,
    Pair,
    PictureEdit,
    SeveralEdit,
    SightingsEdit,
)

__all__ = ["StudyDocument"]


class StudyDocument(QObject):
    """The value, its undo and the store; nothing else writes a study that is open.

    Pictures go by the name of their state, the reference by "". What each edit was made on, a state
    and what stood in the reference's place, goes with it, so that undoing it can show that.
    """

    committed = pyqtSignal(object)
    """After each edit and each undoing: the `Pair` that it was made on, or None."""

    refused = pyqtSignal(str)

    def __init__(
        self, library: Library, stored: StoredStudy, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._library = library
        self._version, self._rows = stored.version, stored.pictures
        self.id = stored.id
        self.study: Study = stored.study
        self.media: Mapping[str, str] = stored.media
        self.undo_stack = QUndoStack(self)
        self._holds = False
        self.unkept = False
        """Whether edits are in memory alone, since the library's folder has gone."""

    def picture(self, name: str) -> Picture | None:
        """The picture of a state, or the reference, as it is kept."""
        if not name:
            return self.study.reference
        state = self.study.state(name)
        return None if state is None else state.picture

    def media_path(self, name: str) -> str | None:
        """Where a picture lies, or None where the study came without it."""
        there = self.media.get(name)
        return None if there is None else str(self._library.media.path(there))

    def look_for_pictures(self) -> None:
        """Take in pictures that the library was given since the study was read.

        Raises:
            UserError: the study cannot be read.
        """
        stored = self._library.stored(self.id)
        if stored is not None and stored.media != self.media:
            self.media = stored.media
            self._told(None)

    # Edits that can be undone

    def set_marks(self, pair: Pair, name: str, marks: Marks, *, nudge: bool = False) -> None:
        """Set, move or take away marks of a picture; nudges of one mark merge."""
        there = self._there(name).marks
        before = {key: there.get(key) for key in marks}
        self.undo_stack.push(MarksEdit(self, pair, name, (before, marks), nudge=nudge))

    def set_picture(self, pair: Pair, name: str, after: Picture, words: str) -> None:
        """Say something else of a picture, its marks apart."""
        before = self._there(name)
        if after != before:
            self.undo_stack.push(PictureEdit(self, pair, name, (before, after), words))

    def exchange(self, pair: Pair, name: str, after: Picture, media: str) -> None:
        """Put another picture in a picture's place, with marks of its own."""
        pictures = self._there(name), after
        files = self.media.get(name, ""), media
        self.undo_stack.push(MirrorEdit(self, pair, name, pictures, files))

    def set_several(
        self,
        pair: Pair,
        marks: Mapping[str, Marks],
        anchors: tuple[Anchor, ...] | None = None,
        words: str = "",
    ) -> None:
        """Set marks of several pictures, by name, as one edit; with ``anchors`` the points of one's
        own become these."""
        changed = {
            name: ({key: self._there(name).marks.get(key) for key in after}, after)
            for name, after in marks.items()
        }
        both = None if anchors is None else (self.study.anchors, anchors)
        self.undo_stack.push(SeveralEdit(self, pair, changed, both, words))

    def set_sightings(self, pair: Pair, after: Sightings, words: str) -> None:
        """Say something else of what was sighted from life."""
        before = self.study.sightings or Sightings()
        if after != before:
            self.undo_stack.push(SightingsEdit(self, pair, (before, after), words))

    def last_marks(self, name: str | None = None) -> tuple[str, str] | None:
        """Picture and key of the mark that was set or moved last, of that picture or of any."""
        for i in range(self.undo_stack.index() - 1, -1, -1):
            command = self.undo_stack.command(i)
            if isinstance(command, MarksEdit) and name in (None, command.name):
                return command.name, command.key
            if name is None:
                return None
        return None

    # Edits that cannot

    def put_head(self, changed: Study) -> bool:
        """Keep what is said of the study as a whole; gives whether it is kept."""
        if not self._keep(lambda at: self._library.edits.put_head(self.id, at, changed)):
            return False
        self.study = changed
        self._told(None)
        return True

    def add_state(self, new: State, media: str) -> None:
        """Keep a further state of the drawing.

        Raises:
            UserError: it was not kept.
        """
        stored = self._library.edits.add_state(self.id, self._version, new, media)
        self._version, self._rows, self.media = stored.version, stored.pictures, stored.media
        self.study = replace(self.study, states=(*self.study.states, new))
        self._told((new.name, ""))

    # For the undo commands alone: one transaction, then the new value

    def keep_marks(self, pair: Pair, name: str, marks: Marks) -> bool:
        """Write marks of a picture; None takes one away."""
        row = self._rows[name]
        if not self._keep(lambda at: self._library.edits.put_marks(self.id, at, row, marks)):
            return False
        picture = self._there(name)
        for key, mark in marks.items():
            picture = picture.with_mark(key, mark)
        self._replace(name, picture)
        self._told(pair)
        return True

    def keep_several(
        self, pair: Pair, marks: Mapping[str, Marks], anchors: tuple[Anchor, ...] | None
    ) -> bool:
        """Write marks of several pictures and, unless they are None, the points of one's own; told
        once."""
        self._holds = True
        try:
            kept = anchors is None or self.put_head(replace(self.study, anchors=anchors))
            for name, of_picture in marks.items():
                kept = kept and self.keep_marks(pair, name, of_picture)
        finally:
            self._holds = False
        self._told(pair)
        return kept

    def keep_sightings(self, pair: Pair, sightings: Sightings) -> bool:
        """Write what was sighted from life."""
        self._holds = True
        try:
            kept = self.put_head(replace(self.study, sightings=sightings))
        finally:
            self._holds = False
        self._told(pair)
        return kept

    def keep_picture(self, pair: Pair, name: str, picture: Picture) -> bool:
        """Write what is said of a picture; its marks stay as they are."""
        there, row = replace(picture, marks=self._there(name).marks), self._rows[name]
        if not self._keep(lambda at: self._library.edits.put_picture(self.id, at, row, there)):
            return False
        self._replace(name, there)
        self._told(pair)
        return True

    def keep_exchanged(self, pair: Pair, name: str, picture: Picture, media: str) -> bool:
        """Write another picture in the place of one."""
        row = self._rows[name]

        def write(at: int) -> int:
            return self._library.edits.exchange_picture(self.id, at, row, picture, media)

        if not self._keep(write):
            return False
        self.media = {**self.media, name: media}
        self._replace(name, picture)
        self._told(pair)
        return True

    def _told(self, pair: Pair | None) -> None:
        if not self._holds:
            self.committed.emit(pair)

    def _there(self, name: str) -> Picture:
        found = self.picture(name)
        assert found is not None, name
        return found

    def _replace(self, name: str, picture: Picture) -> None:
        state = self.study.state(name) if name else None
        if state is not None:
            self.study = self.study.with_state(replace(state, picture=picture))
        else:
            self.study = replace(self.study, reference=picture)

    def _keep(self, write: Callable[[int], int]) -> bool:
        """Write one transaction on the version that was read last; what is refused is said.

        Returns:
            Whether the edit holds. Where the library's folder is gone it holds in memory, until
            another place is chosen for it.
        """
        try:
            self._version = write(self._version)
        except UserError as error:
            if self._library.in_place or self._library.reading:
                self.refused.emit(str(error))
                return False
            self.unkept = True
        return True
