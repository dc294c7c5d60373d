"""Studies and lines of the shelf out of the tables; what cannot be read is said, not fatal."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Iterable, Mapping
from typing import TYPE_CHECKING

from bralto.core.errors import UserError
from bralto.core.quick_tuples import NamedTuple
from bralto.store.failures import DATABASE_FAULTS
from bralto.store.summaries import ShelfRow

if TYPE_CHECKING:  # the shelf does without whole studies
    from bralto.core.study.values import Study
    from bralto.store.sqlite.rows import UnreadableError

__all__ = [
    "StoredStudy",
    "UnreadableStudyError",
    "load_study",
    "media_in_use",
    "media_of_alone",
    "shelf_rows",
    "studies_lacking_media",
    "traits_of_studies",
]


class StoredStudy(NamedTuple):
    """A study with where its pictures lie.

    Attributes:
        id: stable id, also for `bralto measure`.
        made: ISO 8601 instant of its making, UTC.
        version: of what was read; a write that names another is refused.
        pictures: picture row of the reference ("") and of each state by name.
        media: name in the media folder of each of those pictures that has one.
    """

    id: str
    made: str
    version: int
    study: Study
    pictures: Mapping[str, int]
    media: Mapping[str, str]


class UnreadableStudyError(UserError):
    """A study of which a row is damaged; ``place`` says which, in few words."""

    def __init__(self, title: str, study_id: str, error: UnreadableError) -> None:
        super().__init__(f"the study '{title}' ({study_id}) cannot be read: {error}")
        self.place = error.place


_ROWS = """
    SELECT study.id, title, view, kind, made, version, hidden, binned,
           coalesce((SELECT group_concat(name, char(31)) FROM tag WHERE study_id = study.id), ''),
           (SELECT count(*) FROM state WHERE study_id = study.id),
           stamp, science, document
    FROM study LEFT JOIN summary ON summary.study_id = study.id
"""

_ORDER = "ORDER BY made DESC, study.id DESC"

_BARE = """
    SELECT id, title, view, kind, made, version, hidden, binned, '', 0, NULL, NULL, NULL
    FROM study WHERE id = ?
