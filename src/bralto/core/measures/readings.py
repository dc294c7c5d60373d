"""A reading: one measure on both pictures, its error, uncertainty and verdict."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.table import LENGTH_KINDS, MeasureTable, MeasureValues
from bralto.core.measures.units import Length, Unit
from bralto.core.measures.verdict import other_side, steeper, verdicts
from bralto.core.measures.verdict_names import VERDICTS, Verdict
from bralto.core.measures.view_kinds import UNITS, Kinds, kinds_of
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import Grade
from bralto.core.uncertainty import propagate
from bralto.core.views.model import MeasureSpec, View

__all__ = [
    "Reading",
    "error_slopes",
    "errors_alone",
    "read_measures",
]


@dataclass(frozen=True, slots=True)
class Reading:
    """One measure on both pictures. Missing figures are None and ``reason`` says why.

    Attributes:
        spec: which measure.
        reference, drawing: its values, in heads, degrees or as a fraction.
        error: drawing - reference (against the intention where there is one), same unit.
        percent: 100 (drawing / reference - 1) for lengths, 100 error for fractions and ratios.
        u: standard uncertainty of the error, same unit.
        tolerance: the grade's, same unit.
        more: whether the error is one of more: further down, further from plumb, longer, steeper.
        verdict: one of `Verdict`.
        note: what must be said besides, such as a line that leans to the other side.
    """

    spec: MeasureSpec
    reference: float | None
    drawing: float | None
    error: float | None
    percent: float | None
    u: float | None
    tolerance: float
    more: bool
    verdict: Verdict
    reason: str = ""
    note: str = ""

    @property
    def unit(self) -> str:
        """Unit of reference, drawing, error, u and tolerance."""
        return UNITS[self.spec.kind]

    @property
    def severity(self) -> float:
        """Size of the error in tolerances; 0 where it was not measured."""
        return abs(self.error) / self.tolerance if self.error is not None else 0.0


def read_measures(
    view: View,
    seen: MeasureTable,
    drawn: MeasureTable,
    cov_seen: Floats,
    cov_drawn: Floats,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    grade: Grade,
    intents: Mapping[str, float],
) -> tuple[Reading, ...]:
    """Turn two measure tables into readings.

    Lengths are divided by the head first and the gradient of the quotient is taken whole, so a
    height shares its crown with the head it is counted in.
    """
    kinds = kinds_of(view)
    factors = np.array([intents.get(spec.id, 1.0) for spec in view.measures])
    intended = np.array([spec.id in intents for spec in view.measures])
    counted = _counted(kinds, seen, drawn, head, unit, factors)
    wanted, drawn_values, errors = counted.wanted, counted.drawn, counted.errors
    u = _doubts(kinds, counted, (seen, drawn), (cov_seen, cov_drawn), head, unit, factors)
    tolerances = kinds.tolerances(grade)
    crossed = np.where(kinds.tilts, other_side(wanted, drawn_values), wanted * drawn_values < 0.0)
    crossed &= kinds.tilts | kinds.signed
    grown = crossed | (np.abs(drawn_values) > np.abs(wanted))
    more = np.where(kinds.signed, grown, errors > 0.0)
    more = np.where(kinds.tilts, steeper(wanted, drawn_values), more)
    said = verdicts(errors, u, tolerances, more, intended)
    measured = _measured(kinds, seen, drawn, unit)
    columns = zip(
        view.measures, kinds.notes, measured.tolist(), (wanted / factors).tolist(),
        drawn_values.tolist(), errors.tolist(), _percents(kinds, wanted, drawn_values, errors),
        u.tolist(), tolerances.tolist(), more.tolist(), said.tolist(), crossed.tolist(),
        strict=True,
    )  # fmt: skip
    return tuple(
        Reading(
            spec, reference, drawing, error, percent, u_at, tolerance, more_at, VERDICTS[verdict],
            "" if percent is not None else notes.no_percent,
            notes.crossed if crossed_at and VERDICTS[verdict].off else "",
        )
        if whole
        else _no_reading(view, i, seen, drawn, head, unit, reference, drawing, tolerance)
        for i, (spec, notes, whole, reference, drawing, error, percent, u_at, tolerance, more_at,
                verdict, crossed_at) in enumerate(columns)
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Counted:
    """(m,) arrays: values wanted and drawn, in heads where they are lengths, and the errors; and by
    what a raw value is multiplied on its way there."""

    wanted: Floats
    seen: Floats
    drawn: Floats
    errors: Floats
    per_seen: Floats
    per_drawn: Floats
    per_ratio: Floats
    quotient: Floats


def _counted(
    kinds: Kinds,
    seen: MeasureValues,
    drawn: MeasureValues,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    factors: Floats,
) -> _Counted:
    counted_seen, per_seen = seen.values, np.ones(len(factors))
    counted_drawn, per_drawn = drawn.values, np.ones(len(factors))
    if isinstance(head, Length):
        per_seen = np.where(kinds.lengths, 1.0 / head.value, 1.0)
        counted_seen = counted_seen * per_seen
    if isinstance(unit, Unit):
        per_drawn = np.where(kinds.lengths, 1.0 / unit.value, 1.0)
        counted_drawn = counted_drawn * per_drawn
    wanted = factors * counted_seen
    # A ratio's error is relative, so its gradient is that of the quotient of both pictures.
    able = kinds.ratios & (wanted != 0.0)
    per_ratio = np.where(able, 1.0 / np.where(able, wanted, 1.0), 1.0)
    quotient = counted_drawn * per_ratio
    errors = np.where(kinds.ratios, quotient - 1.0, counted_drawn - wanted)
    errors = np.where(kinds.turning, wrap_degrees(errors), errors)
    return _Counted(
        wanted, counted_seen, counted_drawn, errors, per_seen, per_drawn, per_ratio, quotient
    )


def errors_alone(
    view: View,
    seen: MeasureValues,
    drawn: MeasureValues,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    intents: Mapping[str, float],
) -> Floats:
    """(m,) array: the error of every measure, NaN where it was not measured; no uncertainty."""
    kinds = kinds_of(view)
    factors = np.array([intents.get(spec.id, 1.0) for spec in view.measures])
    errors = _counted(kinds, seen, drawn, head, unit, factors).errors
    return np.where(_measured(kinds, seen, drawn, unit), errors, np.nan)


def error_slopes(
    view: View,
    seen: MeasureTable,
    drawn: MeasureTable,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    intents: Mapping[str, float],
) -> tuple[Floats, Floats]:
    """How every error goes with the marks, for figures that are made of several errors.

    Returns:
        (m, n, 2) arrays, d(error) / d(mark), over the reference's marks and over the drawing's.
    """
    kinds = kinds_of(view)
    factors = np.array([intents.get(spec.id, 1.0) for spec in view.measures])
    counted = _counted(kinds, seen, drawn, head, unit, factors)
    return _slopes(kinds, counted, (seen, drawn), head, unit, factors)


def _measured(
    kinds: Kinds, seen: MeasureValues, drawn: MeasureValues, unit: Unit | NotMeasurable
) -> Bools:
    return np.asarray(seen.ok & drawn.ok & (isinstance(unit, Unit) | ~kinds.lengths))


def _doubts(
    kinds: Kinds,
    counted: _Counted,
    tables: tuple[MeasureTable, MeasureTable],
    covs: tuple[Floats, Floats],
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    factors: Floats,
) -> Floats:
    """(m,) array: standard uncertainty of each error; ``tables`` and ``covs``, seen and drawn."""
    by_seen, by_drawn = _slopes(kinds, counted, tables, head, unit, factors)
    u = np.sqrt(propagate(by_drawn, covs[1]) + propagate(by_seen, covs[0]))
    return np.where(u < _NO_DOUBT, 0.0, u)


def _slopes(
    kinds: Kinds,
    counted: _Counted,
    tables: tuple[MeasureTable, MeasureTable],
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    factors: Floats,
) -> tuple[Floats, Floats]:
    """(m, n, 2) arrays, see `error_slopes`."""
    per_ratio = counted.per_ratio
    per_wanted = factors * np.where(kinds.ratios, counted.quotient * per_ratio, 1.0)
    # d(v / h) = dv / h - (v / h) dh / h, for lengths alone.
    by_seen = (per_wanted * counted.per_seen)[:, None, None] * tables[0].gradients
    by_drawn = (per_ratio * counted.per_drawn)[:, None, None] * tables[1].gradients
    if isinstance(head, Length):
        each = np.where(kinds.lengths, per_wanted * counted.seen / head.value, 0.0)
        by_seen -= each[:, None, None] * head.gradient
    if isinstance(unit, Unit):
        each = np.where(kinds.lengths, counted.drawn / unit.value, 0.0)[:, None, None]
        by_drawn -= each * unit.by_drawing
        if unit.by_reference.any():
            by_seen += each * unit.by_reference  # through the unit
    return by_seen, by_drawn


def _percents(kinds: Kinds, wanted: Floats, drawn: Floats, errors: Floats) -> list[float | None]:
    """100 (drawn / wanted - 1) of unsigned lengths, 100 error of fractions and ratios, or None."""
    able = kinds.compared & (np.abs(wanted) >= _NOTHING)
    quotients = 100.0 * (drawn / np.where(able, wanted, 1.0) - 1.0)
    percents = np.where(kinds.shares, 100.0 * errors, quotients).tolist()
    told = (able | kinds.shares).tolist()
    return [percent if tell else None for percent, tell in zip(percents, told, strict=True)]


def _no_reading(
    view: View,
    i: int,
    seen: MeasureTable,
    drawn: MeasureTable,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    reference: float,
    drawing: float,
    tolerance: float,
) -> Reading:
    """What is left to say of a measure that one of the pictures does not have."""
    spec = view.measures[i]
    no_seen = _lack(seen, i, spec, head, "the reference")
    no_drawn = _lack(drawn, i, spec, unit, "the drawing")
    return Reading(
        spec=spec,
        reference=None if no_seen else reference,
        drawing=None if no_drawn else drawing,
        error=None,
        percent=None,
        u=None,
        tolerance=tolerance,
        more=False,
        verdict=Verdict.NOT_MEASURED,
        reason=no_seen or no_drawn,
    )


def _lack(table: MeasureTable, i: int, spec: MeasureSpec, unit: object, whose: str) -> str:
    """Why a measure has no value on a picture, or ""."""
    if not table.ok[i]:
        lacks = table.missing[i]
        return f"{whose} lacks {lacks}" if lacks else f"on {whose}, its marks lie in one spot"
    if spec.kind in LENGTH_KINDS and isinstance(unit, NotMeasurable):
        return unit.reason
    return ""


_NO_DOUBT = 1e-12
"""A doubt below this is that of a value that is fixed by construction, and rounding."""
_NOTHING = 1e-9
"""A reference's value below this (heads) is no base for a percentage."""
