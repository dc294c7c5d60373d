"""What a sighting would be on given marks: value and gradient, by the formulas of the measures."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.measures.kinds import FORMULAS, degenerate
from bralto.core.measures.own_frame import OwnFrame, own_frames
from bralto.core.measures.points import PointTable
from bralto.core.measures.table import LENGTH_KINDS, MeasureTable, measure_table
from bralto.core.measures.units import Length, reference_head
from bralto.core.results import NotMeasurable
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import Along, MeasureKind, MeasureSpec, View

__all__ = ["AtOnce", "Sighted", "Sighter", "parts_of", "sights_itself"]


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


def parts_of(one: Sighting) -> tuple[MeasureSpec, ...]:
    """What a sighting that is of no measure of its view is made of, as measures: one, or both
    lengths of a quotient."""
    if one.sort in {Sort.LENGTH, Sort.LONGER}:
        length = _own("span", one.along, one.points)
        return (length, _own("span", one.of_along, one.of)) if one.of else (length,)
    if one.sort is Sort.TILT:
        return (_own("tilt", "straight", one.points),)
    if one.sort is Sort.FRACTION:
        return (_own("fraction", one.along, one.points),)
    # What is left is how far one point lies below or beside another.
    points = one.points if not one.sort.is_answer else (one.points[0], one.of[0])
    if one.sort in {Sort.PLUMB, Sort.LEFT}:
        return (_own("offset", "level", points),)
    return (_own("height", "plumb", points),)


def _own(kind: MeasureKind, along: Along, points: tuple[str, ...]) -> MeasureSpec:
    """A measure that no view has; of a head, along its centre line where it is counted so."""
    counted = kind in _COUNTED and along != "straight"
    name = " ".join((kind, along, *points))
    return MeasureSpec(name, "", kind, points, along, "", "", against_plumb=not counted)


class AtOnce:
    """Sightings of a view in the order in which `Sighter.on_all` works them out.

    Attributes:
        items: k sightings.
        measured, rows: (m,) arrays, which are made of measures of the view (`parts_of`), and of
            which, the first.
        quotients, under: (q,) arrays, which of them are a length against another, and the measure
            of that; ``longer``, which of these are answers.
        lengths: rows of those whose measure is a length, which is told in heads; ``on_pencil``, of
            those that are told in mm.
        others: rows of those that are made of none.
    """

    def __init__(self, view: View, items: Sequence[Sighting]) -> None:
        known, self.items, self.others = view.measure_rows, tuple(items), list[int]()
        at, rows, two, under, lengths = (list[int]() for _ in range(5))
        for i, one in enumerate(items):
            if one.measure in known and not one.in_mm:
                made_of = [known[one.measure]]
            else:
                made_of = [known.get(part.id, -1) for part in parts_of(one)]
            if -1 in made_of:
                self.others.append(i)
                continue
            at.append(i)
            rows.append(made_of[0])
            if len(made_of) > 1:
                two.append(i)
                under.append(made_of[1])
            elif view.measures[made_of[0]].kind in LENGTH_KINDS:
                lengths.append(i)
        self.measured, self.rows = _places(at), _places(rows)
        self.quotients, self.under = _places(two), _places(under)
        self.longer = _places([i for i in two if items[i].sort is Sort.LONGER])
        self.lengths = _places(lengths)
        self.on_pencil = _places([i for i in lengths if _is_on_pencil(items[i])])


def _is_on_pencil(one: Sighting) -> bool:
    """Whether it is a length that is told in mm."""
    return one.in_mm and one.sort is Sort.LENGTH and not one.of


def _places(found: Sequence[int]) -> Ints:
    return np.array(found, dtype=np.intp)


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
        parts = parts_of(one)
        found = self._at(parts[0])
        if len(parts) > 1:
            return self._quotient(found, self._at(parts[1]), answer=one.sort is Sort.LONGER)
        if parts[0].kind in LENGTH_KINDS:
            found = self._in_heads(found)
        if found is None or not _is_on_pencil(one):
            return found
        return Sighted(self._mm * found.value, self._mm * found.gradient)

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
            values[asked.on_pencil] *= self._mm
            slopes[asked.on_pencil] *= self._mm
            if len(asked.quotients):
                self._divide(asked, values, slopes, ok)
        for i in asked.others:
            found = self.on(asked.items[i])
            if found is not None:
                values[i], slopes[i], ok[i] = found.value, found.gradient.ravel(), True
        return values, slopes, ok

    def _divide(self, asked: AtOnce, values: Floats, slopes: Floats, ok: Bools) -> None:
        """Make quotients of what are their first lengths so far, and answers of some of these."""
        table, two, longer = self._table, asked.quotients, asked.longer
        under = table.values[asked.under]
        ok[two] &= table.ok[asked.under] & (under > 0.0)
        under = np.where(ok[two], under, 1.0)
        values[two] /= under
        by_under = table.gradients[asked.under].reshape(len(two), -1)
        slopes[two] = (slopes[two] - values[two][:, None] * by_under) / under[:, None]
        ok[longer] &= values[longer] > 0.0
        of_one = np.where(ok[longer], values[longer], 1.0)
        values[longer] = np.log(of_one)
        slopes[longer] /= of_one[:, None]
        lost = two[~ok[two]]
        values[lost], slopes[lost] = 0.0, 0.0

    def _measured(self, row: int) -> Sighted | None:
        """A measure of the view, as it is sighted."""
        table = self._table
        if not table.ok[row]:
            return None
        found = Sighted(float(table.values[row]), table.gradients[row])
        lengths = self._view.measures[row].kind in LENGTH_KINDS
        return self._in_heads(found) if lengths else found

    def _in_heads(self, found: Sighted | None) -> Sighted | None:
        head = self.head
        if found is None or isinstance(head, NotMeasurable):
            return None
        value = found.value / head.value
        return Sighted(value, (found.gradient - value * head.gradient) / head.value)

    @staticmethod
    def _quotient(above: Sighted | None, below: Sighted | None, *, answer: bool) -> Sighted | None:
        if above is None or below is None or below.value <= 0.0:
            return None
        value = above.value / below.value
        found = Sighted(value, (above.gradient - value * below.gradient) / below.value)
        if not answer:
            return found
        return Sighted(float(np.log(value)), found.gradient / value) if value > 0.0 else None

    def _at(self, part: MeasureSpec) -> Sighted | None:
        points, key = self._points, (part.kind, part.along)
        rows = np.array([[self._view.point_rows[one] for one in part.points]], dtype=np.intp)
        if not points.present[rows].all() or degenerate(*key, points.xy, rows)[0]:
            return None
        xy = points.xy[rows]
        frame = None if part.against_plumb else self._frame
        if frame is None:
            value, gradient = FORMULAS[key](xy)
            return Sighted(float(value[0]), points.weights[rows[0]].T @ gradient[0])
        value, gradient = FORMULAS[key](frame.upright(xy))
        over_marks = points.weights[rows[0]].T @ (gradient[0] @ frame.turn)
        return Sighted(
            float(value[0]), over_marks + frame.by_turn(xy, gradient)[0] * frame.gradient
        )

    @cached_property
    def _frame(self) -> OwnFrame | None:
        """The frame of a head, in which what is counted down or across it is counted."""
        found = own_frames(self._view, [self._points])
        return None if found is None else found[0]
