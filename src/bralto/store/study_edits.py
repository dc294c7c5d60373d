"""Changes of a study that is in the library, each made on a version of it.

Each gives the study's next version, and refuses one that is not the last: two windows, or a window
and a command, never write over each other unseen.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator, Mapping
from contextlib import contextmanager

from bralto.core.errors import UserError
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.store.sqlite import writing
from bralto.store.sqlite.database import Database
from bralto.store.sqlite.reading import StoredStudy, load_study

__all__ = ["StudyEdits"]


class StudyEdits:
    """Of one library: `Library.edits`."""

    def __init__(self, database: Database, touched: set[str]) -> None:
        """Get ready.

        Args:
            touched: where ids of studies that were changed are put (`Library.take_touched`).
        """
        self._database, self._touched = database, touched

    def put_marks(
        self, study_id: str, version: int, picture_id: int, marks: Mapping[str, Mark | None]
    ) -> int:
        """Set marks of a picture, or take those away that are None."""
        with self._changing(study_id, version) as connection:
            writing.put_marks(connection, study_id, picture_id, marks)
        return version + 1

    def put_head(self, study_id: str, version: int, changed: Study) -> int:
        """Keep what is said of a study as a whole: title, school, grade and the like."""
        with self._changing(study_id, version) as connection:
            writing.put_head(connection, study_id, changed)
        return version + 1

    def put_picture(self, study_id: str, version: int, picture_id: int, value: Picture) -> int:
        """Keep what is said of a picture, its marks apart: sheet, plumb, crop and the like."""
        with self._changing(study_id, version) as connection:
            writing.put_picture(connection, study_id, picture_id, value)
        return version + 1

    def exchange_picture(
        self, study_id: str, version: int, picture_id: int, value: Picture, media_name: str
    ) -> int:
        """Put another picture in the place of one, with all that is said and marked of it."""
        with self._changing(study_id, version) as connection:
            writing.exchange_picture(connection, study_id, picture_id, value, media_name)
        return version + 1

    def add_state(
        self, study_id: str, version: int, new: State, media_name: str | None
    ) -> StoredStudy:
        """Add a further state of the drawing; gives the study as it is then."""
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
        with self._database.using() as connection:
            stored = load_study(connection, study_id)
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
        with self._database.writing() as connection:
            writing.change_version(connection, study_id, version)
            yield connection
        self._touched.add(study_id)
