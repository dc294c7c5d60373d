"""A reading: one measure on both pictures, its error, uncertainty and verdict."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.table import LENGTH_KINDS, MeasureTable
from bralto.core.measures.units import Length, Unit
from bralto.core.measures.verdict import other_side, tilt_excess, tolerance_of, verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import Grade
from bralto.core.uncertainty import propagate
from bralto.core.views.model import MeasureSpec, View

__all__ = ["UNITS", "Reading", "read_measures"]

UNITS = {
    "height": "head",
    "offset": "head",
    "span": "head",
    "fraction": "fraction",
    "ratio": "ratio",
    "tilt": "degree",
    "angle": "degree",
    "alignment": "head",
}
"""Unit of each kind. A fraction runs from 0 at the upper end to 1 at the lower; the error of a
ratio is relative, drawing / reference - 1."""


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
        verdict: one of `verdict.VERDICTS`.
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
    verdict: str
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
    lengths, turning, ratios = _kinds(view)
    factors = np.array([intents.get(spec.id, 1.0) for spec in view.measures])
    seen_values, by_seen = seen.values, seen.gradients
    drawn_values, by_drawn = drawn.values, drawn.gradients
    if isinstance(head, Length):
        seen_values, per, each = _counted(seen_values, lengths, head.value)
        by_seen = per * by_seen - each * head.gradient
    by_seen = factors[:, None, None] * by_seen
    if isinstance(unit, Unit):
        drawn_values, per, each = _counted(drawn_values, lengths, unit.value)
        by_drawn = per * by_drawn - each * unit.by_drawing
        by_seen = by_seen + each * unit.by_reference  # through the unit
    wanted = factors * seen_values
    errors = drawn_values - wanted
    errors[turning] = wrap_degrees(errors[turning])
    # A ratio's error is relative, so its gradient is that of the quotient of both pictures.
    per = np.where(ratios & (wanted != 0.0), 1.0 / np.where(wanted != 0.0, wanted, 1.0), 1.0)
    quotient = drawn_values * per
    errors[ratios] = quotient[ratios] - 1.0
    by_drawn = per[:, None, None] * by_drawn
    by_seen = np.where(ratios, quotient * per, 1.0)[:, None, None] * by_seen
    u = np.sqrt(propagate(by_drawn, cov_drawn) + propagate(by_seen, cov_seen))
    seen_at, drawn_at, errors_at = seen_values.tolist(), drawn_values.tolist(), errors.tolist()
    return tuple(
        _reading(spec, seen_at[i], drawn_at[i], errors_at[i], u_at, factor, grade, intents)
        if seen.ok[i] and drawn.ok[i] and (isinstance(unit, Unit) or not lengths[i])
        else _no_reading(
            spec,
            _figure(seen, i, lengths[i], head, seen_at, "the reference"),
            _figure(drawn, i, lengths[i], unit, drawn_at, "the drawing"),
            grade,
        )
        for i, (spec, u_at, factor) in enumerate(
            zip(view.measures, u.tolist(), factors.tolist(), strict=True)
        )
    )


@lru_cache
def _kinds(view: View) -> tuple[Bools, Bools, Bools]:
    """(m,) arrays: which measures are lengths, which are directions, which are ratios."""

    def of(kinds: frozenset[str]) -> Bools:
        return np.array([spec.kind in kinds for spec in view.measures])

    return of(LENGTH_KINDS), of(frozenset({"tilt", "angle"})), of(frozenset({"ratio"}))


def _counted(values: Floats, lengths: Bools, head: float) -> tuple[Floats, Floats, Floats]:
    """Lengths counted in heads, and the two factors of the quotient's gradient.

    d(v / h) = dv / h - (v / h) dh / h; what is no length stays as it is.

    Returns:
        The values (m,), the factor of the value's own gradient and that of the head's, each
        (m, 1, 1).
    """
    per = np.where(lengths, 1.0 / head, 1.0)
    counted = values * per
    return counted, per[:, None, None], np.where(lengths, counted / head, 0.0)[:, None, None]


def _figure(
    table: MeasureTable, i: int, length: bool, unit: object, values: list[float], whose: str
) -> float | NotMeasurable:
    if not table.ok[i]:
        lacks = table.missing[i]
        return NotMeasurable(
            f"{whose} lacks {lacks}" if lacks else f"on {whose}, its marks lie in one spot"
        )
    if length and isinstance(unit, NotMeasurable):
        return unit
    return values[i]


def _no_reading(
    spec: MeasureSpec, seen: float | NotMeasurable, drawn: float | NotMeasurable, grade: Grade
) -> Reading:
    """What is left to say of a measure that one of the pictures does not have."""
    reason = next(f.reason for f in (seen, drawn) if isinstance(f, NotMeasurable))
    return Reading(
        spec=spec,
        reference=None if isinstance(seen, NotMeasurable) else seen,
        drawing=None if isinstance(drawn, NotMeasurable) else drawn,
        error=None,
        percent=None,
        u=None,
        tolerance=tolerance_of(spec.kind, grade),
        more=False,
        verdict="not measured",
        reason=reason,
    )


def _reading(
    spec: MeasureSpec,
    seen: float,
    drawn: float,
    error: float,
    u: float,
    factor: float,
    grade: Grade,
    intents: Mapping[str, float],
) -> Reading:
    tolerance = tolerance_of(spec.kind, grade)
    wanted = factor * seen
    percent, reason = _percent(spec.kind, wanted, drawn, error)
    more, note = error > 0.0, ""
    if spec.kind == "tilt":
        more = tilt_excess(wanted, drawn)
        note = "leans to the other side" if other_side(wanted, drawn) else ""
    elif spec.kind in _CROSSED:
        crossed = wanted * drawn < 0.0
        more = crossed or abs(drawn) > abs(wanted)
        note = _CROSSED[spec.kind] if crossed else ""
    said = verdict(error, u, tolerance, more=more, intended=spec.id in intents)
    if said not in {"over", "under"}:
        note = ""
    return Reading(spec, seen, drawn, error, percent, u, tolerance, more, said, reason, note)


_ARTICLE = {
    "tilt": "a tilt",
    "offset": "an offset",
    "angle": "an angle",
    "alignment": "an alignment",
}
_CROSSED = {
    "offset": "on the other side of the plumb line",
    "alignment": "on the other side",
    "angle": "opens to the other side",
}
"""What is said of a signed value whose sign the drawing has turned."""


def _percent(kind: str, seen: float, drawn: float, error: float) -> tuple[float | None, str]:
    if kind in {"fraction", "ratio"}:
        return 100.0 * error, ""
    if kind in {"tilt", "offset", "angle", "alignment"}:
        return None, f"a percentage says nothing of {_ARTICLE[kind]}"
    if abs(seen) < 1e-9:
        return None, "a percentage of nothing: the reference's value is 0"
    return 100.0 * (drawn / seen - 1.0), ""
