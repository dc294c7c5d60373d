"""Writes files that are the learner's alone: whole or not at all, and on disk when it returns."""

from __future__ import annotations

import errno
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

__all__ = [
    "PARTIAL",
    "close_to_others",
    "make_private_folder",
    "sync_file",
    "sync_folder",
    "write_private",
    "written_whole",
]

PARTIAL = ".partial-"
"""How the names of files begin that are still being written; a crash may leave one."""


@contextmanager
def written_whole(path: Path, *, mode: int = 0o600) -> Iterator[Path]:
    """A neighbour to write to, empty and there already, that takes the file's place at the end.

    Where that fails, what was there stays and no neighbour is left behind, nor what SQLite puts
    beside it: on a full disk the room is wanted. Two that are written at once do not meet.

    Raises:
        OSError: the disk refused.
    """
    partial = path.with_name(f"{PARTIAL}{os.urandom(6).hex()}")
    os.close(os.open(partial, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, mode))
    try:
        yield partial
        sync_file(partial)
        partial.replace(path)
    except BaseException:
        for end in ("", "-journal", "-wal", "-shm"):
            Path(f"{partial}{end}").unlink(missing_ok=True)
        raise
    sync_folder(path.parent)


def write_private(path: Path, data: bytes, *, mode: int = 0o600) -> None:
    """Write a file whole or not at all, see `written_whole`."""
    with written_whole(path, mode=mode) as partial:
        partial.write_bytes(data)


def sync_file(path: Path) -> None:
    """Put a file's contents on disk."""
    _sync(path, os.O_RDONLY)


def sync_folder(folder: Path) -> None:
    """Put a folder's list of names on disk; a new file's name is there only after that."""
    _sync(folder, os.O_RDONLY | os.O_DIRECTORY)


_NOT_THERE = {errno.EINVAL, errno.ENOTSUP, errno.ENOSYS}
"""How shares of a network say that they cannot be asked for it."""


def _sync(path: Path, how: int) -> None:
    handle = os.open(path, how | os.O_CLOEXEC)
    try:
        os.fsync(handle)
    except OSError as error:
        if error.errno not in _NOT_THERE:
            raise
    finally:
        os.close(handle)


def make_private_folder(folder: Path, *, parents: bool = False) -> None:
    """Make a folder that only its owner may enter, and close one that is there already.

    Raises:
        OSError: it cannot be made.
    """
    folder.mkdir(parents=parents, exist_ok=True, mode=0o700)
    close_to_others(folder)


def close_to_others(path: Path) -> None:
    """Take every right away from group and others; where that is not ours to do, it stays."""
    try:
        now = path.stat().st_mode & 0o777
        if now & 0o077:
            path.chmod(now & 0o700)
    except OSError:
        return
