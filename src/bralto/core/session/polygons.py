"""Which shapes are worth drawing as polygons: gaps and masses, by what a view shows."""

from __future__ import annotations

from bralto.core.measures.shapes import ShapeReading
from bralto.core.measures.verdict import tolerance_of, verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.values import OUTLINE
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import View
from bralto.core.words.phrases import signed, spread

__all__ = ["FEWEST_CORNERS", "shape_verdict", "shape_words", "suggested_shapes"]

FEWEST_CORNERS = 3

_SHAPES: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("gap by the R arm", ("elbow_r", "hip_point_r")),
    ("gap by the L arm", ("elbow_l", "hip_point_l")),
    ("gap between the legs", ("knee_r", "knee_l")),
    ("head and hair", ("crown", "chin")),
    ("shadow side of the face", ("eye_outer_r", "mouth_mid")),
    ("gap between thumb and fingers", ("thumb_tip", "index_tip")),
    (OUTLINE, ()),
)
"""Name, and the landmarks that a view must know for it (common practice, no source)."""


def suggested_shapes(view: View) -> tuple[str, ...]:
    """Names of shapes to look for in a view, gaps before masses."""
    known = {mark.key for mark in view.landmarks}
    return tuple(name for name, needs in _SHAPES if known.issuperset(needs))


def shape_verdict(one: ShapeReading, grade: Grade) -> Verdict:
    """Whether the two outlines lie apart by more than the grade's tolerance of lengths."""
    return verdict_on(one.contour, one.contour_u, tolerance_of("span", grade))


def shape_words(one: ShapeReading) -> str:
    """'area +12 % ± 4 · width −5 % · turned +3°', errors of the drawing."""
    area = one.area
    percent = 100.0 * area.error / area.reference if area.reference else 0.0
    doubt = 100.0 * COVERAGE * area.u / area.reference if area.reference else 0.0
    width = 100.0 * one.width_height.error
    return (
        f"area {signed(percent, 0)} % ± {spread(doubt, 0)} · width : height {signed(width, 0)} % · "
        f"turned {signed(one.tilt.error, 0)}°"
    )
