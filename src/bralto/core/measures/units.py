"""The head on each picture under each scale school, with its gradient over both pictures' marks.

Measures are always counted in reference heads. The school says how long that head is on the
drawing: its own head (``head``), the reference head scaled by the envelopes (``envelope``), by the
best fit (``best-fit``) or by two marks that the learner trusts (``anchors``), or the reference's
own head, mm for mm (``sight-size``).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.kinds import FORMULAS, in_one_spot
from bralto.core.measures.points import PointTable
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture, Scale
from bralto.core.terms import School
from bralto.core.views.model import Along, View

__all__ = ["Length", "Unit", "own_head_px", "reference_head", "unit_of_drawing"]


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
    view: View, points: PointTable, ends: tuple[str, str], whose: str, along: Along
) -> Length | NotMeasurable:
    """A span, see `kinds.FORMULAS`."""
    index = view.point_rows
    rows = [index[key] for key in ends]
    for key, row in zip(ends, rows, strict=True):
        if not points.present[row]:
            return NotMeasurable(f"{whose} lacks the mark '{key}'")
    if in_one_spot(points.xy, *rows):
        return NotMeasurable(f"on {whose}, {ends[0]} and {ends[1]} lie in one spot")
    value, gradient = FORMULAS["span", along](points.xy[rows][None])
    if not value[0] > 0.0:
        return NotMeasurable(f"on {whose}, {ends[0]} and {ends[1]} have no distance along {along}")
    return Length(float(value[0]), points.weights[rows].T @ gradient[0])


def _head(view: View, points: PointTable, whose: str) -> Length | NotMeasurable:
    found = _length(view, points, view.head, whose, view.unit_along)
    if isinstance(found, NotMeasurable):
        return found
    return Length(found.value / view.heads, found.gradient / view.heads)


def own_head_px(view: View, picture: Picture) -> float:
    """Crown to chin in image px, whatever the sheet and the plumb correction; the picture has both
    marks."""
    top, bottom = (picture.marks[key] for key in view.head)
    return math.hypot(top.x - bottom.x, top.y - bottom.y) / view.heads


def reference_head(view: View, reference: PointTable) -> Length | NotMeasurable:
    """The straight distance crown to chin on the reference, as it appears; of an object its height
    along plumb.

    A view in which they do not show counts in an average head, so many of which make another
    distance (`View.head`, `View.heads`).
    """
    return _head(view, reference, "the reference")


def unit_of_drawing(
    view: View,
    scale: Scale,
    head: Length | NotMeasurable,
    reference: PointTable,
    drawing: PointTable,
    best_fit: Similarity | NotMeasurable,
    *,
    in_mm: bool,
) -> Unit | NotMeasurable:
    """One reference head on the drawing under a scale school (measurement, section 3).

    Args:
        scale: the school, and the two marks of the anchors school.
        head: the reference's, see `reference_head`.
        best_fit: with gradients over all marks of each picture.
        in_mm: both pictures are of sheets whose size is known.
    """
    if isinstance(head, NotMeasurable):
        return head
    if scale.school == School.HEAD:
        own = _head(view, drawing, "the drawing")
        if isinstance(own, NotMeasurable):
            return own
        return Unit(own.value, np.zeros_like(head.gradient), own.gradient)
    if scale.school == School.SIGHT_SIZE:
        if not in_mm:
            return NotMeasurable(
                "sight-size compares mm with mm, and not both pictures have the corners and size "
                "of their sheet"
            )
        return Unit(head.value, head.gradient, np.zeros((drawing.weights.shape[1], 2)))
    if scale.school in {School.ENVELOPE, School.ANCHORS}:
        ends = view.edges
        if scale.school == School.ANCHORS:
            if len(scale.marks) != 2 or not set(scale.marks) <= set(view.point_rows):
                return NotMeasurable(
                    "the anchors school wants two marks of the view in scale.marks, such as "
                    f"{view.edges[0]} and {view.plumb}"
                )
            ends = (scale.marks[0], scale.marks[1])
        along: Along = "straight"  # a tilted head is as high as it is long
        if scale.school == School.ENVELOPE and not view.axis:
            along = "level" if view.lies else "plumb"
        seen = _length(view, reference, ends, "the reference", along)
        drawn = _length(view, drawing, ends, "the drawing", along)
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
