"""Copies of the database that rotate: daily, weekly, and one before each migration."""

from __future__ import annotations

import os
import re
import sqlite3
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import NamedTuple

from bralto.core.errors import UserError
from bralto.core.words.phrases import day_words, local
from bralto.disk.private import close_to_others, make_private_folder, written_whole
from bralto.store.failures import DATABASE_FAULTS, Failure, failure, of_database, of_system
from bralto.store.sqlite.database import FILE, connected

__all__ = [
    "FOLDER",
    "ROOM",
    "Backup",
    "backups",
    "keep_backup",
    "keep_before_migration",
    "newest_sound",
    "restore",
]

FOLDER = "backups"
"""Of a library's folder."""

# How many of each kind are kept (common practice, no source), and how much room they may take:
# the oldest go first, the newest of each kind stays whatever its size.
_KEPT = {"daily": 7, "weekly": 4, "before": 3, "asked": 5, "replaced": 3}
ROOM = 512 * 1024**2

_NAME = re.compile(r"(daily|weekly|before|asked|replaced)-([0-9TZ-]+)\.sqlite3")
_STAMP = "%Y-%m-%dT%H%M%SZ"


class Backup(NamedTuple):
    """A copy of the database: kind, when it was made, where it lies, bytes."""

    kind: str
    made: datetime
    path: Path
    size: int

    @property
    def words(self) -> str:
        """The day and hour of its making, local time, for a sentence."""
        return f"{day_words(self.made)}, {local(self.made):%H:%M}"


def backups(root: Path) -> list[Backup]:
    """All of them, newest first."""
    found = []
    with suppress(OSError):
        for path in (root / FOLDER).iterdir():
            named = _NAME.fullmatch(path.name)
            if named is None:
                continue
            with suppress(ValueError, OSError):
                made = datetime.strptime(named[2], _STAMP).replace(tzinfo=UTC)
                found.append(Backup(named[1], made, path, path.stat().st_size))
    return sorted(found, key=lambda one: (one.made, one.kind), reverse=True)


def keep_backup(root: Path, now: datetime, *, asked: bool = False) -> Backup | None:
    """Keep a copy if one is due: the first of a day, the first of a week, or where it is asked for.

    One step of SQLite's backup over all pages: beside a writer smaller steps begin again and again.
    The copy is read through before it counts.

    Args:
        now: this instant, UTC.

    Returns:
        The copy, or None where none was due.

    Raises:
        UserError: the database is damaged, or the disk refuses; the older copies stay.
    """
    there = backups(root)
    kind = "asked" if asked else _due(there, now)
    if kind is None:
        return None
    path = _path(root, kind, now)
    try:
        make_private_folder(path.parent)
        source = connected(root / FILE, reading=True)
        with written_whole(path) as partial:
            try:
                made = sqlite3.connect(partial)
                try:
                    source.backup(made, pages=-1)
                    made.execute("PRAGMA journal_mode = DELETE")
                finally:
                    made.close()
            finally:
                source.close()
            if (fault := _fault(partial)) is not None:
                raise failure(Failure.DAMAGED, root, f" ({fault})")
    except DATABASE_FAULTS as error:
        raise of_database(error, root) from None
    except OSError as error:
        raise of_system(error, root) from None
    _thin(root)
    return Backup(kind, now, path, path.stat().st_size)


def keep_before_migration(connection: sqlite3.Connection, root: Path) -> None:
    """Keep the database as it is before it is changed to the tables of another version.

    Raises:
        sqlite3.Error, LibraryError: it could not be kept; then nothing must be changed.
    """
    path = _path(root, "before", datetime.now(UTC))
    try:
        make_private_folder(path.parent)
        with written_whole(path) as partial:
            connection.execute("VACUUM INTO ?", (str(partial),))
    except OSError as error:
        raise of_system(error, root) from None
    _thin(root)


def _path(root: Path, kind: str, now: datetime) -> Path:
    return root / FOLDER / f"{kind}-{now:{_STAMP}}.sqlite3"


def _due(there: list[Backup], now: datetime) -> str | None:
    # A clock that was set back makes no more copies than one a start: those of the future count.
    if not any(one.kind == "weekly" and _week(one.made) >= _week(now) for one in there):
        return "weekly"
    if not any(one.kind in {"daily", "weekly"} and one.made.date() >= now.date() for one in there):
        return "daily"
    return None


def _week(day: datetime) -> tuple[int, int]:
    return day.isocalendar()[:2]


def _thin(root: Path) -> None:
    """Let the oldest go."""
    there = backups(root)
    room = ROOM
    for kind, most in _KEPT.items():
        of_kind = [one for one in there if one.kind == kind]
        for number, one in enumerate(of_kind):
            room -= one.size
            if number and (number >= most or room < 0):
                room += one.size
                for end in ("", "-wal", "-shm"):
                    with suppress(OSError):
                        Path(f"{one.path}{end}").unlink()


def _fault(path: Path) -> str | None:
    """What is wrong with a database, or None; every page is read."""
    try:
        made = connected(path, reading=True)
        try:
            said = made.execute("PRAGMA quick_check(1)").fetchone()[0]
            made.execute("SELECT count(*) FROM study").fetchone()
        finally:
            made.close()
    except DATABASE_FAULTS as error:
        return str(error)
    return None if said == "ok" else str(said)


def newest_sound(root: Path) -> Backup | None:
    """The newest copy that can be read through; one that was replaced does not count."""
    sound = (one for one in backups(root) if one.kind != "replaced" and _fault(one.path) is None)
    return next(sound, None)


def restore(root: Path, backup: Backup) -> Path | None:
    """Put a copy in the library's place; call it with the lock held.

    A database that is still open goes on with the file it has, which nobody else will read again.

    Returns:
        Where the database that was there is kept now, or None where there was none.

    Raises:
        UserError: the copy is damaged, or the disk refuses; the library is as it was then.
    """
    if (fault := _fault(backup.path)) is not None:
        raise UserError(f"{backup.path}: this backup is damaged too ({fault}); choose another")
    path, kept = root / FILE, None
    moved: list[tuple[Path, Path]] = []
    try:
        make_private_folder(root / FOLDER)
        with written_whole(path) as fresh:
            fresh.write_bytes(backup.path.read_bytes())
            if path.exists():
                kept = _path(root, "replaced", datetime.now(UTC))
                _same_file(path, kept)
                # A log that stayed would be played back into the copy.
                for end in ("-wal", "-shm"):
                    log, beside = Path(f"{path}{end}"), Path(f"{kept}{end}")
                    if log.exists():
                        log.replace(beside)
                        moved.append((log, beside))
    except OSError as error:
        for log, beside in moved:  # without its log the database would lack its latest changes
            beside.replace(log)
        if kept is not None:
            kept.unlink(missing_ok=True)
        raise of_system(error, root) from None
    return kept


def _same_file(path: Path, kept: Path) -> None:
    """Give a file a second name, so that nothing is away for a moment; a copy where links are not
    known."""
    try:
        os.link(path, kept)
    except OSError:
        kept.write_bytes(path.read_bytes())
        close_to_others(kept)
