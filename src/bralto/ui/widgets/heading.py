"""The title over a column: a name, a note, and at most one choice at the right."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QMenu, QWidget

from bralto.ui.theme.paint import Align, elided, text, text_width, triangle
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Choice", "Heading"]


_TRIANGLE = 14.0  # px for what says that there is a choice

_LEAST_SHOWN, _ENOUGH = 0.5, 12
"""Share of a note's letters, and how many of any, up to which it is not begun: *as 1 sig…* tells
nothing."""


@dataclass(frozen=True, slots=True)
class Choice:
    """Words that open a menu: (key, label) pairs, the key or keys in force, and what to do with
    another. An empty key is a rule between two."""

    words: str
    options: tuple[tuple[str, str], ...]
    current: str | frozenset[str]
    take: Callable[[str], None]


def _shown(right: Choice | str) -> object:
    return (right.words, right.current) if isinstance(right, Choice) else right


class Heading(QWidget):
    """Painted, so that names, notes and choices share one baseline."""

    def __init__(
        self, tokens: Tokens, parent: QWidget | None = None, *, inset: float = 0.0
    ) -> None:
        super().__init__(parent)
        self.setFixedHeight(30)
        self._tokens, self._inset = tokens, inset
        self._title, self._note = "", ""
        self._right: Choice | str = ""

    def say(self, title: str, note: str, right: Choice | str) -> None:
        """Put other words up."""
        if (title, note, _shown(right)) == (self._title, self._note, _shown(self._right)):
            self._right = right
            return
        self._title, self._note, self._right = title, note, right
        chooses = isinstance(right, Choice)
        self.setCursor(Qt.CursorShape.PointingHandCursor if chooses else Qt.CursorShape.ArrowCursor)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus if chooses else Qt.FocusPolicy.NoFocus)
        self.setAccessibleName(f"{title} {note}")
        self._tell_cut()
        self.update()

    @property
    def choice(self) -> Choice | None:
        """The menu that it opens, or None."""
        return self._right if isinstance(self._right, Choice) else None

    def words_shown(self) -> str:
        """As many of the last words at the right as have room beside the title: *fitted by head*
        and *by envelope* differ at their end."""
        words, room = self._right, self.width() - 4.0 - self._inset - self._title_end()
        if isinstance(words, Choice):
            words, room = words.words, room - _TRIANGLE
        single = words.split()
        rests = (" ".join(single[begin:]) for begin in range(len(single)))
        return next((one for one in rests if text_width(one, font(Size.NOTE)) <= room), "")

    def note_shown(self) -> str:
        """As much of the note as has room between the title and the words at the right: up to a
        comma, where that is one, or else whole words of it."""
        words, face = self.words_shown(), font(Size.NOTE)
        room = self.width() - 4.0 - self._inset - self._title_end()
        if isinstance(self._right, Choice):
            room -= _TRIANGLE
        if words:
            room -= text_width(words, face) + 10.0
        shown = elided(self._note, face, max(0.0, room))
        if shown == self._note:
            return shown
        comma = self._note.rfind(", ", 0, len(shown))
        if comma > 0:
            return self._note[:comma]
        whole = max(0, self._note.rfind(" ", 0, len(shown)))
        least = min(_LEAST_SHOWN * len(self._note), _ENOUGH)
        return f"{self._note[:whole]} …" if whole > least else ""

    def _tell_cut(self) -> None:
        """All of a note that has no room is its tip."""
        self.setToolTip("" if self.note_shown() == self._note else self._note)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._tell_cut()

    def _title_end(self) -> float:
        return self._inset + text_width(self._title, font(Size.BOARD, bold=True)) + 10.0

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens, baseline = self._tokens, 22.0
        title, note = font(Size.BOARD, bold=True), font(Size.NOTE)
        left = self._title_end()
        text(painter, self._inset, baseline, self._title, title, tokens.colour("ink"))
        right = float(self.width()) - 4.0 - self._inset
        words = self.words_shown()
        if isinstance(self._right, Choice):
            triangle(
                painter, QPointF(right - 5.0, baseline - 5.0), "down", tokens.colour("ink2"), 4
            )
            right -= _TRIANGLE
        if words:
            wide = text(
                painter, right, baseline, words, note, tokens.colour("ink2"), Align.AlignRight
            )
            if isinstance(self._right, Choice):
                painter.setPen(QPen(tokens.colour("hair"), 1.0, Qt.PenStyle.DotLine))
                painter.drawLine(QPointF(right - wide, baseline + 4), QPointF(right, baseline + 4))
        text(painter, left, baseline, self.note_shown(), note, tokens.colour("ink2"))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.open_menu()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in {Qt.Key.Key_Space, Qt.Key.Key_Return}:
            self.open_menu()
        else:
            event.ignore()

    def open_menu(self) -> None:
        """Offer the choice."""
        if not isinstance(self._right, Choice):
            return
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        current = self._right.current
        current = frozenset({current}) if isinstance(current, str) else current
        for key, label in self._right.options:
            if not key:
                menu.addSeparator()
                continue
            action = menu.addAction(label)
            assert action is not None
            action.setCheckable(key in current or not label.endswith("…"))
            action.setChecked(key in current)
            action.triggered.connect(lambda _=False, k=key, c=self._right: c.take(k))
        menu.popup(self.mapToGlobal(QPoint(max(0, self.width() - 200), self.height())))
