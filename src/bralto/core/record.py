"""An assessment as what the record keeps of it: typical miss and one figure a skill."""

from __future__ import annotations

import numpy as np

from bralto.core.assessment import Assessment
from bralto.core.fit.miss import Miss
from bralto.core.measures.shapes import ShapeReading
from bralto.core.results import NotMeasurable
from bralto.core.summary import SKILLS, MissFigure, SkillFigure, Summary

__all__ = ["summarise"]

_MIDDLE = (10.0, 90.0)  # percentiles that bound the middle 80 %


def summarise(assessment: Assessment) -> Summary:
    """Median |error| a skill; measures that are 0 by construction (u = 0) do not count."""
    found = {skill: _figure(skill, assessment) for skill in SKILLS}
    figures = tuple(figure for figure in found.values() if figure is not None)
    return Summary(_kept(assessment.short_miss), _kept(assessment.miss), figures)


def _kept(miss: Miss | NotMeasurable) -> MissFigure | NotMeasurable:
    if isinstance(miss, NotMeasurable):
        return miss
    return MissFigure(miss.value, miss.u, miss.limit, miss.marks)


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
