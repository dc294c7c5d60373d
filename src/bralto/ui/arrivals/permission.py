"""Whose picture is it? Asked once for a picture of a person that says nothing of it."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.study.values import PERMISSIONS
from bralto.ui.room import fit_slip
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["PermissionSlip", "permission_choice"]


def permission_choice(parent: QWidget, said: str | None) -> QComboBox:
    """A choice of `PERMISSIONS` that takes the learner's own words too."""
    choice = choice_box("Where the picture comes from", parent)
    choice.setEditable(True)
    choice.addItems(PERMISSIONS)
    choice.setCurrentText(said or PERMISSIONS[-1])
    return choice


class PermissionSlip(QDialog):
    """Accepted, ``said`` is what was chosen."""

    def __init__(self, said: str | None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Where the picture comes from")
        title = QLabel("Whose picture is this?", self)
        title.setObjectName("panel")
        words = QLabel(
            "A picture of a person belongs to that person too. Keep only what you made yourself, "
            "were allowed to use, or may use by law; ask the model before you show it to others. "
            "Pictures stay on this machine.",
            self,
        )
        words.setWordWrap(True)
        words.setMinimumWidth(420)
        self.choice = permission_choice(self, said)
        keep = QPushButton("Keep", self)
        keep.setDefault(True)
        keep.clicked.connect(self.accept)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(14)
        for part in (title, words, self.choice):
            column.addWidget(part)
        column.addLayout(row)
        fit_slip(self)

    @property
    def said(self) -> str:
        """In the learner's words; ``not stated`` where there are none."""
        return self.choice.currentText().strip() or PERMISSIONS[-1]
