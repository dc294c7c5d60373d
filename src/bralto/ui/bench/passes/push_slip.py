"""The slip on which the pose or a part is meant otherwise than it is seen."""

from __future__ import annotations

from PyQt6.QtWidgets import QFormLayout, QLabel, QSpinBox, QWidget

from bralto.core.corrections.push import Pushes, pushable
from bralto.core.views.model import View
from bralto.ui.slips.name_slip import AskSlip
from bralto.ui.widgets.choice_box import choice_box

__all__ = ["PushSlip"]

_LEAST, _MOST, _USUAL = 25, 400, 125  # percent

_WHAT = (
    "Before a line is drawn: what do you mean to take further than you see it, or less far?"
    " Your drawing is then held against what you mean."
)
_NOTHING = (
    "What can be pushed follows from the marks on the reference: there are too few of them yet."
)


class PushSlip(AskSlip):
    """Accepted, ``name`` and ``factor`` say what is meant."""

    def __init__(
        self, view: View, keys: tuple[str, ...], pushes: Pushes, parent: QWidget | None = None
    ) -> None:
        super().__init__("Push", "Mean it so", parent)
        known = pushable(view, keys)
        words = QLabel(_WHAT if known else _NOTHING, self)
        words.setWordWrap(True)
        self.body.addWidget(words)
        self._pushes = pushes
        self.part = choice_box("What is pushed", self)
        for name, label in known.items():
            self.part.addItem(label, name)
        self.percent = QSpinBox(self)
        self.percent.setAccessibleName("By how much, percent of what is seen")
        self.percent.setRange(_LEAST, _MOST)
        self.percent.setSingleStep(5)
        self.percent.setSuffix(" % of what is seen")
        form = QFormLayout()
        form.addRow("What", self.part)
        form.addRow("How much", self.percent)
        self.body.addLayout(form)
        self.part.currentIndexChanged.connect(self._show)
        for row in range(form.rowCount()):
            form.setRowVisible(row, bool(known))
        self.keep.setEnabled(bool(known))
        self._show()

    def _show(self) -> None:
        self.percent.setValue(round(100.0 * self._pushes.get(self.name, _USUAL / 100.0)))

    @property
    def name(self) -> str:
        """The name of its move."""
        return str(self.part.currentData() or "")

    @property
    def factor(self) -> float | None:
        """How many times as much; None for as it is seen."""
        value = self.percent.value() / 100.0
        return None if value == 1.0 else value
