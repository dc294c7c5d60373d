"""A field for a figure that takes the decimal point and the decimal comma."""

from __future__ import annotations

from PyQt6.QtGui import QValidator
from PyQt6.QtWidgets import QDoubleSpinBox

__all__ = ["FigureSpin"]


class FigureSpin(QDoubleSpinBox):
    """Shows a point, as all of Bralto does; a comma that is typed becomes one. Left to Qt it would
    be no sign at all: 7,5 were 75."""

    def validate(self, words: str | None, at: int) -> tuple[QValidator.State, str, int]:
        """Whether what is typed is a figure, or may become one."""
        return super().validate((words or "").replace(",", "."), at)
