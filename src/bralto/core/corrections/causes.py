"""Which errors follow from which correction, and by which measure a correction can be checked.

The drawing is measured again as it would be with corrections put right: with all of them, with each
alone left wrong, and one after the other in the order of the list. What a measure loses at a step
is that correction's share of its error; what remains at the end is left over.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.corrections.moves import Move
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.points import PointTable, point_table
from bralto.core.measures.readings import Reading, errors_alone
from bralto.core.measures.table import MeasureValues, measure_values
from bralto.core.measures.units import Length, Unit, unit_of_drawing
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Scale
from bralto.core.terms import School
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import MeasureKind, MeasureSpec, View

__all__ = ["UNIT", "Again", "Causes", "checks", "find_causes"]

UNIT = "unit"
"""What an error follows from where the head that all is counted in makes it."""

_HALF = 0.5
"""Share of an error that a correction must take away for the measure to bear it out."""

_SUITS: dict[str, frozenset[MeasureKind]] = {
    **dict.fromkeys(("scale", "lengthen", "widen", "stretch"), frozenset({"span", "ratio"})),
    **dict.fromkeys(("turn", "swing", "tilt", "straighten"), frozenset({"tilt", "angle"})),
    **dict.fromkeys(
        ("eye", "face", "nod", "tip", "twist"),
        frozenset({"height", "offset", "span", "ratio", "fraction", "tilt", "angle", "alignment"}),
    ),
    "lean": frozenset({"tilt", "alignment"}),
    "turn whole": frozenset({"tilt", "angle", "alignment"}),
    "shift": frozenset({"alignment", "offset", "height", "fraction", "span", "ratio"}),
}
"""Kinds of measures by which a move is checked first: a size against a size, a turn by an angle."""

_TELLING = 2.0
"""How much a measure that lists name is preferred as the check."""


@dataclass(frozen=True, slots=True)
class Causes:
    """What each measure's error comes from, in the order of the view's measures.

    Attributes:
        left_over: the error once the list is done; NaN where it was not measured.
        follows_from: number of the correction from 1, `UNIT`, or None.
        unit_percent: by how much the drawn head differs from what all other marks say, + is long;
            None where it does not matter.
    """

    left_over: Floats
    follows_from: tuple[int | str | None, ...]
    unit_percent: float | None

    def of(self, listed: Sequence[object], kept: Sequence[object]) -> Causes:
        """The same where of the corrections listed only some are kept: numbered anew."""
        numbers = {listed.index(one) + 1: at for at, one in enumerate(kept, start=1)}
        follows = tuple(
            numbers.get(one) if isinstance(one, int) else one for one in self.follows_from
        )
        return replace(self, follows_from=follows)


class Again:
    """A drawing measured again as it would be with some of its marks moved.

    What stays is worked out once: a list of corrections is held against the measures many times.
    """

    def __init__(
        self,
        view: View,
        pair: Pair,
        scale: Scale,
        head: Length | NotMeasurable,
        intents: Mapping[str, float],
        as_read: Sequence[Reading] = (),
    ) -> None:
        """Get ready.

        Args:
            pair: its shared marks alone (`Pair.shared_only`).
            as_read: of every measure, where the reference's values are those that were read and
                not what its marks make: of a body that was sighted.
        """
        if isinstance(head, Length):  # its gradient is over marks that may not be shared
            head = Length(head.value, np.zeros_like(pair.seen.xy))
        self._view, self._pair, self._scale = view, pair, scale
        self._head, self._intents = head, intents
        self._reference = point_table(view, pair.seen, pair.common)
        self._seen = measure_values(view, [self._reference])[0]
        if as_read and isinstance(head, Length):
            long = [head.value if one.unit == "head" else 1.0 for one in as_read]
            read = [one.reference for one in as_read]
            self._seen = MeasureValues(
                np.array([(at or 0.0) * by for at, by in zip(read, long, strict=True)]),
                np.array([at is not None for at in read], dtype=np.bool_),
            )

    def errors(self, away: Floats) -> Floats:
        """(k, m) array, NaN where not measured, of every measure once the marks went (k, n, 2)
        away, drawing units."""
        if not len(away):
            return np.zeros((0, len(self._view.measures)))
        pictures, points = self._moved(away)
        return self._read(points, self._units(pictures, points, self._scale))

    def by_best_fit(self, away: Floats) -> tuple[Floats, float]:
        """Once the marks went (n, 2) away: the (m,) errors by the best fit, and by how much the
        head in force is longer than the one that it has, percent; 0 where either is not known."""
        pictures, points = self._moved(away[None])
        (own,) = self._units(pictures, points, self._scale)
        (fitted,) = self._units(pictures, points, replace(self._scale, school=School.BEST_FIT))
        (errors,) = self._read(points, [fitted])
        long = 0.0
        if isinstance(own, Unit) and isinstance(fitted, Unit):
            long = 100.0 * (own.value / fitted.value - 1.0)
        return errors, long

    def _read(self, points: Sequence[PointTable], units: Sequence[Unit | NotMeasurable]) -> Floats:
        drawn = measure_values(self._view, points)
        rows = [
            errors_alone(self._view, self._seen, values, self._head, unit, self._intents)
            for values, unit in zip(drawn, units, strict=True)
        ]
        return np.array(rows)

    def _moved(self, away: Floats) -> tuple[list[SightMarks], list[PointTable]]:
        drawn = self._pair.drawn
        pictures = [replace(drawn, xy=xy) for xy in drawn.xy + away]
        return pictures, [point_table(self._view, one, self._pair.common) for one in pictures]

    def _units(
        self, pictures: Sequence[SightMarks], points: Sequence[PointTable], scale: Scale
    ) -> list[Unit | NotMeasurable]:
        pair, out = self._pair, []
        in_mm = pair.seen.unit == pair.drawn.unit == "mm"
        for picture, drawing in zip(pictures, points, strict=True):
            fit: Similarity | NotMeasurable = NotMeasurable("not asked")
            if scale.school == School.BEST_FIT:
                fit = Pair(pair.seen, picture, pair.shared).best_fit(gradients=False)
            out.append(
                unit_of_drawing(
                    self._view, scale, self._head, self._reference, drawing, fit, in_mm=in_mm
                )
            )
        return out


_ORIGIN: dict[MeasureKind, int] = {"height": 1, "offset": 1}
"""Points of a kind that only say where it is counted from: the mark that counts comes after."""


def _off(errors: Floats, readings: Sequence[Reading]) -> Bools:
    """Which errors, (m,) or (k, m), stand out from tolerance and doubt."""
    bounds = np.array([
        math.inf if one.error is None else max(one.tolerance, COVERAGE * (one.u or 0.0))
        for one in readings
    ])  # fmt: skip
    return np.asarray(np.abs(np.nan_to_num(errors)) > bounds)


def checks(
    view: View, keys: Sequence[str], moves: Sequence[Move], left_over: Floats, alone: Floats,
    readings: Sequence[Reading],
) -> tuple[MeasureSpec | None, ...]:  # fmt: skip
    """For each move the measure that bears it out; None where there is none.

    It is one of a point that the move shifts, off by itself once all other moves are put right, and
    for the larger part by this move. A head is also borne out by lengths that are counted in it.

    Args:
        left_over: (m,) array, errors with all moves put right; ``alone`` (k, m), with each move
            alone left wrong.
    """
    moved = {key: i for i, key in enumerate(keys)}
    marks_of = {point.key: point.marks for point in view.points}
    made_by = alone - left_over
    most = np.abs(np.nan_to_num(made_by)) >= _HALF * np.abs(np.nan_to_num(alone))
    borne_by = _off(alone, readings) & (alone * made_by > 0.0) & most
    unit = [moved[key] for key in view.head if key in moved]
    out = []
    for row, move in enumerate(moves):
        ends = move.carried[unit]
        counted = bool(ends.any()) and not ends.all()
        of_unit = counted and move.kind == "scale" and view.size == "figure"
        suits = _SUITS.get(f"{move.kind} {move.part or 'whole'}", _SUITS[move.kind])
        # Where what all is counted in goes with a part, it makes other lengths of the part look
        # off: the width of a calf in a leg that is too short.
        long = _own_lengths(view, move) if counted and view.size == "part" else set()
        best, worth = None, (False, False, 0, 0.0)
        for at in np.nonzero(borne_by[row])[0].tolist():
            reading = readings[at]
            points = reading.spec.points[_ORIGIN.get(reading.spec.kind, 0) :]
            touched = {key for point in points for key in marks_of.get(point, (point,))}
            carried = [bool(move.carried[moved[key]]) for key in touched if key in moved]
            if not any(carried) and not (of_unit and reading.spec.kind == "span"):
                continue
            size = abs(float(alone[row, at])) / reading.tolerance
            size *= _TELLING if reading.spec.telling else 1.0
            suited = reading.spec.kind in suits
            if not suited and (move.part is None or not all(carried)):
                continue  # what is of another kind tells only what lies on the part alone
            # What lies on the part alone says most of it: knee to heel of a leg.
            own = reading.spec.kind == "span" and frozenset(touched) in long
            rank = (suited, own, any(carried) + all(carried), size)
            if rank > worth:
                best, worth = reading.spec, rank
        out.append(best)
    return tuple(out)


def _own_lengths(view: View, move: Move) -> set[frozenset[str]]:
    """Marks between which a part that is too long or too large has its length: its joint's, and the
    one that ends it."""
    if move.kind not in {"scale", "lengthen"}:
        return set()
    return {
        frozenset((*limb.root, *limb.marks[:1]))
        for limb in view.limbs
        if move.part in {limb.key, limb.alone, *limb.pair[:1], *limb.own_pair[:1]}
    }


def find_causes(
    again: Again, left_over: Floats, right: Floats, after: Floats, readings: Sequence[Reading]
) -> Causes:
    """Split every error that is off among the corrections, in the order of the list.

    Args:
        left_over: (m,) array, errors with all moves put right.
        right: (n, 2), how far the marks go then, drawing units; ``after`` (k, n, 2), with one
            correction after the other put right.
    """
    off = np.array([one.verdict.off for one in readings])
    unexplained = off & _off(left_over, readings)
    of_unit, long = np.zeros_like(off), None
    if unexplained.any():
        errors, percent = again.by_best_fit(right)
        of_unit = unexplained & ~_off(errors, readings)
        long = percent if of_unit.any() else None
    drawn = np.array([np.nan if one.error is None else one.error for one in readings])
    steps = np.vstack([drawn, again.errors(after[:-1]), left_over])
    shares = (steps[:-1] - steps[1:]) * np.sign(drawn)
    most = np.argmax(shares, axis=0).tolist() if len(after) else []
    follows: list[int | str | None] = []
    for at in range(len(readings)):
        if not off[at]:
            follows.append(None)
        elif unexplained[at]:
            follows.append(UNIT if of_unit[at] else None)
        else:
            follows.append(most[at] + 1 if len(after) else None)
    return Causes(left_over, tuple(follows), long)
