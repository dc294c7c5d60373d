"""The library: studies in SQLite, pictures beside it; every method that writes is a transaction."""

from __future__ import annotations

import os
from collections.abc import Iterable, Mapping
from functools import cached_property
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING, Self

from bralto.core.errors import UserError
from bralto.store.lock import Lock
from bralto.store.media import MediaFolder
from bralto.store.opening import opened
from bralto.store.sqlite.database import Database
from bralto.store.sqlite.reading import (
    StoredStudy,
    load_study,
    media_in_use,
    media_of_alone,
    shelf_rows,
    studies_lacking_media,
    traits_of_studies,
)
from bralto.store.summaries import KeptDigest, ShelfRow

if TYPE_CHECKING:  # the shelf does without the values of a study
    from bralto.core.study.values import Study
    from bralto.store.care.backups import Backup
    from bralto.store.study_edits import StudyEdits

__all__ = ["LATE", "Library", "StoredStudy"]

LATE = "late"
"""Key of a study's extra data: of which order its pictures are made when they are first seen."""


class Library:
    """Open with `Library.open`; close it, or use it in a ``with`` statement."""

    def __init__(self, root: Path, database: Database, lock: Lock | None) -> None:
        self.root = root
        self.media = MediaFolder(root / "media")
        self._database, self._lock = database, lock
        self._touched: set[str] = set()

    @classmethod
    def open(
        cls,
        root: Path,
        *,
        reading: bool = False,
        anew: bool = False,
        what: str = "a command of Bralto",
    ) -> Self:
        """Open a library folder, making or migrating it where needed, closed to all others.

        Args:
            reading: change nothing and take no lock; what somebody else writes is seen.
            anew: begin with no studies though the folder has pictures.
            what: who holds it for writing, in words.

        Raises:
            InUseError: somebody else writes to it.
            LibraryError: it cannot be made or opened; ``kind`` says why.
        """
        return cls(root, *opened(root, reading=reading, anew=anew, what=what))

    def close(self) -> None:
        """Let go of the database and of the lock."""
        self._database.close()
        if self._lock is not None:
            self._lock.let_go()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.close()

    @property
    def reading(self) -> bool:
        """Whether nothing can be changed."""
        return self._database.reading

    def protect(self) -> None:
        """Only read from now on: part of it is damaged, and a write could make that worse."""
        self._database.protect()

    @property
    def address(self) -> str | None:
        """Where a second start can reach this window, see `Lock.address`."""
        return None if self._lock is None else self._lock.address

    @property
    def in_place(self) -> bool:
        """Whether the library's folder is still where it was opened."""
        return self._database.in_place

    # Reading

    def count(self) -> int:
        """How many studies there are, the bin's and the hidden ones among them."""
        with self._database.using() as connection:
            found: int = connection.execute("SELECT count(*) FROM study").fetchone()[0]
        return found

    def rows(self, ids: Iterable[str] | None = None, newest: int | None = None) -> list[ShelfRow]:
        """A line of the shelf for every study, newest first, or for those alone, or for the
        ``newest`` of those in sight.

        Raises:
            LibraryError: not even a list of them can be read.
        """
        with self._database.using() as connection:
            return shelf_rows(connection, ids, newest)

    def take_touched(self) -> set[str]:
        """Studies whose lines have changed since this was asked last."""
        touched = set()
        while self._touched:  # one by one: another thread may put more
            touched.add(self._touched.pop())
        return touched

    def studies(self) -> tuple[StoredStudy, ...]:
        """All studies, newest first, the bin's among them."""
        found = (self.stored(row.id) for row in self.rows())
        return tuple(one for one in found if one is not None)

    def stored(self, study_id: str) -> StoredStudy | None:
        """The study of that id, or None.

        Raises:
            UserError: it is there and cannot be read.
        """
        with self._database.using() as connection:
            return load_study(connection, study_id)

    def find(self, study_id: str) -> Study | None:
        """The bare study of that id, or None; see `stored`."""
        found = self.stored(study_id)
        return found.study if found else None

    def media_in_use(self) -> set[str]:
        """Names of the pictures that some study has."""
        with self._database.using() as connection:
            return media_in_use(connection)

    def awaiting_media(self) -> list[str]:
        """Ids of studies, newest first, with a picture whose file the library does not have, but an
        order to make it (`LATE`)."""
        with self._database.using() as connection:
            return studies_lacking_media(connection, LATE)

    def pictures_of_alone(self, study_ids: Iterable[str]) -> set[str]:
        """Names of the pictures that only these studies have."""
        with self._database.using() as connection:
            return media_of_alone(connection, frozenset(study_ids))

    def page_faults(self) -> list[str]:
        """What SQLite finds wrong in the pages of the database and between its tables."""
        return self._database.faults()

    # Writing

    @cached_property
    def edits(self) -> StudyEdits:
        """Changes of studies that are there."""
        from bralto.store.study_edits import StudyEdits

        return StudyEdits(self._database, self._touched)

    def add(self, new: Study, media: Mapping[str, str], made: str) -> str:
        """Keep a new study; ``media`` names its pictures by state name, the reference by ""."""
        from bralto.store.sqlite import writing

        study_id = os.urandom(4).hex()
        with self._database.writing() as connection:
            writing.add_study(connection, study_id, new, media, made)
        self._touched.add(study_id)
        return study_id

    # Writing about studies

    def rename(self, study_id: str, title: str) -> None:
        """Another title; what was measured holds."""
        from bralto.store.sqlite import writing_about

        with self._database.writing() as connection:
            writing_about.rename(connection, study_id, title)
        self._touched.add(study_id)

    def put_tags(self, tags: Mapping[str, Iterable[str]]) -> None:
        """All tags of each of these studies."""
        from bralto.store.sqlite import writing_about

        with self._database.writing() as connection:
            for study_id, names in tags.items():
                writing_about.put_tags(connection, study_id, names)
        self._touched.update(tags)

    def put_hidden(self, hidden: Mapping[str, bool]) -> None:
        """Which of these studies the shelf leaves out."""
        self._put_column("hidden", {key: int(one) for key, one in hidden.items()})

    def put_binned(self, binned: Mapping[str, str | None]) -> None:
        """When each of these studies was put into the bin (ISO 8601, UTC); None takes it out."""
        self._put_column("binned", binned)

    def _put_column(self, column: str, values: Mapping[str, object]) -> None:
        from bralto.store.sqlite import writing

        with self._database.writing() as connection:
            for study_id, value in values.items():
                writing.set_column(connection, column, value, study_id)
        self._touched.update(values)

    def duplicate(self, study_id: str, title: str, made: str) -> str:
        """A copy of a study with the same pictures; gives its id.

        Raises:
            UserError: there is no such study, or it cannot be read.
        """
        stored = self.stored(study_id)
        if stored is None:
            raise UserError("that study is no longer in the library")
        from dataclasses import replace

        return self.add(replace(stored.study, title=title), stored.media, made)

    def put_media(self, study_id: str, media: Mapping[str, str]) -> None:
        """Give pictures of a study that came without theirs, by state name; what it measures is as
        it was, and what is shown of it is made anew."""
        stored = self.stored(study_id)
        if stored is None:
            return
        from bralto.store.sqlite import writing_about

        of_rows = {stored.pictures[name]: one for name, one in media.items()}
        with self._database.writing() as connection:
            writing_about.fill_media(connection, study_id, of_rows)
        self._touched.add(study_id)

    def erase(self, study_ids: Iterable[str]) -> set[str]:
        """Remove the rows of studies for good; gives the pictures that no other study has."""
        from bralto.store.sqlite import writing

        ids = list(study_ids)
        with self._database.writing() as connection:
            before = media_in_use(connection)
            for study_id in ids:
                writing.erase_study(connection, study_id)
            free = before - media_in_use(connection)
        self._database.settle()
        self._touched.update(ids)
        return free

    def put_digests(self, digests: Iterable[KeptDigest]) -> None:
        """Keep what was measured."""
        from bralto.store.sqlite import writing_about

        rows = list(digests)
        with self._database.writing() as connection:
            writing_about.put_digests(connection, rows)
        self._touched.update(row.study for row in rows)

    def traits(self, ids: Iterable[str], science: int) -> dict[str, str]:
        """What was kept of these studies for the record, by that science and of what they are now:
        documents by id. Those that cannot be read are left out."""
        with self._database.using() as connection:
            return traits_of_studies(connection, ids, science)

    # Practice

    def note_practice(self, kind: str, document: str, at: str) -> None:
        """Note something about practising, at that instant (ISO 8601, UTC); it is never changed."""
        with self._database.writing() as connection:
            connection.execute(
                "INSERT INTO practice (at, kind, document) VALUES (?, ?, ?)", (at, kind, document)
            )

    def practice(self) -> list[tuple[str, str, str]]:
        """All that was noted about practising, in the order of noting: at, kind, document."""
        with self._database.using() as connection:
            found: list[tuple[str, str, str]] = connection.execute(
                "SELECT at, kind, document FROM practice ORDER BY id"
            ).fetchall()
        return found

    # Keeping it elsewhere

    def restore(self, backup: Backup) -> None:
        """Put a backup in the database's place, the lock held; open the library anew after it.

        Raises:
            UserError: the backup is damaged or the disk refuses; the library goes on as it is.
        """
        from bralto.store.care.backups import restore

        # One that was opened for reading has no lock yet.
        lock = None if self._lock is not None else Lock.take(self.root, "a Bralto window")
        try:
            restore(self.root, backup)
        finally:
            if lock is not None:
                lock.let_go()

    def copy_to(self, root: Path) -> None:
        """Put the database and every picture that can still be read into another folder, also
        where this library's own folder is gone by now; the open database still has its rows.

        Raises:
            UserError: the folder has a library already, or it cannot be written.
        """
        from bralto.store.care.moving import copy_library

        with self._database.using() as connection:
            copy_library(connection, self.media, root)
