"""The SQLite file of a library: opened by its path, written in explicit transactions."""

from __future__ import annotations

import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from bralto.disk.private import close_to_others
from bralto.store.failures import (
    DATABASE_FAULTS,
    Failure,
    LibraryError,
    failure,
    of_database,
    of_system,
)

__all__ = ["FILE", "FOR_READING", "TURN_S", "Database", "connected", "transaction"]

FILE = "library.sqlite3"

FOR_READING = "this library is looked at for reading only; nothing can be changed"

_WAIT_MS = 250
"""How long a statement waits for another program: no gesture may hold the window longer."""

TURN_S = 5.0
"""How long a transaction waits for those of other threads of this program. Each ends by itself; on
a slow disk it takes as long as the disk takes to write, which may be far beyond `_WAIT_MS`."""

_STILL_WRITING = "Bralto is still writing something else there; its disk is slow. Try again"


def connected(path: Path, *, reading: bool = False) -> sqlite3.Connection:
    """A connection in autocommit mode; every transaction is begun by name.

    The path goes to SQLite as it is, and not as a URL: a folder may have ``?`` or ``%`` in its
    name. For reading there must be a URL, and it is escaped.

    Raises:
        sqlite3.Error: it cannot be opened.
    """
    whole = path.absolute()
    if not reading:
        return sqlite3.connect(whole, isolation_level=None, check_same_thread=False)
    url = whole.as_uri()
    made = sqlite3.connect(
        f"{url}?mode=ro", uri=True, isolation_level=None, check_same_thread=False
    )
    try:
        made.execute("SELECT 1 FROM sqlite_master")
    except sqlite3.OperationalError as error:
        # A write-ahead log wants a file of its own beside the database, which a folder that may
        # not be written to refuses; there nobody else writes either.
        made.close()
        if (error.sqlite_errorcode & 0xFF) not in {
            sqlite3.SQLITE_CANTOPEN,
            sqlite3.SQLITE_READONLY,
        }:
            raise
        made = sqlite3.connect(
            f"{url}?mode=ro&immutable=1", uri=True, isolation_level=None, check_same_thread=False
        )
    except BaseException:  # no database, or a damaged one
        made.close()
        raise
    return made


@contextmanager
def transaction(connection: sqlite3.Connection) -> Iterator[sqlite3.Connection]:
    """All of it or nothing; a second writer is found out at the beginning, not in the middle."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield connection
        connection.execute("COMMIT")
    except BaseException:
        with suppress(*DATABASE_FAULTS):  # a full disk has rolled back already
            connection.execute("ROLLBACK")
        raise


class Database:
    """The thread that opened it keeps its connection; another thread makes one for each use.

    Threads that write take turns: SQLite would let the one that comes second ask again and again,
    in no order, and refuse it after `_WAIT_MS`.
    """

    def __init__(self, root: Path, *, reading: bool) -> None:
        """Open or make the file, mode 0600.

        Raises:
            LibraryError: it cannot be.
        """
        self._root, self._path, self.reading = root, root / FILE, reading
        self._owner, self._turn = threading.get_ident(), threading.Lock()
        try:
            if not reading:
                os.close(os.open(self._path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600))
                close_to_others(self._path)  # before SQLite gives its log the same rights
            found = self._path.stat()
        except OSError as error:
            raise of_system(error, root) from None
        self._place = (found.st_dev, found.st_ino)
        try:
            self._own = self._connect()
        except DATABASE_FAULTS as error:
            raise of_database(error, root) from None

    def _connect(self) -> sqlite3.Connection:
        made = connected(self._path, reading=self.reading)
        try:
            made.execute(f"PRAGMA busy_timeout = {_WAIT_MS}")
            made.execute("PRAGMA foreign_keys = ON")
            if not self.reading:
                # A log that is on disk when a gesture ends.
                made.execute("PRAGMA journal_mode = WAL")
                made.execute("PRAGMA synchronous = FULL")
                made.execute("PRAGMA secure_delete = ON")  # what is deleted is gone from its page
        except BaseException:
            made.close()
            raise
        return made

    @property
    def in_place(self) -> bool:
        """Whether the file that is open is still the one at its path."""
        try:
            found = self._path.stat()
        except OSError:
            return False
        return (found.st_dev, found.st_ino) == self._place

    @contextmanager
    def using(self) -> Iterator[sqlite3.Connection]:
        """A connection of this thread.

        Raises:
            LibraryError: whatever the database refuses inside.
        """
        try:
            if threading.get_ident() == self._owner:
                yield self._own
                return
            # By its path: another file may lie there by now.
            if not self.in_place:
                raise failure(Failure.GONE, self._root)
            made = self._connect()
            try:
                yield made
            finally:
                made.close()
        except DATABASE_FAULTS as error:
            raise of_database(error, self._root) from None

    @contextmanager
    def writing(self) -> Iterator[sqlite3.Connection]:
        """One transaction.

        Raises:
            LibraryError: it was refused, and nothing of it is kept.
        """
        if self.reading:
            raise LibraryError(Failure.READ_ONLY, f"{self._root}: {FOR_READING}")
        with self._taking_turns(), self.using() as connection, transaction(connection):
            yield connection

    @contextmanager
    def _taking_turns(self) -> Iterator[None]:
        if not self._turn.acquire(timeout=TURN_S):
            raise LibraryError(Failure.LOCKED, f"{self._root}: {_STILL_WRITING}")
        try:
            yield
        finally:
            self._turn.release()

    def settle(self) -> None:
        """Bring the log into the database and empty it, where nobody reads it just now."""
        with suppress(LibraryError), self._taking_turns(), self.using() as connection:
            connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")

    def faults(self) -> list[str]:
        """What SQLite finds wrong in its pages and between its tables, in sentences."""
        try:
            with self.using() as connection:
                said = [row[0] for row in connection.execute("PRAGMA integrity_check(20)")]
                torn = len(connection.execute("PRAGMA foreign_key_check").fetchall())
        except LibraryError as error:
            return [str(error)]
        found = [f"{self._path}: {one}" for one in said if one != "ok"]
        return found + ([f"{torn} rows belong to something that is gone"] if torn else [])

    def protect(self) -> None:
        """Change nothing any more: what is damaged must not be written to."""
        self.reading = True

    def close(self) -> None:
        """Let go of it."""
        with suppress(sqlite3.Error):
            self._own.close()
