"""How well each skill went in one study: one figure with its own interval."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.examination.summary import SKILLS, SkillFigure
from bralto.core.longitudinal.traits.levelled import Levelled
from bralto.core.measures.shapes import ShapeReading
from bralto.core.uncertainty import propagate

__all__ = ["middle_half", "skills_of"]

_HALF_NORMAL = 0.6744897501960817
"""Median of |x| of a standard normal: what placing alone makes of the middle of sizes."""

_FEW = 4

_FROM_ONE = frozenset({"heights", "plumb"})
"""Skills whose measures are all counted from one mark, the crown or that of the plumb line: what
that mark alone makes of all of them, as a big head does, is taken out by the middle of the errors.
"""


def middle_half(sizes: Floats) -> Ints:
    """Rows of the values that lie in the middle half by size: their mean is as robust as a median
    nearly, and goes smoothly with every one of them. All, where there are fewer than four.

    Args:
        sizes: (n,) array, n >= 1.
    """
    order, n = np.argsort(sizes, kind="stable"), len(sizes)
    cut = n // 4 if n >= _FEW else 0
    return np.sort(order[cut : n - cut])


def skills_of(
    levelled: Levelled | None, shapes: Sequence[ShapeReading], counted: str
) -> tuple[SkillFigure, ...]:
    """The mean of the middle half of |error| a skill, with its uncertainty from the marks; of
    heights and plumb, about the middle that all of them share.

    Outlines lie apart in what lengths are ``counted`` in.
    Measures that are 0 by construction (u = 0), and those that only repeat others, do not count.
    """
    found = [] if levelled is None else [_figure(skill, levelled) for skill in SKILLS]
    if shapes:
        found.append(_of_shapes(shapes, counted))
    return tuple(one for one in found if one is not None)


def _of(skill: str, kind: str, name: str, of: str) -> bool:
    if skill == "halves":
        return kind == "fraction" and name.endswith("_half")
    if skill == "thirds":
        return kind == "fraction" and name.endswith("_third")
    return of == skill


def _figure(skill: str, levelled: Levelled) -> SkillFigure | None:
    rows = np.array(
        [
            row
            for row, one in enumerate(levelled.readings)
            if levelled.told[row] and one.spec.telling
            and _of(skill, one.spec.kind, one.spec.id, one.spec.skill)
        ],
        dtype=np.intp,
    )  # fmt: skip
    if not len(rows):
        return None
    errors = np.array([levelled.readings[row].error for row in rows], dtype=np.float64)
    shared = np.zeros(len(rows))
    if skill in _FROM_ONE and len(rows) >= _FEW:
        middle = middle_half(errors)
        shared[middle] = 1.0 / len(middle)
        errors = errors - float(shared @ errors)
    chosen = middle_half(np.abs(errors))
    signs = np.zeros(len(rows))
    signs[chosen] = np.sign(errors[chosen]) / len(chosen)
    signs -= shared * signs.sum()
    variance = 0.0
    for slopes, cov in zip(levelled.slopes, levelled.covs, strict=True):
        along = np.tensordot(signs, slopes[rows], axes=1)
        variance += float(propagate(along[None], cov)[0])
    limit = _HALF_NORMAL * float(np.median([levelled.readings[row].u or 0.0 for row in rows]))
    value = float(np.abs(errors[chosen]).mean())
    first = levelled.readings[rows[0]]
    unit = first.spec.counted if first.unit == "head" else first.unit
    return SkillFigure(skill, unit, value, float(np.sqrt(variance)), limit, len(rows))


def _of_shapes(shapes: Sequence[ShapeReading], counted: str) -> SkillFigure:
    """How far outlines lie apart at most, the mean of the middle half; ``counted`` in what."""
    sizes = np.array([one.contour for one in shapes])
    chosen = middle_half(sizes)
    u = np.array([one.contour_u for one in shapes])[chosen]
    return SkillFigure(
        "shapes", counted, float(sizes[chosen].mean()), float(np.sqrt(np.square(u).sum())) / len(u),
        0.0, len(sizes),
    )  # fmt: skip
