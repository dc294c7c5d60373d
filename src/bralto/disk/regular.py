"""Opens files that somebody else named: regular files only, never more of them than is wanted."""

from __future__ import annotations

import os
import stat
from io import BufferedReader
from pathlib import Path

from bralto.core.errors import UserError

__all__ = ["open_regular", "read_bytes", "read_text"]

_KINDS = (
    (stat.S_ISDIR, "a folder"),
    (stat.S_ISFIFO, "a pipe"),
    (stat.S_ISSOCK, "a socket"),
    (stat.S_ISCHR, "a device"),
    (stat.S_ISBLK, "a device"),
)


def open_regular(path: Path, what: str, largest: int, name: str = "") -> BufferedReader:
    """Open a regular file for reading.

    A pipe or a device is refused without being read: neither has an end that could be relied on,
    and opening a pipe waits for a writer unless it is told not to (POSIX open(2), O_NONBLOCK).

    Args:
        what: what is wanted, such as "a study file", for messages.
        largest: bytes; a larger file is none of those.
        name: what to call it in messages, its path where that is empty.

    Raises:
        UserError: there is none, it is no file, it is too large, or it cannot be opened.
    """
    name = name or str(path)
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except FileNotFoundError:
        raise UserError(f"{name}: there is no such file; give the path of {what}") from None
    except ValueError:  # a NUL in the name
        raise UserError(f"{name!r}: no file can have that name") from None
    except OSError as error:
        raise UserError(f"{name}: cannot be read ({error.strerror})") from None
    try:
        found = os.fstat(handle)
        for is_kind, kind in _KINDS:
            if is_kind(found.st_mode):
                raise UserError(f"{name}: is {kind}, not a file; give the path of {what}")
        if found.st_size > largest:
            raise UserError(f"{name}: larger than {_size(largest)}, so not {what}")
        return os.fdopen(handle, "rb")
    except BaseException:
        os.close(handle)
        raise


def read_bytes(path: Path, what: str, largest: int) -> bytes:
    """The contents of a file; see `open_regular`. A file that grows meanwhile is refused too."""
    try:
        with open_regular(path, what, largest) as file:
            data = file.read(largest + 1)
    except OSError as error:
        raise UserError(f"{path}: cannot be read ({error.strerror})") from None
    if len(data) > largest:
        raise UserError(f"{path}: larger than {_size(largest)}, so not {what}")
    return data


def read_text(path: Path, what: str, largest: int) -> str:
    """The UTF-8 text of a file; see `read_bytes`."""
    try:
        return read_bytes(path, what, largest).decode("utf-8")
    except UnicodeDecodeError:
        raise UserError(f"{path}: not UTF-8 text; give the path of {what}") from None


def _size(count: int) -> str:
    return f"{count // 1024**2} MB" if count >= 1024**2 else f"{count // 1024} kB"
