"""How far away a sitter stands who is seen as large as a picture of one is on a screen.

What is seen at a distance D with a height H is as large on a screen at a distance E from the eye as
E H / D there (similar triangles): a person of 1.7 m who stands 6 m away is 170 mm tall on a screen
60 cm from the eye.
"""

from __future__ import annotations

from bralto.core.measures.units import own_head_px
from bralto.core.page.photo import HEAD_M
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["DISTANCES_M", "EYES_MM", "EYE_MM", "away_m", "head_mm_at", "head_px"]

EYE_MM = 600.0
"""From the eye to a screen, mm, unless the learner says otherwise (chosen here, no source)."""

EYES_MM = (400.0, 500.0, 600.0, 700.0, 800.0, 1000.0)

DISTANCES_M = {
    "figure": (3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0),
    "part": (1.0, 1.5, 2.0, 3.0, 4.0),
}
"""Distances at which a figure and a head are drawn from life, m, by `View.size` (common practice,
no source: three times what is seen is high, and further)."""


def away_m(head_mm: float, eye_mm: float) -> float:
    """How far away the sitter stands, m, whose head is so high on a screen at ``eye_mm``."""
    return HEAD_M * eye_mm / head_mm


def head_mm_at(metres: float, eye_mm: float) -> float:
    """How high, mm, the head of a sitter is on a screen at ``eye_mm`` who stands so far away."""
    return HEAD_M * eye_mm / metres


def head_px(view: View, known: Picture) -> float | None:
    """Height of the head, px of the marked picture; None where its marks do not tell, and of what
    is counted in no heads."""
    if view.unit_along != "straight" or not set(view.head) <= set(known.marks):
        return None
    return own_head_px(view, known) or None
