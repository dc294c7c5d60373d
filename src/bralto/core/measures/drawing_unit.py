"""The unit in force as it is said: one head, in each picture's px and in mm of the sheet."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.fit.similarity import fit_similarity
from bralto.core.measures.units import Length, Unit, own_head_px
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks, sight_marks
from bralto.core.study.values import Picture, Scale, State, Study
from bralto.core.terms import School
from bralto.core.views.model import View

__all__ = ["DrawingUnit", "drawing_unit"]


@dataclass(frozen=True, slots=True)
class DrawingUnit:
    """The unit in force: one head, in each picture's own lengths.

    Attributes:
        reference: reference head in the reference's frame unit.
        drawing: one reference head on the drawing, in the drawing's frame unit.
        reference_px: the same on the reference, image px; of a canon, those of its own figure.
        drawing_px: the same on the drawing, image px.
        drawing_mm: the same on the drawing's sheet in mm, or why it is not known.
    """

    reference: float
    drawing: float
    reference_px: float
    drawing_px: float | NotMeasurable
    drawing_mm: float | NotMeasurable


def drawing_unit(
    study: Study,
    view: View,
    state: State,
    scale: Scale,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    drawn: SightMarks,
) -> DrawingUnit | NotMeasurable:
    """The unit in both pictures' px and in mm."""
    if isinstance(unit, NotMeasurable):
        return unit
    if isinstance(head, NotMeasurable):
        return head
    assert study.reference is not None
    drawing_px: float | NotMeasurable = unit.value
    if scale.school == School.HEAD:
        drawing_px = own_head_px(view, state.picture)
    elif drawn.unit == "mm":
        drawing_px = _px_per_mm(drawn, state.picture)
        if not isinstance(drawing_px, NotMeasurable):
            drawing_px *= unit.value
    mm = unit.value if drawn.unit == "mm" else NotMeasurable("the drawing's sheet is not known")
    return DrawingUnit(head.value, unit.value, own_head_px(view, study.reference), drawing_px, mm)


def _px_per_mm(drawn: SightMarks, picture: Picture) -> float | NotMeasurable:
    """The scale of the photo where the figure is, on the average of its marks."""
    flat = sight_marks(picture, drawn.keys, in_mm=False)
    assert isinstance(flat, SightMarks)  # only a sheet can have no frame
    fit = fit_similarity(drawn.xy, flat.xy, np.ones(len(drawn.xy)), robust=False)
    return fit if isinstance(fit, NotMeasurable) else fit.scale
