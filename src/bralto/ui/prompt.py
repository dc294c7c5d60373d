"""The prompt line: always says what to do next, with at most four keys."""

from __future__ import annotations

from itertools import groupby

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.quick_tuples import NamedTuple
from bralto.ui.theme.paint import elided, text, text_width
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Prompt", "PromptLine"]

_MARGIN = 24.0
_SPACE = 8.0
"""px between what to do and how."""

_BASELINES = {1: (29.0,), 2: (20.0, 38.0)}
"""Of so many lines, px."""


class Prompt(NamedTuple):
    """What to do, how, and up to four (key, word) pairs; ``trouble`` says what went wrong."""

    lead: str
    how: str = ""
    keys: tuple[tuple[str, str], ...] = ()
    trouble: bool = False


class PromptLine(QWidget):
    """The bottom line of the window."""

    def __init__(self, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(46)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._tokens = tokens
        self.prompt = Prompt("")

    def say(self, prompt: Prompt) -> None:
        """Put another prompt up; screen readers are told too."""
        if prompt == self.prompt:
            return
        self.prompt = prompt
        self.setAccessibleName(f"{prompt.lead} {prompt.how}".strip())
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens, prompt = self._tokens, self.prompt
        painter.fillRect(self.rect(), tokens.colour("slip"))
        painter.setPen(QPen(tokens.colour("hair", 0.6), 1.0))
        painter.drawLine(QPointF(0, 0.5), QPointF(self.width(), 0.5))
        role = "red" if prompt.trouble else "ink"
        self._sight(painter, QPointF(_MARGIN + 10.0, 23.0), role)
        room = self._keys(painter) - _MARGIN - 48.0
        size, lines = self.lines(room)
        for line, baseline in zip(lines, _BASELINES[len(lines)], strict=True):
            x = _MARGIN + 32.0
            for leads, words in line:
                face, ink = font(size, bold=leads), tokens.colour(role if leads else "ink2")
                x += text(painter, x, baseline, words, face, ink) + _SPACE
        painter.end()
        shown = " ".join(words for line in lines for _, words in line)
        self.setToolTip("" if shown == self.accessibleName() else self.accessibleName())

    def lines(self, room: float) -> tuple[int, list[list[tuple[bool, str]]]]:
        """What is shown in so much room, px: the size of its text, px, and one line, or two smaller
        ones of which the second may end early; parts of a line are whether they say what to do or
        how, and their words."""
        parts = [(True, self.prompt.lead), (False, self.prompt.how)]
        said = [(leads, words) for leads, words in parts if words]
        if sum(_wide(one, Size.PROMPT) + _SPACE for one in said) <= room + _SPACE:
            return Size.PROMPT, [said]
        words = [(leads, word) for leads, part in said for word in part.split()]
        gone, many = _SPACE, 0
        for one in words:
            gone += _wide(one, Size.NOTE) + _wide((one[0], " "), Size.NOTE)
            if many and gone > room:
                break
            many += 1
        return Size.NOTE, [_joined(part, room) for part in (words[:many], words[many:]) if part]

    def _sight(self, painter: QPainter, at: QPointF, role: str) -> None:
        painter.setPen(QPen(self._tokens.colour(role), 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(at, 8.0, 8.0)
        for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)):
            painter.drawLine(at + QPointF(4.0 * dx, 4.0 * dy), at + QPointF(13.0 * dx, 13.0 * dy))

    def _keys(self, painter: QPainter) -> float:
        """Key caps from the right edge; gives where they begin. Narrow windows show fewer."""
        tokens = self._tokens
        cap, word = font(Size.FINE, bold=True), font(Size.BODY)
        right = self.width() - _MARGIN
        most = 4 if self.width() > 1150 else 2
        for key, meaning in reversed(self.prompt.keys[:most]):
            wide = text_width(meaning, word)
            text(painter, right - wide, 29.0, meaning, word, tokens.colour("ink2"))
            right -= wide + 8.0
            box = text_width(key, cap) + 14.0
            painter.setPen(QPen(tokens.colour("ink2"), 1.2))
            painter.setBrush(tokens.colour("sheet"))
            painter.drawRoundedRect(QRectF(right - box, 12.0, box, 22.0), 3.0, 3.0)
            text(painter, right - box + 7.0, 28.0, key, cap, tokens.colour("ink"))
            right -= box + 18.0
        return right


def _wide(one: tuple[bool, str], size: int) -> float:
    leads, words = one
    return text_width(words, font(size, bold=leads))


def _joined(words: list[tuple[bool, str]], room: float) -> list[tuple[bool, str]]:
    """Words of one line, joined where they are alike, as far as there is room."""
    found = []
    for leads, run in groupby(words, key=lambda one: one[0]):
        said = " ".join(word for _, word in run)
        shown = elided(said, font(Size.NOTE, bold=leads), room) if room > 0.0 else ""
        found.append((leads, shown))
        room -= _wide((leads, shown), Size.NOTE) + _SPACE
    return found
