"""A library of thousands of studies, made of a few by copying their rows; each has its digest."""

from __future__ import annotations

import shutil
import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

from bralto.core.examination.summary import SCIENCE
from bralto.store.library import Library
from bralto.store.summaries import KeptDigest, digest_document
from bralto.ui.shelf.measuring import digest_of

__all__ = ["many_studies"]


def many_studies(few: Path, root: Path, count: int) -> None:
    """Copy a library and fill it up to ``count`` studies, one every seventeen hours."""
    shutil.copytree(few, root)
    with Library.open(root) as library:
        stored = library.studies()
        for one in stored:
            digest, traits = digest_of(one)
            document = digest_document(digest)
            library.put_digests([KeptDigest(one.id, one.version, SCIENCE, document, traits)])
    connection = sqlite3.connect(root / "library.sqlite3")
    last = datetime(2026, 11, 1, 18, tzinfo=UTC)
    with connection:
        for number in range(count - len(stored)):
            source = stored[number % len(stored)]
            made = (last - timedelta(hours=17 * number)).isoformat().replace("+00:00", "Z")
            _copy(connection, source.id, f"copy{number:05}", made, number)
    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    connection.close()


def _copy(connection: sqlite3.Connection, old: str, new: str, made: str, number: int) -> None:
    columns = connection.execute("SELECT name FROM pragma_table_info('picture')").fetchall()
    others = ", ".join(name for (name,) in columns if name != "id")

    def picture(row: int | None) -> int | None:
        if row is None:
            return None
        done = connection.execute(
            f"INSERT INTO picture SELECT NULL, {others} FROM picture WHERE id = ?", (row,)
        )
        connection.execute(
            "INSERT INTO mark SELECT ?, key, x, y, visibility, spread, extra FROM mark"
            " WHERE picture_id = ?",
            (done.lastrowid, row),
        )
        return done.lastrowid

    (reference,) = connection.execute(
        "SELECT reference_id FROM study WHERE id = ?", (old,)
    ).fetchone()
    connection.execute(
        "INSERT INTO study SELECT ?, title || ?, view, kind, school, grade, ?, ?, extra, version,"
        " hidden, binned FROM study WHERE id = ?",
        (new, f" {number}", picture(reference), made, old),
    )
    for state in connection.execute("SELECT * FROM state WHERE study_id = ?", (old,)).fetchall():
        _, _, place, name, taken, drawn, extra = state
        connection.execute(
            "INSERT INTO state VALUES (NULL, ?, ?, ?, ?, ?, ?)",
            (new, place, name, taken, picture(drawn), extra),
        )
    connection.execute(
        "INSERT INTO summary SELECT ?, stamp, science, document FROM summary WHERE study_id = ?",
        (new, old),
    )
    connection.execute(
        "INSERT INTO traits SELECT ?, stamp, science, document FROM traits WHERE study_id = ?",
        (new, old),
    )
