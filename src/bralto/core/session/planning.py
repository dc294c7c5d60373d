"""The sheet planned for a reference that is marked, as it was noted on the bench."""

from __future__ import annotations

from bralto.core.errors import UserError
from bralto.core.page.page_extent import Extent, extent_of_marks
from bralto.core.page.page_plan import SheetPlan, paper_size, plan_sheet
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import PlanNote
from bralto.core.sightings.figure.sheet_extent import extent_of_sightings
from bralto.core.study.taken import Sightings
from bralto.core.study.values import Picture
from bralto.core.views.model import View
from bralto.core.words.phrases import sentence

__all__ = ["plan_of", "plan_of_sightings"]


def plan_of(view: View, reference: Picture, note: PlanNote) -> SheetPlan | str:
    """The sheet planned so, or in words why it cannot be."""
    try:
        extent = extent_of_marks(view, reference, note.print_mm)
    except UserError as error:
        return sentence(str(error))
    if isinstance(extent, NotMeasurable):
        return f"Mark the reference's top and bottom first: {extent.reason}."
    return _planned(extent, note)


def plan_of_sightings(view: View, sightings: Sightings, note: PlanNote) -> SheetPlan | str:
    """The sheet planned from life, or in words why it cannot be."""
    extent = extent_of_sightings(view, sightings)
    if isinstance(extent, NotMeasurable):
        return sentence(extent.reason)
    return _planned(extent, note)


def _planned(extent: Extent, note: PlanNote) -> SheetPlan | str:
    try:
        return plan_sheet(
            extent,
            paper_size(note.paper),
            note.margin,
            head_mm=note.head_mm,
            landscape=note.landscape,
        )
    except UserError as error:
        return sentence(str(error))
