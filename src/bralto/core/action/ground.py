"""The ground under a standing figure, from its feet and the height of the eye.

The picture plane is upright (plumb lines stay plumb), so the horizon is level and as high as the
eye. What stands at the depth of the figure's middle is as far below the horizon as the eye is above
the ground; what lies nearer, lower. With the distance of the eye every place on the ground follows
(a pinhole; Hartley and Zisserman 2004, 6.1), and with it whether both feet lie on one ground.

Lengths are heads of the picture. Heights are counted from the ground under the figure's middle.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.action.eye_level import (
    FOOT,
    GROWN,
    TALLEST,
    TOE,
    EyeLevel,
    feet_of,
    feet_under,
    heads_tall,
)
from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE

__all__ = [
    "Foot",
    "StandingGround",
    "ground_of",
]


_LIFTED = 1.25
"""How many times its length a foot may measure on the ground before its heel must be off it, and
as many times less before it must point into the ground (chosen, no source)."""


_AIR = 0.15
"""Heads of room about a figure in its box."""

_NEAREST = 0.8
"""Share of the way to the eye at which a box ends at the latest."""

_HALF_DEEP = 0.45
"""Half of a body's depth, heads (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Foot:
    """A foot on the ground: its toe's place, heads, ``across`` to the viewer's right of the
    figure's middle and ``beyond`` it; how long it measures there.

    ``lies`` is ``flat``, ``lifted`` where it measures too long for any foot, so that its heel is
    off the ground or the toe below it, ``steep`` where it measures too short, or ``""`` where
    that cannot be told.
    """

    across: float
    beyond: float
    length: Doubted
    lies: str


@dataclass(frozen=True, slots=True)
class StandingGround:
    """The ground under one picture's figure.

    Attributes:
        eye: the height of the eye that it follows from.
        under: (2,) array, the place under the figure's middle, heads in the picture's sight frame.
        feet: by side, ``r`` and ``l``.
        across, apart: from the right toe to the left one, which stay on the ground where a heel is
            lifted: across, + to the viewer's right, and in depth, + away.
        box: (8, 2) array, corners of the box in which the figure stands, heads in the sight frame:
            the ground's four from the near left one, against the clock seen from above, then those
            above them.
    """

    eye: EyeLevel
    under: Floats
    feet: Mapping[str, Foot]
    across: Doubted
    apart: Doubted
    box: Floats

    @property
    def horizon(self) -> float:
        """Height of the horizon, heads in the picture's sight frame."""
        return float(self.under[1]) + self.eye.height.value

    @property
    def one_ground(self) -> bool | None:
        """Whether both feet lie on it; None where it cannot be told."""
        lies = {foot.lies for foot in self.feet.values()}
        return None if "" in lies else lies == {"flat"}


def ground_of(figure: Figure, eye: EyeLevel) -> StandingGround | NotMeasurable:
    """Lay a standing figure's feet on the ground that a height of the eye makes."""
    feet = feet_of(figure)
    if isinstance(feet, NotMeasurable):
        return feet
    rows = [row for pair in feet.values() for row in pair]
    theta = np.concatenate([
        figure.heads[rows].ravel(), (eye.height.value, eye.distance.value, TOE.value)
    ])  # fmt: skip
    sd = np.concatenate([
        np.repeat(figure.sd[rows], 2), (eye.height.u, eye.distance.u, TOE.u)
    ])  # fmt: skip
    sd[-3:-1] *= not eye.together
    if not np.isfinite(_figures(theta)).all():
        return NotMeasurable("a foot stands above the height of the eye")
    told = _doubted(_figures, theta, sd)
    places = _places(theta)
    laid = {
        side: Foot(
            float(places[2 * i + 1, 0]), float(places[2 * i + 1, 1]), told[i],
            _lies(told[i], heads_tall(figure, feet)),
        )
        for i, side in enumerate(feet)
    }  # fmt: skip
    under = feet_under(figure.heads, feet)
    return StandingGround(eye, under, laid, told[2], told[3], _box(figure, eye, under, places))


def _places(theta: Floats) -> Floats:
    """(4, 2) across and beyond, heads on the ground, of heel and toe of both feet."""
    marks, (eye, distance, toe) = theta[:8].reshape(4, 2), theta[8:]
    on_ground = marks - np.array([[0.0, 0.0], [0.0, toe], [0.0, 0.0], [0.0, toe]])
    middle = on_ground.mean(axis=0)
    up = on_ground[:, 1] - middle[1]
    with np.errstate(divide="ignore", invalid="ignore"):
        depth = np.where(up < eye, eye * distance / (eye - up), np.nan)
    across = (on_ground[:, 0] - middle[0]) * depth / distance
    return np.column_stack([across, depth - distance])


def _figures(theta: Floats) -> Floats:
    """(4,) lengths of both feet, and from toe to toe across and in depth."""
    places = _places(theta)
    lengths = np.hypot(*(places[[1, 3]] - places[[0, 2]]).T)
    return np.concatenate([lengths, places[3] - places[1]])


_STEP = 1e-4


def _doubted(of: Callable[[Floats], Floats], theta: Floats, sd: Floats) -> list[Doubted]:
    """First-order propagation by central differences."""
    slopes = np.empty((len(of(theta)), len(theta)))
    for i in range(len(theta)):
        ahead, behind = theta.copy(), theta.copy()
        ahead[i] += _STEP
        behind[i] -= _STEP
        slopes[:, i] = (of(ahead) - of(behind)) / (2.0 * _STEP)
    u = np.sqrt(np.square(slopes * sd).sum(axis=1))
    return [Doubted(float(a), float(b)) for a, b in zip(of(theta), u, strict=True)]


def _lies(length: Doubted, tall: float) -> str:
    """Whether a foot of that length on the ground can be a foot that lies on it; a child's may be
    shorter. ``tall`` is the figure, heads."""
    if tall > TALLEST:
        return ""
    doubt = COVERAGE * math.hypot(length.u, FOOT.u)
    if length.value - doubt > FOOT.value * _LIFTED:
        return "lifted"
    if length.value + doubt < FOOT.value / _LIFTED:
        return "steep" if tall >= GROWN else ""
    flat = FOOT.value / _LIFTED < length.value < FOOT.value * _LIFTED
    return "flat" if flat and length.u < FOOT.value * (_LIFTED - 1.0) else ""


def _box(figure: Figure, eye: EyeLevel, under: Floats, places: Floats) -> Floats:
    """(8, 2) corners of the box in which the figure stands; it recedes to the place on the horizon
    that is straight before the eye, which is taken to stand before the figure."""
    from_middle = figure.heads - under
    left, right = from_middle[:, 0].min() - _AIR, from_middle[:, 0].max() + _AIR
    top = from_middle[:, 1].max()
    near, far = min(places[:, 1].min() - _AIR, -_HALF_DEEP), places[:, 1].max() + _AIR
    deep = max(near, -_NEAREST * eye.distance.value), max(far, _HALF_DEEP)
    corners = []
    for up in (0.0, top):
        for across, beyond in ((left, 0), (right, 0), (right, 1), (left, 1)):
            scale = eye.distance.value / (eye.distance.value + deep[beyond])
            fall = eye.height.value - up
            corners.append((across * scale, eye.height.value - fall * scale))
    return under + np.array(corners)
