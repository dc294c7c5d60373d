"""The head on each picture under each scale school, with its gradient over both pictures' marks.

Measures are always counted in reference heads. The school says how long that head is on the
drawing: its own head (``head``), the reference head scaled by the envelopes (``envelope``), or by
the best fit (``best-fit``).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.kinds import degenerate, plumb_span, straight
from bralto.core.measures.points import PointTable
from bralto.core.results import NotMeasurable
from bralto.core.views.model import View

__all__ = ["MEASURABLE_SCHOOLS", "Length", "Unit", "reference_head", "unit_of_drawing"]

MEASURABLE_SCHOOLS = ("head", "envelope", "best-fit")
"""The scale schools this version measures by."""


@dataclass(frozen=True, slots=True)
class Length:
    """A length on one picture with its gradient over that picture's marks, (n, 2)."""

    value: float
    gradient: Floats


@dataclass(frozen=True, slots=True)
class Unit:
    """How long one reference head is on the drawing.

    Attributes:
        value: in the drawing's frame unit (px or mm).
        by_reference: (n, 2) gradient over the reference's marks.
        by_drawing: (n, 2) gradient over the drawing's marks.
    """

    value: float
    by_reference: Floats
    by_drawing: Floats


def _length(
    view: View, points: PointTable, ends: tuple[str, str], whose: str, *, along_plumb: bool
) -> Length | NotMeasurable:
    index = view.point_rows
    rows: Ints = np.array([[index[ends[0]], index[ends[1]]]], dtype=np.intp)
    for key in ends:
        if not points.present[index[key]]:
            return NotMeasurable(f"{whose} lacks the mark '{key}'")
    if degenerate("span", "straight", points.xy, rows)[0]:
        return NotMeasurable(f"on {whose}, {ends[0]} and {ends[1]} lie in one spot")
    value, gradient = (plumb_span if along_plumb else straight)(points.xy, rows)
    if not value[0] > 0.0:
        return NotMeasurable(f"on {whose}, {ends[0]} and {ends[1]} lie at one height")
    return Length(float(value[0]), np.einsum("pn,pk->nk", points.weights, gradient[0]))


def reference_head(view: View, reference: PointTable) -> Length | NotMeasurable:
    """The straight distance crown to chin on the reference, as it appears."""
    return _length(view, reference, view.head, "the reference", along_plumb=False)


def unit_of_drawing(
    view: View,
    school: str,
    reference: PointTable,
    drawing: PointTable,
    best_fit: Similarity | NotMeasurable,
) -> Unit | NotMeasurable:
    """One reference head on the drawing under a scale school (measurement, section 3)."""
    if school not in MEASURABLE_SCHOOLS:
        return NotMeasurable(
            f"the {school} school is not measured yet; use {', '.join(MEASURABLE_SCHOOLS)}"
        )
    head = reference_head(view, reference)
    if isinstance(head, NotMeasurable):
        return head
    if school == "head":
        own = _length(view, drawing, view.head, "the drawing", along_plumb=False)
        if isinstance(own, NotMeasurable):
            return own
        return Unit(own.value, np.zeros_like(head.gradient), own.gradient)
    if school == "envelope":
        seen = _length(view, reference, view.edges, "the reference", along_plumb=True)
        drawn = _length(view, drawing, view.edges, "the drawing", along_plumb=True)
        if isinstance(seen, NotMeasurable):
            return seen
        if isinstance(drawn, NotMeasurable):
            return drawn
        value = drawn.value * head.value / seen.value
        return Unit(
            value,
            value * (head.gradient / head.value - seen.gradient / seen.value),
            drawn.gradient * head.value / seen.value,
        )
    if isinstance(best_fit, NotMeasurable):
        return best_fit
    return Unit(
        best_fit.scale * head.value,
        best_fit.scale * head.gradient + head.value * best_fit.scale_by_reference,
        head.value * best_fit.scale_by_drawing,
    )
