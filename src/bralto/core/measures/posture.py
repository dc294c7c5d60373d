"""How a figure is: standing on its feet, on its knees, or lying; and how it is measured then.

The whole of a figure that does not stand on its feet is no height but its longest extent; one that
lies is measured along level where another is along plumb (`views.laid_down`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.frames import SightMarks
from bralto.core.views.laid_down import laid_down
from bralto.core.views.model import MeasureSpec, View

__all__ = [
    "LIES",
    "NO_FEET",
    "STANDS",
    "UPRIGHT",
    "WHOLE",
    "measured_as",
    "posture",
    "told_of",
]

NO_FEET = "the figure does not stand on its feet"
"""Why a figure has no balance."""

_BESIDE = 1.5
"""Lengths of an axis from its middle, beyond which a point is not said to divide it (chosen here,
no source)."""

_FAR_BESIDE = "the figure lies with it far beside both ends"
_NO_SHARE = "a percentage says nothing of a height from the level line"

STANDS, UPRIGHT, LIES = "stands", "upright", "lies"
"""On its feet; upright, but on something else that carries it; or lying."""

_LYING = 50.0
"""Degrees from plumb beyond which the line from feet to crown is that of a lying figure: bent
forward it leans by 32, lying on its side by 76 (the model's poses)."""

_ON_FEET = 0.04
"""Share of the longest extent by which the lowest foot may lie above the lowest mark."""

_SITTING = 0.4
"""Rise of the hip above the knee, in lengths of the shank, below which a leg does not carry: of
sitting poses 0.28 at most, of standing ones the straighter leg has 0.68 or more (the model's)."""

_HIPS, _KNEES = ("trochanter", "hip_point"), ("knee", "knee_hollow")

WHOLE = "span.figure"
"""Id of the measure of the whole figure."""


def posture(view: View, marks: SightMarks) -> str:
    """One of `STANDS`, `UPRIGHT` and `LIES`. What shows no whole figure counts as standing, or as
    lying where it is held across, as an arm that points aside; heads have an axis of their own.

    Args:
        marks: of the reference, sight frame (y up).
    """
    top, bottom = view.edges
    ends = next((point.marks for point in view.points if point.key == bottom), (bottom,))
    row = {key: i for i, key in enumerate(marks.keys)}
    rows = [row[key] for key in ends if key in row]
    if view.axis or view.unit != "head" or not rows or top not in row:
        return STANDS
    x, y = marks.xy[row[top]] - marks.xy[rows].mean(axis=0)
    whole = view.size == "figure"
    # A part may point up, and is not the other way round for that.
    if np.degrees(np.arctan2(abs(x), y if whole else abs(y))) > _LYING:
        return LIES
    if not whole:
        return STANDS
    extent = float(np.ptp(marks.xy, axis=0).max())
    above = float(marks.xy[rows, 1].min() - marks.xy[:, 1].min())
    stands = above <= _ON_FEET * extent and not _sits(marks)
    return STANDS if stands else UPRIGHT


def _sits(marks: SightMarks) -> bool:
    """Whether neither leg carries: both hips lie about as low as the knees. Of a leg seen from the
    side the other is not known."""
    at = dict(zip(marks.keys, marks.xy, strict=True))
    rises = []
    for side in ("_r", "_l"):
        hip, knee = (
            next((at[stem + side] for stem in stems if stem + side in at), None)
            for stems in (_HIPS, _KNEES)
        )
        ankle = at.get("ankle" + side)
        if hip is None or knee is None or ankle is None:
            return False
        shank = float(np.hypot(*(knee - ankle)))
        rises.append(float(hip[1] - knee[1]) < _SITTING * shank)
    return all(rises)


def measured_as(view: View, how: str, marks: SightMarks, common: frozenset[str]) -> View:
    """The view with its whole figure measured as that posture wants it.

    Args:
        common: marks that both pictures have.
    """
    if how == LIES:
        view = laid_down(view)
    keys = [key for key in marks.keys if key in common]
    if how == STANDS or WHOLE not in view.measure_rows or len(keys) < 2:
        return view
    xy = marks.xy[[marks.keys.index(key) for key in keys]]
    apart = np.hypot(*(xy[:, None] - xy[None]).transpose(2, 0, 1))
    one, other = np.unravel_index(int(np.argmax(apart)), apart.shape)
    return _with_extent(view, keys[one], keys[other])


@lru_cache(maxsize=64)
def _with_extent(view: View, one: str, other: str) -> View:
    """The same view each time, since what is known of a view is kept by it."""
    ends = f"{view.point_label(one)} to {view.point_label(other)}"

    def changed(spec: MeasureSpec) -> MeasureSpec:
        if spec.id != WHOLE:
            return spec
        label = f"longest extent, {ends}"
        return replace(spec, points=(one, other), along="straight", label=label)

    return replace(view, measures=tuple(changed(spec) for spec in view.measures))


def told_of(how: str, readings: Sequence[Reading]) -> tuple[Reading, ...]:
    """The readings without what says nothing of that posture: who does not stand has no balance,
    how far something lies from the level line is no share of anything, and where the fingertip of
    an arm that reaches out falls between crotch and knee nobody asks."""
    if how == STANDS:
        return tuple(readings)
    return tuple(_told(one, how) for one in readings)


def _told(reading: Reading, how: str) -> Reading:
    if reading.reference is None:
        return reading
    if reading.spec.kind == "balance":
        return _untold(reading, NO_FEET)
    if how != LIES:
        return reading
    if reading.spec.kind == "height" and reading.percent is not None:
        return replace(reading, percent=None, reason=_NO_SHARE)
    if reading.spec.kind == "fraction" and abs((reading.reference or 0.0) - 0.5) > _BESIDE:
        return _untold(reading, _FAR_BESIDE)
    return reading


def _untold(reading: Reading, reason: str) -> Reading:
    return replace(
        reading, reference=None, drawing=None, error=None, percent=None, u=None, more=False,
        verdict=Verdict.NOT_MEASURED, reason=reason, note="",
    )  # fmt: skip
