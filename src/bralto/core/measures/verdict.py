"""What may be said of an error: never cry wolf (measurement, section 5)."""

from __future__ import annotations

import math

from bralto.core.tolerances import COVERAGE, Grade

__all__ = ["VERDICTS", "other_side", "tilt_excess", "tolerance_of", "verdict"]

VERDICTS = ("over", "under", "within", "cannot tell", "intended", "not measured")


_ROUNDING = 1e-12


def tolerance_of(kind: str, grade: Grade) -> float:
    """The grade's tolerance in the unit of the error: heads, degrees, parts of axis or ratio."""
    if kind in {"tilt", "angle"}:
        return grade.degrees
    if kind in {"fraction", "ratio"}:
        return grade.percent / 100.0
    return grade.head


def verdict(error: float, u: float, tolerance: float, *, more: bool, intended: bool = False) -> str:
    """Verdict on one error.

    Args:
        error: drawing minus reference (or minus the intention), in the measure's unit.
        u: standard uncertainty of the error, same unit.
        tolerance: largest error that is not named, same unit.
        more: whether the error is one of `over` rather than `under`.
        intended: the learner declared the measure as changed on purpose.
    """
    size, expanded = abs(error), COVERAGE * u
    if size > tolerance:
        if size <= expanded:
            return "cannot tell"
        return "over" if more else "under"
    if expanded > 2.0 * tolerance:
        return "cannot tell"
    return "intended" if intended else "within"


def other_side(reference: float, drawing: float) -> bool:
    """Whether a drawn tilt (degrees) leans to the other side than the seen one.

    A line nearer to level leans by the sign of its rise, one nearer to plumb by that of its run;
    one that points the other way altogether (in a mirrored drawing) leans to the other side too.
    """
    if math.cos(math.radians(drawing - reference)) < 0.0:
        return True
    part = math.sin if _steepness(reference) < 45.0 else math.cos
    # A line that runs to the left is level at 180 degrees, whose sine is not quite 0.
    return part(math.radians(reference)) * part(math.radians(drawing)) < -_ROUNDING


def tilt_excess(reference: float, drawing: float) -> bool:
    """Whether a drawn tilt is steeper than the seen one, or leans to the other side."""
    return other_side(reference, drawing) or _steepness(drawing) > _steepness(reference)


def _steepness(tilt: float) -> float:
    return math.degrees(math.asin(min(1.0, abs(math.sin(math.radians(tilt))))))
