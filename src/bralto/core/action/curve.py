"""A curve drawn through some points, with its doubt.

The points are taken to lie on a curve whose bend changes at random along its length (a Wiener
process, integrated twice: the posterior mean is the quintic smoothing spline, Wahba 1990, Spline
Models for Observational Data, 1.5), each beside it by chance. Both spreads are stated, none is
found from so few points. A bend that changes less smoothly, as the cubic spline has it, would leave
twice as open how far a sweep turns, where a hand draws it in one stroke.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable

__all__ = [
    "FEWEST_POINTS", "MOST_POINTS", "TOO_FEW", "Curve", "curve_through", "directions", "lengths",
    "offsets",
]  # fmt: skip

FEWEST_POINTS, MOST_POINTS = 5, 9
"""With fewer a bend cannot be told from a slip of the hand; with more one draws an outline."""

TOO_FEW = f"a sweep wants at least {FEWEST_POINTS} points"

_BENDS = 6.0
"""Standard deviation of how much the bend of a sweep changes from one end to the other, radians
that it would turn in its whole length (chosen here, no source): that of a strong S is 4."""

_SAMPLES = 81
_DRAWS = 240
_SEED = 20
_SHORTEST = 1e-6
_CLOSED = 0.02  # share of its length by which the ends of a stroke lie apart at least


@dataclass(frozen=True, eq=False)
class Curve:
    """A smoothed curve.

    Attributes:
        points: (n, 2) array, as they were set.
        xy: (m, 2) array, the curve at equal shares of the way along these points.
        sd: standard deviation of the points from the curve.
        at: shares of the way along the points at which they lie.
    """

    points: Floats
    xy: Floats
    sd: float
    at: tuple[float, ...]

    @cached_property
    def draws(self) -> Floats:
        """(k, m, 2) array: curves that the points allow (JCGM 101:2008, 7); always the same."""
        way = float(np.hypot(*np.diff(self.points, axis=0).T).sum())
        root = way * _root(self.at, self.sd / way)
        z = np.random.default_rng(_SEED).standard_normal((_DRAWS, 2, len(self.xy)))
        drawn: Floats = self.xy + (z @ root.T).transpose(0, 2, 1)
        return drawn

    @cached_property
    def directions(self) -> Floats:
        """(m,) array, direction at each place, radians counter-clockwise from level, unwrapped."""
        return directions(self.xy)

    def place(self, share: float) -> Floats:
        """(2,) array, the place at a share of the way, 0 to 1."""
        shares = np.linspace(0.0, 1.0, len(self.xy))
        return np.array([np.interp(share, shares, self.xy[:, axis]) for axis in (0, 1)])


def directions(xy: Floats) -> Floats:
    """(..., m) directions of curves (..., m, 2) at their places, radians, unwrapped."""
    slope = np.gradient(xy, axis=-2)
    return np.unwrap(np.arctan2(slope[..., 1], slope[..., 0]), axis=-1)


def lengths(xy: Floats) -> Floats:
    """(...,) lengths along curves (..., m, 2)."""
    steps = np.diff(xy, axis=-2)
    length: Floats = np.hypot(steps[..., 0], steps[..., 1]).sum(axis=-1)
    return length


def offsets(xy: Floats) -> Floats:
    """(k, m) distances of the places of curves (k, m, 2) from the line between their ends.

    + is to the right of a line that runs down.
    """
    chord = xy[:, -1] - xy[:, 0]
    unit = chord / np.hypot(chord[:, 0], chord[:, 1])[:, None]
    normal = np.stack([-unit[:, 1], unit[:, 0]], axis=1)
    found: Floats = np.einsum("kmd,kd->km", xy - xy[:, :1], normal)
    return found


def curve_through(points: Floats, sd: float) -> Curve | NotMeasurable:
    """The curve through points in their order.

    Args:
        points: (n, 2) array, any unit.
        sd: standard deviation of each from the curve, in x and in y, above 0, same unit.
    """
    if len(points) < FEWEST_POINTS:
        return NotMeasurable(TOO_FEW)
    steps = np.hypot(*np.diff(points, axis=0).T)
    if float(steps.min()) <= _SHORTEST:
        return NotMeasurable("two points of the sweep lie in one spot")
    if float(np.hypot(*(points[-1] - points[0]))) <= _CLOSED * float(steps.sum()):
        return NotMeasurable("the sweep comes back to where it begins: it is no stroke")
    along = np.concatenate([[0.0], np.cumsum(steps)])
    at = tuple(float(t) for t in along / along[-1])
    return Curve(points, _smoother(at, sd / float(along[-1])) @ points, sd, at)


@dataclass(frozen=True, slots=True, eq=False)
class _Terms:
    """What the curve at s shares of the way has to do with points at t of them."""

    inverse: Floats
    across: Floats
    base: Floats
    wanted: Floats
    about: Floats


def _terms(at: tuple[float, ...], sd: float) -> _Terms:
    t, s = np.array(at), np.linspace(0.0, 1.0, _SAMPLES)
    base, wanted = (np.column_stack([np.ones_like(x), x, x * x]) for x in (t, s))
    known: Floats = _BENDS**2 * _integrated_twice(t, t) + sd * sd * np.eye(len(t))
    inverse: Floats = np.asarray(np.linalg.inv(known), np.float64)
    about: Floats = np.linalg.inv(base.T @ inverse @ base)  # place, direction and one bend are free
    return _Terms(inverse, _BENDS**2 * _integrated_twice(s, t), base, wanted, about)


@lru_cache(maxsize=64)
def _smoother(at: tuple[float, ...], sd: float) -> Floats:
    """The (m, n) matrix from points at shares ``at`` of the way to the curve; ``sd`` where the
    whole way is 1."""
    of = _terms(at, sd)
    fit = of.about @ of.base.T @ of.inverse
    smooth: Floats = of.across @ of.inverse @ (np.eye(len(at)) - of.base @ fit) + of.wanted @ fit
    return smooth


@lru_cache(maxsize=64)
def _root(at: tuple[float, ...], sd: float) -> Floats:
    """(m, m) array whose product with normal numbers is a departure that the doubt allows, in x
    and in y alike; it takes ten times as long as the curve."""
    of, s = _terms(at, sd), np.linspace(0.0, 1.0, _SAMPLES)
    rest = of.wanted - of.across @ of.inverse @ of.base
    there = _BENDS**2 * _integrated_twice(s, s)
    covariance = there - of.across @ of.inverse @ of.across.T + rest @ of.about @ rest.T
    values, vectors = np.linalg.eigh(0.5 * (covariance + covariance.T))
    root: Floats = vectors * np.sqrt(np.maximum(values, 0.0))
    return root


def _integrated_twice(a: Floats, b: Floats) -> Floats:
    """Covariance of a Wiener process that is integrated twice, at a and b."""
    low, high = np.minimum(a[:, None], b[None]), np.maximum(a[:, None], b[None])
    found: Floats = low**3 * (10.0 * high * high - 5.0 * low * high + low * low) / 120.0
    return found
