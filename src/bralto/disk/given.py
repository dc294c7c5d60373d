"""Writes a file that a learner asked for, wherever they want it."""

from __future__ import annotations

import os
from pathlib import Path

from bralto.core.errors import UserError
from bralto.disk.private import write_private

__all__ = ["GIVEN", "write_given"]

GIVEN = 0o666
"""Rights of such a file, less what the learner's umask takes: it may be meant for others."""


def write_given(path: Path, data: bytes) -> None:
    """Write a file whole or not at all: on a full disk what stood there before stays.

    Raises:
        UserError: it cannot be written there.
    """
    try:
        if path.exists() and not path.is_file():
            path.write_bytes(data)  # a pipe or a device, whose place no file may take
        else:
            write_private(path, data, mode=GIVEN)
    except OSError as error:
        reason = error.strerror or os.strerror(error.errno or 0)
        raise UserError(f"{path}: cannot be written ({reason})") from None
