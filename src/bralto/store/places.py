"""Where things are kept, after the XDG base directory specification."""

from __future__ import annotations

import os
from pathlib import Path

import platformdirs

__all__ = ["library_folder"]


def library_folder() -> Path:
    """The learner's own library: `BRALTO_LIBRARY`, else `$XDG_DATA_HOME/bralto/library`."""
    own = os.environ.get("BRALTO_LIBRARY")
    return Path(own) if own else platformdirs.user_data_path("bralto") / "library"
