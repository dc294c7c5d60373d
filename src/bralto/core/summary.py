"""What is kept of a measured study, so that shelf and record need not measure it again.

Light on purpose: the window reads thousands of these before it loads NumPy.
"""

from __future__ import annotations

from typing import NamedTuple

from bralto.core.results import NotMeasurable

__all__ = ["SCIENCE", "SKILLS", "MissFigure", "SkillFigure", "Summary"]

SCIENCE = 3
"""Version of the science: one more whenever the same marks come to other figures. Summaries of an
earlier one are measured again. A test holds the figures of a study against this number."""

SKILLS = ("heights", "widths", "tilts", "plumb", "shapes")
"""The skills that the record follows, in the order of the work. That of shapes is how far the two
outlines lie apart at most; few studies have any."""


class MissFigure(NamedTuple):
    """A typical miss (`fit.miss.Miss`), reference heads: value, standard uncertainty ``u``, mark
    limit, and how many marks it rests on."""

    value: float
    u: float
    limit: float
    marks: int


class SkillFigure(NamedTuple):
    """Median size of the errors of one skill with their middle 80 %, in ``unit``."""

    skill: str
    unit: str
    median: float
    low: float
    high: float
    measures: int


class Summary(NamedTuple):
    """What the record keeps of a study.

    Attributes:
        tracked: typical miss over the short set, comparable between studies, or why not.
        miss: typical miss over all marks.
        skills: a figure for each skill that has been measured.
    """

    tracked: MissFigure | NotMeasurable
    miss: MissFigure | NotMeasurable
    skills: tuple[SkillFigure, ...]

    def skill(self, name: str) -> SkillFigure | None:
        """The figure of that skill, or None."""
        return next((figure for figure in self.skills if figure.skill == name), None)
