"""The name of a point of one's own."""

from __future__ import annotations

from PyQt6.QtCore import Qt
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

__all__ = ["PointSlip"]

_LONGEST = 60


class PointSlip(QDialog):
    """Accepted, ``name`` has what it is called."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("A point of your own")
        heading = QLabel("A point of your own", self)
        heading.setObjectName("panel")
        about = QLabel("The corner of a shadow, a knot in the drapery, the end of a staff.", self)
        about.setWordWrap(True)
        self.name = QLineEdit(name, self)
        self.name.setMaxLength(_LONGEST)
        self.name.setAccessibleName("Name of the point")
        self.name.setPlaceholderText("its name")
        self.name.selectAll()
        leave, self.keep = QPushButton("Not now", self), QPushButton("Mark it", self)
        if name:
            self.keep.setText("Name it so")
        leave.clicked.connect(self.reject)
        self.keep.setDefault(True)
        self.keep.clicked.connect(self.accept)
        row = QHBoxLayout()
        row.addWidget(leave)
        row.addStretch(1)
        row.addWidget(self.keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(12)
        for part in (heading, about, self.name):
            column.addWidget(part)
        column.addLayout(row)
        fit_slip(self)
