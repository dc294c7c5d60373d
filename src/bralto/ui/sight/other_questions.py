"""What may be sighted in place of what is asked: three more questions, and one of one's own."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QWidget

from bralto.core.sightings.next_question import Next
from bralto.core.sightings.sighting_words import label_of
from bralto.core.study.taken import Sort
from bralto.core.views.model import View
from bralto.ui.theme.paint import elided, in_lines

__all__ = ["OtherQuestions"]

_SORTS = {
    Sort.LENGTH: "a length", Sort.TILT: "a tilt", Sort.PLUMB: "on plumb", Sort.LEVEL: "level with",
    Sort.FRACTION: "a share", Sort.LONGER: "longer?", Sort.HIGHER: "higher?",
    Sort.LEFT: "more left?",
}  # fmt: skip


_EDGES, _HEIGHT, _OWN = 14, 70, 68
"""Of a button, px: what words have no room in; how high it is; and how wide the one for a sighting
of one's own is."""

_LINES = 3
"""Lines of words in a button at most: what they are held against comes last."""


class OtherQuestions(QWidget):
    """A row of large buttons."""

    chosen = pyqtSignal(int)
    """The number of a question, after the one that is asked."""
    own_wanted = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._found: Sequence[Next] = ()
        self.buttons = [QPushButton("", self) for _ in range(3)]
        for number, button in enumerate(self.buttons, start=1):
            button.setObjectName("other")
            button.setMinimumHeight(_HEIGHT)
            button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            button.clicked.connect(partial(self._choose, number))
        self.own = QPushButton("own …", self)
        self.own.setObjectName("other")
        self.own.setMinimumHeight(_HEIGHT)
        self.own.setFixedWidth(_OWN)
        self.own.setAccessibleName("a sighting of your own")
        self.own.setToolTip("Any two marks, against any other two (O)")
        self.own.clicked.connect(self.own_wanted)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        for button in self.buttons:
            row.addWidget(button, 1)
        row.addWidget(self.own)

    def _choose(self, number: int) -> None:
        if number <= len(self._found):
            self.chosen.emit(number)

    def offer(self, view: View, found: Sequence[Next]) -> None:
        """Offer others; ``found`` of the view, those after the one that is asked."""
        self._found = found[: len(self.buttons)]
        for number, button in enumerate(self.buttons):
            button.setVisible(number < len(self._found))
            if number < len(self._found):
                one = self._found[number].sighting
                button.setToolTip(label_of(view, one))
                button.setAccessibleName(f"{_SORTS[one.sort]}: {button.toolTip()}")
        self.name()

    def name(self) -> None:
        """As much of each as there is room."""
        for button, other in zip(self.buttons, self._found, strict=False):
            face, room = button.font(), float(button.width() - _EDGES)
            sort, words = [elided(_SORTS[other.sighting.sort], face, room)], button.toolTip()
            if other.sighting.sort.is_answer:  # its words say of what sort it is
                sort, words = [], f"{words}?"
            lines = in_lines(words, face, room, _LINES - len(sort))
            button.setText("\n".join([*sort, *lines]))
