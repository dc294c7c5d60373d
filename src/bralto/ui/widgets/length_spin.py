"""A field for a length: its value is in mm, what it shows and takes is in the unit in force."""

from __future__ import annotations

from PyQt6.QtGui import QValidator
from PyQt6.QtWidgets import QDoubleSpinBox, QWidget

from bralto.core.words.lengths import INCH, bare_length, in_force, mm_of, short_unit

__all__ = ["LengthSpin"]


class LengthSpin(QDoubleSpinBox):
    """Set its decimals for mm; inches have two more."""

    _decimals = 1  # asked for while the field is being made

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setSuffix(f" {short_unit()}")
        if in_force() != "mm":
            self.setSingleStep(INCH / 16.0)
        super().setDecimals(4 if in_force() != "mm" else 1)

    def setDecimals(self, decimals: int) -> None:
        """Of mm."""
        self._decimals = decimals
        if in_force() == "mm":
            super().setDecimals(decimals)

    def textFromValue(self, mm: float) -> str:
        """What is shown."""
        return bare_length(mm, self._decimals)

    def valueFromText(self, words: str | None) -> float:
        """What was typed."""
        found = mm_of((words or "").removesuffix(self.suffix()))
        return self.value() if found is None else found

    def validate(self, words: str | None, at: int) -> tuple[QValidator.State, str, int]:
        """Whether what is typed is a length, or may become one."""
        text = words or ""
        bare = text.removesuffix(self.suffix()).strip()
        state = QValidator.State
        if text == self.specialValueText() or mm_of(bare) is not None:
            return state.Acceptable, text, at
        may = set(bare.lower()) <= set("0123456789./, ") | set('mm cm inches "')
        return (state.Intermediate if may else state.Invalid), text, at
