"""A list to choose one thing from, with a name for who does not see what stands beside it."""

from __future__ import annotations

from PyQt6.QtWidgets import QComboBox, QWidget

__all__ = ["choice_box"]


def choice_box(name: str, parent: QWidget | None = None) -> QComboBox:
    """A box of that name. A screen reader on Linux takes what is chosen for its name, so that it is
    its description too."""
    box = QComboBox(parent)
    box.setAccessibleName(name)
    box.setAccessibleDescription(name)
    return box
