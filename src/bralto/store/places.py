"""Where things are kept, after the XDG base directory specification."""

from __future__ import annotations

import os
from pathlib import Path

__all__ = ["library_folder"]


def library_folder() -> Path:
    """The learner's own library: `BRALTO_LIBRARY`, else `$XDG_DATA_HOME/bralto/library`."""
    own = os.environ.get("BRALTO_LIBRARY")
    if own:
        return Path(own)
    said = os.environ.get("XDG_DATA_HOME", "")
    base = Path(said) if said.startswith("/") else Path.home() / ".local" / "share"
    return base / "bralto" / "library"
