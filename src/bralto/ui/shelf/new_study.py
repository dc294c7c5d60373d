"""The slip that begins a study: two pictures, a view, a name; faults are said on the slip."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.canons.shipped_canons import canons_of
from bralto.core.errors import UserError
from bralto.core.page.photo import NEAR_M
from bralto.core.study.taken import Sightings
from bralto.core.study.values import PERMISSIONS, Picture, Scale, Study
from bralto.core.terms import StudyKind
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.core.views.typical import typical_of
from bralto.disk.names import name_of_file
from bralto.store.instants import now_utc
from bralto.store.intake import add_study
from bralto.store.library import Library
from bralto.ui.arrivals.permission import permission_choice
from bralto.ui.room import fit_slip
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.picture_slot import PictureSlot
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["NewStudy"]


_REFERENCE = "what you drew from"
_LIFE = "from life"
"""Among the averages: what is no average and no picture either."""


class NewStudy(QDialog):
    """Accepts once both pictures are good; `study_id` is the new study then."""

    def __init__(
        self,
        library: Library,
        files: list[Path],
        tasks: Tasks,
        parent: QWidget | None = None,
        *,
        from_life: bool = False,
    ) -> None:
        """``from_life``: a figure is to be sighted, without any picture."""
        super().__init__(parent)
        self.setWindowTitle("New study")
        self._library = library
        self.study_id: str | None = None
        self.reference = PictureSlot("Reference", _REFERENCE, tasks, self)
        self.drawing = PictureSlot("Drawing", "a photo or scan, once you have drawn", tasks, self)
        for slot in (self.reference, self.drawing):
            slot.changed.connect(self._on_changed)
        self._begin_when_open = False
        self.title = QLineEdit(self)
        self.title.setPlaceholderText("what it shows, which try")
        self.view = choice_box("View", self)
        for key in view_keys():
            self.view.addItem(view_named(key).title, key)
        self.view.setCurrentIndex(self.view.findData("figure-front"))
        self.view.currentIndexChanged.connect(lambda _: self._say_hint())
        self.canon = choice_box("What it is held against without a photo", self)
        short = QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
        self.canon.setSizeAdjustPolicy(short)
        self.canon.setMinimumContentsLength(36)
        self.canon.currentIndexChanged.connect(lambda _: self._on_changed())
        self.swapping = QPushButton("Swap", self)
        self.swapping.clicked.connect(self.swap)
        self.hint = QLabel("", self)
        self.hint.setObjectName("note")
        self.permission = permission_choice(self, None)
        self.start = QPushButton("Begin", self)
        self.start.setDefault(True)
        self.start.clicked.connect(self.begin)
        self.fault = QLabel("", self)
        self.fault.setObjectName("trouble")
        self.fault.setWordWrap(True)
        QShortcut(QKeySequence(QKeySequence.StandardKey.Paste), self, self.paste)
        self._lay_out()
        self._say_hint()
        if from_life:
            self.canon.setCurrentIndex(self.canon.findData(_LIFE))
        for slot, path in zip((self.reference, self.drawing), files, strict=False):
            slot.take(path)
        fit_slip(self)

    def _lay_out(self) -> None:
        pictures = QHBoxLayout()
        pictures.setSpacing(20)
        pictures.addWidget(self.reference)
        pictures.addWidget(self.drawing)
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.addRow("Name", self.title)
        form.addRow("View", self.view)
        form.addRow("", self.hint)
        form.addRow("Comes from", self.permission)
        form.addRow("No reference?", self.canon)
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
        buttons.addWidget(self.swapping)
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

    def _say_hint(self) -> None:
        """How a photo for this view is best taken, and what an imagined drawing is held against."""
        key = str(self.view.currentData())
        self.canon.clear()
        self.canon.addItem("from life or imagination …", None)
        if typical_of(key) is not None:
            self.canon.addItem("from life: sighted by pencil and thumb", _LIFE)
        for one in canons_of(key):
            self.canon.addItem(f"imagined, held against {one.title}: {one.note}", one.key)
        self._on_changed()
        away = f"A photo of a person: from {NEAR_M:g} m or more, or what is near looks large."
        if key == "object":
            away = ""
        elif key.startswith("head-front"):
            away += "\nThe face straight to the camera, the lens as high as the eyes."
        self.hint.setText(away)
        self.hint.setVisible(bool(away))

    def paste(self) -> None:
        """The picture on the clipboard, where none is yet; the drawing where both are."""
        there = self.reference.taken is not None or self.canon.currentData() is not None
        (self.drawing if there or self.reference.opening else self.reference).paste()

    def swap(self) -> None:
        """Exchange reference and drawing; where there is but one, it is the other then."""
        drawing, reference = self.drawing.taken, self.reference.taken
        self.reference.hold(drawing)
        self.drawing.hold(reference)

    def _on_changed(self) -> None:
        """A picture came or went, or what stands in the reference's place was chosen."""
        opening = self.reference.opening or self.drawing.opening
        some = self.reference.taken or self.drawing.taken
        self.swapping.setEnabled(some is not None and not opening)
        without = self.reference.taken is None and not self.reference.opening
        self.canon.setEnabled(without and self.canon.count() > 1)
        chosen = self.canon.currentData()
        sighted = "none: the figure is sighted"
        average = "none: the drawing is held against an average"
        self.reference.say_empty(sighted if chosen == _LIFE else average if chosen else _REFERENCE)
        if self._begin_when_open and not opening:
            self._begin_when_open = False
            self.begin()

    def begin(self) -> None:
        """Keep the study, or say on the slip what is missing."""
        if self.reference.opening or self.drawing.opening:
            self._begin_when_open = True
            self.fault.setText("One moment: the pictures are being opened.")
            return
        self.fault.setText("")
        canon = self.canon.currentData()
        alone = self.reference.path is None and not self.reference.trouble
        life = alone and canon == _LIFE
        imagined = alone and not life and bool(canon) and self.drawing.path is not None
        if self.reference.trouble:
            self.fault.setText("Choose another reference, or leave it out.")
            return
        if alone and not (imagined or life):
            self.fault.setText(
                "Choose the drawing first: it is what is held against the average."
                if alone and canon
                else "Choose the reference first; the drawing may come later."
            )
            return
        if self.drawing.trouble:
            self.fault.setText("Choose another drawing, or leave it out for now.")
            return
        key = self.view.currentData()
        permission = self.permission.currentText().strip() or PERMISSIONS[-1]
        file = self.drawing.path if imagined else self.reference.path
        named = Path(name_of_file(file)).stem if file else "From life"
        study = Study(
            title=self.title.text().strip() or named,
            view=key,
            reference=None if imagined or life else Picture("", 1, 1, permission=permission),
            scale=Scale(view_named(key).school),
            kind=StudyKind.IMAGINED if imagined else StudyKind.OBSERVED,
            canon=canon if imagined else None,
            sightings=Sightings() if life else None,
        )
        try:
            self.study_id = add_study(
                self._library, study, self.reference.taken, self.drawing.taken, now_utc()
            )
        except UserError as error:
            self.fault.setText(str(error))
            return
        self.accept()
