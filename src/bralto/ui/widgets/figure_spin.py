"""A field for a figure that takes the decimal point and the decimal comma."""

from __future__ import annotations

from PyQt6.QtCore import QLocale
from PyQt6.QtGui import QValidator
from PyQt6.QtWidgets import QDoubleSpinBox, QWidget

__all__ = ["FigureSpin"]


class FigureSpin(QDoubleSpinBox):
    """Shows a point, as all of Bralto does, whatever the machine's language; a comma that is typed
    becomes one. Left to Qt one of the two is no sign at all: 7.5 or 7,5 were 75."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        # Not for the whole program: to ask for a language costs a start 5 ms.
        self.setLocale(QLocale.c())

    def validate(self, words: str | None, at: int) -> tuple[QValidator.State, str, int]:
        """Whether what is typed is a figure, or may become one."""
        return super().validate((words or "").replace(",", "."), at)
