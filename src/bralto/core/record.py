"""What the record keeps of an assessment: typical miss and one figure a skill."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.assessment import Assessment
from bralto.core.fit.miss import Miss
from bralto.core.readings import UNITS
from bralto.core.results import NotMeasurable

__all__ = ["SKILLS", "SkillFigure", "Summary", "summarise"]

SKILLS = ("heights", "widths", "tilts", "plumb")
"""The skills that the record follows, in the order of the work."""

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
    figures = []
    for skill in SKILLS:
        chosen = [r for r in assessment.readings if r.spec.skill == skill and r.error is not None]
        sizes = [abs(r.error) for r in chosen if r.error is not None and r.u]
        if sizes:
            low, high = np.percentile(sizes, _MIDDLE)
            figures.append(
                SkillFigure(
                    skill=skill,
                    unit=UNITS[chosen[0].spec.kind],
                    median=float(np.median(sizes)),
                    low=float(low),
                    high=float(high),
                    measures=len(sizes),
                )
            )
    return Summary(assessment.short_miss, assessment.miss, tuple(figures))
