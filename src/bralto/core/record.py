"""What the record keeps of an assessment: typical miss and one figure a skill."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.assessment import Assessment
from bralto.core.fit.miss import Miss
from bralto.core.measures.shapes import ShapeReading
from bralto.core.results import NotMeasurable

__all__ = ["SKILLS", "SkillFigure", "Summary", "summarise"]

SKILLS = ("heights", "widths", "tilts", "plumb", "shapes")
"""The skills that the record follows, in the order of the work. That of shapes is how far the two
outlines lie apart at most; few studies have any."""

_MIDDLE = (10.0, 90.0)  # percentiles that bound the middle 80 %


@dataclass(frozen=True, slots=True)
class SkillFigure:
    """Median size of the errors of one skill with their middle 80 %, in ``unit``."""

    skill: str
    unit: str
    median: float
    low: float
    high: float
    measures: int


@dataclass(frozen=True, slots=True)
class Summary:
    """What the record keeps of a study.

    Attributes:
        tracked: typical miss over the short set, comparable between studies, or why not.
        miss: typical miss over all marks.
        skills: a figure for each skill that has been measured.
    """

    tracked: Miss | NotMeasurable
    miss: Miss | NotMeasurable
    skills: tuple[SkillFigure, ...]

    def skill(self, name: str) -> SkillFigure | None:
        """The figure of that skill, or None."""
        return next((figure for figure in self.skills if figure.skill == name), None)


def summarise(assessment: Assessment) -> Summary:
    """Median |error| a skill; measures that are 0 by construction (u = 0) do not count."""
    found = {skill: _figure(skill, assessment) for skill in SKILLS}
    figures = tuple(figure for figure in found.values() if figure is not None)
    return Summary(assessment.short_miss, assessment.miss, figures)


def _figure(skill: str, assessment: Assessment) -> SkillFigure | None:
    if skill == "shapes":
        sizes = [shape.contour for shape in assessment.shapes if isinstance(shape, ShapeReading)]
        unit = "head"
    else:
        chosen = [r for r in assessment.readings if r.spec.skill == skill]
        sizes = [abs(r.error) for r in chosen if r.error is not None and r.u]
        unit = chosen[0].unit if chosen else ""
    if not sizes:
        return None
    low, high = np.percentile(sizes, _MIDDLE)
    return SkillFigure(skill, unit, float(np.median(sizes)), float(low), float(high), len(sizes))
