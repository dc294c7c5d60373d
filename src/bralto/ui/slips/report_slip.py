"""What went wrong inside Bralto, to be read and deleted; it is never sent."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.disk.reports import Reports
from bralto.ui.room import fit_slip

__all__ = ["ReportSlip"]


class ReportSlip(QDialog):
    """Shows the reports that are kept."""

    deleted = pyqtSignal()

    def __init__(self, reports: Reports, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("What went wrong")
        self.resize(720, 460)
        self._reports = reports
        title = QLabel("What went wrong inside Bralto", self)
        title.setObjectName("panel")
        words = QLabel(
            f"Kept in {reports.folder}. It has places in the program, no titles, marks or names of "
            "pictures, and it is never sent: give it to whoever mends Bralto for you, if you like.",
            self,
        )
        words.setObjectName("note")
        words.setWordWrap(True)
        self.text = QPlainTextEdit(reports.text(), self)
        self.text.setReadOnly(True)
        self.text.setAccessibleName("The report")
        self.delete = QPushButton("Delete it", self)
        self.delete.clicked.connect(self._delete)
        done = QPushButton("Done", self)
        done.setDefault(True)
        done.clicked.connect(self.accept)
        row = QHBoxLayout()
        row.addWidget(self.delete)
        row.addStretch(1)
        row.addWidget(done)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(12)
        column.addWidget(title)
        column.addWidget(words)
        column.addWidget(self.text, 1)
        column.addLayout(row)
        fit_slip(self)

    def _delete(self) -> None:
        self._reports.delete()
        self.text.setPlainText("")
        self.delete.setEnabled(False)
        self.deleted.emit()
