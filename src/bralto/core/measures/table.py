"""All measures of a view on pictures at once: values, gradients, and why a value is missing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.measures.kinds import APART, FORMULAS, Formula, counted_apart, together
from bralto.core.measures.masses import ENOUGH
from bralto.core.measures.own_frame import OwnFrame, own_frames
from bralto.core.measures.points import PointTable
from bralto.core.views.model import MeasureKind, View

__all__ = [
    "LENGTH_KINDS", "MeasureTable", "MeasureValues", "measure_table", "measure_tables",
    "measure_values",
]  # fmt: skip

LENGTH_KINDS: frozenset[MeasureKind] = frozenset(
    {"height", "offset", "span", "alignment", "balance"}
)
"""Kinds whose value is a length and is divided by the head."""


@dataclass(frozen=True, slots=True)
class MeasureValues:
    """Raw values of a view's m measures on one picture, lengths still in the frame's unit.

    Attributes:
        values: (m,) array; 0 where not ``ok``.
        ok: (m,) array, which measures have a value.
    """

    values: Floats
    ok: Bools


@dataclass(frozen=True, slots=True)
class MeasureTable(MeasureValues):
    """Values with what uncertainty needs, and why one is missing.

    Attributes:
        gradients: (m, n, 2) array over the picture's marks.
        missing: (m,) tuple, what each measure lacks first, or "".
    """

    gradients: Floats
    missing: tuple[str, ...]


_WIDEST = 6
"""Points that a formula has at most."""

_APART = np.array([[0.0, 0.0], [1.0, 2.0], [3.0, 5.0], [7.0, 4.0], [1.0, 6.0], [5.0, 9.0]])
"""Points that stand in for those of a measure without a value: every formula can bear them."""


@dataclass(frozen=True, slots=True)
class _Plan:
    """What of a view's measures is the same for every picture, in the order of their formulas.

    Attributes:
        rows: (m, 6) array, the points of each measure, filled up with its first.
        groups: formula, how many points it takes, first measure of it and the one after the last.
        back: (m,) array, where each of the view's measures stands in the order of formulas.
        owner, first, second: of each pair of points that must lie apart, the measure that wants
            it and the two points; ``counted``, along which directions (`together`).
        against_plumb: (m,) array, which are taken against plumb even of a head.
    """

    rows: Ints
    groups: tuple[tuple[Formula, int, int, int], ...]
    back: Ints
    owner: Ints
    first: Ints
    second: Ints
    counted: Floats
    against_plumb: Bools


@lru_cache
def _plan(view: View) -> _Plan:
    index = view.point_rows
    members: dict[tuple[Formula, int], list[int]] = {}
    for i, spec in enumerate(view.measures):
        members.setdefault((FORMULAS[spec.kind, spec.along], len(spec.points)), []).append(i)
    order = [i for group in members.values() for i in group]
    back = np.argsort(order)
    rows = np.zeros((len(order), _WIDEST), dtype=np.intp)
    groups, pairs = [], []
    at = 0
    for (formula, width), group in members.items():
        groups.append((formula, width, at, at + len(group)))
        for i in group:
            spec = view.measures[i]
            points = [index[key] for key in spec.points]
            rows[at] = points + points[:1] * (_WIDEST - width)
            for a, b in APART.get((spec.kind, spec.along), ()):
                pairs.append((at, rows[at, a], rows[at, b], counted_apart(spec.along)))
            at += 1
    columns = np.array([pair[:3] for pair in pairs], dtype=np.intp).reshape(-1, 3).T
    counted = np.array([pair[3] for pair in pairs], dtype=np.float64).reshape(-1, 2)
    upright = np.array([view.measures[i].against_plumb for i in order], dtype=np.bool_)
    return _Plan(rows, tuple(groups), back, columns[0], columns[1], columns[2], counted, upright)


def measure_table(view: View, points: PointTable) -> MeasureTable:
    """Evaluate every measure of the view on one picture's points."""
    return measure_tables(view, [points])[0]


