"""All measures of a view on one picture at once: values, gradients, and why a value is missing."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.measures.kinds import FORMULAS, degenerate
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
class _Group:
    kind: str
    along: str
    at: Ints
    rows: Ints


@lru_cache
def _groups(view: View) -> tuple[_Group, ...]:
    """The view's measures sorted by formula, as index arrays."""
    index = view.point_rows
    groups = []
    for kind, along in FORMULAS:
        members = [i for i, s in enumerate(view.measures) if (s.kind, s.along) == (kind, along)]
        if members:
            rows = [[index[key] for key in view.measures[i].points] for i in members]
            groups.append(_Group(kind, along, np.array(members), np.array(rows, dtype=np.intp)))
    return tuple(groups)


def measure_table(view: View, points: PointTable) -> MeasureTable:
    """Evaluate every measure of the view on one picture's points."""
    total, marks = len(view.measures), points.weights.shape[1]
    values = np.zeros(total)
    over_points = np.zeros((total, len(points.xy), 2))
    ok = np.zeros(total, dtype=np.bool_)
    everything = bool(points.present.all())
    for group in _groups(view):
        usable = ~degenerate(group.kind, group.along, points.xy, group.rows)
        if not everything:
            usable &= np.all(points.present[group.rows], axis=1)
        at, rows = group.at, group.rows
        if not usable.all():
            at, rows = at[usable], rows[usable]
        if len(at):
            formula = FORMULAS[group.kind, group.along]
            values[at], over_points[at] = formula(points.xy, rows)
            ok[at] = True
    gradients = (over_points.transpose(0, 2, 1).reshape(2 * total, -1) @ points.weights).reshape(
        total, 2, marks
    )
    missing = ("",) * total if everything else _missing(view, points)
    return MeasureTable(values, gradients.transpose(0, 2, 1), ok, missing)


def _missing(view: View, points: PointTable) -> tuple[str, ...]:
    """The first point that each measure lacks, or ""."""
    lacking = {key for key, row in view.point_rows.items() if not points.present[row]}
    return tuple(next((k for k in spec.points if k in lacking), "") for spec in view.measures)
