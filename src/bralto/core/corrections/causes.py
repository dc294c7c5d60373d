"""Which errors follow from which correction, and by which measure a correction can be checked.

The drawing is measured again as it would be with corrections put right: with all of them, with each
alone left wrong, and one after the other in the order of the list. What a measure loses at a step
is that correction's share of its error; what remains at the end is left over.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.corrections.moves import Move
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.points import point_table
from bralto.core.measures.table import measure_tables
from bralto.core.measures.units import Length, Unit, unit_of_drawing
from bralto.core.pairing import Pair
from bralto.core.readings import Reading, errors_alone
from bralto.core.results import NotMeasurable
from bralto.core.study import Scale
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import MeasureSpec, View

__all__ = ["UNIT", "Causes", "Remeasured", "checks", "find_causes", "remeasure"]

UNIT = "unit"
"""What an error follows from where the head that all is counted in makes it."""

_HALF = 0.5
"""Share of an error that a correction must take away for the measure to bear it out."""

_SUITS: dict[str, frozenset[str]] = {
    **dict.fromkeys(("scale", "lengthen", "widen", "stretch"), frozenset({"span", "ratio"})),
    **dict.fromkeys(("turn", "swing", "tilt", "straighten"), frozenset({"tilt", "angle"})),
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


@dataclass(frozen=True, slots=True)
class Remeasured:
    """(m,) arrays of errors: ``drawn``, as it is; ``left_over``, with all moves put right;
    ``alone`` and ``after`` (k, m), with each move alone left wrong, and after each in turn;
    ``fitted``, what is left over when it is counted in the head that the best fit has, of which the
    head in force is ``long`` percent longer."""

    drawn: Floats
    left_over: Floats
    alone: Floats
    after: Floats
    fitted: Floats
    long: float


def remeasure(
    view: View,
    pair: Pair,
    scale: Scale,
    head: Length | NotMeasurable,
    intents: Mapping[str, float],
    away: tuple[Floats, Floats, Floats],
) -> Remeasured:
    """Measure a drawing as corrections would leave it.

    Args:
        pair: its shared marks alone (`Pair.shared_only`).
        away: how far the marks go, drawing units: with all moves put right (n, 2), with each alone
            left wrong and after each in turn (k, n, 2).
    """
    k = len(away[1])
    places = [pair.drawn.xy, pair.drawn.xy + away[0]]
    places += [pair.drawn.xy + one for one in (*away[1], *away[2])]
    pictures = [replace(pair.drawn, xy=xy) for xy in places]
    reference = point_table(view, pair.seen, pair.common)
    drawings = [point_table(view, marks, pair.common) for marks in pictures]
    seen, *tables = measure_tables(view, [reference, *drawings])
    if isinstance(head, Length):  # its gradient is over marks that may not be shared
        head = Length(head.value, np.zeros_like(pair.seen.xy))
    in_mm = pair.seen.unit == pair.drawn.unit == "mm"

    def unit_of(row: int, school: Scale) -> Unit | NotMeasurable:
        fit: Similarity | NotMeasurable = NotMeasurable("not asked")
        if school.school == "best-fit":
            fit = Pair(pair.seen, pictures[row], pair.shared).best_fit()
        drawing = drawings[row]
        return unit_of_drawing(view, school, head, reference, drawing, fit, in_mm=in_mm)

    def errors(row: int, unit: Unit | NotMeasurable) -> Floats:
        return errors_alone(view, seen, tables[row], head, unit, intents)

    units = [unit_of(row, scale) for row in range(len(places))]
    rows = [errors(row, unit) for row, unit in enumerate(units)]
    own, fitted = units[1], unit_of(1, replace(scale, school="best-fit"))
    long = 0.0
    if isinstance(own, Unit) and isinstance(fitted, Unit):
        long = 100.0 * (own.value / fitted.value - 1.0)
    nothing = np.zeros((0, len(view.measures)))
    return Remeasured(
        drawn=rows[0],
        left_over=rows[1],
        alone=np.array(rows[2 : 2 + k]) if k else nothing,
        after=np.array(rows[2 + k :]) if k else nothing,
        fitted=errors(1, fitted),
        long=long,
    )


_ORIGIN = {"height": 1, "offset": 1}
"""Points of a kind that only say where it is counted from: the mark that counts comes after."""


def _off(errors: Floats, readings: Sequence[Reading]) -> Bools:
    """Which errors, (m,) or (k, m), stand out from tolerance and doubt."""
    bounds = np.array([max(one.tolerance, COVERAGE * (one.u or 0.0)) for one in readings])
    return np.asarray(np.abs(np.nan_to_num(errors)) > bounds)


def checks(
    view: View, keys: Sequence[str], moves: Sequence[Move], errors: Remeasured,
    readings: Sequence[Reading],
) -> tuple[MeasureSpec | None, ...]:  # fmt: skip
    """For each move the measure that bears it out; None where there is none.

    It is one of a point that the move shifts, off by itself once all other moves are put right, and
    for the larger part by this move.
    """
    moved = {key: i for i, key in enumerate(keys)}
    marks_of = {point.key: point.marks for point in view.points}
    made_by = errors.alone - errors.left_over
    most = np.abs(np.nan_to_num(made_by)) >= _HALF * np.abs(np.nan_to_num(errors.alone))
    borne_by = _off(errors.alone, readings) & (errors.alone * made_by > 0.0) & most
    out = []
    for row, move in enumerate(moves):
        suits = _SUITS.get(f"{move.kind} {move.part or 'whole'}", _SUITS[move.kind])
        best, worth = None, (False, False, 0.0)
        for at in np.nonzero(borne_by[row])[0].tolist():
            reading = readings[at]
            points = reading.spec.points[_ORIGIN.get(reading.spec.kind, 0) :]
            touched = {key for point in points for key in marks_of.get(point, (point,))}
            carried = [bool(move.carried[moved[key]]) for key in touched if key in moved]
            if not any(carried):
                continue
            size = abs(float(errors.alone[row, at])) / reading.tolerance
            size *= _TELLING if reading.spec.telling else 1.0
            suited = reading.spec.kind in suits
            if not suited and (move.part is None or not all(carried)):
                continue  # what is of another kind tells only what lies on the part alone
            # What lies on the part alone says most of it: knee to heel of a leg.
            if (suited, all(carried), size) > worth:
                best, worth = reading.spec, (suited, all(carried), size)
        out.append(best)
    return tuple(out)


def find_causes(errors: Remeasured, readings: Sequence[Reading]) -> Causes:
    """Split every error that is off among the corrections, in the order of the list."""
    off = np.array([one.verdict in {"over", "under"} for one in readings])
    remains = _off(errors.left_over, readings)
    of_unit = remains & ~_off(errors.fitted, readings)
    steps = np.vstack([errors.drawn, errors.after])
    shares = (steps[:-1] - steps[1:]) * np.sign(errors.drawn)
    follows: list[int | str | None] = []
    for at in range(len(readings)):
        if not off[at]:
            follows.append(None)
        elif remains[at]:
            follows.append(UNIT if of_unit[at] else None)
        else:
            follows.append(int(np.argmax(shares[:, at])) + 1 if len(shares) else None)
    return Causes(errors.left_over, tuple(follows), errors.long if UNIT in follows else None)
