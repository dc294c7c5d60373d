"""What the sightings tell by themselves, as if no mark of a body said anything of another.

The implied figure leans on how bodies usually are: who knows a thigh knows something of a forearm.
That helps to reckon, but it is an average, and no check may be held against an average. So a check
counts as sighted only where it would be told without: the same sightings, with every mark free
about its typical place by itself.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.sightings.figure.implied import Implied
from bralto.core.uncertainty import variances_of
from bralto.core.views.model import View

__all__ = ["shown_marks", "sighted_checks", "sighted_marks"]

_LEFT, _ABOUT, _SHOWN = 0.1, 0.5, {"figure": 0.6, "part": 0.5}
"""Shares of its first variance that a check may have left and count as sighted, a mark so, and a
mark be shown about where it lies: a line of a figure of which length and tilt were sighted is
(chosen here, no source; up to a half clean drawings were held against checks that nobody
sighted)."""

_FARTHEST = {"figure": 0.35, "part": 0.1}
"""SD of a mark, heads, beyond which the figure so far does not show it (chosen here, no source)."""

_NOTHING = 1e-6
"""Variance (its own unit squared) that is as good as none: the head is the unit."""

_EXACT, _HEAD = 1e-6, 1e-3


@lru_cache(maxsize=16)
def _alone(implied: Implied) -> tuple[Floats, Floats]:
    """(2n,) variances before and (2n, 2n) covariance after the sightings, marks independent."""
    before = np.diag(implied.prior.cov).copy()
    n = len(before)
    information = np.zeros((n + 1, n + 1))
    information[np.arange(n), np.arange(n)] = 1.0 / before
    information[n, n] = _EXACT  # of mm a head nothing is known before
    values = np.array([not (one.sort.is_answer and one.value) for one in implied.items], bool)
    if values.any():
        u = np.array([max(one.u, _EXACT) for one in implied.items])[values]
        weighed = implied.slopes[values] / u[:, None]
        information += weighed.T @ weighed
    long = implied.head_slope / _HEAD
    information[:n, :n] += np.outer(long, long)
    return before, np.asarray(np.linalg.pinv(information, hermitian=True)[:n, :n], np.float64)


def sighted_checks(implied: Implied, slopes: Floats, most: float = _LEFT) -> Bools:
    """(m,) array: which checks the sightings tell by themselves.

    Args:
        slopes: (m, 2n) array, how each goes with the marks.
        most: share of its first variance that a check may have left.
    """
    before, after = _alone(implied)
    first = np.square(slopes) @ before
    left = variances_of(slopes, after)
    sure = variances_of(slopes, implied.prior.cov) <= _NOTHING
    return np.asarray(sure | (left <= most * first))


def sighted_marks(view: View, implied: Implied, *, along_alone: bool = False) -> frozenset[str]:
    """Marks whose place the sightings tell by themselves.

    Args:
        along_alone: it is enough that their height is told, of one that lies how far across.
    """
    if not implied.items:
        return frozenset()
    keys, row = implied.marks.keys, {key: i for i, key in enumerate(implied.marks.keys)}
    hung, n = row[view.plumb], len(implied.marks.keys)
    across, down = np.zeros((n, 2 * n)), np.zeros((n, 2 * n))
    for i in range(n):
        across[i, 2 * i], down[i, 2 * i + 1] = 1.0, 1.0
        across[i, 2 * hung] -= 1.0
        down[i, 2 * hung + 1] -= 1.0
    near = _spread(implied) <= _FARTHEST[view.size] ** 2
    along, beside = ((across, 0), (down, 1)) if view.lies else ((down, 1), (across, 0))
    told = sighted_checks(implied, along[0], _ABOUT) & near[:, along[1]]
    if not along_alone:
        told &= sighted_checks(implied, beside[0], _ABOUT) & near[:, beside[1]]
    return frozenset(key for key in keys if told[row[key]]) | (frozenset(view.head) & row.keys())


def shown_marks(view: View, implied: Implied) -> frozenset[str]:
    """Marks that the figure so far shows, with their doubt: those of which the sightings tell
    something, be it only because bodies are usually alike. None without any sighting."""
    if not implied.items:
        return frozenset()
    before = np.diag(implied.prior.cov).reshape(-1, 2).sum(axis=1)
    after = _spread(implied)
    shown = after.sum(axis=1) <= _SHOWN[view.size] * np.maximum(before, _NOTHING)
    shown &= after.max(axis=1) <= _FARTHEST[view.size] ** 2
    keys = frozenset(key for key, one in zip(implied.marks.keys, shown, strict=True) if one)
    return keys | (frozenset(view.head) & frozenset(implied.marks.keys))


def _spread(implied: Implied) -> Floats:
    """(n, 2) variances of the marks about the plumb mark, heads squared."""
    spread: Floats = np.diag(implied.cov).reshape(-1, 2)
    return spread
