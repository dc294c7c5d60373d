"""A skill's name with its sign, how it stands now, and where it goes."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from bralto.core.longitudinal.course import SKILL_TITLES, Course, trend_words, units_said
from bralto.core.measures.verdict_names import Verdict
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import day_words
from bralto.ui.record.accuracy.emblems import draw_emblem
from bralto.ui.theme.paint import Align, elided, text, triangle, verdict_mark, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["WIDTH", "SkillFigure", "heard_rows"]

WIDTH = 216

_COARSE = frozenset({"degree", "fraction", "tolerance"})
"""Units of which a tenth is enough; lengths want more."""
_FINE = 0.0995
"""Heads below which a third digit is said."""

_HIGH = 84.0
"""A chart that is lower than this has no room for words below the figure."""


_HEARD = 60
"""Studies of a chart that can be gone through one by one, the newest: there may be thousands."""


def _in_figures(value: float, unit: str) -> str:
    shown = 100.0 * value if unit == "fraction" else value
    digits = 1 if unit in _COARSE else 3 if shown < _FINE else 2
    return f"{shown:.{digits}f}"


def _unit_of(course: Course) -> str:
    return "%" if course.unit == "fraction" else units_said(course.unit)


def heard_rows(course: Course, titles: Mapping[str, str]) -> list[str]:
    """A chart's newest studies in words, oldest first: day, title, figure, its doubt."""
    unit, first = _unit_of(course), max(0, len(course) - _HEARD)
    return [
        f"{day_words(course.when[row])}, {titles.get(course.studies[row], '')}: "
        f"{_in_figures(course.values[row], course.unit)} "
        f"± {_in_figures(COVERAGE * course.u[row], course.unit)} {unit}"
        for row in range(first, len(course))
    ]


class SkillFigure(QWidget):
    """Stands at the left of its chart."""

    def __init__(self, skill: str, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedWidth(WIDTH)
        self._skill, self._tokens = skill, tokens
        self._course: Course | None = None
        self._top = 0.0

    def show_course(self, course: Course, top: float) -> None:
        """Another course, and the value at the chart's upper edge."""
        self._course, self._top = course, top
        figure, unit = self._figure()
        said = f"{SKILL_TITLES[self._skill]}: {figure} {unit}, {trend_words(course)[0]}"
        self.setAccessibleName(said if figure else f"{SKILL_TITLES[self._skill]}: not measured yet")
        self.update()

    def _figure(self) -> tuple[str, str]:
        course = self._course
        if course is None or course.now is None:
            return "", ""
        return _in_figures(course.now, course.unit), _unit_of(course)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens, note = self._tokens, font(Size.NOTE)
        ink, ink2 = tokens.colour("ink"), tokens.colour("ink2")
        draw_emblem(painter, self._skill, QPointF(9.0, 12.0), 8.0, ink, tokens.colour("sheet"))
        text(painter, 26.0, 18.0, SKILL_TITLES[self._skill], font(Size.BOARD, bold=True), ink)
        figure, unit = self._figure()
        if not figure or self._course is None:
            text(painter, 0.0, 40.0, "not measured yet", note, ink2)
            painter.end()
            return
        edge, fine = self.width() - 6.0, font(Size.FINE)
        top = 100.0 * self._top if self._course.unit == "fraction" else self._top
        text(painter, edge, 18.0, f"{top:.2g}", fine, ink2, Align.AlignRight)
        text(painter, edge, self.height() - 13.0, "0", fine, ink2, Align.AlignRight)
        wide = text(painter, 0.0, 48.0, figure, font(Size.SKILL, heavy=True), ink)
        text(painter, wide + 8.0, 48.0, unit, note, ink2)
        if self.height() >= _HIGH:
            self._trend(painter, 67.0)
        painter.end()

    def _trend(self, painter: QPainter, baseline: float) -> None:
        assert self._course is not None
        words, way = trend_words(self._course)
        tokens, note = self._tokens, font(Size.FINE)
        left = 0.0
        if way:
            at = QPointF(6.0, baseline - 5.0)
            if way == "open":
                verdict_mark(painter, at, Verdict.CANNOT_TELL, "", tokens, 5.0)
            else:
                triangle(painter, at, "down" if way == "closer" else "up", tokens.colour("ink"), 5)
            left = 17.0
        for line in wrapped(words, note, self.width() - left - 12.0)[:2]:
            shown = elided(line, note, self.width() - left - 8.0)
            text(painter, left, baseline, shown, note, tokens.colour("ink2"))
            baseline += 16.0
            if baseline > self.height():
                break
