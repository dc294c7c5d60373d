"""A reading: one measure on both pictures, its error, uncertainty and verdict."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
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
    "tilt": "degree",
}
"""Unit of each kind. A fraction runs from 0 at the upper end to 1 at the lower."""


@dataclass(frozen=True, slots=True)
class Reading:
    """One measure on both pictures. Missing figures are None and ``reason`` says why.

    Attributes:
        spec: which measure.
        reference, drawing: its values, in heads, degrees or as a fraction.
        error: drawing - reference (against the intention where there is one), same unit.
        percent: 100 (drawing / reference - 1) for lengths, 100 error for fractions.
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
    lengths = np.array([spec.kind in LENGTH_KINDS for spec in view.measures])
    factors = np.array([intents.get(spec.id, 1.0) for spec in view.measures])
    seen_values, by_seen = seen.values.copy(), seen.gradients.copy()
    drawn_values, by_drawn = drawn.values.copy(), drawn.gradients.copy()
    cross = np.zeros_like(by_seen)  # d(drawing's value) / d(reference's marks), through the unit
    if isinstance(head, Length):
        seen_values[lengths] /= head.value
        by_seen[lengths] -= seen_values[lengths, None, None] * head.gradient
        by_seen[lengths] /= head.value
    if isinstance(unit, Unit):
        drawn_values[lengths] /= unit.value
        by_drawn[lengths] -= drawn_values[lengths, None, None] * unit.by_drawing
        by_drawn[lengths] /= unit.value
        cross[lengths] = -drawn_values[lengths, None, None] * unit.by_reference / unit.value
    errors = drawn_values - factors * seen_values
    tilts = np.array([spec.kind == "tilt" for spec in view.measures])
    errors[tilts] = wrap_degrees(errors[tilts])
    variance = propagate(by_drawn, cov_drawn)
    variance += propagate(cross - factors[:, None, None] * by_seen, cov_seen)
    u = np.sqrt(variance)
    return tuple(
        _reading(
            spec,
            _figure(seen, i, lengths[i], head, seen_values, "the reference"),
            _figure(drawn, i, lengths[i], unit, drawn_values, "the drawing"),
            float(errors[i]),
            float(u[i]),
            float(factors[i]),
            grade,
            spec.id in intents,
        )
        for i, spec in enumerate(view.measures)
    )


def _figure(
    table: MeasureTable, i: int, length: bool, unit: object, values: Floats, whose: str
) -> float | NotMeasurable:
    if not table.ok[i]:
        lacks = table.missing[i]
        return NotMeasurable(
            f"{whose} lacks {lacks}" if lacks else f"on {whose}, its marks lie in one spot"
        )
    if length and isinstance(unit, NotMeasurable):
        return unit
    return float(values[i])


def _reading(
    spec: MeasureSpec,
    seen: float | NotMeasurable,
    drawn: float | NotMeasurable,
    error: float,
    u: float,
    factor: float,
    grade: Grade,
    intended: bool,
) -> Reading:
    tolerance = tolerance_of(spec.kind, grade)
    if isinstance(seen, NotMeasurable) or isinstance(drawn, NotMeasurable):
        reason = next(f.reason for f in (seen, drawn) if isinstance(f, NotMeasurable))
        return Reading(
            spec=spec,
            reference=None if isinstance(seen, NotMeasurable) else seen,
            drawing=None if isinstance(drawn, NotMeasurable) else drawn,
            error=None,
            percent=None,
            u=None,
            tolerance=tolerance,
            more=False,
            verdict="not measured",
            reason=reason,
        )
    wanted = factor * seen
    percent, reason = _percent(spec.kind, wanted, drawn, error)
    more, note = error > 0.0, ""
    if spec.kind == "tilt":
        more = tilt_excess(wanted, drawn)
        note = "leans to the other side" if other_side(wanted, drawn) else ""
    elif spec.kind == "offset":
        crossed = wanted * drawn < 0.0
        more = crossed or abs(drawn) > abs(wanted)
        note = "on the other side of the plumb line" if crossed else ""
    said = verdict(error, u, tolerance, more=more, intended=intended)
    if said not in {"over", "under"}:
        note = ""
    return Reading(spec, seen, drawn, error, percent, u, tolerance, more, said, reason, note)


def _percent(kind: str, seen: float, drawn: float, error: float) -> tuple[float | None, str]:
    if kind == "fraction":
        return 100.0 * error, ""
    if kind in {"tilt", "offset"}:
        return None, f"a percentage says nothing of a {kind}"
    if abs(seen) < 1e-9:
        return None, "a percentage of nothing: the reference's value is 0"
    return 100.0 * (drawn / seen - 1.0), ""
