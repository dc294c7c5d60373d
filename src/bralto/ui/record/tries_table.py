"""Drawings of one pose side by side: each skill, and what came in and went between them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QHideEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.examination.summary import Summary
from bralto.core.longitudinal.course import SKILL_TITLES
from bralto.core.longitudinal.steps import SkillStep, Step, skill_step
from bralto.core.measures.verdict_names import Verdict
from bralto.core.words.wording import excess_text
from bralto.ui.theme.paint import in_lines, text, text_width, triangle, verdict_mark
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["Compared", "TriesTable"]

_MOST_LINES = 7
_SKILLS = ("miss", "heights", "widths", "tilts", "plumb", "halves", "thirds", "shapes", "bend")

_NAMES, _FIRST, _HEADING, _ROW, _BELOW, _AIR = 130.0, 56.0, 17.0, 30.0, 24.0, 8.0
"""Of the table, px: how wide the names of skills are, how low headings of one line stand, how high
one more line of them and a row are, what lies between the last row and the words below, and below
these."""


class Compared(NamedTuple):
    """Drawings that were measured.

    Attributes:
        headings, summaries: of each, oldest first. steps: from each to the next.
    """

    headings: tuple[str, ...]
    summaries: tuple[Summary, ...]
    steps: tuple[Step, ...]


class _Line(NamedTuple):
    """Words below the table: their baseline, px below its last row."""

    y: float
    words: str
    is_title: bool = False


class TriesTable(QWidget):
    """A column a drawing: each skill, with how it went; below it what came in and went."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens = tokens
        self._title = ""
        self.found: Compared | None = None
        self._rows: list[tuple[str, tuple[SkillStep | None, ...]]] = []
        self._headings: list[list[str]] = []
        self._said: list[list[_Line]] = []

    def show_compared(self, title: str, found: Compared | None) -> None:
        """Put other drawings side by side."""
        self._title, self.found = title, found
        self.setAccessibleName(": ".join([title, *([", ".join(found.headings)] if found else [])]))
        steps = (
            [] if found is None else [(one, skill_step(one, found.summaries)) for one in _SKILLS]
        )
        self._rows = [row for row in steps if any(row[1])]
        self._lay_out()
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay_out()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._lay_out()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.setMinimumHeight(0)  # the other pages of the record are as high as the highest

    def _lay_out(self) -> None:
        """Break the words into lines for the width there is, and take the height that all of them
        want: in a low window it is scrolled to them."""
        found, bold, room = self.found, font(Size.BODY, bold=True), self._column() - 14.0
        self._headings = [in_lines(one, bold, room, 4) for one in found.headings] if found else []
        self._said = [self._lines(one) for one in found.steps] if found else []
        if self.isVisible():
            ends = [lines[-1].y for lines in self._said if lines]
            high = self._first() + _ROW * len(self._rows) + _BELOW + max(ends, default=0.0) + _AIR
            self.setMinimumHeight(0 if found is None else round(high))

    def _first(self) -> float:
        """Baseline of the last line of its headings, px."""
        return _FIRST + _HEADING * (max(map(len, self._headings), default=1) - 1)

    def _column(self) -> float:
        """Width of a drawing's column, px."""
        columns = len(self.found.headings) if self.found is not None else 1
        return min(250.0, (self.width() - _NAMES) / max(1, columns))

    def _lines(self, step: Step) -> list[_Line]:
        """What came in and went from one drawing to the next."""
        lines, y, note = list[_Line](), 0.0, font(Size.FINE)
        for title, readings in (
            ("put right", step.put_right), ("came in", step.came_in), ("still off", step.still),
        ):  # fmt: skip
            if not readings:
                continue
            y += 20.0
            lines.append(_Line(y, f"{title}: {len(readings)}", is_title=True))
            for one in readings[:_MOST_LINES]:
                said = one.spec.label
                if title != "put right":
                    said += f", {excess_text(one)}"
                for number, line in enumerate(in_lines(said, note, self._column() - 14.0, 4)):
                    y += 14.0 if number else 17.0
                    lines.append(_Line(y, line))
            if len(readings) > _MOST_LINES:
                y += 17.0
                lines.append(_Line(y, f"and {len(readings) - _MOST_LINES} more"))
            y += 4.0
        return lines

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        ink, ink2 = tokens.colour("ink"), tokens.colour("ink2")
        text(painter, 0.0, 22.0, self._title, font(Size.BOARD, bold=True), ink)
        if self.found is None:
            painter.end()
            return
        names, wide, y, bold = _NAMES, self._column(), self._first(), font(Size.BODY, bold=True)
        for column, heading in enumerate(self._headings):
            for above, words in enumerate(reversed(heading)):
                text(painter, names + column * wide, y - _HEADING * above, words, bold, ink)
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0.0, y + 9.0), QPointF(self.width(), y + 9.0))
        for skill, steps in self._rows:
            y += _ROW
            text(painter, 0.0, y, SKILL_TITLES[skill], font(Size.BODY), ink2)
            unit = _unit(skill, self.found.summaries)
            for column, step in enumerate(steps):
                if step is not None:
                    left = names + column * wide
                    said = _figure(step.value, unit)
                    gone = text(painter, left + 18.0, y, said, bold, ink)
                    doubt = f"± {_figure(2.0 * step.u, unit)}"
                    fine, begins = font(Size.FINE), 24.0 + gone
                    if begins + text_width(doubt, fine) <= wide - 6.0:
                        text(painter, left + begins, y, doubt, fine, ink2)
                    self._way(painter, QPointF(left + 7.0, y - 5.0), step.way)
        titles, note = font(Size.NOTE, bold=True), font(Size.FINE)
        for column, lines in enumerate(self._said, start=1):
            for line in lines:
                face, colour = (titles, ink) if line.is_title else (note, ink2)
                at = y + _BELOW + line.y
                text(painter, names + column * wide, at, line.words, face, colour)
        painter.end()

    def _way(self, painter: QPainter, at: QPointF, way: str) -> None:
        tokens = self._tokens
        if way in {"closer", "further"}:
            triangle(painter, at, "down" if way == "closer" else "up", tokens.colour("ink"), 5.0)
        elif way == "same":
            verdict_mark(painter, at, Verdict.CANNOT_TELL, "", tokens, 5.0)


def _unit(skill: str, summaries: Sequence[Summary]) -> str:
    if skill == "miss":
        return "head"
    return next((one.unit for each in summaries if (one := each.skill(skill)) is not None), "")


def _figure(value: float, unit: str) -> str:
    if unit == "fraction":
        return f"{100.0 * value:.1f} %"
    if unit == "degree":
        return f"{value:.1f}°"
    return f"{value:.3f}"
