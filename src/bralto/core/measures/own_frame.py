"""The frame of a head: along its centre line and across it.

A tilted head is not a faulty one: halves, thirds, widths, alignments and symmetry are taken in this
frame, and how far the head itself is tilted is a measure of its own (measurement, section 4).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Ints, median
from bralto.core.measures.points import PointTable
from bralto.core.tolerances import HUBER
from bralto.core.views.model import View

__all__ = ["OwnFrame", "own_frames"]

_ROUNDS = 4
_FLAT = 1e-9


@dataclass(frozen=True, slots=True)
class OwnFrame:
    """How far a head is turned.

    Attributes:
        radians: of its centre line from plumb, counter-clockwise positive.
        gradient: (n, 2) array, derivative of that over the picture's marks.
    """

    radians: float
    gradient: Floats

    def upright(self, xy: Floats) -> Floats:
        """Points (..., 2) as they would lie were the head upright."""
        return xy @ _turn(-self.radians).T

    @property
    def turn(self) -> Floats:
        """(2, 2) array T: gradients (..., 2) over upright points become ``gradients @ T``."""
        return _turn(-self.radians)

    def by_turn(self, xy: Floats, gradients: Floats) -> Floats:
        """(m,) array: by how much measures change as the centre line turns on, per radian.

        Args:
            xy: (m, k, 2) their points in the sight frame.
            gradients: (m, k, 2) over these as they would lie upright.
        """
        lying = self.upright(xy)
        # As the line turns on by d, all that is held upright turns back by d: dx = y d, dy = -x d.
        aside = np.stack([lying[..., 1], -lying[..., 0]], axis=-1)
        found: Floats = np.einsum("mkc,mkc->m", gradients, aside)
        return found


def own_frames(view: View, pictures: Sequence[PointTable]) -> list[OwnFrame] | None:
    """The frame of each picture, by the marks of the centre line that all of them have.

    Returns:
        None where the view has no centre line, or its two ends are not marked on all pictures: it
        is measured along plumb then.
    """
    if not view.axis:
        return None
    rows = [
        view.point_rows[key]
        for key in view.axis
        if all(one.present[view.point_rows[key]] for one in pictures)
    ]
    ends = {view.point_rows[view.axis[-1]]}, {view.point_rows[key] for key in view.axis[:_UPPER]}
    if not all(end & set(rows) for end in ends):
        return None
    found = [_frame(view, one, np.array(rows, dtype=np.intp)) for one in pictures]
    return [one for one in found if one is not None] if None not in found else None


_UPPER = 2
"""Of the first so many marks of a centre line one must be there: it is too short otherwise."""


def _frame(view: View, points: PointTable, rows: Ints) -> OwnFrame | None:
    """The line of least squared distances (Pearson 1901); from the front, where all of the marks
    should lie on one, with Huber's weights."""
    xy = points.xy[rows]
    chord = xy[-1] - xy[0]
    length = float(np.hypot(*chord))
    if length <= _FLAT * max(1.0, float(np.abs(xy).max())):
        return None
    weights = held = np.ones(len(rows))
    for _ in range(_ROUNDS if view.seen_from == "front" else 1):
        held = weights
        away = xy - held @ xy / held.sum()
        scatter = (held[:, None] * away).T @ away
        along = np.linalg.eigh(scatter)[1][:, 1]
        along = along if along @ chord >= 0.0 else -along
        across = np.array([-along[1], along[0]])
        down, off = away @ along, away @ across
        scale = max(median(np.abs(off)) / 0.6745, 1e-3 * length)
        weights = np.minimum(1.0, HUBER * scale / np.maximum(np.abs(off), 1e-300))
    # The line runs down; upright it points along -y.
    radians = float(np.arctan2(along[0], -along[1])) - _leans(view, points)
    # Along its own axes the scatter has no product; what makes one turns the line.
    apart = float(held @ (down * down - off * off))
    if apart <= _FLAT * length * length:
        return None
    each = held[:, None] * (down[:, None] * across + off[:, None] * along) / apart
    return OwnFrame(radians, points.weights[rows].T @ each)


def _leans(view: View, points: PointTable) -> float:
    """How far the line of a head that stands upright is turned, radians: in profile the forehead
    lies back."""
    if not view.axis_lean or not view.facing:
        return 0.0
    behind, before = (view.point_rows[key] for key in view.facing)
    if not (points.present[behind] and points.present[before]):
        return 0.0
    forward = 1.0 if points.xy[before, 0] > points.xy[behind, 0] else -1.0
    return forward * float(np.radians(view.axis_lean))


def _turn(radians: float) -> Floats:
    c, s = np.cos(radians), np.sin(radians)
    return np.array([[c, -s], [s, c]])
