"""Rows of studies into the tables, inside a transaction that the caller has begun."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping

from bralto.core.study.values import Mark, Picture, State, Study
from bralto.store.failures import Failure, LibraryError
from bralto.store.sqlite.rows import mark_row, picture_row, state_row, study_row

__all__ = [
    "add_state",
    "add_study",
    "change_version",
    "erase_study",
    "exchange_picture",
    "put_head",
    "put_marks",
    "put_picture",
    "replace_marks",
    "set_column",
]


def change_version(connection: sqlite3.Connection, study_id: str, version: int) -> None:
    """Make the version of a study the next, where it is the one that the change was made on.

    Raises:
        LibraryError: somebody else has changed or removed it since.
    """
    done = connection.execute(
        "UPDATE study SET version = version + 1 WHERE id = ? AND version = ?", (study_id, version)
    )
    if done.rowcount != 1:
        there = connection.execute("SELECT 1 FROM study WHERE id = ?", (study_id,)).fetchone()
        what = "changed elsewhere" if there else "removed elsewhere"
        raise LibraryError(
            Failure.ELSEWHERE,
            f"this study was {what} since it was opened, so the change was not kept; open it "
            "again from the shelf",
        )


def set_column(connection: sqlite3.Connection, column: str, value: object, study_id: str) -> None:
    """Another value in a column of a study.

    Raises:
        LibraryError: the study is gone.
    """
    _one(
        connection.execute(f"UPDATE study SET {column} = ? WHERE id = ?", (value, study_id)),
        study_id,
    )


def add_study(
    connection: sqlite3.Connection, study_id: str, new: Study, media: Mapping[str, str], made: str
) -> None:
    """A new study with its pictures; see `Library.add`."""
    reference = None
    if new.reference is not None:
        reference = _add_picture(connection, new.reference, media.get(""))
    row = {"id": study_id, "reference_id": reference, "made": made, **study_row(new)}
    _insert(connection, "study", row)
    for number, one in enumerate(new.states):
        _put_state(connection, study_id, number, one, media.get(one.name))


def add_state(
    connection: sqlite3.Connection, study_id: str, new: State, media_name: str | None
) -> None:
    """A further state, after the last."""
    number = connection.execute(
        "SELECT coalesce(max(number) + 1, 0) FROM state WHERE study_id = ?", (study_id,)
    ).fetchone()[0]
    _put_state(connection, study_id, number, new, media_name)


def put_marks(
    connection: sqlite3.Connection,
    study_id: str,
    picture_id: int,
    marks: Mapping[str, Mark | None],
) -> None:
    """Set marks of a picture of that study, or take those away that are None."""
    _its_own(connection, study_id, picture_id)
    connection.executemany(
        "DELETE FROM mark WHERE picture_id = ? AND key = ?", [(picture_id, key) for key in marks]
    )
    for key, one in marks.items():
        if one is not None:
            _insert(connection, "mark", mark_row(picture_id, key, one))


def replace_marks(connection: sqlite3.Connection, picture_id: int, value: Picture) -> None:
    """All marks of a picture, whatever there was."""
    connection.execute("DELETE FROM mark WHERE picture_id = ?", (picture_id,))
    for key, one in value.marks.items():
        _insert(connection, "mark", mark_row(picture_id, key, one))


def put_head(connection: sqlite3.Connection, study_id: str, changed: Study) -> None:
    """What is said of a study as a whole."""
    _update(connection, "study", study_row(changed), study_id)


def put_picture(
    connection: sqlite3.Connection, study_id: str, picture_id: int, value: Picture
) -> None:
    """What is said of a picture of that study, its marks apart."""
    _its_own(connection, study_id, picture_id)
    _update(connection, "picture", picture_row(value), picture_id)


def exchange_picture(
    connection: sqlite3.Connection, study_id: str, picture_id: int, value: Picture, media_name: str
) -> None:
    """Another picture in the place of one of that study, with all that is said and marked of it."""
    _its_own(connection, study_id, picture_id)
    row = {**picture_row(value), "media": media_name}
    _update(connection, "picture", row, picture_id)
    replace_marks(connection, picture_id, value)


def erase_study(connection: sqlite3.Connection, study_id: str) -> None:
    """Every row of a study; what hangs from it goes with it."""
    pictures = connection.execute(
        "SELECT picture_id FROM state WHERE study_id = ?"
        " UNION SELECT reference_id FROM study WHERE id = ?",
        (study_id, study_id),
    ).fetchall()
    connection.execute("DELETE FROM study WHERE id = ?", (study_id,))
    connection.executemany("DELETE FROM picture WHERE id = ?", pictures)


def _its_own(connection: sqlite3.Connection, study_id: str, picture_id: int) -> None:
    """Refuse a picture that is another study's: a study that was erased may have had its number."""
    found = connection.execute(
        "SELECT 1 FROM study WHERE id = ? AND reference_id = ?"
        " UNION SELECT 1 FROM state WHERE study_id = ? AND picture_id = ?",
        (study_id, picture_id, study_id, picture_id),
    )
    if found.fetchone() is None:
        raise LibraryError(Failure.ELSEWHERE, f"the study {study_id} has no such picture any more")


def _one(done: sqlite3.Cursor, study_id: str) -> None:
    if done.rowcount != 1:
        raise LibraryError(Failure.ELSEWHERE, f"the study {study_id} is no longer in the library")


def _insert(connection: sqlite3.Connection, table: str, row: Mapping[str, object]) -> int:
    names, holes = ", ".join(row), ", ".join(f":{name}" for name in row)
    done = connection.execute(f"INSERT INTO {table} ({names}) VALUES ({holes})", dict(row))
    return int(done.lastrowid or 0)


def _update(
    connection: sqlite3.Connection, table: str, row: Mapping[str, object], row_id: object
) -> None:
    names = ", ".join(f"{name} = :{name}" for name in row)
    done = connection.execute(
        f"UPDATE {table} SET {names} WHERE id = :row_id", {**row, "row_id": row_id}
    )
    _one(done, str(row_id))


def _add_picture(connection: sqlite3.Connection, value: Picture, media_name: str | None) -> int:
    picture_id = _insert(connection, "picture", {**picture_row(value), "media": media_name})
    for key, one in value.marks.items():
        _insert(connection, "mark", mark_row(picture_id, key, one))
    return picture_id


def _put_state(
    connection: sqlite3.Connection, study_id: str, number: int, value: State, media_name: str | None
) -> None:
    picture_id = _add_picture(connection, value.picture, media_name)
    _insert(connection, "state", state_row(study_id, number, picture_id, value))
