"""Whether a file can be written, asked before the work that makes it."""

from __future__ import annotations

import errno
import os
from pathlib import Path

from bralto.core.errors import UserError

__all__ = ["check_writable"]


def check_writable(*paths: Path) -> None:
    """Ask it of each; what changes until it is written is told then.

    Raises:
        UserError: a folder stands in its place, its own folder is not there, or may not be written
            into.
    """
    for path in paths:
        reason = 0
        if path.is_dir():
            reason = errno.EISDIR
        elif not path.parent.is_dir():
            reason = errno.ENOENT
        elif not os.access(path if path.exists() else path.parent, os.W_OK):
            reason = errno.EACCES
        if reason:
            raise UserError(f"{path}: cannot be written ({os.strerror(reason)})")
