"""Student's t without `scipy.stats`, which takes seconds to load."""

from __future__ import annotations

from scipy.special import ndtri, stdtr, stdtrit

__all__ = ["normal_quantile", "quantile", "two_sided"]


def quantile(level: float, freedom: float) -> float:
    """How many standard errors a two-sided interval of that level reaches to either side."""
    return float(stdtrit(freedom, 0.5 + 0.5 * level))


def two_sided(t: float, freedom: float) -> float:
    """The chance of a t as far from 0 as this, or further."""
    return float(2.0 * stdtr(freedom, -abs(t)))


def normal_quantile(level: float) -> float:
    """The same as `quantile` of a normal distribution."""
    return float(ndtri(0.5 + 0.5 * level))
