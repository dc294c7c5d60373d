"""The learner's own library, for commands that read it."""

from __future__ import annotations

from bralto.core.errors import UserError
from bralto.store.learners import current_library
from bralto.store.library import Library

__all__ = ["open_library"]


def open_library() -> Library:
    """The library, for reading.

    Raises:
        UserError: there is none.
    """
    folder = current_library()
    if not folder.exists():
        raise UserError(f"{folder}: there is no library yet; open Bralto once, or import studies")
    return Library.open(folder, reading=True)
