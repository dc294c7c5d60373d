"""How large each part was drawn against the whole (measurement, section 6)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.kinds import degenerate, straight
from bralto.core.measures.points import PointTable
from bralto.core.uncertainty import propagate
from bralto.core.views.model import Part, View

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
    parts, rows, member = _spans(view)
    usable = reference.present[rows].all(axis=1) & drawing.present[rows].all(axis=1)
    for points in (reference, drawing):
        usable &= ~degenerate("span", "straight", points.xy, rows)
    whole = member @ ~usable == 0  # parts of which no span is missing
    member, parts = member[whole], tuple(part for part, ok in zip(parts, whole, strict=True) if ok)
    if not parts:
        return ()
    seen, by_seen = _sums(reference, rows[usable], member[:, usable])
    drawn, by_drawn = _sums(drawing, rows[usable], member[:, usable])
    scales = drawn / seen / fit.scale
    by_q = by_drawn / drawn[:, None, None] - fit.scale_by_drawing / fit.scale
    by_p = by_seen / seen[:, None, None] + fit.scale_by_reference / fit.scale
    u = scales * np.sqrt(propagate(by_q, cov_q) + propagate(by_p, cov_p))
    return tuple(
        PartScale(part.key, part.label, float(scale), float(one_u))
        for part, scale, one_u in zip(parts, scales, u, strict=True)
    )


@lru_cache
def _spans(view: View) -> tuple[tuple[Part, ...], Ints, Floats]:
    """The k parts, all their s spans as rows of points, and which belongs to which (k, s)."""
    index = view.point_rows
    pairs = [(i, pair) for i, part in enumerate(view.parts) for pair in part.spans]
    rows: Ints = np.array([[index[a], index[b]] for _, (a, b) in pairs], dtype=np.intp)
    member = np.zeros((len(view.parts), len(pairs)))
    member[[i for i, _ in pairs], np.arange(len(pairs))] = 1.0
    return view.parts, rows, member


def _sums(points: PointTable, rows: Ints, member: Floats) -> tuple[Floats, Floats]:
    """Summed spans (k,) and their gradients (k, n, 2) over the marks."""
    lengths, gradients = straight(points.xy[rows])
    over_marks = points.weights[rows].transpose(0, 2, 1) @ gradients
    return member @ lengths, np.tensordot(member, over_marks, axes=1)
