"""A picture has come in while a study is open: the next state of its drawing, or something new?"""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.study import Study

__all__ = ["Offer"]

_SIDE = 220


def _next_name(study: Study) -> str:
    """`state 2`, `state 3` and so on, whichever is free."""
    names = {state.name for state in study.states}
    number = len(names) + 1
    while f"state {number}" in names:
        number += 1
    return f"state {number}"


class Offer(QDialog):
    """Ends with `choice` set: ``state``, ``study`` or nothing."""

    def __init__(self, path: Path, study: Study, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("A picture has come in")
        self.path, self.choice = path, ""
        self.names = {state.name for state in study.states}
        title = QLabel(path.name, self)
        title.setObjectName("panel")
        preview = QLabel(self)
        preview.setFixedSize(_SIDE, _SIDE)
        preview.setObjectName("slot")
        preview.setAlignment(Qt.AlignmentFlag.AlignCenter)
        small = QPixmap(str(path))
        if small.isNull():
            preview.setText(path.suffix.lstrip(".").upper() or "picture")
        else:
            keep, smooth = Qt.AspectRatioMode, Qt.TransformationMode
            preview.setPixmap(
                small.scaled(
                    _SIDE - 8, _SIDE - 8, keep.KeepAspectRatio, smooth.SmoothTransformation
                )
            )
        words = QLabel(
            f"A later state of your drawing for \u201c{study.title}\u201d? "
            "Its sheet is looked for, and the marks you have set are carried over for you "
            "to look at.",
            self,
        )
        words.setWordWrap(True)
        words.setMinimumWidth(320)
        self.name = QLineEdit(_next_name(study), self)
        self.name.setAccessibleName("Name of the state")
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.state = QPushButton("Next state of this drawing", self)
        self.state.setDefault(True)
        self.new = QPushButton("New study", self)
        self.leave = QPushButton("Leave it", self)
        self.state.clicked.connect(self._as_state)
        self.new.clicked.connect(lambda: self._take("study"))
        self.leave.clicked.connect(self.reject)
        right = QVBoxLayout()
        right.setSpacing(12)
        for part in (title, words, self.name, self.fault):
            right.addWidget(part)
        right.addStretch(1)
        upper = QHBoxLayout()
        upper.setSpacing(20)
        upper.addWidget(preview)
        upper.addLayout(right)
        buttons = QHBoxLayout()
        buttons.addWidget(self.leave)
        buttons.addStretch(1)
        buttons.addWidget(self.new)
        buttons.addWidget(self.state)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(16)
        column.addLayout(upper)
        column.addLayout(buttons)

    def _as_state(self) -> None:
        name = self.name.text().strip()
        if not name or name in self.names:
            self.fault.setText("Give this state a name of its own.")
            return
        self._take("state")

    def _take(self, choice: str) -> None:
        self.choice = choice
        self.accept()
