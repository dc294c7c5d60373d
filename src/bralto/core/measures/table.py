"""All measures of a view on one picture at once: values, gradients, and why a value is missing."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.measures.kinds import APART, FORMULAS, Formula, together
from bralto.core.measures.points import PointTable
from bralto.core.views.model import View

__all__ = ["LENGTH_KINDS", "MeasureTable", "measure_table"]

LENGTH_KINDS = frozenset({"height", "offset", "span", "alignment"})
"""Kinds whose value is a length and is divided by the head."""


@dataclass(frozen=True, slots=True)
class MeasureTable:
    """Raw values of a view's m measures on one picture, lengths still in the frame's unit.

    Attributes:
        values: (m,) array; 0 where not ``ok``.
        gradients: (m, n, 2) array over the picture's marks.
        ok: (m,) array, which measures have a value.
        missing: (m,) tuple, the first point that each measure lacks, or "".
    """

    values: Floats
    gradients: Floats
    ok: Bools
    missing: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _Plan:
    """What of a view's measures is the same for every picture.

    Attributes:
        groups: formula, rows of measures and of their points, for measures of one formula.
        owner, first, second: of each pair of points that must lie apart, the measure that wants
            it and the two points; ``plumb`` and ``level`` say along which direction.
    """

    groups: tuple[tuple[Formula, Ints, Ints], ...]
    owner: Ints
    first: Ints
    second: Ints
    plumb: Bools
    level: Bools


@lru_cache
def _plan(view: View) -> _Plan:
    index = view.point_rows
    groups: dict[Formula, list[int]] = {}
    pairs: list[tuple[int, int, int, str]] = []
    for i, spec in enumerate(view.measures):
        groups.setdefault(FORMULAS[spec.kind, spec.along], []).append(i)
        for a, b in APART.get((spec.kind, spec.along), ()):
            pairs.append((i, index[spec.points[a]], index[spec.points[b]], spec.along))
    made = []
    for formula, members in groups.items():
        rows = [[index[key] for key in view.measures[i].points] for i in members]
        made.append((formula, np.array(members), np.array(rows, dtype=np.intp)))
    columns = np.array([pair[:3] for pair in pairs], dtype=np.intp).reshape(-1, 3).T
    plumb, level = (np.array([pair[3] == way for pair in pairs]) for way in ("plumb", "level"))
    return _Plan(tuple(made), columns[0], columns[1], columns[2], plumb, level)


def measure_table(view: View, points: PointTable) -> MeasureTable:
    """Evaluate every measure of the view on one picture's points."""
    plan = _plan(view)
    total, marks = len(view.measures), points.weights.shape[1]
    values = np.zeros(total)
    over_points = np.zeros((total, len(points.xy), 2))
    ok = np.ones(total, dtype=np.bool_)
    ok[plan.owner[together(points.xy, plan.first, plan.second, plan.plumb, plan.level)]] = False
    everything = bool(points.present.all())
    if not everything:
        for _, at, rows in plan.groups:
            ok[at] &= np.all(points.present[rows], axis=1)
    for formula, at, rows in plan.groups:
        usable = ok[at]
        if usable.all():
            values[at], over_points[at] = formula(points.xy, rows)
        elif usable.any():
            values[at[usable]], over_points[at[usable]] = formula(points.xy, rows[usable])
    gradients = (over_points.transpose(0, 2, 1).reshape(2 * total, -1) @ points.weights).reshape(
        total, 2, marks
    )
    missing = ("",) * total if everything else _missing(view, points)
    return MeasureTable(values, gradients.transpose(0, 2, 1), ok, missing)


def _missing(view: View, points: PointTable) -> tuple[str, ...]:
    """The first point that each measure lacks, or ""."""
    lacking = {key for key, row in view.point_rows.items() if not points.present[row]}
    return tuple(next((k for k in spec.points if k in lacking), "") for spec in view.measures)
