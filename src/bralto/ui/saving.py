"""Where a learner wants a file: asked for, with its ending, and nothing written over unasked."""

from __future__ import annotations

import re
from collections.abc import Collection
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

__all__ = ["file_to_save", "free"]

_ENDINGS = re.compile(r"\*(\.\w+)")


def file_to_save(parent: QWidget | None, title: str, name: str, kinds: str) -> Path | None:
    """Ask for it; None where nothing was chosen.

    Args:
        name: what is proposed; its ending is added to a name that has none of those of ``kinds``,
            the filter of the dialog. That file nobody was asked about: it is numbered where it is
            there already.
    """
    chosen, _ = QFileDialog.getSaveFileName(parent, title, name, kinds)
    if not chosen:
        return None
    path = Path(chosen)
    if path.suffix.lower() in _ENDINGS.findall(kinds):
        return path
    return free(path.with_name(path.name + Path(name).suffix))


def free(path: Path, taken: Collection[Path] = ()) -> Path:
    """The path, or it with the first number that no file there and none of ``taken`` has."""
    found, number = path, 1
    while found in taken or found.exists():
        number += 1
        found = path.with_name(f"{path.stem} {number}{path.suffix}")
    return found
