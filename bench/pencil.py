"""A pencil before a head, by plain geometry: what it tells knows nothing of the tool's own frames.

It hangs plumb, is held level and carries a tilt over, however the head behind it is tilted. What
is counted down a head, or across it, is counted with the pencil tilted as the head is.
"""

from __future__ import annotations

import numpy as np

from bench.bodies import Places
from bralto.core.arrays import Floats
from bralto.core.study.taken import Sighting, Sort

__all__ = ["told_by_pencil"]


def told_by_pencil(one: Sighting, marks: Places, up: Floats) -> float | None:
    """The value of a sighting in its own unit: no answers, no mm; None where it cannot be seen.

    Args:
        marks: heads, y up; with points that are the middle of several (`eye_line`).
        up: (2,) array, along which the head stands, from the chin upwards.
    """
    if one.sort.is_answer or one.in_mm or not {*one.points, *one.of, "crown", "chin"} <= set(marks):
        return None
    at = [marks[key] for key in one.points]
    head = float(np.hypot(*(marks["crown"] - marks["chin"])))
    up = up / np.hypot(*up)
    ways = {"plumb": up, "level": np.array([up[1], -up[0]])}

    def long(ends: list[Floats], along: str) -> float:
        away = ends[0] - ends[1]
        return float(np.hypot(*away)) if along == "straight" else abs(float(away @ ways[along]))

    away = at[1] - at[0]
    if one.sort is Sort.TILT:
        return float(np.degrees(np.arctan2(away[1], away[0])))
    if one.sort is Sort.PLUMB:
        return float(away[0]) / head
    if one.sort is Sort.LEVEL:
        return float(-away[1]) / head
    if one.sort is Sort.FRACTION:
        whole = at[2] - at[0]
        way = whole / np.hypot(*whole) if one.along == "straight" else ways[one.along]
        return float(away @ way) / float(whole @ way)
    if one.of:
        return long(at, one.along) / long([marks[key] for key in one.of], one.of_along)
    return long(at, one.along) / head
