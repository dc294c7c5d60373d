"""A learner's own view in, from a TOML file."""

from __future__ import annotations

from pathlib import Path

from bralto.core.measures.own_view import parse_own_view
from bralto.core.views.model import View
from bralto.disk.regular import read_text

__all__ = ["read_own_view"]

_LARGEST = 256 * 1024


def read_own_view(path: Path) -> View:
    """Read a view in the form of the shipped ones.

    Raises:
        UserError: one sentence with the file, the line and the fault.
    """
    return parse_own_view(read_text(path, "a view in TOML", _LARGEST), str(path))
