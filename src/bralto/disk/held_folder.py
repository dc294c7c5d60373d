"""Folders for files on their way, which nobody else can open and no crash leaves behind."""

from __future__ import annotations

import fcntl
import os
import shutil
import stat
import tempfile
import time
from contextlib import suppress
from itertools import chain
from pathlib import Path
from typing import Literal, get_args
from weakref import finalize

from bralto.core.errors import UserError

__all__ = ["HeldFolder", "clear_abandoned"]

Kind = Literal["passing", "demo"]
"""What the name of a folder tells of what lies in it."""

_YOUNG_S = 60.0
"""A folder that is younger may not be held yet by the process that has just made it."""


class HeldFolder:
    """A new folder among the temporary files, mode 0700; gone with this object, and held until then
    (flock(2)), so that `clear_abandoned` knows it from those whose process was killed."""

    def __init__(self, kind: Kind = "passing") -> None:
        """Make it.

        Raises:
            UserError: there is no place for it.
        """
        try:
            self.path = Path(tempfile.mkdtemp(prefix=_prefix(kind), dir=_place()))
        except OSError as error:
            words = f"There is no place for temporary files in {_place()}: {error.strerror}."
            raise UserError(words) from None
        handle = _held(self.path)
        self._end = finalize(self, _remove, self.path, handle)

    def __enter__(self) -> Path:
        return self.path

    def __exit__(self, *_: object) -> None:
        self.remove()

    def remove(self) -> None:
        """The folder and what lies in it; once only."""
        self._end()


def clear_abandoned() -> None:
    """Remove this user's folders whose process ended without doing so, however it ended."""
    for path in chain.from_iterable(_place().glob(f"{_prefix(kind)}*") for kind in get_args(Kind)):
        try:
            found = path.lstat()
        except OSError:
            continue
        own = stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid()
        if not own or time.time() - found.st_mtime < _YOUNG_S:
            continue
        handle = _held(path)
        if handle is not None:
            _remove(path, handle)


def _prefix(kind: str) -> str:
    return f"bralto-{kind}-"


def _place() -> Path:
    """Where temporary files belong; never the current folder, as `tempfile` would have it where
    there is no such place."""
    return Path(os.environ.get("TMPDIR") or "/tmp")


def _held(path: Path) -> int | None:
    """A handle that holds a folder, or None where another process does, or folders know no
    locks."""
    with suppress(OSError):
        handle = os.open(path, os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            os.close(handle)
            raise
        return handle
    return None


def _remove(path: Path, handle: int | None) -> None:
    shutil.rmtree(path, ignore_errors=True)
    if handle is not None:
        os.close(handle)
