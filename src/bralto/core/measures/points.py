"""From marks to the points that measures name: the marks themselves, means of them, the lowest one.

Every point is a linear combination of marks, so a gradient over points becomes one over marks by
one matrix product, and marks that two points share are accounted for by themselves.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.frames import SightMarks, sight_marks
from bralto.core.results import NotMeasurable
from bralto.core.study import Picture
from bralto.core.views.model import View

__all__ = ["PointTable", "picture_points", "point_table"]


@dataclass(frozen=True, slots=True)
class PointTable:
    """All points of a view on one picture, in its sight frame.

    Attributes:
        xy: (p, 2) array; rows of missing points are 0 and must not be used.
        present: (p,) array, which points could be made.
        weights: (p, n) array, point = weights @ marks.
    """

    xy: Floats
    present: Bools
    weights: Floats


def point_table(view: View, marks: SightMarks, common: frozenset[str]) -> PointTable:
    """Make the view's points from one picture's marks.

    Args:
        view: names the points.
        marks: n marks in the sight frame (y up).
        common: marks that both pictures have; a ``lowest`` point is chosen among these alone,
            else a toe marked on one picture only would pass for a longer figure.
    """
    column = {key: i for i, key in enumerate(marks.keys)}
    total = len(view.landmarks) + len(view.points)
    weights = np.zeros((total, len(marks.keys)))
    present = np.zeros(total, dtype=np.bool_)
    for row, landmark in enumerate(view.landmarks):
        if landmark.key in column:
            weights[row, column[landmark.key]] = 1.0
            present[row] = True
    for row, point in enumerate(view.points, start=len(view.landmarks)):
        if point.rule == "lowest":
            at = [column[key] for key in point.marks if key in column and key in common]
            if at:
                weights[row, min(at, key=lambda i: float(marks.xy[i, 1]))] = 1.0
                present[row] = True
        elif all(key in column for key in point.marks):
            weights[row, [column[key] for key in point.marks]] = 1.0 / len(point.marks)
            present[row] = True
    return PointTable(weights @ marks.xy, present, weights)


def picture_points(
    view: View, picture: Picture, *, fewest: int = 1
) -> tuple[SightMarks, PointTable] | NotMeasurable:
    """All marks of one picture alone in its sight frame, and the view's points from them."""
    keys = [mark.key for mark in view.landmarks if mark.key in picture.placed()]
    if len(keys) < fewest:
        there = "no mark" if not keys else f"only the mark '{keys[0]}'"
        return NotMeasurable(f"there is {there} yet; at least {fewest} are wanted")
    marks = sight_marks(picture, keys)
    if isinstance(marks, NotMeasurable):
        return marks
    return marks, point_table(view, marks, frozenset(keys))
