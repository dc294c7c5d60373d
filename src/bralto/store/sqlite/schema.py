"""Brings a database to the tables of this version; what it is, is asked first."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from pathlib import Path

from bralto.store.failures import Failure, failure
from bralto.store.sqlite.database import transaction

__all__ = ["APPLICATION", "HEAD", "found_version", "mend", "migrate", "script_statements"]

HEAD = 5
"""Number of the newest script in `store/sqlite/scripts`; a test holds it against the folder."""

APPLICATION = 0x42726C74
"""SQLite's application_id of a library: "Brlt" in ASCII."""

_TABLES = frozenset({"picture", "study", "state", "mark"})
_BESIDE = frozenset({"tag", "summary", "traits", "practice"})
"""Tables without which every study is still whole; one that is lost is made again, empty."""

# The first released program kept its version in a table of its migration tool.
_OLD_VERSION = "alembic_version"


def _tables(connection: sqlite3.Connection) -> set[str]:
    rows = connection.execute(
        "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"
    )
    return {name for (name,) in rows}


def found_version(connection: sqlite3.Connection, where: Path, *, reading: bool = False) -> int:
    """The number of the last script that this database has had; 0 where it is empty.

    Args:
        reading: what can be read is wanted, though tables may be lacking.

    Raises:
        LibraryError: it is none of Bralto's, of a newer one, or lacks tables that had something in
            them.
        sqlite3.Error: it cannot be read.
    """
    application = connection.execute("PRAGMA application_id").fetchone()[0]
    version: int = connection.execute("PRAGMA user_version").fetchone()[0]
    there = _tables(connection)
    if application == APPLICATION:
        if version > HEAD:
            raise failure(Failure.NEWER, where, f" (schema {version})")
        lacking = _TABLES - there
        if lacking and not (reading and "study" in there):
            raise failure(Failure.DAMAGED, where, f" (no table {', '.join(sorted(lacking))})")
        return version
    if application or version or there - _TABLES - {_OLD_VERSION}:
        raise failure(Failure.NOT_A_LIBRARY, where)
    return _released_version(connection, there, where) if there else 0


def _released_version(connection: sqlite3.Connection, there: set[str], where: Path) -> int:
    """Of a database that the first released program made, or began to make and was interrupted."""
    if there >= _TABLES:
        columns = {row[1] for row in connection.execute("PRAGMA table_info(picture)")}
        if _OLD_VERSION in there:
            said = connection.execute(f"SELECT version_num FROM {_OLD_VERSION}").fetchone()
            if said is not None and said[0] not in {"0001", "0002"}:
                raise failure(Failure.NEWER, where, f" (schema {said[0]})")
        if {"crop", "focal_35mm"} <= columns:
            return 2
        return 1
    if any(connection.execute(f"SELECT 1 FROM {name} LIMIT 1").fetchone() for name in
           sorted(there & _TABLES)):  # fmt: skip
        lacking = ", ".join(sorted(_TABLES - there))
        raise failure(Failure.DAMAGED, where, f" (no table {lacking})")
    return 0


def migrate(connection: sqlite3.Connection, found: int) -> None:
    """Run the scripts that are lacking, all in one transaction.

    Raises:
        sqlite3.Error: refused; the database is as it was.
    """
    connection.execute("PRAGMA foreign_keys = OFF")  # it has no effect inside a transaction
    try:
        with transaction(connection):
            if found == 0:
                for name in sorted(_tables(connection)):
                    connection.execute(f"DROP TABLE {name}")
            for number in range(found + 1, HEAD + 1):
                for statement in script_statements(number):
                    if not _half_done(connection, statement):
                        connection.execute(statement)
            connection.execute(f"DROP TABLE IF EXISTS {_OLD_VERSION}")
            connection.execute(f"PRAGMA application_id = {APPLICATION}")
            connection.execute(f"PRAGMA user_version = {HEAD}")
    finally:
        connection.execute("PRAGMA foreign_keys = ON")


def mend(connection: sqlite3.Connection) -> None:
    """Make those tables again that hold nothing of a study itself.

    Raises:
        sqlite3.Error: refused.
    """
    lacking = _BESIDE - _tables(connection)
    if not lacking:
        return
    with transaction(connection):
        for statement in (one for n in range(1, HEAD + 1) for one in script_statements(n)):
            if any(f"CREATE TABLE {name} (" in statement for name in lacking):
                connection.execute(statement)


def _half_done(connection: sqlite3.Connection, statement: str) -> bool:
    """Whether a column is there already: the first released program could be interrupted between
    the two that its second migration added."""
    words = statement.split()
    if "ADD" not in words or "COLUMN" not in words:
        return False
    table, column = words[words.index("TABLE") + 1], words[words.index("COLUMN") + 1]
    return column in {row[1] for row in connection.execute(f"PRAGMA table_info({table})")}


def script_statements(number: int) -> Iterator[str]:
    """The statements of a script, one by one: `executescript` would commit before it begins."""
    text = (Path(__file__).parent / "scripts" / f"{number:04}.sql").read_text("utf-8")
    lines: list[str] = []
    for line in text.splitlines(keepends=True):
        lines.append(line)
        whole = "".join(lines)
        if sqlite3.complete_statement(whole):
            yield whole
            lines.clear()
