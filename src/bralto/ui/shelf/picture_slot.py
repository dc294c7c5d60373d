"""One picture of a study that is to be begun."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QPixmap
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.imaging.load import CleanPicture, clean_picture
from bralto.ui.arrivals.dropping import PICTURES, Loose, accept_pictures, dropped_files
from bralto.ui.running.tasks import Tasks

__all__ = ["PictureSlot"]

_SIDE = 250


class PictureSlot(QWidget):
    """One picture: chosen or dropped, shown small, refused in place, left out again."""

    changed = pyqtSignal()
    """A picture is there, refused or left out."""

    def __init__(self, name: str, words: str, tasks: Tasks, parent: QWidget) -> None:
        super().__init__(parent)
        self._tasks = tasks
        self._coming: Path | None = None
        self._loose = Loose()
        self.path: Path | None = None
        self.clean: CleanPicture | None = None
        self.trouble = ""
        self._words = words
        self._preview = QLabel(words, self)
        self._preview.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._preview.setWordWrap(True)
        self._preview.setFixedSize(_SIDE, _SIDE)
        self._preview.setObjectName("slot")
        self.setAcceptDrops(True)
        self._button = QPushButton(f"{name} …", self)
        self._button.clicked.connect(self._choose)
        self.leave_out = QPushButton("Leave out", self)
        self.leave_out.setAccessibleName(f"Leave the {name.lower()} out")
        self.leave_out.clicked.connect(lambda: self.hold(None))
        self.leave_out.hide()
        buttons = QHBoxLayout()
        buttons.addWidget(self._button, 1)
        buttons.addWidget(self.leave_out)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        self.fault.setFixedWidth(_SIDE)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._preview)
        column.addLayout(buttons)
        column.addWidget(self.fault)
        column.addStretch(1)

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Choose a picture", "", PICTURES)
        if name:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Open a picture off the GUI thread; a bad one is refused here and nothing else changes."""
        self._coming = path
        self.fault.setText("")
        self._preview.setText(f"Opening {path.name} …")
        self.changed.emit()
        self._tasks.run(
            partial(clean_picture, path),
            partial(self._show_clean, path),
            partial(self._refuse, path),
        )

    @property
    def taken(self) -> tuple[Path, CleanPicture] | None:
        """The picture that was chosen and opened, or None."""
        if self.path is None or self.clean is None:
            return None
        return self.path, self.clean

    @property
    def opening(self) -> bool:
        """Whether a picture is on its way."""
        return self._coming is not None

    def _refuse(self, path: Path, message: str) -> None:
        if path != self._coming:
            return
        self.hold(None)
        self._preview.setText("choose another picture")
        self.trouble = message
        self.fault.setText(message)
        self.leave_out.show()
        self.changed.emit()

    def _show_clean(self, path: Path, clean: CleanPicture) -> None:
        if path == self._coming:  # else another was chosen meanwhile, or none
            self.hold((path, clean))

    def hold(self, taken: tuple[Path, CleanPicture] | None) -> None:
        """Show a picture that has been opened; None, no picture."""
        self._coming, self.trouble = None, ""
        self.path, self.clean = taken or (None, None)
        self.fault.setText("")
        self.leave_out.setVisible(taken is not None)
        if self.clean is None:
            self._preview.setText(self._words)
        else:
            pixmap = QPixmap()
            pixmap.loadFromData(self.clean.thumbnail)
            keep, smooth = Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode
            side = _SIDE - 8
            self._preview.setPixmap(pixmap.scaled(side, side, keep, smooth.SmoothTransformation))
        self.changed.emit()

    def say_empty(self, words: str) -> None:
        """What stands there while no picture does."""
        if words != self._words and self._preview.text() == self._words:
            self._preview.setText(words)
        self._words = words

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_pictures(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        self._take_first(lambda: dropped_files(event, self._loose))

    def paste(self) -> None:
        """The picture on the clipboard."""
        self._take_first(self._loose.pasted)

    def _take_first(self, coming: Callable[[], list[Path]]) -> None:
        try:
            files = coming()
        except UserError as error:
            self.fault.setText(str(error))
            return
        if files:
            self.take(files[0])
