"""A word to choose a page by; it stands bold while its page does."""

from __future__ import annotations

from math import ceil

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QPushButton, QWidget

from bralto.ui.theme.paint import text_width
from bralto.ui.theme.type import Size, font

__all__ = ["WordButton"]


class WordButton(QPushButton):
    """As wide as its word is bold, chosen or not: bold it is not cut, and nothing beside it moves
    when it is chosen. Qt takes the plain word's width for both."""

    def __init__(self, word: str, parent: QWidget) -> None:
        super().__init__(word, parent)
        self.setObjectName("word")
        self.setCheckable(True)

    def sizeHint(self) -> QSize:
        plain, bold = (text_width(self.text(), font(Size.BODY, bold=one)) for one in (False, True))
        return super().sizeHint() + QSize(ceil(bold - plain), 0)

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()
