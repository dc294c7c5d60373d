"""What is kept about studies beside themselves: titles, tags, what was measured; inside a
transaction that the caller has begun."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Mapping, Sequence

from bralto.store.sqlite.writing import set_column
from bralto.store.summaries import KeptDigest

__all__ = ["fill_media", "put_digests", "put_tags", "rename"]


def rename(connection: sqlite3.Connection, study_id: str, title: str) -> None:
    """See `Library.rename`."""
    set_column(connection, "title", title, study_id)
    for statement in (
        "UPDATE study SET version = version + 1 WHERE id = ?",
        "UPDATE summary SET stamp = stamp + 1 WHERE study_id = ?",
        "UPDATE traits SET stamp = stamp + 1 WHERE study_id = ?",
    ):
        connection.execute(statement, (study_id,))


def put_tags(connection: sqlite3.Connection, study_id: str, names: Iterable[str]) -> None:
    """All tags of a study."""
    connection.execute("DELETE FROM tag WHERE study_id = ?", (study_id,))
    connection.executemany(
        "INSERT INTO tag VALUES (?, ?)", [(study_id, name) for name in sorted(names)]
    )


def fill_media(connection: sqlite3.Connection, study_id: str, media: Mapping[int, str]) -> None:
    """Files in the media folder for pictures, by row, that have none; what is kept of how the study
    looks goes."""
    connection.executemany(
        "UPDATE picture SET media = ? WHERE id = ? AND media IS NULL",
        [(name, row) for row, name in media.items()],
    )
    connection.execute("DELETE FROM summary WHERE study_id = ?", (study_id,))


def put_digests(connection: sqlite3.Connection, digests: Sequence[KeptDigest]) -> None:
    """What was measured, of those studies that are still there."""
    connection.executemany(
        "INSERT OR REPLACE INTO summary SELECT id, ?, ?, ? FROM study WHERE id = ?",
        [(one.stamp, one.science, one.document, one.study) for one in digests],
    )
    connection.executemany(
        "INSERT OR REPLACE INTO traits SELECT id, ?, ?, ? FROM study WHERE id = ?",
        [(one.stamp, one.science, one.traits, one.study) for one in digests if one.traits],
    )
