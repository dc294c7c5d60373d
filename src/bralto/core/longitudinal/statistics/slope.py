"""How strongly something is drawn against how strongly it is seen, pooled over studies.

A tilt that is straightened has signed errors whose mean is 0, since tilts lean both ways; the slope
of drawn against seen finds it. Both have errors: least squares with errors in both variables
through the origin (York 1966, Canadian J. of Physics 44, 1079), with a scatter of the hand on top.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.longitudinal.statistics.random_effects import LEVEL
from bralto.core.student import quantile, two_sided

__all__ = ["Slope", "pooled_slope", "slope_of"]

_ROUNDS = 100
_SETTLED = 1e-12
_CLEAR = 3.0
"""What is seen further from 0 than so many uncertainties can tell a slope."""

_FLOOR = 1e-6


@dataclass(frozen=True, slots=True)
class Slope:
    """Drawn a unit of seen: 1 is as seen, below 1 is less.

    Attributes:
        value: the slope. low, high: its interval. u: its standard error.
        hand: SD of the scatter of what is drawn beside placing the marks, unit of the values.
        p: the chance of a slope as far from 1, or further, if the truth were 1.
        n: studies. points: pairs of seen and drawn.
    """

    value: float
    low: float
    high: float
    u: float
    hand: float
    p: float
    n: int
    points: int


def slope_of(x: Floats, y: Floats, ux: Floats, vy: Floats) -> tuple[float, Floats, Floats]:
    """Slope b of y = b x through the origin with errors in both variables.

    Args:
        x, y: (n,) arrays. ux: (n,) array, standard uncertainties of x; ``vy``, variances of y, > 0.

    Returns:
        The slope; (n,) weights; and (n,) places of the line nearest to each point, in their own
        uncertainties, which stand for x.
    """
    vx = np.square(ux)
    slope = float(x @ (y / vy)) / float(x @ (x / vy))
    for _ in range(_ROUNDS):
        weight = 1.0 / (vy + slope * slope * vx)
        nearest = weight * (x * vy + slope * y * vx)
        before, slope = slope, float((weight * nearest) @ y / ((weight * nearest) @ x))
        if abs(slope - before) < _SETTLED * max(1.0, abs(slope)):
            break
    weight = 1.0 / (vy + slope * slope * vx)
    return slope, weight, weight * (x * vy + slope * y * vx)


def pooled_slope(x: Floats, y: Floats, ux: Floats, uy: Floats, study: Ints) -> Slope | None:
    """The slope over all studies, with an interval that knows that pairs of one study go together.

    The hand's scatter is what makes the weighted squares add up to their degrees of freedom. The
    interval is the jackknife's over studies (Cameron and Miller 2015, J. of Human Resources 50,
    317), its degrees of freedom by how evenly they bear on the slope (Satterthwaite).

    Args:
        x, y: (n,) arrays, seen and drawn, 0 where there is nothing to straighten.
        ux, uy: (n,) arrays, their standard uncertainties.
        study: (n,) array, of which study each pair is.

    Returns:
        None where fewer than two studies have anything to straighten.
    """
    clear = np.abs(x) > _CLEAR * ux
    if len(np.unique(study[clear])) < 2:
        return None
    uy = np.maximum(uy, _FLOOR * max(1.0, float(np.abs(x).max())))
    hand = _hand(x, y, ux, uy)
    slope, weight, nearest = slope_of(x, y, ux, np.square(uy) + hand)
    _, number = np.unique(study, return_inverse=True)
    top = np.bincount(number, weights=weight * nearest * y)
    bottom = np.bincount(number, weights=weight * nearest * x)
    studies = len(top)
    rest = float(bottom.sum()) - bottom
    if float(rest.min()) <= 0.0:
        return None
    without = (float(top.sum()) - top) / rest
    error = math.sqrt((studies - 1) / studies * float(np.square(without - without.mean()).sum()))
    alone = 1.0 / math.sqrt(float(np.square(nearest) @ weight))
    error = max(error, alone if hand == 0.0 else 0.0)
    even = float(bottom.sum()) ** 2 / float(np.square(bottom).sum())
    freedom = max(1.0, even - 1.0)
    reach = quantile(LEVEL, freedom) * error
    p = two_sided((slope - 1.0) / error, freedom)
    return Slope(
        slope, slope - reach, slope + reach, error, math.sqrt(hand), p, studies, len(x)
    )  # fmt: skip


def _hand(x: Floats, y: Floats, ux: Floats, uy: Floats) -> float:
    """Variance of what is drawn beside placing the marks; 0 where placing explains all.

    By false position with the end that stays halved (Dowell and Jarratt 1971, BIT 11, 168).
    """
    goal = len(x) - 1

    def over(hand: float) -> float:
        vy = np.square(uy) + hand
        slope, _, _ = slope_of(x, y, ux, vy)
        away = y - slope * x
        return float((np.square(away) / (vy + slope * slope * np.square(ux))).sum()) - goal

    above = over(0.0)
    if above <= 0.0:
        return 0.0
    low, high = 0.0, float(np.square(y - x).mean()) + float(np.square(uy).mean())
    while (below := over(high)) > 0.0:
        low, high, above = high, 2.0 * high, below
    wide, stays = high - low, 0
    for _ in range(_MOST_TRIES):
        middle = high - below * (high - low) / (below - above)
        at = over(middle)
        if at > 0.0:
            low, above, side = middle, at, 1
        else:
            high, below, side = middle, at, -1
        if high - low <= _SETTLED * wide or abs(at) <= _NEAR * goal:
            return middle
        if side == stays:  # the other end has stayed twice
            above, below = (above, 0.5 * below) if side > 0 else (0.5 * above, below)
        stays = side
    return middle


_MOST_TRIES, _NEAR = 60, 1e-9
"""Of the degrees of freedom."""
