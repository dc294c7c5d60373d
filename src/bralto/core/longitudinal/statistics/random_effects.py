"""The mean of one figure over studies that differ among themselves, with its interval.

Random effects: study i gives y_i with standard uncertainty u_i, and its own true value, which
scatters about the mean with variance tau^2. tau^2 by Paule and Mandel (1982, J. Res. NBS 87, 377),
the interval by Hartung and Knapp (2001, Statistics in Medicine 20, 3875).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.student import quantile, two_sided

__all__ = ["LEVEL", "Mean", "better_than_chance", "mean_over"]

LEVEL = 0.95
"""Of every interval that is told over studies."""

_TOO_WELL = 0.01
"""The chance below which studies agree better than is believed."""

_ROUNDS = 60
_SETTLED = 1e-10


@dataclass(frozen=True, slots=True)
class Mean:
    """A mean over ``n`` studies, all in the unit of the values.

    Attributes:
        value: the mean. low, high: its interval, `LEVEL`.
        u: its standard error. between: SD of the studies' own true values about it (tau).
        p: the chance of a mean as far from 0, or further, if the truth were 0.
    """

    value: float
    low: float
    high: float
    u: float
    between: float
    p: float
    n: int

    def shows_beyond(self, size: float) -> bool:
        """Whether the interval leaves out 0, and the mean is larger than that."""
        return (self.low > 0.0 or self.high < 0.0) and abs(self.value) > size

    def lies_within(self, size: float) -> bool:
        """Whether the whole interval is nearer to 0 than that."""
        return -size < self.low and self.high < size


def mean_over(values: Floats, u: Floats) -> Mean:
    """The random-effects mean.

    Where studies differ by their own uncertainties alone, this is Student's t. A standard error
    that is never less than what those uncertainties leave (Knapp and Hartung 2003, 2.2) would make
    every second interval of such studies too wide; but studies that agree better than chance
    allows, copies of one, are not so sure as they look: they count as agreeing as well as one set
    in a hundred does (`better_than_chance`).

    Args:
        values, u: (n,) arrays, n >= 2, u > 0: a figure in each study and its standard uncertainty.
    """
    n = len(values)
    variance = np.square(u)
    between = _between(values, variance)
    weight = 1.0 / (variance + between)
    total = float(weight.sum())
    mean = float(weight @ values) / total
    spread = float(weight @ np.square(values - mean)) / (n - 1)
    error = math.sqrt(max(better_than_chance(n), spread) / total)
    reach = quantile(LEVEL, n - 1) * error
    p = two_sided(mean / error, n - 1)
    return Mean(mean, mean - reach, mean + reach, error, math.sqrt(between), p, n)


def better_than_chance(n: int) -> float:
    """What the mean weighted square of n independent studies about their mean falls below once in a
    hundred times, if they differ by their uncertainties alone: chi squared over n - 1, n >= 2."""
    from scipy.special import chdtri  # SciPy is loaded when it is first needed

    return float(chdtri(n - 1, 1.0 - _TOO_WELL)) / (n - 1)


def _between(values: Floats, variance: Floats) -> float:
    """tau^2 at which the weighted squares add up to n - 1, or 0 where they are less already."""
    n, found = len(values), 0.0
    for _ in range(_ROUNDS):
        weight = 1.0 / (variance + found)
        away = values - float(weight @ values) / float(weight.sum())
        squares = float(weight @ np.square(away))
        if squares <= n - 1 and found == 0.0:
            return 0.0
        # Newton's step; the sum falls with tau^2 and is convex, so from below it never overshoots.
        step = (squares - (n - 1)) / float(np.square(weight) @ np.square(away))
        found += step
        if abs(step) <= _SETTLED * found:
            break
    return max(found, 0.0)
