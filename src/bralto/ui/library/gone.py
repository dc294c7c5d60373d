"""The library's folder has gone while the window is open: another place for what is in memory."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.core.words.phrases import sentence
from bralto.store.library import Library
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.room import fit_slip

__all__ = ["GoneSlip"]


class GoneSlip(QDialog):
    """Emits `moved` with the folder that has everything now."""

    moved = pyqtSignal(Path)

    def __init__(
        self, library: Library, study: OpenStudy | None, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("The library's folder is gone")
        self._library, self._study = library, study
        title = QLabel("The library's folder is gone", self)
        title.setObjectName("panel")
        words = QLabel(
            f"{library.root} was removed, renamed or exchanged while Bralto had it open. Nothing "
            "is lost yet: studies and marks are in memory, and so is what you do from now on. "
            "Once Bralto is closed they are gone, unless you give them another place.",
            self,
        )
        words.setWordWrap(True)
        words.setMinimumWidth(480)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        self.back = QPushButton("It is back again", self)
        self.back.clicked.connect(self._look_again)
        self.leave = QPushButton("Go on in memory", self)
        self.leave.clicked.connect(self.reject)
        self.choose = QPushButton("Choose another place …", self)
        self.choose.setDefault(True)
        self.choose.clicked.connect(self._choose)
        row = QHBoxLayout()
        row.addWidget(self.leave)
        row.addStretch(1)
        row.addWidget(self.back)
        row.addWidget(self.choose)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(14)
        for part in (title, words, self.fault):
            column.addWidget(part)
        column.addLayout(row)
        fit_slip(self)

    def _look_again(self) -> None:
        if self._library.in_place:
            self.accept()
        else:
            self.fault.setText(f"It is not the same folder that lies at {self._library.root}.")

    def _choose(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "An empty folder for the library")
        if name:
            self.move_to(Path(name))

    def move_to(self, folder: Path) -> None:
        """Put everything into a folder, or one of its own in it where it is not empty."""
        try:
            empty = folder.is_dir() and not any(folder.iterdir())
        except OSError as error:
            self.fault.setText(f"{folder}: {error.strerror}.")
            return
        root = folder if empty else folder / "bralto-library"
        study = self._study
        try:
            if study is not None:
                study.time.keep()
            self._library.copy_to(root)
            if study is not None and study.document.unkept:
                with Library.open(root) as made:
                    made.edits.replace(study.id, study.study)
        except UserError as error:
            self.fault.setText(sentence(str(error)))
            return
        self.moved.emit(root)
        self.accept()
