"""The slip on which a learner says where lengths in mm are read off, and where the paper is."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtWidgets import QCheckBox, QFormLayout, QLabel, QWidget

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.read_off import (
    ARM_MM,
    FARTHEST_MM,
    NEAREST_MM,
    carried_by_head,
    carried_over,
    head_changed,
    head_on_paper,
    in_mm,
    on_paper,
)
from bralto.core.study.taken import Sightings
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import View
from bralto.core.words.lengths import length
from bralto.core.words.phrases import how_many
from bralto.ui.slips.name_slip import AskSlip
from bralto.ui.widgets.choice_box import choice_box
from bralto.ui.widgets.length_spin import LengthSpin

__all__ = ["DistanceSlip"]

_PAPER_MM = 900.0
"""Where the paper is proposed to be: a little more than an arm away."""

_SAME_MM = 0.5
"""By how much less two distances are one."""

_BY_HEAD, _BY_EYE = "head", "eye"
"""How lengths so far are carried over."""


class DistanceSlip(AskSlip):
    """Accepted, ``changed`` are the sightings with what was said."""

    def __init__(
        self,
        view: View,
        sightings: Sightings,
        *,
        drawn: bool,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__("Where lengths in mm are read off", "Keep", parent)
        self._view, self._sightings = view, sightings
        self._drawn = drawn
        self.eye = self._spin("From your eye to the pencil", sightings.eye_mm or ARM_MM)
        self.sight_size = QCheckBox("Drawn as large as it is seen (sight-size)", self)
        self.sight_size.setChecked(sightings.plane_mm is not None)
        self.plane = self._spin("From your eye to the paper", sightings.plane_mm or _PAPER_MM)
        self._many = sum(in_mm(one) for one in sightings.items)
        self._other_head = head_changed(view, sightings.items)
        self.earlier = choice_box("The lengths so far", self)
        if self._other_head is not None:
            now = length(self._other_head.now)
            self.earlier.addItem(f"carry them over to the head of {now}", _BY_HEAD)
        if sightings.eye_mm is not None:
            known = length(sightings.eye_mm)
            self.earlier.addItem(f"were read off at {known}: carry them over", _BY_EYE)
        self.earlier.addItem("were read off there too", "")
        self.tells = QLabel(self)
        self.tells.setWordWrap(True)
        self.tells.setMinimumWidth(420)
        self._form = QFormLayout()
        self._form.addRow("Eye to pencil", self.eye)
        self._form.addRow("", self.sight_size)
        self._form.addRow("Eye to paper", self.plane)
        many = f"{how_many(self._many, 'length')} so far"
        self._form.addRow(many, self.earlier)
        self.body.addLayout(self._form)
        self.body.addWidget(self.tells)
        self.eye.valueChanged.connect(self._show)
        self.plane.valueChanged.connect(self._show)
        self.sight_size.toggled.connect(self._show)
        self.earlier.currentIndexChanged.connect(self._show)
        self._show()

    def _spin(self, name: str, mm: float) -> LengthSpin:
        spin = LengthSpin(self)
        spin.setDecimals(0)
        spin.setRange(NEAREST_MM, FARTHEST_MM)
        spin.setValue(mm)
        spin.setAccessibleName(name)
        return spin

    @property
    def changed(self) -> Sightings:
        """The sightings as they are with what is said here."""
        eye = self.eye.value()
        plane = self.plane.value() if self.sight_size.isChecked() else None
        kept, way = self._sightings, self.earlier.currentData() if self._asks else ""
        if way == _BY_HEAD:
            kept = carried_by_head(self._view, kept)
        elif way == _BY_EYE:
            kept = carried_over(kept, eye)
        return replace(kept, eye_mm=eye, plane_mm=plane)

    @property
    def _asks(self) -> bool:
        """Whether lengths so far may have been read off elsewhere."""
        known = self._sightings.eye_mm
        moved = known is not None and abs(known - self.eye.value()) > _SAME_MM
        return self._many > 0 and (moved or self._other_head is not None)

    def _show(self) -> None:
        self._form.setRowVisible(self.plane, self.sight_size.isChecked())
        self._form.setRowVisible(self.earlier, self._asks)
        self.tells.setText(" ".join(self._said()))

    def _said(self) -> list[str]:
        """What follows from it."""
        changed = self.changed
        times = on_paper(changed)
        if times is None:
            return ["Lengths in mm are counted in the head, which is taken in mm first."]
        said = [f"What is 10 mm on the pencil is {10.0 * times:.1f} mm on the paper."]
        implied = imply(self._view, changed.items)
        head = None if isinstance(implied, NotMeasurable) else head_on_paper(implied, times)
        if head is not None:
            said.append(f"A head is {length(head[0])} there (± {length(COVERAGE * head[1])}).")
        if self._drawn and changed.plane_mm != self._sightings.plane_mm:
            said.append("The drawing is measured against this from now on.")
        return said