"""


def shelf_rows(
    connection: sqlite3.Connection, ids: Iterable[str] | None = None, newest: int | None = None
) -> list[ShelfRow]:
    """Every study, newest first, or those alone, or the ``newest`` of those that are in sight;
    where the tables are damaged, what is left.

    Raises:
        sqlite3.Error: not even the list of studies can be read.
    """
    if ids is not None:
        return [_row(connection, one) for one in ids if _is_there(connection, one)]
    try:
        only = "" if newest is None else f"WHERE NOT hidden AND binned IS NULL {_ORDER} LIMIT ?"
        values = () if newest is None else (newest,)
        found = connection.execute(f"{_ROWS} {only or _ORDER}", values).fetchall()
        return [ShelfRow(*row) for row in found]
    except DATABASE_FAULTS:
        # The index of the days can be whole where the table is not.
        ids = [one for (one,) in connection.execute(f"SELECT id FROM study {_ORDER}")]
        return [_row(connection, one) for one in ids]


def _is_there(connection: sqlite3.Connection, study_id: str) -> bool:
    found = connection.execute("SELECT 1 FROM study WHERE id = ?", (study_id,))
    return found.fetchone() is not None


def _row(connection: sqlite3.Connection, study_id: str) -> ShelfRow:
    fault = ""
    for query in (f"{_ROWS} WHERE study.id = ?", _BARE):
        try:
            found = connection.execute(query, (study_id,)).fetchone()
        except DATABASE_FAULTS as error:
            fault = f"damaged: {error}"
            continue
        if found is not None:
            return ShelfRow(*found, fault)  # type: ignore[call-arg]
    return ShelfRow(study_id, "", "", "", "", 0, 0, None, "", 0, None, None, None, fault or "gone")


def traits_of_studies(
    connection: sqlite3.Connection, ids: Iterable[str], science: int
) -> dict[str, str]:
    """See `Library.traits`."""
    query = """
        SELECT document FROM traits JOIN study ON study.id = study_id
        WHERE study_id = ? AND stamp = version AND science = ?
    """
    found = {}
    try:
        for one in ids:
            row = connection.execute(query, (one, science)).fetchone()
            if row is not None:
                found[one] = str(row[0])
    except DATABASE_FAULTS:
        pass  # the table is damaged: what was read so far
    return found


def load_study(connection: sqlite3.Connection, study_id: str) -> StoredStudy | None:
    """A whole study, or None where there is none of that id.

    Raises:
        UserError: a row of it does not hold what it should.
        sqlite3.Error: the tables cannot be read.
    """
    from bralto.store.sqlite.rows import (  # the shelf does without the values of a study
        UnreadableError,
        mark_value,
        picture_value,
        state_value,
        study_value,
    )

    def rows(query: str, *values: object) -> list[sqlite3.Row]:
        cursor = connection.cursor()
        cursor.row_factory = sqlite3.Row
        return cursor.execute(query, values).fetchall()

    heads = rows("SELECT * FROM study WHERE id = ?", study_id)
    if not heads:
        return None
    head = heads[0]
    states = rows("SELECT * FROM state WHERE study_id = ? ORDER BY number", study_id)
    ids = {str(row["name"]): row["picture_id"] for row in states}
    if head["reference_id"] is not None:
        ids[""] = head["reference_id"]
    try:
        values, media = {}, {}
        for name, picture_id in ids.items():
            found = rows("SELECT * FROM picture WHERE id = ?", picture_id)
            if not found:
                which = f"the picture of '{name}'" if name else "the picture of the reference"
                raise UnreadableError(which, "it is not there")
            marks = rows("SELECT * FROM mark WHERE picture_id = ?", picture_id)
            values[name] = picture_value(found[0], {str(m["key"]): mark_value(m) for m in marks})
            if found[0]["media"]:
                media[name] = str(found[0]["media"])
        whole = study_value(
            head,
            values.get(""),
            tuple(state_value(row, values[str(row["name"])]) for row in states),
        )
    except UnreadableError as error:
        raise UnreadableStudyError(str(head["title"])[:60], study_id, error) from None
    return StoredStudy(study_id, str(head["made"]), head["version"], whole, ids, media)


def studies_lacking_media(connection: sqlite3.Connection, key: str) -> list[str]:
    """See `Library.awaiting_media`: those with this key among their extra data; what lies in the
    bin is left out."""
    query = """
        SELECT study.id, study.extra FROM study JOIN (
            SELECT id AS study_id, reference_id AS picture_id FROM study
            UNION SELECT study_id, picture_id FROM state
        ) AS shown ON shown.study_id = study.id
        JOIN picture ON picture.id = shown.picture_id
        WHERE picture.media IS NULL AND study.binned IS NULL
        GROUP BY study.id ORDER BY study.made DESC
    """
    found = list(connection.execute(query))
    if not found:
        return []
    from bralto.store.sqlite.rows import has_extra

    return [study for study, extra in found if has_extra(extra, key)]


def media_in_use(connection: sqlite3.Connection) -> set[str]:
    """Names in the media folder that some picture has."""
    return {name for (name,) in connection.execute("SELECT DISTINCT media FROM picture") if name}


def media_of_alone(connection: sqlite3.Connection, ids: Collection[str]) -> set[str]:
    """See `Library.pictures_of_alone`."""
    mine: set[str] = set()
    others: set[str] = set()
    for study_id, media in connection.execute(
        "SELECT study_id, media FROM state JOIN picture ON picture.id = picture_id"
        " UNION SELECT study.id, media FROM study JOIN picture ON picture.id = reference_id"
    ):
        if media:
            (mine if study_id in ids else others).add(media)
    return mine - others
