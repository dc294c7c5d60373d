"""The slip on which a learner says what to sight: any two marks, against any other two."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QComboBox, QFormLayout, QLabel, QWidget

from bralto.core.results import NotMeasurable
from bralto.core.sightings.next_question import Next, own_question
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import View
from bralto.core.words.phrases import sentence
from bralto.ui.slips.name_slip import AskSlip
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["OwnSighting"]

_WORDS = {
    Sort.LENGTH: "how long it is", Sort.TILT: "which way it tilts",
    Sort.PLUMB: "how far it misses the plumb line", Sort.LEVEL: "how far it misses the level line",
}  # fmt: skip
_HEAD = "the head"


class OwnSighting(AskSlip):
    """Accepted, ``question`` is what to ask."""

    def __init__(
        self, view: View, items: Sequence[Sighting], parent: QWidget | None = None
    ) -> None:
        super().__init__("A sighting of your own", "Ask it", parent)
        self._view, self._items = view, tuple(items)
        self.sort = choice_box("What is sighted", self)
        for sort, words in _WORDS.items():
            self.sort.addItem(words, sort)
        self.first, self.second = self._marks("From"), self._marks("To")
        self.of_first, self.of_second = self._marks("Against, from", head=True), self._marks("to")
        self.why = QLabel(self)
        self.why.setWordWrap(True)
        self._form = QFormLayout()
        self._form.addRow("Sight", self.sort)
        self._form.addRow("From", self.first)
        self._form.addRow("To", self.second)
        self._form.addRow("Counted in", self.of_first)
        self._form.addRow("to", self.of_second)
        self.body.addLayout(self._form)
        self.body.addWidget(self.why)
        for box in (self.sort, self.first, self.second, self.of_first, self.of_second):
            box.currentIndexChanged.connect(self._show)
        self.second.setCurrentIndex(min(1, self.second.count() - 1))
        self._show()

    def _marks(self, name: str, *, head: bool = False) -> QComboBox:
        box = choice_box(name, self)
        if head:
            box.addItem(_HEAD, "")
        for mark in self._view.landmarks:
            if not mark.region and self._view.can_be_shown(mark.key):
                box.addItem(self._view.point_label(mark.key), mark.key)
        return box

    def _show(self) -> None:
        sort = self.sort.currentData()
        lengths = sort is Sort.LENGTH
        self._form.setRowVisible(self.of_first, lengths)
        self._form.setRowVisible(self.of_second, lengths and bool(self.of_first.currentData()))
        found = self._found()
        self.why.setText(sentence(found.reason) if isinstance(found, NotMeasurable) else "")
        self.keep.setEnabled(not isinstance(found, NotMeasurable))

    def _found(self) -> Next | NotMeasurable:
        points = str(self.first.currentData()), str(self.second.currentData())
        of: tuple[str, ...] = ()
        if self.sort.currentData() is Sort.LENGTH and self.of_first.currentData():
            of = str(self.of_first.currentData()), str(self.of_second.currentData())
        return own_question(self._view, self._items, self.sort.currentData(), points, of)

    @property
    def question(self) -> Next | None:
        """What to ask; None while it is none."""
        found = self._found()
        return None if isinstance(found, NotMeasurable) else found
