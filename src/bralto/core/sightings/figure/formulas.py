"""What a sighting would be on given marks: value and gradient, by the formulas of the measures."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.measures.kinds import FORMULAS, degenerate
from bralto.core.measures.own_frame import OwnFrame, own_frames
from bralto.core.measures.points import PointTable
from bralto.core.measures.table import LENGTH_KINDS, MeasureTable, measure_table
from bralto.core.measures.units import Length, reference_head
from bralto.core.results import NotMeasurable
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import Along, MeasureKind, MeasureSpec, View

__all__ = ["AtOnce", "Sighted", "Sighter", "sights_itself"]


@dataclass(frozen=True, slots=True)
class Sighted:
    """A sighting's value on some marks.

    Attributes:
        value: in the sighting's unit; of an answer by how much *yes* it is: the logarithm of the
            quotient of two lengths, heads of a height or of how far left.
        gradient: (n, 2) over the marks.
    """

    value: float
    gradient: Floats


_BY_THE_PENCIL = frozenset({"tilt", "offset", "alignment"})
"""Kinds of measures that are sighted against plumb: a pencil hangs plumb, is held level and carries
a tilt over, however the head behind it is tilted."""

_COUNTED = frozenset({"span", "fraction"})
"""Formulas of what is counted down a head or across it, as it is tilted."""


@lru_cache(maxsize=128)
def _as_sighted(view: View) -> View:
    """The view with its measures as a pencil takes them. Those of a head are along its own centre
    line, with which a pencil that hangs or is held level has nothing to do."""
    if not view.axis:
        return view
    return replace(
        view,
        measures=tuple(
            spec if sights_itself(view, spec) else replace(spec, against_plumb=True)
            for spec in view.measures
        ),
    )


def sights_itself(view: View, spec: MeasureSpec) -> bool:
    """Whether who sights a measure has sighted the check of that name: of a head the true tilt of
    the eyes is not yet how they stand to its centre line."""
    return not view.axis or spec.against_plumb or spec.kind not in _BY_THE_PENCIL


class AtOnce:
    """Sightings of a view in the order in which `Sighter.on_all` works them out.

    Attributes:
        items: k sightings.
        measured, rows: (m,) arrays, which are of measures of the view, and of which.
        lengths: rows of those whose measure is a length, which is told in heads.
        others: rows of those that are of none.
    """

    def __init__(self, view: View, items: Sequence[Sighting]) -> None:
        known = view.measure_rows
        at = [i for i, one in enumerate(items) if one.measure in known and not one.in_mm]
        rows = [known[items[i].measure] for i in at]
        kinds = [view.measures[row].kind for row in rows]
        self.items = tuple(items)
        self.measured, self.rows = np.array(at, dtype=np.intp), np.array(rows, dtype=np.intp)
        self.lengths = np.array(
            [i for i, kind in zip(at, kinds, strict=True) if kind in LENGTH_KINDS], dtype=np.intp
        )
        self.others = sorted(set(range(len(items))).difference(at))


class Sighter:
    """What sightings would be on the marks of one picture.

    Tilts, and what lies beside a plumb or below a level line, are true ones, also of a head; its
    lengths and fractions are along its own centre line.
    """

    def __init__(self, view: View, points: PointTable, mm_per_head: float = 1.0) -> None:
        """Get ready.

        Args:
            points: of the view, in any sight frame (y up).
            mm_per_head: what a head is on the pencil, for lengths in mm.
        """
        self._view, self._points, self._mm = _as_sighted(view), points, mm_per_head

    @cached_property
    def _table(self) -> MeasureTable:
        return measure_table(self._view, self._points)

    @cached_property
    def head(self) -> Length | NotMeasurable:
        """The head of the marks."""
        return reference_head(self._view, self._points)

    def on(self, one: Sighting) -> Sighted | None:
        """The value; None where a point of it is missing or two lie in one spot."""
        if one.measure in self._view.measure_rows and not one.in_mm:
            return self._measured(self._view.measure_rows[one.measure])
        if one.sort is Sort.LENGTH:
            return self._length(one)
        if one.sort is Sort.TILT:
            return self._at("tilt", "straight", one.points)
        if one.sort is Sort.FRACTION:
            return self._at("fraction", one.along, one.points)
        if one.sort is Sort.LONGER:
            found = self._quotient(one.along, one.points, one.of_along, one.of)
            if found is None or found.value <= 0.0:
                return None
            return Sighted(float(np.log(found.value)), found.gradient / found.value)
        # What is left is how far one point lies below or beside another, in heads.
        points = one.points if not one.sort.is_answer else (one.points[0], one.of[0])
        beside = one.sort in {Sort.PLUMB, Sort.LEFT}
        at = self._at("offset", "level", points) if beside else self._at("height", "plumb", points)
        return self._in_heads(at)

    def on_all(self, asked: AtOnce) -> tuple[Floats, Floats, Bools]:
        """Values (k,), slopes (k, 2n) over the marks, x and y of each side by side, and (k,) which
        have a value; 0 of the others."""
        k, marks = len(asked.items), self._points.weights.shape[1]
        values, slopes, ok = np.zeros(k), np.zeros((k, 2 * marks)), np.zeros(k, dtype=np.bool_)
        if len(asked.measured):
            # Those of measures, nearly all, in one go.
            table, head, at, lengths = self._table, self.head, asked.measured, asked.lengths
            values[at], ok[at] = table.values[asked.rows], table.ok[asked.rows]
            slopes[at] = table.gradients[asked.rows].reshape(len(at), -1)
            if isinstance(head, NotMeasurable):
                values[lengths], slopes[lengths], ok[lengths] = 0.0, 0.0, False
            else:
                in_heads = values[lengths] / head.value
                by_head = in_heads[:, None] * head.gradient.ravel()
                values[lengths] = in_heads
                slopes[lengths] = (slopes[lengths] - by_head) / head.value
        for i in asked.others:
            found = self.on(asked.items[i])
            if found is not None:
                values[i], slopes[i], ok[i] = found.value, found.gradient.ravel(), True
        return values, slopes, ok

    def _measured(self, row: int) -> Sighted | None:
        """A measure of the view, as it is sighted."""
        table = self._table
        if not table.ok[row]:
            return None
        found = Sighted(float(table.values[row]), table.gradients[row])
        lengths = self._view.measures[row].kind in LENGTH_KINDS
        return self._in_heads(found) if lengths else found

    def _length(self, one: Sighting) -> Sighted | None:
        if one.of:
            return self._quotient(one.along, one.points, one.of_along, one.of)
        found = self._in_heads(self._at("span", one.along, one.points))
        if found is None or not one.in_mm:
            return found
        return Sighted(self._mm * found.value, self._mm * found.gradient)

    def _in_heads(self, found: Sighted | None) -> Sighted | None:
        head = self.head
        if found is None or isinstance(head, NotMeasurable):
            return None
        value = found.value / head.value
        return Sighted(value, (found.gradient - value * head.gradient) / head.value)

    def _quotient(
        self, along: Along, points: Sequence[str], by_along: Along, by: Sequence[str]
    ) -> Sighted | None:
        above, below = self._at("span", along, points), self._at("span", by_along, by)
        if above is None or below is None or below.value <= 0.0:
            return None
        value = above.value / below.value
        return Sighted(value, (above.gradient - value * below.gradient) / below.value)

    def _at(self, kind: MeasureKind, along: Along, keys: Sequence[str]) -> Sighted | None:
        points = self._points
        rows = np.array([[self._view.point_rows[key] for key in keys]], dtype=np.intp)
        if not points.present[rows].all() or degenerate(kind, along, points.xy, rows)[0]:
            return None
        xy = points.xy[rows]
        frame = self._frame if kind in _COUNTED and along != "straight" else None
        if frame is None:
            value, gradient = FORMULAS[kind, along](xy)
            return Sighted(float(value[0]), points.weights[rows[0]].T @ gradient[0])
        value, gradient = FORMULAS[kind, along](frame.upright(xy))
        over_marks = points.weights[rows[0]].T @ (gradient[0] @ frame.turn)
        return Sighted(
            float(value[0]), over_marks + frame.by_turn(xy, gradient)[0] * frame.gradient
        )

    @cached_property
    def _frame(self) -> OwnFrame | None:
        """The frame of a head, in which what is counted down or across it is counted."""
        found = own_frames(self._view, [self._points])
        return None if found is None else found[0]
