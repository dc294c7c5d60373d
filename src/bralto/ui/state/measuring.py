"""Measures one study for the shelf: its summary, its scale, or why there is none."""

from __future__ import annotations

from bralto.core.assessment import assess
from bralto.core.errors import UserError
from bralto.core.record import Summary, summarise
from bralto.core.results import NotMeasurable
from bralto.core.study import Study

__all__ = ["measure_study"]


def measure_study(study: Study) -> tuple[Summary | None, float | None, str]:
    """Summary, drawing px a reference px, and the reason where the study cannot be measured."""
    try:
        found = assess(study)
    except UserError as error:
        return None, None, str(error)
    unit = found.unit
    if isinstance(unit, NotMeasurable) or isinstance(unit.drawing_px, NotMeasurable):
        return summarise(found), None, ""
    return summarise(found), unit.drawing_px / unit.reference_px, ""