def measure_tables(view: View, pictures: Sequence[PointTable]) -> list[MeasureTable]:
    """Evaluate every measure of the view on several pictures' points in one go."""
    plan, frames = _plan(view), own_frames(view, pictures)
    ok, values, gradients = _evaluated(plan, frames, pictures)
    gradients[~ok] = 0.0
    tables = []
    for i, points in enumerate(pictures):
        # Each point is a combination of marks: points that share one are accounted for so.
        over_marks = points.weights[plan.rows].transpose(0, 2, 1) @ gradients[i]
        if frames is not None:
            own = ~plan.against_plumb
            over_marks[own] = _over_picture(frames[i], points, plan.rows[own], gradients[i][own])
        tables.append(
            MeasureTable(
                values=values[i, plan.back],
                ok=ok[i, plan.back],
                gradients=over_marks[plan.back],
                missing=_missing(view, points),
            )
        )
    return tables


def measure_values(view: View, pictures: Sequence[PointTable]) -> list[MeasureValues]:
    """The same without what uncertainty needs."""
    plan = _plan(view)
    ok, values, _ = _evaluated(plan, own_frames(view, pictures), pictures)
    rows = zip(values[:, plan.back], ok[:, plan.back], strict=True)
    return [MeasureValues(value, had) for value, had in rows]


def _evaluated(
    plan: _Plan, frames: Sequence[OwnFrame] | None, pictures: Sequence[PointTable]
) -> tuple[Bools, Floats, Floats]:
    """In the order of formulas: (p, m) which have a value, (p, m) values, (p, m, 6, 2) their
    gradients over the points."""
    places = [points.xy for points in pictures]
    if frames is not None:
        places = [frame.upright(xy) for frame, xy in zip(frames, places, strict=True)]
    ok = np.array([_usable(plan, one, xy) for one, xy in zip(pictures, places, strict=True)])
    at = np.array([xy[plan.rows] for xy in places])
    if frames is not None:
        plumb = np.array([points.xy[plan.rows[plan.against_plumb]] for points in pictures])
        at[:, plan.against_plumb] = plumb
    at[~ok] = _APART
    values, gradients = np.empty(ok.shape), np.zeros(at.shape)
    for formula, width, first, last in plan.groups:
        found, slopes = formula(at[:, first:last, :width].reshape(-1, width, 2))
        values[:, first:last] = found.reshape(len(pictures), -1)
        gradients[:, first:last, :width] = slopes.reshape(len(pictures), -1, width, 2)
    values[~ok] = 0.0
    return ok, values, gradients


def _over_picture(frame: OwnFrame, points: PointTable, rows: Ints, gradients: Floats) -> Floats:
    """(m, n, 2) gradients over the marks, of (m, k, 2) over points in the head's own frame."""
    # What turns with the centre line is taken over the points, the rest over the marks.
    back = gradients @ frame.turn
    over_marks: Floats = points.weights[rows].transpose(0, 2, 1) @ back
    by_turn = frame.by_turn(points.xy[rows], gradients)
    return over_marks + by_turn[:, None, None] * frame.gradient


def _usable(plan: _Plan, points: PointTable, xy: Floats) -> Bools:
    """(m,) array: which measures have all their points, and none in one spot with another; ``xy``
    as they are measured."""
    usable = np.asarray(points.present[plan.rows].all(axis=1))
    usable[plan.owner[together(xy, plan.first, plan.second, plan.counted)]] = False
    return usable


def _missing(view: View, points: PointTable) -> tuple[str, ...]:
    """What each measure lacks first, or ""."""
    if points.present.all():
        return ("",) * len(view.measures)
    weighed = {point.key: _LACKS[point.rule] for point in view.points if point.rule in _LACKS}
    lacking = {
        key: weighed.get(key, key)
        for key, row in view.point_rows.items()
        if not points.present[row]
    }
    return tuple(
        next((lacking[key] for key in spec.points if key in lacking), "") for spec in view.measures
    )


_LACKS = {
    "mass": f"marks of {100 * ENOUGH:.0f} % of the body's mass that the other picture has too",
    "support": "marks on both feet that the other picture has too",
}
"""What is said of a point that many marks make up."""
