"""A course over studies: the Theil-Sen line with its interval (Sen 1968, JASA 63, 1379)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.longitudinal.statistics.random_effects import LEVEL
from bralto.core.student import normal_quantile, quick_quantile

__all__ = ["FEWEST", "LAST", "Trend", "middle_of", "more_studies", "theil_sen", "trend_of"]

FEWEST = 6
"""Studies that a trend wants at least; with five the interval is all of the pairs."""

LAST = 200
"""Studies that a trend looks at: pairs grow with the square, and what was years ago is past."""

_TEN = 10.0
_WORTH = math.log(1.1)
"""A change over ten studies that is worth knowing of (chosen here, no source)."""


@dataclass(frozen=True, slots=True)
class Trend:
    """How the logarithm of a figure goes over studies, counted 0, 1, 2, ...

    Attributes:
        slope: a study. low, high: its interval.
        middle: of the studies' numbers; ``level`` of the line there; ``level_u``, its standard
            error.
        n: studies.
    """

    slope: float
    low: float
    high: float
    middle: float
    level: float
    level_u: float
    n: int

    @property
    def percent(self) -> tuple[float, float]:
        """From what to what it has changed over ten studies, percent; below 0 is closer."""
        ends = (100.0 * math.expm1(_TEN * end) for end in (self.low, self.high))
        return next(ends), next(ends)

    @property
    def told(self) -> bool:
        """Whether the interval leaves out that nothing changes."""
        return self.low > 0.0 or self.high < 0.0

    def line(self, number: Floats) -> tuple[Floats, Floats, Floats]:
        """(k,) arrays at studies of those numbers, back from logarithms: the line, and the edges
        of the band that holds it, from the doubts of level and slope together."""
        away = number - self.middle
        at = self.level + self.slope * away
        reach = quick_quantile(LEVEL, self.n - 2) * self.level_u
        slope_up = np.where(away >= 0.0, self.high - self.slope, self.slope - self.low)
        slope_down = np.where(away >= 0.0, self.slope - self.low, self.high - self.slope)
        above = np.hypot(reach, slope_up * np.abs(away))
        below = np.hypot(reach, slope_down * np.abs(away))
        return np.exp(at), np.exp(at - below), np.exp(at + above)


def middle_of(ordered: Sequence[float] | Floats) -> float:
    """Median of values in order, one at least; `numpy.median` loads masked arrays for it."""
    half = len(ordered) // 2
    if len(ordered) % 2:
        return float(ordered[half])
    return (float(ordered[half - 1]) + float(ordered[half])) / 2.0


def theil_sen(x: Floats, y: Floats, level: float = LEVEL) -> tuple[float, float, float]:
    """Median of the slopes of all pairs, and its interval by Kendall's statistic, as Sen has it.

    Args:
        x: (n,) array; pairs with equal x say nothing. y: (n,) array.

    Returns:
        Slope, low, high; no slope is 0, with no end to its interval.
    """
    first, second = np.triu_indices(len(x), 1)
    across = x[second] - x[first]
    apart = across != 0.0
    slopes = np.sort((y[second] - y[first])[apart] / across[apart])
    if not len(slopes):
        return 0.0, -math.inf, math.inf
    n = len(x)
    variance = (n * (n - 1) * (2 * n + 5) - _ties(x) - _ties(y)) / 18.0
    reach = normal_quantile(level) * math.sqrt(max(variance, 0.0))
    middle = middle_of(slopes)
    low = round((len(slopes) - reach) / 2.0) - 1
    high = round((len(slopes) + reach) / 2.0)
    return (
        middle,
        float(slopes[max(low, 0)]),
        float(slopes[min(high, len(slopes) - 1)]),
    )


def _ties(values: Floats) -> float:
    _, counts = np.unique(values, return_counts=True)
    return float((counts * (counts - 1) * (2 * counts + 5)).sum())


def trend_of(values: Floats) -> Trend | None:
    """The trend of a figure over its studies, oldest first; None where there are too few.

    Args:
        values: (n,) array, > 0.
    """
    y = np.log(np.maximum(values[-LAST:], _LEAST))
    n = len(y)
    if n < FEWEST:
        return None
    x = np.arange(n, dtype=np.float64)
    slope, low, high = theil_sen(x, y)
    middle = (n - 1) / 2.0
    away = y - slope * (x - middle)
    level = middle_of(np.sort(away))
    # Of a median: 1.2533 SD / sqrt(n) of a normal sample, the SD from the median deviation; level
    # and slope are spent.
    scatter = 1.4826 * middle_of(np.sort(np.abs(away - level)))
    return Trend(slope, low, high, middle, level, 1.2533 * scatter / math.sqrt(n - 2), n)


_LEAST = 1e-4
"""A figure of 0 has no logarithm; a perfect copy counts as one this close."""


def more_studies(trend: Trend) -> int:
    """How many more studies should tell a tenth over ten studies, if they scatter alike: the
    interval of a slope shrinks with n^(3/2). 0 where no change so large is left in the interval."""
    if _TEN * max(abs(trend.low), abs(trend.high)) <= _WORTH:
        return 0
    half = 0.5 * _TEN * (trend.high - trend.low)
    wanted = trend.n * math.pow(half / _WORTH, 2.0 / 3.0)
    return max(1, math.ceil(wanted) - trend.n)
