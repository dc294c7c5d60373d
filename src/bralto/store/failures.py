"""What can be wrong with a library, each kind with its own sentence and its own ways out."""

from __future__ import annotations

import errno
import sqlite3
from enum import Enum, auto
from pathlib import Path

from bralto.core.errors import UserError

__all__ = ["DATABASE_FAULTS", "Failure", "LibraryError", "failure", "of_database", "of_system"]


class Failure(Enum):
    """Kinds that want different ways out."""

    FULL = auto()
    READ_ONLY = auto()
    LOCKED = auto()
    IN_USE = auto()
    CANNOT_OPEN = auto()
    NOT_A_LIBRARY = auto()
    DAMAGED = auto()
    NEWER = auto()
    EMPTIED = auto()
    GONE = auto()
    ELSEWHERE = auto()
    """A study was changed or removed by somebody else since it was read."""
    REFUSED = auto()
    """A rule of the tables, such as two states of one name."""


class LibraryError(UserError):
    """A library or a change of it that cannot be had; ``kind`` says why, the text what to do."""

    def __init__(self, kind: Failure, message: str) -> None:
        super().__init__(message)
        self.kind = kind


_SENTENCES = {
    Failure.FULL: "the disk is full; make room there, then try again. What was kept before is safe",
    Failure.READ_ONLY: "this folder may not be written to; give yourself the right to write there, "
    "or look at it for reading only",
    Failure.LOCKED: "another program holds the database; close it, then try again",
    Failure.IN_USE: "{detail} has this library open; close it there, then try again",
    Failure.CANNOT_OPEN: "the library cannot be opened{detail}; see whether its disk is there and "
    "in order",
    Failure.NOT_A_LIBRARY: "library.sqlite3 there is not one of Bralto's; choose another folder, "
    "or move that file away",
    Failure.DAMAGED: "the library is damaged{detail}; a backup can be put back",
    Failure.NEWER: "this library was written by a newer Bralto{detail}; update Bralto",
    Failure.EMPTIED: "the pictures are there but the database that knew them is{detail}; "
    "put a backup back, or begin a new library beside it",
    Failure.GONE: "the library's folder is not where it was; what you do stays in memory until you "
    "choose another place for it",
}


def failure(kind: Failure, where: Path, detail: str = "") -> LibraryError:
    """The failure of a library folder in one sentence; ``detail`` goes where the kind wants it."""
    return LibraryError(kind, f"{where}: {_SENTENCES[kind].format(detail=detail)}")


_BY_CODE = {
    sqlite3.SQLITE_FULL: Failure.FULL,
    sqlite3.SQLITE_READONLY: Failure.READ_ONLY,
    sqlite3.SQLITE_PERM: Failure.READ_ONLY,
    sqlite3.SQLITE_BUSY: Failure.LOCKED,
    sqlite3.SQLITE_LOCKED: Failure.LOCKED,
    sqlite3.SQLITE_CANTOPEN: Failure.CANNOT_OPEN,
    sqlite3.SQLITE_IOERR: Failure.CANNOT_OPEN,
    sqlite3.SQLITE_NOTADB: Failure.NOT_A_LIBRARY,
    sqlite3.SQLITE_CORRUPT: Failure.DAMAGED,
    sqlite3.SQLITE_ERROR: Failure.DAMAGED,  # a table or column that should be there is not
    sqlite3.SQLITE_CONSTRAINT: Failure.REFUSED,
}


DATABASE_FAULTS = (sqlite3.Error, UnicodeDecodeError)
"""What the driver raises: the second where SQLite's message names something of a damaged file that
is no text."""


def of_database(error: sqlite3.Error | UnicodeDecodeError, where: Path) -> LibraryError:
    """What SQLite says, by its primary result code (sqlite.org/rescode.html)."""
    code = getattr(error, "sqlite_errorcode", None)
    kind = Failure.DAMAGED if code is None else _BY_CODE.get(code & 0xFF, Failure.CANNOT_OPEN)
    if kind is Failure.REFUSED:
        return LibraryError(kind, f"{where}: the change was not kept ({error})")
    return failure(kind, where, f" ({error})")


def of_system(error: OSError, where: Path) -> LibraryError:
    """What the system says."""
    if error.errno in {errno.ENOSPC, errno.EDQUOT, errno.EFBIG}:
        return failure(Failure.FULL, where)
    if error.errno in {errno.EROFS, errno.EACCES, errno.EPERM}:
        return failure(Failure.READ_ONLY, where)
    return failure(Failure.CANNOT_OPEN, where, f" ({error.strerror})")
