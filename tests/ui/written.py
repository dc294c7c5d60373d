"""The words that are painted on a widget."""

from __future__ import annotations

import sys

import pytest
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter
from PyQt6.QtWidgets import QWidget

from bralto.ui.theme import paint
from bralto.ui.theme.paint import Align

__all__ = ["written_on"]


def written_on(page: QWidget, patch: pytest.MonkeyPatch) -> list[tuple[str, QRectF]]:
    """All words that are painted on a page, each with the place of its letters on it."""
    found: list[tuple[str, QRectF]] = []
    plain = paint.text

    def text(
        painter: QPainter, x: float, baseline: float, words: str, face: QFont, colour: QColor,
        align: Align = Align.AlignLeft,
    ) -> float:  # fmt: skip
        wide = plain(painter, x, baseline, words, face, colour, align)
        left = {Align.AlignLeft: x, Align.AlignRight: x - wide}.get(align, x - wide / 2.0)
        high = QFontMetricsF(face).xHeight()
        place = QRectF(left, baseline - high, wide, high)
        found.append((words, painter.deviceTransform().mapRect(place)))
        return wide

    with patch.context() as patched:
        for name, module in list(sys.modules.items()):
            if name.startswith("bralto.ui.") and vars(module).get("text") is plain:
                patched.setattr(module, "text", text)
        page.grab()
    return found
