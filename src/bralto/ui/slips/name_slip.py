"""A small slip: a title, what is asked, two buttons; and the one that asks for a name."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.ui.room import fit_slip

__all__ = ["AskSlip", "NameSlip"]

_LONGEST = 300


class AskSlip(QDialog):
    """A title, what is asked, two buttons."""

    def __init__(self, title: str, accept: str, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(title)
        heading = QLabel(title, self)
        heading.setObjectName("panel")
        self.keep = QPushButton(accept, self)
        self.keep.setDefault(True)
        self.keep.clicked.connect(self.accept)
        self.leave = QPushButton("Not now", self)
        self.leave.clicked.connect(self.reject)
        self.body = QVBoxLayout()
        self.body.setSpacing(10)
        row = QHBoxLayout()
        row.addWidget(self.leave)
        row.addStretch(1)
        row.addWidget(self.keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(14)
        column.addWidget(heading)
        column.addLayout(self.body)
        column.addLayout(row)
        self._fitted = False

    def showEvent(self, event: QShowEvent | None) -> None:
        if not self._fitted:
            self._fitted = True
            fit_slip(self)  # what is asked is there by now
        super().showEvent(event)


class NameSlip(AskSlip):
    """Accepted, ``name`` has the name."""

    def __init__(
        self, title: str, accept: str, name: str, parent: QWidget | None = None, about: str = ""
    ) -> None:
        super().__init__(title, accept, parent)
        if about:
            words = QLabel(about, self)
            words.setWordWrap(True)
            self.body.addWidget(words)
        self.name = QLineEdit(name, self)
        self.name.setMaxLength(_LONGEST)
        self.name.setAccessibleName("Name")
        self.name.setMinimumWidth(380)
        self.name.selectAll()
        self.body.addWidget(self.name)
