"""The library: studies in SQLite, pictures beside it; every method that writes is a transaction."""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING, Self

from bralto.core.errors import UserError
from bralto.store.failures import LibraryError
from bralto.store.lock import Lock
from bralto.store.media import MediaFolder
from bralto.store.opening import opened
from bralto.store.sqlite.database import FILE, Database
from bralto.store.sqlite.reading import (
    StoredStudy,
    load_study,
    media_in_use,
    shelf_rows,
    studies_lacking_media,
    traits_of_studies,
)
from bralto.store.summaries import KeptDigest, ShelfRow

if TYPE_CHECKING:  # the shelf does without the values of a study
    from bralto.core.study.values import Mark, Picture, State, Study
    from bralto.store.care.backups import Backup

__all__ = ["Library", "StoredStudy"]


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
        touched, self._touched = self._touched, set()
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

    def lacking_media(self) -> list[str]:
        """Ids of studies, newest first, with a picture whose file the library does not have."""
        with self._database.using() as connection:
            return studies_lacking_media(connection)

    def pictures_of_alone(self, study_ids: Iterable[str]) -> set[str]:
        """Names of the pictures that only these studies have."""
        ids = set(study_ids)
        with self._database.using() as connection:
            mine: set[str] = set()
            others: set[str] = set()
            for study_id, media in connection.execute(
                "SELECT study_id, media FROM state JOIN picture ON picture.id = picture_id"
                " UNION SELECT study.id, media FROM study JOIN picture ON picture.id = reference_id"
            ):
                if media:
                    (mine if study_id in ids else others).add(media)
        return mine - others

    def page_faults(self) -> list[str]:
        """What SQLite finds wrong in the pages of the database and between its tables."""
        try:
            with self._database.using() as connection:
                said = [row[0] for row in connection.execute("PRAGMA integrity_check(20)")]
                torn = len(connection.execute("PRAGMA foreign_key_check").fetchall())
        except LibraryError as error:
            return [str(error)]
        faults = [f"{self.root / FILE}: {one}" for one in said if one != "ok"]
        return faults + ([f"{torn} rows belong to something that is gone"] if torn else [])

    # Writing a study. Each gives the study's next version, and refuses one that is not the last:
    # two windows, or a window and a command, never write over each other unseen.

    def add(self, new: Study, media: Mapping[str, str], made: str) -> str:
        """Keep a new study; ``media`` names its pictures by state name, the reference by ""."""
        from bralto.store.sqlite import writing

        study_id = os.urandom(4).hex()
        with self._database.writing() as connection:
            writing.add_study(connection, study_id, new, media, made)
        self._touched.add(study_id)
        return study_id

    def put_marks(
        self, study_id: str, version: int, picture_id: int, marks: Mapping[str, Mark | None]
    ) -> int:
        """Set marks of a picture, or take those away that are None."""
        from bralto.store.sqlite import writing

        with self._changing(study_id, version) as connection:
            writing.put_marks(connection, study_id, picture_id, marks)
        return version + 1

    def put_head(self, study_id: str, version: int, changed: Study) -> int:
        """Keep what is said of a study as a whole: title, school, grade and the like."""
        from bralto.store.sqlite import writing

        with self._changing(study_id, version) as connection:
            writing.put_head(connection, study_id, changed)
        return version + 1

    def put_picture(self, study_id: str, version: int, picture_id: int, value: Picture) -> int:
        """Keep what is said of a picture, its marks apart: sheet, plumb, crop and the like."""
        from bralto.store.sqlite import writing

        with self._changing(study_id, version) as connection:
            writing.put_picture(connection, study_id, picture_id, value)
        return version + 1

    def exchange_picture(
        self, study_id: str, version: int, picture_id: int, value: Picture, media_name: str
    ) -> int:
        """Put another picture in the place of one, with all that is said and marked of it."""
        from bralto.store.sqlite import writing

        with self._changing(study_id, version) as connection:
            writing.exchange_picture(connection, study_id, picture_id, value, media_name)
        return version + 1

    def add_state(
        self, study_id: str, version: int, new: State, media_name: str | None
    ) -> StoredStudy:
        """Add a further state of the drawing; gives the study as it is then."""
        from bralto.store.sqlite import writing

        with self._changing(study_id, version) as connection:
            writing.add_state(connection, study_id, new, media_name)
            stored = load_study(connection, study_id)
        assert stored is not None
        return stored

    def replace(self, study_id: str, value: Study) -> None:
        """Everything that is said and marked of a study that is there, as one change; its pictures
        stay where they lie.

        Raises:
            UserError: there is no such study, or it has other states.
        """
        from bralto.store.sqlite import writing

        stored = self.stored(study_id)
        pictures = value.pictures()
        if stored is None or set(stored.pictures) != set(pictures):
            raise UserError("that study is no longer in the library as it was")
        with self._changing(study_id, stored.version) as connection:
            writing.put_head(connection, study_id, value)
            for name, picture_id in stored.pictures.items():
                writing.put_picture(connection, study_id, picture_id, pictures[name])
                writing.replace_marks(connection, picture_id, pictures[name])

    @contextmanager
    def _changing(self, study_id: str, version: int) -> Iterator[sqlite3.Connection]:
        """One change of a study, made on that version of it."""
        from bralto.store.sqlite import writing

        with self._database.writing() as connection:
            writing.change_version(connection, study_id, version)
            yield connection
        self._touched.add(study_id)

    # Writing about studies

    def rename(self, study_id: str, title: str) -> None:
        """Another title; what was measured holds."""
        from bralto.store.sqlite import writing

        with self._database.writing() as connection:
            writing.set_column(connection, "title", title, study_id)
            for statement in (
                "UPDATE study SET version = version + 1 WHERE id = ?",
                "UPDATE summary SET stamp = stamp + 1 WHERE study_id = ?",
                "UPDATE traits SET stamp = stamp + 1 WHERE study_id = ?",
            ):
                connection.execute(statement, (study_id,))
        self._touched.add(study_id)

    def put_tags(self, tags: Mapping[str, Iterable[str]]) -> None:
        """All tags of each of these studies."""
        with self._database.writing() as connection:
            for study_id, names in tags.items():
                connection.execute("DELETE FROM tag WHERE study_id = ?", (study_id,))
                connection.executemany(
                    "INSERT INTO tag VALUES (?, ?)", [(study_id, name) for name in sorted(names)]
                )
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
        with self._database.writing() as connection:
            for name, one in media.items():
                connection.execute(
                    "UPDATE picture SET media = ? WHERE id = ? AND media IS NULL",
                    (one, stored.pictures[name]),
                )
            connection.execute("DELETE FROM summary WHERE study_id = ?", (study_id,))
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
        rows = list(digests)
        with self._database.writing() as connection:
            connection.executemany(
                "INSERT OR REPLACE INTO summary SELECT id, ?2, ?3, ?4 FROM study WHERE id = ?1",
                [row[:4] for row in rows],
            )
            connection.executemany(
                "INSERT OR REPLACE INTO traits SELECT id, ?2, ?3, ?4 FROM study WHERE id = ?1",
                [(row.study, row.stamp, row.science, row.traits) for row in rows if row.traits],
            )
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
