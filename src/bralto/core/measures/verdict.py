"""What may be said of an error: never cry wolf (measurement, section 5)."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.measures.verdict_names import VERDICTS, Verdict
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import MeasureKind

__all__ = ["other_side", "steeper", "tolerance_of", "verdict_on", "verdicts"]

_OVER, _UNDER, _WITHIN, _CANNOT_TELL, _INTENDED, _ = range(len(VERDICTS))

_ROUNDING = 1e-12


def tolerance_of(kind: MeasureKind, grade: Grade) -> float:
    """The grade's tolerance in the unit of the error: heads, degrees, parts of axis or ratio."""
    if kind in {"tilt", "angle"}:
        return grade.degrees
    if kind in {"fraction", "ratio"}:
        return grade.percent / 100.0
    return grade.head


def verdicts(errors: Floats, u: Floats, tolerances: Floats, more: Bools, intended: Bools) -> Ints:
    """Verdicts on m errors, as rows of `VERDICTS`. All arguments are (m,) arrays.

    Args:
        errors: drawing minus reference (or minus the intention), in each measure's unit.
        u: standard uncertainty of the error, same unit.
        tolerances: largest error that is not named, same unit.
        more: whether the error is one of `over` rather than `under`.
        intended: the learner declared the measure as changed on purpose.
    """
    sizes, expanded = np.abs(errors), COVERAGE * u
    named = sizes > tolerances
    unclear = np.where(named, sizes <= expanded, expanded > 2.0 * tolerances)
    clear = np.where(named, np.where(more, _OVER, _UNDER), np.where(intended, _INTENDED, _WITHIN))
    return np.where(unclear, _CANNOT_TELL, clear)


def verdict_on(error: float, u: float, tolerance: float) -> Verdict:
    """The verdict on one error, more where it is above 0; units as for `verdicts`."""
    at, doubt, limit = np.array([[error], [u], [tolerance]])
    told = verdicts(at, doubt, limit, at > 0.0, np.zeros(1, dtype=np.bool_))
    return VERDICTS[int(told[0])]


def other_side(reference: Floats, drawing: Floats) -> Bools:
    """Whether drawn tilts (degrees) lean to the other side than the seen ones.

    A line nearer to level leans by the sign of its rise, one nearer to plumb by that of its run;
    one that points the other way altogether (in a mirrored drawing) leans to the other side too.
    """
    seen, drawn = np.radians(reference), np.radians(drawing)
    rises, runs = np.sin(seen) * np.sin(drawn), np.cos(seen) * np.cos(drawn)
    part = np.where(_steepness(reference) < 45.0, rises, runs)
    # A line that runs to the left is level at 180 degrees, whose sine is not quite 0.
    return np.asarray((np.cos(drawn - seen) < 0.0) | (part < -_ROUNDING))


def steeper(reference: Floats, drawing: Floats) -> Bools:
    """Whether drawn tilts are steeper than the seen ones, or lean to the other side."""
    leaning = _steepness(drawing) > _steepness(reference)
    return np.asarray(other_side(reference, drawing) | leaning)


def _steepness(tilt: Floats) -> Floats:
    """Against level, 0 to 90 degrees."""
    return np.degrees(np.arcsin(np.minimum(1.0, np.abs(np.sin(np.radians(tilt))))))
