"""Repeated placings: the learner's own spread, pooled over marks (measurement, section 1)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.results import NotMeasurable

__all__ = ["PooledSpread", "pooled_spread"]


@dataclass(frozen=True, slots=True)
class PooledSpread:
    """Standard deviation of placing a mark, a coordinate, in the unit of the placings.

    Attributes:
        degrees: degrees of freedom that it rests on.
        u: its standard uncertainty, spread / sqrt(2 degrees) (JCGM 100:2008, E.4.3).
    """

    spread: float
    degrees: int
    u: float


def pooled_spread(
    placings: Iterable[Sequence[tuple[float, float]]],
) -> PooledSpread | NotMeasurable:
    """Pool the scatter of marks that were placed several times, each about its own mean.

    Args:
        placings: for each mark its placings (x, y); a mark that was placed once says nothing.

    Both coordinates count alike: s^2 = sum of squares / (2 sum of (n - 1)).
    """
    squares, degrees = 0.0, 0
    for one in placings:
        xy = np.asarray(one, dtype=np.float64).reshape(-1, 2)
        if len(xy) > 1:
            squares += float(np.square(xy - xy.mean(axis=0)).sum())
            degrees += 2 * (len(xy) - 1)
    if not degrees:
        return NotMeasurable("the spread wants at least one mark that was placed twice")
    spread = math.sqrt(squares / degrees)
    return PooledSpread(spread, degrees, spread / math.sqrt(2.0 * degrees))
