"""Student's t and the normal distribution, without what takes long to load."""

from __future__ import annotations

from statistics import NormalDist

__all__ = ["normal_quantile", "quantile", "quick_quantile", "two_sided"]


def quantile(level: float, freedom: float) -> float:
    """How many standard errors a two-sided interval of that level reaches to either side."""
    from scipy.special import stdtrit  # a quarter of a second, which the record's charts do without

    return float(stdtrit(freedom, 0.5 + 0.5 * level))


def quick_quantile(level: float, freedom: float) -> float:
    """The same within 2 % from 4 degrees of freedom on, by the first terms of Cornish and Fisher's
    expansion (Abramowitz and Stegun 1964, 26.7.5)."""
    z = normal_quantile(level)
    first = (z**3 + z) / 4.0
    second = (5.0 * z**5 + 16.0 * z**3 + 3.0 * z) / 96.0
    return z + first / freedom + second / freedom**2


def two_sided(t: float, freedom: float) -> float:
    """The chance of a t as far from 0 as this, or further."""
    from scipy.special import stdtr

    return float(2.0 * stdtr(freedom, -abs(t)))


def normal_quantile(level: float) -> float:
    """`quantile` of a normal distribution."""
    return NormalDist().inv_cdf(0.5 + 0.5 * level)
