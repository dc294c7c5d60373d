"""Where things are kept, after the XDG base directory specification."""

from __future__ import annotations

import os
from pathlib import Path

__all__ = ["library_folder", "name_library", "named_library"]

_named: list[Path] = []


def name_library(folder: Path | None) -> None:
    """Say which library this run is about, `--library` before a command; None for none."""
    _named[:] = [] if folder is None else [folder.absolute()]


def named_library() -> Path | None:
    """The library that was named for this run, or None."""
    return _named[0] if _named else None


def library_folder() -> Path:
    """The learner's own library: `BRALTO_LIBRARY`, else `$XDG_DATA_HOME/bralto/library`."""
    own = os.environ.get("BRALTO_LIBRARY")
    if own:
        return Path(own)
    said = os.environ.get("XDG_DATA_HOME", "")
    base = Path(said) if said.startswith("/") else Path.home() / ".local" / "share"
    return base / "bralto" / "library"
