"""How a library's folder is opened: locked, made or brought up to date, closed to all others."""

from __future__ import annotations

from pathlib import Path

from bralto.disk.private import close_to_others, make_private_folder
from bralto.store.failures import Failure, failure, of_system
from bralto.store.lock import Lock
from bralto.store.media import MediaFolder
from bralto.store.sqlite import schema
from bralto.store.sqlite.database import FILE, Database

__all__ = ["opened"]


def opened(root: Path, *, reading: bool, anew: bool, what: str) -> tuple[Database, Lock | None]:
    """The database and, unless it is only read, the lock; see `Library.open`.

    Raises:
        InUseError: somebody else writes to it.
        LibraryError: it cannot be made or opened; ``kind`` says why.
    """
    if reading:
        return _for_reading(root, what), None
    try:
        make_private_folder(root, parents=True)
    except OSError as error:
        raise of_system(error, root) from None
    lock = Lock.take(root, what)
    try:
        database = _for_writing(root, anew=anew)
    except BaseException:
        lock.let_go()
        raise
    for path in root.iterdir():
        close_to_others(path)
    return database, lock


def _for_writing(root: Path, *, anew: bool) -> Database:
    """Made or migrated where needed."""
    if not anew:
        _refuse_emptied(root)
    database = Database(root, reading=False)
    try:
        with database.using() as connection:
            found = schema.found_version(connection, root)
            if 0 < found < schema.HEAD:
                from bralto.store.care.backups import keep_before_migration

                keep_before_migration(connection, root)
            if found < schema.HEAD:
                if not found and not anew:
                    _refuse_emptied(root, " empty")
                schema.migrate(connection, found)
            else:
                schema.mend(connection)
    except BaseException:
        database.close()
        raise
    return database


def _for_reading(root: Path, what: str) -> Database:
    database = Database(root, reading=True)
    try:
        with database.using() as connection:
            old = schema.found_version(connection, root, reading=True) < schema.HEAD
    except BaseException:
        database.close()
        raise
    if not old:
        return database
    database.close()
    newer, lock = opened(root, reading=False, anew=False, what=what)  # brings it up to date
    newer.close()
    if lock is not None:
        lock.let_go()
    return Database(root, reading=True)


def _refuse_emptied(root: Path, how: str = " gone or empty") -> None:
    path = root / FILE
    try:
        blank = not path.exists() or path.stat().st_size == 0
        if (blank or how == " empty") and not MediaFolder(root / "media").is_empty():
            raise failure(Failure.EMPTIED, root, how)
    except OSError as error:
        raise of_system(error, root) from None
