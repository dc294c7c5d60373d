"""Names of files as text."""

from __future__ import annotations

import os
from pathlib import Path

__all__ = ["name_of_file"]


def name_of_file(path: Path) -> str:
    """Its name as text that can be kept and shown: bytes that are no UTF-8, as old archives and
    sticks have them in names, as the sign for what cannot be read."""
    return os.fsencode(path.name).decode("utf-8", "replace")
