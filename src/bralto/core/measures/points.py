"""From marks to the points that measures name: marks, their means, the lowest, where weight falls.

Every point is a linear combination of marks, so a gradient over points becomes one over marks by
one matrix product, and marks that two points share are accounted for by themselves.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.measures.masses import ENOUGH, mass_weights, support
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks, image_points, sight_marks
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["PointTable", "picture_points", "places_of", "point_table"]


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
        common: marks that both pictures have; a point that is chosen among marks or weighs them
            (any rule but ``mean``) is made of these alone, else a toe marked on one picture only
            would pass for a longer figure.
    """
    layout = _layout(view, marks.keys, common)
    weights = layout.weights
    if layout.chosen:
        weights = weights.copy()
        for row, rule, at in layout.chosen:
            if rule == "lowest":
                weights[row, min(at, key=lambda i: float(marks.xy[i, 1]))] = 1.0
            elif rule == "farthest":
                away = np.abs(marks.xy[:, 0] - marks.xy[layout.crown, 0])
                weights[row, max(at, key=lambda i: float(away[i]))] = 1.0
            else:
                for outermost in support(marks.xy, at):
                    weights[row, outermost] += 0.5
    return PointTable(weights @ marks.xy, layout.present, weights)


@dataclass(frozen=True, slots=True)
class _Layout:
    """What of a point table is the same wherever the marks lie.

    Attributes:
        weights, present: see `PointTable`; rows of ``chosen`` are still 0.
        chosen: of each point that one or two of some marks make up: its row, its rule, theirs.
        crown: row of the mark at the head's end, -1 where it is not there.
    """

    weights: Floats
    present: Bools
    chosen: tuple[tuple[int, str, list[int]], ...]
    crown: int


@lru_cache(maxsize=256)
def _layout(view: View, keys: tuple[str, ...], common: frozenset[str]) -> _Layout:
    column = {key: i for i, key in enumerate(keys)}
    total = len(view.landmarks) + len(view.points)
    weights = np.zeros((total, len(keys)))
    present = np.zeros(total, dtype=np.bool_)
    chosen = []
    crown = column.get(view.edges[0], -1)
    for row, landmark in enumerate(view.landmarks):
        if landmark.key in column:
            weights[row, column[landmark.key]] = 1.0
            present[row] = True
    for row, point in enumerate(view.points, start=len(view.landmarks)):
        at = [column[key] for key in point.marks if key in column and key in common]
        if point.rule == "mass":
            weighed = tuple(key if key in common else "" for key in keys)
            weights[row], mass = mass_weights(view, weighed)
            present[row] = mass >= ENOUGH
        elif point.rule == "mean":
            present[row] = all(key in column for key in point.marks)
            if present[row]:
                weights[row, [column[key] for key in point.marks]] = 1.0 / len(point.marks)
        elif len(at) >= (2 if point.rule == "support" else 1) and (
            point.rule != "farthest" or crown >= 0
        ):
            present[row] = True
            chosen.append((row, point.rule, at))
    return _Layout(weights, present, tuple(chosen), crown)


def picture_points(
    view: View, picture: Picture, *, fewest: int = 1, common: frozenset[str] | None = None
) -> tuple[SightMarks, PointTable] | NotMeasurable:
    """All marks of one picture in its sight frame, and the view's points from them: as of this
    picture alone, or of marks in ``common`` with another (`point_table`)."""
    placed = picture.placed()
    keys = [mark.key for mark in view.landmarks if mark.key in placed]
    if len(keys) < fewest:
        there = "no mark" if not keys else f"only the mark '{keys[0]}'"
        return NotMeasurable(f"there is {there} yet; at least {fewest} are wanted")
    marks = sight_marks(picture, keys)
    if isinstance(marks, NotMeasurable):
        return marks
    return marks, point_table(view, marks, frozenset(keys) if common is None else common)


def places_of(
    view: View, picture: Picture, common: frozenset[str]
) -> Mapping[str, tuple[float, float]]:
    """Where the view's points lie in a picture, image px, by key; those that are missing are left
    out, and all where the picture has no sight frame.

    Args:
        common: see `point_table`.
    """
    found = picture_points(view, picture, common=common)
    if isinstance(found, NotMeasurable):
        return {}
    points = found[1]
    xy = image_points(picture, points.xy[points.present])
    if isinstance(xy, NotMeasurable):
        return {}
    keys = [key for key, row in view.point_rows.items() if points.present[row]]
    return {key: (float(x), float(y)) for key, (x, y) in zip(keys, xy, strict=True)}
