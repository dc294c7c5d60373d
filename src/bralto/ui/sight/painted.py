"""What is painted in the room of the pass Sight: question, answer so far, lines of words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.sightings.sighting_words import Asked
from bralto.ui.sight.told_lines import Line
from bralto.ui.theme.paint import elided, rounded, text, text_width, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["AskedLines", "Lines", "Question", "Slip", "Value", "laid_out"]


class Slip(QWidget):
    """The paper on which the question stands."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rounded(painter, QRectF(self.rect()), self._tokens.colour("slip"), 4.0)
        painter.end()


_MOST_LINES = 3
"""Of how it is sighted: in a narrow window that takes as many, and the question stands smaller."""

_UNDER, _APART, _DEEP = 30.0 / Size.PROMPT, 22.0 / Size.PROMPT, 0.3
"""From the question to how it is sighted, from line to line of that, and below its last one, in
sizes of its letters."""


@dataclass(frozen=True, slots=True)
class AskedLines:
    """A question as it is painted: sizes of letters and lines, of the question and of how it is
    sighted."""

    size: int
    lines: tuple[str, ...]
    how_size: int
    how: tuple[str, ...]

    @property
    def height(self) -> float:
        """What they take, px."""
        low = (_UNDER + _APART * (len(self.how) - 1) + _DEEP) * self.how_size if self.how else 0.0
        return _last_line(self.size, len(self.lines)) + low


def laid_out(asked: str, how: str, wide: float, high: float) -> AskedLines:
    """A question and how it is sighted as large as ``wide`` by ``high`` px let them: how it is
    sighted gives way last."""
    for how_size in (Size.PROMPT, Size.FINE):
        below = tuple(wrapped(how, font(how_size), wide)[:_MOST_LINES])
        for size in range(Size.HEADLINE, Size.PANEL - 1, -2):
            lines = tuple(wrapped(asked, font(size, bold=True), wide))
            found = AskedLines(size, lines, how_size, below)
            if found.height <= high and (len(lines) <= 2 or size == Size.PANEL):
                return found
    return found


class Question(QWidget):
    """In letters that are read from two metres, as large as there is room."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens
        self._text, self._how = "", ""

    def say(self, found: Asked | None) -> None:
        """Another question; None where an order is done."""
        self._text = "All that this order asks for is sighted." if found is None else found.text
        self._how = "" if found is None else found.how
        self.setAccessibleName(f"{self._text} {self._how}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        laid = laid_out(self._text, self._how, float(self.width()), float(self.height()))
        for i, line in enumerate(laid.lines):
            text(painter, 0.0, _last_line(laid.size, i + 1), line, font(laid.size, bold=True),
                 self._tokens.colour("ink"))  # fmt: skip
        below = _last_line(laid.size, len(laid.lines)) + _UNDER * laid.how_size
        for i, line in enumerate(laid.how):
            text(painter, 0.0, below + _APART * laid.how_size * i, line, font(laid.how_size),
                 self._tokens.colour("ink2"))  # fmt: skip
        painter.end()


def _last_line(size: int, lines: int) -> float:
    """Where the baseline of the last of so many lines is, px from the top."""
    return 0.86 * size + (lines - 1) * 1.12 * size


class Value(QWidget):
    """The answer so far, with its doubt."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens
        self._said, self._doubt = "", ""
        self.setFixedHeight(44)

    def say(self, said: str, doubt: str) -> None:
        self._said, self._doubt = said, doubt
        self.setAccessibleName(f"{said} {doubt}".strip() or "no answer yet")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        size = Size.SKILL
        while size > Size.BODY and text_width(self._said, font(size, bold=True)) > self.width():
            size -= 2
        face = font(size, bold=True)
        wide = text(painter, 0.0, 33.0, self._said, face, self._tokens.colour("ink"))
        if wide + 90.0 < self.width():
            text(painter, wide + 18.0, 33.0, self._doubt, font(Size.PROMPT),
                 self._tokens.colour("ink2"))  # fmt: skip
        painter.end()


_LINE, _SKILLS, _BETWEEN = 23.0, 4, 16.0


class Lines(QWidget):
    """A title and a few lines: words, a figure, and a bar or more words."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens
        self._lines: tuple[Line, ...] = ()
        self._title, self._wide = "", False
        self.setFixedHeight(round(30 + _SKILLS * _LINE))

    def say(
        self, lines: Sequence[Line], title: str = "What these tell", *, wide: bool = False
    ) -> None:
        """Put others up; ``wide`` where the figure wants the room of the bar."""
        self._lines, self._wide = tuple(lines[:_SKILLS]), wide
        self._title = title if lines or title != "What these tell" else ""
        said = "; ".join(f"{one.label} {one.figure} {one.words}".strip() for one in self._lines)
        self.setAccessibleName(f"{self._title} {said}".strip())
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        tokens, face, bold = self._tokens, font(Size.BODY), font(Size.BODY, bold=True)
        title = font(Size.BOARD, bold=True) if self._lines else font(Size.BODY)
        text(painter, 0.0, 20.0, self._title, title, tokens.colour("ink"))
        at, left = 0.24 * self.width(), 0.46 * self.width()
        if self._wide:  # as wide as what stands there
            at = _BETWEEN + max((text_width(one.label, face) for one in self._lines), default=0.0)
            figures = (text_width(one.figure, bold) for one in self._lines)
            left = at + _BETWEEN + max(figures, default=0.0)
        for i, one in enumerate(self._lines):
            y, colour = 30.0 + _LINE * i, tokens.colour(one.role)
            text(painter, 0.0, y + 16.0, one.label, face, tokens.colour("ink"))
            text(painter, at, y + 16.0, one.figure, bold, colour)
            words = elided(one.words, face, self.width() - left)
            text(painter, left, y + 16.0, words, face, tokens.colour("ink2"))
            if one.share is not None:
                bar = QRectF(left, y + 6.0, self.width() - left, 9.0)
                painter.fillRect(bar, tokens.colour("tape"))
                bar.setWidth(one.share * bar.width())
                painter.fillRect(bar, colour)
        painter.end()
