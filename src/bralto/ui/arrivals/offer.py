"""A picture has come in while a study is open: its drawing, a later state of it, or something
new?"""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QImageReader, QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.study.stages import FIRST, stages_to_come
from bralto.core.study.values import Study
from bralto.disk.regular import open_regular
from bralto.imaging.decode import LARGEST_BYTES
from bralto.ui.room import fit_slip
from bralto.ui.running.tasks import Tasks
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["Offer"]

_SIDE = 220


def _next_name(study: Study) -> str:
    """`first`; later `state 2`, `state 3` and so on, whichever is free."""
    names = {state.name for state in study.states}
    if not names:
        return FIRST
    number = len(names) + 1
    while f"state {number}" in names:
        number += 1
    return f"state {number}"


class Offer(QDialog):
    """Ends with `choice` set: ``state``, ``study`` or nothing."""

    def __init__(
        self, path: Path, study: Study, tasks: Tasks, parent: QWidget | None = None
    ) -> None:
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
        preview.setText(path.suffix.lstrip(".").upper() or "picture")
        self.preview = preview
        # Not on this thread: a folder of a network may never answer.
        tasks.run(partial(_small, path), self._show_small, lambda _: None)
        first, of = not study.states, f"\u201c{study.title or 'Untitled study'}\u201d"
        words = QLabel(
            f"Your drawing for {of}? Its sheet is looked for."
            if first
            else f"A later state of your drawing for {of}? Its sheet is looked for, and the marks "
            "you have set are carried over for you to look at.",
            self,
        )
        words.setWordWrap(True)
        words.setMinimumWidth(320)
        self.name = QLineEdit(_next_name(study), self)
        self.name.setAccessibleName("Name of the state")
        self.stage = choice_box("Stage of the drawing", self)
        self.stage.addItem("at which stage of the drawing?", "")
        for stage in stages_to_come(self.names):
            self.stage.addItem(stage, stage)
        self.stage.activated.connect(self._name_stage)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        button = "The drawing of this study" if first else "Next state of this drawing"
        self.state = QPushButton(button, self)
        self.state.setDefault(True)
        self.new = QPushButton("New study", self)
        self.leave = QPushButton("Leave it", self)
        self.state.clicked.connect(self._as_state)
        self.new.clicked.connect(lambda: self._take("study"))
        self.leave.clicked.connect(self.reject)
        right = QVBoxLayout()
        right.setSpacing(12)
        for part in (title, words, self.stage, self.name, self.fault):
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
        fit_slip(self)

    def _name_stage(self) -> None:
        """A stage is a name; none leaves what stands there."""
        stage = str(self.stage.currentData())
        if stage:
            self.name.setText(stage)

    def _show_small(self, image: QImage) -> None:
        if not image.isNull():
            self.preview.setPixmap(QPixmap.fromImage(image))

    def _as_state(self) -> None:
        name = self.name.text().strip()
        if not name or name in self.names:
            self.fault.setText("Give this state a name of its own.")
            return
        self._take("state")

    def _take(self, choice: str) -> None:
        self.choice = choice
        self.accept()


def _small(path: Path) -> QImage:
    """Off the GUI thread: the picture as far as Qt reads it, at the size of the preview."""
    open_regular(path, "a picture", LARGEST_BYTES).close()
    reader = QImageReader(str(path))
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid():
        side = _SIDE - 8
        reader.setScaledSize(size.scaled(side, side, Qt.AspectRatioMode.KeepAspectRatio))
    return reader.read()
