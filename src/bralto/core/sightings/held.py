"""Each sighting held against the same measure on the drawing: its error, with both doubts."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.points import picture_points
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.study.values import Picture
from bralto.core.tolerances import Grade
from bralto.core.uncertainty import propagate
from bralto.core.views.model import View

__all__ = ["Held", "held_against"]


@dataclass(frozen=True, slots=True)
class Held:
    """One sighting beside the drawing.

    Attributes:
        drawn: what it would be on the drawing, in the sighting's unit; of an answer 1, -1 or 0, as
            it would be answered there. None where the drawing lacks its marks, or a length is in
            mm, which only the whole figure ties to the drawing.
        error: drawn less sighted (relative of lengths against lengths); ``u``, its standard
            uncertainty; None where there is none.
        verdict: one of `measures.verdict.Verdict`.
    """

    sighting: Sighting
    drawn: float | None
    error: float | None
    u: float | None
    verdict: Verdict


def held_against(
    view: View, sightings: Sightings, drawing: Picture, grade: Grade
) -> tuple[Held, ...]:
    """All of them, in their order."""
    found = picture_points(view, drawing, fewest=2)
    if isinstance(found, NotMeasurable):
        return tuple(Held(one, None, None, None, Verdict.NOT_MEASURED) for one in sightings.items)
    marks, points = found
    sighter = Sighter(view, points)
    out = []
    for one in sightings.items:
        at = None if one.in_mm else sighter.on(one)
        if at is None:
            out.append(Held(one, None, None, None, Verdict.NOT_MEASURED))
            continue
        placed = math.sqrt(float(propagate(at.gradient[None], marks.doubt)[0]))
        out.append(_answered(one, at.value, placed) if one.sort.is_answer else
                   _valued(one, at.value, placed, grade))  # fmt: skip
    return tuple(out)


def _valued(one: Sighting, drawn: float, placed: float, grade: Grade) -> Held:
    error, u = drawn - one.value, math.hypot(one.u, placed)
    if one.sort is Sort.TILT:
        error = float(wrap_degrees(np.float64(error)))
        tolerance = grade.degrees
    elif one.sort is Sort.FRACTION:
        tolerance = grade.percent / 100.0
    elif one.of:
        error, u, tolerance = error / one.value, u / one.value, grade.percent / 100.0
    else:
        tolerance = grade.head
    return Held(one, drawn, error, u, verdict_on(error, u, tolerance))


def _answered(one: Sighting, drawn: float, placed: float) -> Held:
    """An answer is wrong only where the drawing says surely otherwise."""
    doubt = 2.0 * math.hypot(one.u, placed)
    there = 0.0 if abs(drawn) <= doubt else math.copysign(1.0, drawn)
    if there == one.value:
        verdict = Verdict.WITHIN
    elif there == 0.0 or (one.value == 0.0 and abs(drawn) <= 2.0 * doubt):
        verdict = Verdict.CANNOT_TELL
    else:
        verdict = Verdict.OVER if there > one.value else Verdict.UNDER
    return Held(one, there, None, None, verdict)
