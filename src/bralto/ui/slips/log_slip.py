"""What the learner writes about a study afterwards: what went well, what next."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.session.notes import Notes
from bralto.ui.room import fit_slip
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["LOG_TITLES", "RATINGS", "LogSlip", "lines_edit"]

LOG_TITLES = {
    "well": "What went well?",
    "next": "What to measure more carefully next time?",
    "materials": "Paper, pencil, light",
    "before": "How close is it? Before any figure was seen",
    "after": "and after",
}
RATINGS = ("not said", "1  far off", "2", "3  so so", "4", "5  very close")
"""The learner's own; the first character is what is kept."""

_LINES = 3


def lines_edit(asked: str, parent: QWidget) -> QPlainTextEdit:
    """A few lines to write an answer on; Tab leaves them."""
    edit = QPlainTextEdit(parent)
    edit.setAccessibleName(asked)
    edit.setTabChangesFocus(True)
    edit.setFixedHeight(_LINES * edit.fontMetrics().lineSpacing() + 16)
    return edit


class LogSlip(QDialog):
    """Accepted, `noted` has what was written."""

    def __init__(self, title: str, notes: Notes, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Your log")
        self._notes = notes
        heading = QLabel(title, self)
        heading.setObjectName("panel")
        heading.setTextFormat(Qt.TextFormat.PlainText)
        heading.setWordWrap(True)
        self.well, self.following = (self._lines(key) for key in ("well", "next"))
        self.materials = QLineEdit(notes.log.get("materials", ""), self)
        self.materials.setAccessibleName(LOG_TITLES["materials"])
        self.before, self.after = (self._rating(key) for key in ("before", "after"))
        form = QFormLayout()
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        form.setSpacing(6)
        form.addRow(LOG_TITLES["well"], self.well)
        form.addRow(LOG_TITLES["next"], self.following)
        form.addRow(LOG_TITLES["materials"], self.materials)
        rated = QHBoxLayout()
        rated.addWidget(self.before, 1)
        rated.addWidget(QLabel(LOG_TITLES["after"], self))
        rated.addWidget(self.after, 1)
        form.addRow(LOG_TITLES["before"], rated)
        self.keep = QPushButton("Keep", self)
        self.keep.setDefault(True)
        self.keep.clicked.connect(self.accept)
        leave = QPushButton("Not now", self)
        leave.clicked.connect(self.reject)
        row = QHBoxLayout()
        row.addWidget(leave)
        row.addStretch(1)
        row.addWidget(self.keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(12)
        column.addWidget(heading)
        column.addLayout(form)
        column.addLayout(row)
        self.setMinimumWidth(460)
        fit_slip(self)

    def _lines(self, key: str) -> QPlainTextEdit:
        edit = lines_edit(LOG_TITLES[key], self)
        edit.setPlainText(self._notes.log.get(key, ""))
        return edit

    def _rating(self, key: str) -> QComboBox:
        choice = choice_box(f"{LOG_TITLES['before'].split('?')[0]}, {key}", self)
        choice.addItems(RATINGS)
        kept = self._notes.log.get(key, "")
        choice.setCurrentIndex(int(kept) if kept in {"1", "2", "3", "4", "5"} else 0)
        return choice

    def noted(self) -> Notes:
        """The notes with what stands in the slip."""
        notes = self._notes.wrote("well", self.well.toPlainText())
        notes = notes.wrote("next", self.following.toPlainText())
        notes = notes.wrote("materials", self.materials.text())
        for key, choice in (("before", self.before), ("after", self.after)):
            rated = choice.currentIndex()
            notes = notes.wrote(key, str(rated) if rated else "")
        return notes
