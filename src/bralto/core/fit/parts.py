"""How large each part was drawn against the whole (measurement, section 6)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.kinds import degenerate, straight
from bralto.core.measures.points import PointTable, point_index
from bralto.core.uncertainty import propagate
from bralto.core.views.model import View

__all__ = ["PartScale", "part_scales"]


@dataclass(frozen=True, slots=True)
class PartScale:
    """Drawn size of a part against the best fit's scale: 1 is in proportion, 1.1 is 10 % big."""

    part: str
    label: str
    scale: float
    u: float


def part_scales(
    view: View,
    reference: PointTable,
    drawing: PointTable,
    cov_p: Floats,
    cov_q: Floats,
    fit: Similarity,
) -> tuple[PartScale, ...]:
    """Summed drawing spans / summed reference spans / s for each part whose spans are all there.

    Both point tables must be made of the marks that the fit rests on, in the same order.
    """
    index = point_index(view)
    scales = []
    for part in view.parts:
        rows: Ints = np.array([[index[a], index[b]] for a, b in part.spans], dtype=np.intp)
        if not (reference.present[rows].all() and drawing.present[rows].all()):
            continue
        if degenerate("span", "straight", reference.xy, rows).any():
            continue
        if degenerate("span", "straight", drawing.xy, rows).any():
            continue
        seen, by_seen = _sum(reference, rows)
        drawn, by_drawn = _sum(drawing, rows)
        scale = drawn / seen / fit.scale
        by_q = scale * (by_drawn / drawn - fit.scale_by_drawing / fit.scale)
        by_p = scale * (-by_seen / seen - fit.scale_by_reference / fit.scale)
        variance = propagate(by_q[None], cov_q)[0] + propagate(by_p[None], cov_p)[0]
        scales.append(PartScale(part.key, part.label, scale, float(np.sqrt(variance))))
    return tuple(scales)


def _sum(points: PointTable, rows: Ints) -> tuple[float, Floats]:
    lengths, gradients = straight(points.xy, rows)
    return float(lengths.sum()), points.weights.T @ gradients.sum(axis=0)
