"""The slip that begins a study: two pictures, a view, a name; faults are said on the slip."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QPixmap
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.core.study import PERMISSIONS, Picture, Scale, Study
from bralto.core.views.library import view_keys, view_named
from bralto.imaging.load import clean_picture
from bralto.store.intake import add_study_from_files, now_utc
from bralto.store.library import Library
from bralto.ui.arrivals.permission import permission_choice
from bralto.ui.dropping import PICTURES, local_files

__all__ = ["NewStudy"]


_SIDE = 250


class _PictureSlot(QWidget):
    """One picture: chosen or dropped, shown small, refused in place."""

    def __init__(self, name: str, words: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.path: Path | None = None
        self.trouble = ""
        self._preview = QLabel(words, self)
        self._preview.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._preview.setWordWrap(True)
        self._preview.setFixedSize(_SIDE, _SIDE)
        self._preview.setObjectName("slot")
        self.setAcceptDrops(True)
        self._button = QPushButton(f"{name} …", self)
        self._button.clicked.connect(self._choose)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        self.fault.setFixedWidth(_SIDE)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        for part in (self._preview, self._button, self.fault):
            column.addWidget(part)
        column.addStretch(1)

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Choose a picture", "", PICTURES)
        if name:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Try a picture; a bad one is refused here and nothing else changes."""
        try:
            small = clean_picture(path).thumbnail
        except UserError as error:
            self.path, self.trouble = None, str(error)
            self.fault.setText(self.trouble)
            return
        self.path, self.trouble = path, ""
        pixmap = QPixmap()
        pixmap.loadFromData(small)
        keep, smooth = Qt.AspectRatioMode, Qt.TransformationMode
        self._preview.setPixmap(
            pixmap.scaled(_SIDE - 8, _SIDE - 8, keep.KeepAspectRatio, smooth.SmoothTransformation)
        )
        self.fault.setText("")

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        if local_files(event.mimeData()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        assert event is not None
        files = local_files(event.mimeData())
        if files:
            event.acceptProposedAction()
            self.take(files[0])


class NewStudy(QDialog):
    """Accepts once both pictures are good; `study_id` is the new study then."""

    def __init__(self, library: Library, files: list[Path], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("New study")
        self._library = library
        self.study_id: str | None = None
        self.reference = _PictureSlot("Reference", "what you drew from", self)
        self.drawing = _PictureSlot("Drawing", "a photo or scan of your drawing", self)
        self.title = QLineEdit(self)
        self.title.setPlaceholderText("what it shows, which try")
        self.view = QComboBox(self)
        for key in view_keys():
            self.view.addItem(view_named(key).title, key)
        self.permission = permission_choice(self, None)
        self.start = QPushButton("Begin", self)
        self.start.setDefault(True)
        self.start.clicked.connect(self.begin)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        self._lay_out()
        for slot, path in zip((self.reference, self.drawing), files, strict=False):
            slot.take(path)

    def _lay_out(self) -> None:
        swap = QPushButton("Swap", self)
        swap.clicked.connect(self.swap)
        pictures = QHBoxLayout()
        pictures.setSpacing(20)
        pictures.addWidget(self.reference)
        pictures.addWidget(self.drawing)
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.addRow("Name", self.title)
        form.addRow("View", self.view)
        form.addRow("Comes from", self.permission)
        note = QLabel(
            "Pictures are copied into your library on this machine, without where and with whose "
            "camera they were taken. Ask before you keep a picture of a person.",
            self,
        )
        note.setObjectName("note")
        note.setWordWrap(True)
        never = QPushButton("Not now", self)
        never.clicked.connect(self.reject)
        buttons = QHBoxLayout()
        buttons.addWidget(swap)
        buttons.addStretch(1)
        buttons.addWidget(never)
        buttons.addWidget(self.start)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSizeConstraint(QLayout.SizeConstraint.SetFixedSize)  # grows with what it says
        column.setSpacing(14)
        column.addLayout(pictures)
        column.addLayout(form)
        column.addWidget(note)
        column.addWidget(self.fault)
        column.addLayout(buttons)

    def swap(self) -> None:
        """Exchange reference and drawing."""
        paths = self.drawing.path, self.reference.path
        for slot, path in zip((self.reference, self.drawing), paths, strict=True):
            if path is not None:
                slot.take(path)

    def begin(self) -> None:
        """Keep the study, or say on the slip what is missing."""
        lacking = [
            name
            for name, slot in (("the reference", self.reference), ("the drawing", self.drawing))
            if slot.path is None
        ]
        if lacking:
            self.fault.setText(f"Choose {' and '.join(lacking)} first.")
            return
        assert self.reference.path is not None
        assert self.drawing.path is not None
        key = self.view.currentData()
        said = Picture(
            "", 1, 1, permission=self.permission.currentText().strip() or PERMISSIONS[-1]
        )
        study = Study(
            title=self.title.text().strip() or self.reference.path.stem,
            view=key,
            reference=said,
            scale=Scale(view_named(key).school),
        )
        try:
            self.study_id = add_study_from_files(
                self._library, study, self.reference.path, self.drawing.path, now_utc()
            )
        except UserError as error:
            self.fault.setText(str(error))
            return
        self.accept()
