"""The figure that sightings imply: all marks of a view with their joint doubt.

Marks are normal about the view's typical places (many bodies, many poses) before anything is
sighted, and each sighting is a value with its own doubt: the most likely marks and their covariance
by Gauss and Newton's method (Tarantola 2005, Inverse Problem Theory, 3.4). An answer (*longer*,
*higher*) counts by the probit of its distance from *alike*.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.points import PointTable, point_table
from bralto.core.measures.units import reference_head
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.other_ways import pointing_otherwise
from bralto.core.sightings.taken import Sighting, Sort
from bralto.core.study.frames import SightMarks
from bralto.core.views.model import View
from bralto.core.views.typical import typical_of

__all__ = ["EXACT", "Implied", "Otherwise", "Prior", "cost_of", "imply", "prior_of"]

_BEYOND = {"figure": 0.04, "part": 0.02}
"""SD of a mark of a body about all that the model can be, heads (chosen here, no source)."""

_HEAD = 1e-4
"""SD to which the head is one head long: the unit has no doubt, what is counted in it has."""

_HEAD_ON_THE_WAY = (0.05, 0.002)
"""The same while the marks are looked for, first and then: a head may be tilted any way, and who is
held to its length at every step turns it slowly."""

EXACT = 1e-7
"""Least doubt of a sighting, in its own unit: one that is given without any is exact."""

_FARTHEST_STEP = 3.0
"""Heads, or in log(mm a head), that a round may move anything: sightings that are no figure's must
not lead the method off to infinity."""

_SURELY, _BEYOND_ALL = 30.0, 1e6
"""Doubts of its own from which on an answer is as wrong as can be reckoned with, and at most."""

_MOST_SCALE = 20.0
"""Bound of log(mm a head)."""

_UNLIKELY, _STARTS = 2.0, 3
"""Standard deviations of chi square beyond which the figure that was reached may not be the most
likely one, and others are looked for; and from how many kinds, those that suit best."""

_AS_GOOD, _APART = 6.0, 0.1
"""-log of the odds up to which other marks count beside the most likely ones; heads by which some
mark of them lies elsewhere."""

_HOPE, _ABOUT = 0.2, 0.1
"""Share of what is left to a wanted badness that a round must gain, or it is given up; and the gain
below which another figure is known well enough."""

_ROUNDS, _SETTLED, _HALVINGS = 40, 1e-7, 12
"""Rounds of Gauss and Newton's method at most, the gain (-log likelihood) below which another round
changes nothing that is shown, and how often a step that makes it worse is halved."""

_AT_A_KINK = 1e-3
"""The same of a step that had to be halved: where another foot becomes the lower one the likelihood
has an edge, along which it would go in ever smaller steps."""


@dataclass(frozen=True, slots=True, eq=False)
class Prior:
    """What is known before anything is sighted: heads, y up, the view's plumb mark at 0, 0.

    Attributes:
        keys: marks of the view.
        mean: (2n,) array, x and y side by side.
        cov: (2n, 2n) array; ``root``, R with R^T R its inverse.
        starts: (k, 2n) array, other figures than the mean from which the most likely marks are
            looked for, where bodies differ much.
    """

    keys: tuple[str, ...]
    mean: Floats
    cov: Floats
    root: Floats
    starts: Floats


@dataclass(frozen=True, slots=True, eq=False)
class Otherwise:
    """Other marks that the sightings suit about as well.

    Attributes:
        points: the view's points of them.
        away: (2n,) array, how far from the most likely ones they lie.
        share: of all that is likely.
    """

    points: PointTable
    away: Floats
    share: float


@dataclass(frozen=True, slots=True, eq=False)
class Implied:
    """The most likely marks.

    Attributes:
        marks: sight frame, heads, the view's plumb mark at 0, 0, with their joint covariance.
        points: the view's points of them.
        prior: what was known before.
        mm_per_head: a head on the pencil, mm, where lengths are in mm; else None.
        items: the sightings that could be used, in their order.
        rows: of each its place in the list that was given.
        values: (k,) what each would be on these marks; ``residuals``, by how much it was sighted
            to be more, in its own unit (0 of answers).
        slopes: (k, 2n + 1) array, how each goes with the marks and with log(mm_per_head).
        whole: (2n + 1, 2n + 1) array, covariance of marks and log(mm_per_head).
        head_slope: (2n,) array, how the length of the head goes with the marks.
        otherwise: what else it may be, where limbs may point the other way; their doubt is part of
            the covariances.
    """

    marks: SightMarks
    points: PointTable
    prior: Prior
    mm_per_head: float | None
    items: tuple[Sighting, ...]
    rows: tuple[int, ...]
    values: Floats
    residuals: Floats
    slopes: Floats
    whole: Floats
    head_slope: Floats
    otherwise: tuple[Otherwise, ...] = ()

    @property
    def cov(self) -> Floats:
        """(2n, 2n) array, heads squared."""
        return self.whole[:-1, :-1]


@lru_cache(maxsize=16)
def prior_of(view: View) -> Prior | NotMeasurable:
    """From the view's typical places, with the plumb mark at 0, 0."""
    typical = typical_of(view.key, view.stance)
    if typical is None or view.plumb not in typical.row:
        return NotMeasurable(
            f"nothing is known of how the marks of '{view.key}' usually lie, so that no figure "
            "follows from sightings; take a view of a whole figure or a head"
        )
    keys, n = typical.keys, len(typical.keys)
    up = np.tile([1.0, -1.0], n)
    mean = typical.mean.ravel() * up
    cov = typical.cov * np.outer(up, up) + np.eye(2 * n) * _BEYOND[view.size] ** 2
    hung = np.eye(2 * n)
    at = 2 * typical.row[view.plumb]
    hung[0::2, at] -= 1.0
    hung[1::2, at + 1] -= 1.0
    mean, cov = hung @ mean, hung @ cov @ hung.T
    # What hangs at 0, 0 has no doubt; a little of it keeps the matrix regular.
    cov = 0.5 * (cov + cov.T) + np.eye(2 * n) * 1e-12
    starts = (typical.starts.reshape(-1, 2 * n) * up) @ hung.T
    return Prior(keys, mean, cov, np.linalg.inv(np.linalg.cholesky(cov)), starts)


def imply(
    view: View, sightings: Sequence[Sighting], *, wide: float = 1.0
) -> Implied | NotMeasurable:
    """The marks that sightings imply; without any, the typical figure with all its doubt.

    Sightings of points that the view or its prior lacks are left out.

    Args:
        wide: by what the spread of bodies and poses is taken to be larger than typical.
    """
    return _implied(view, tuple(sightings), wide)


def cost_of(view: View, sightings: Sequence[Sighting]) -> tuple[float, float] | None:
    """Of a model that is placed as the view has it: -log of how likely the sightings are but for a
    constant (Laplace's approximation; MacKay 2003, Information Theory, 27), and how badly the most
    likely figure suits them, which is half a sighting's worth each on the average; None where some
    of them cannot be told of it.

    It is reckoned from the typical figure alone, quickly.
    """
    prior = prior_of(view)
    if isinstance(prior, NotMeasurable):
        return None
    known, rows, items, scale = _usable(view, prior, tuple(sightings))
    if len(rows) < len(sightings):
        return None
    _, step = _settled(known, items, np.append(prior.mean, scale))
    return step.badness + _spread_of(step.matrix) - _spread_of(prior.root), step.badness


@lru_cache(maxsize=64)
def _implied(view: View, sightings: tuple[Sighting, ...], wide: float) -> Implied | NotMeasurable:
    """Kept: the window asks for the same figure at every gesture."""
    prior = prior_of(view)
    if isinstance(prior, NotMeasurable):
        return prior
    if wide != 1.0:
        prior = replace(prior, cov=wide**2 * prior.cov, root=prior.root / wide)
    known, rows, items, scale = _usable(view, prior, sightings)
    at, step = _settled(known, items, np.append(prior.mean, scale))
    if step.badness > 0.5 * len(items) + _UNLIKELY * math.sqrt(0.5 * len(items)):
        starts = [np.append(start, scale) for start in prior.starts]
        starts.sort(key=lambda start: _linear(known, items, start).badness)
        for start in starts[:_STARTS]:
            other = _settled(known, items, start, no_worse=step.badness)
            at, step = min((at, step), other, key=lambda one: one[1].badness)
    held = replace(known, head=_HEAD_ON_THE_WAY[1])
    at, step = _settled(held, items, at)
    also: list[tuple[Floats, float]] = []
    if len(prior.starts) and wide == 1.0:
        at, step, also = _either_way(held, items, at, step)
    at = np.append(at[:-1] / _head(view, known.points(at[:-1]))[0], at[-1])
    n = len(prior.keys)
    sure = step.matrix.copy()
    sure[2 * n + 1] *= _HEAD_ON_THE_WAY[1] / _HEAD
    whole = _covariance(sure)
    otherwise = []
    for there, share in also:
        points = known.points(there[:-1])
        there = there[:-1] / _head(view, points)[0]
        away = there - at[:-1]
        whole[:-1, :-1] += share * np.outer(away, away)
        otherwise.append(Otherwise(points, away, share))
    blocks = whole[:-1, :-1].reshape(n, 2, n, 2)
    each = blocks[np.arange(n), :, np.arange(n), :]
    in_mm = any(one.in_mm for one in items)
    marks = SightMarks(prior.keys, at[:-1].reshape(n, 2), each, "head", whole[:-1, :-1])
    return Implied(
        marks, known.points(at[:-1]), prior, _scale_of(at) if in_mm else None, items, rows,
        step.values, step.residuals, step.slopes, whole, _head(view, known.points(at[:-1]))[1],
        tuple(otherwise),
    )  # fmt: skip


def _usable(
    view: View, prior: Prior, sightings: Sequence[Sighting]
) -> tuple[_Known, tuple[int, ...], tuple[Sighting, ...], float]:
    """The view and its prior, rows and sightings that can be used, and log(mm a head) to begin
    with."""
    asked = frozenset(one.measure for one in sightings if one.measure in view.measure_rows)
    known = _Known(_only_asked(view, asked), prior)
    usual = Sighter(known.view, known.points(prior.mean))
    usable = [
        (row, one)
        for row, one in enumerate(sightings)
        if set(one.points) | set(one.of) <= view.point_rows.keys() and usual.on(one) is not None
    ]
    items = tuple(one for _, one in usable)
    return known, tuple(r for r, _ in usable), items, _first_scale(usual, items)


def _either_way(
    known: _Known, items: Sequence[Sighting], at: Floats, step: _Step
) -> tuple[Floats, _Step, list[tuple[Floats, float]]]:
    """The most likely marks where limbs may point the other way, and other marks that are about as
    likely, each with its share."""
    usual = known.prior.mean, known.prior.cov
    ways = pointing_otherwise(known.view, known.prior.keys, usual, items, at[:-1])
    found = [
        _settled(known, items, np.append(way, at[-1]), no_worse=step.badness + _AS_GOOD)
        for way in ways
    ]
    found.append((at, step))
    found.sort(key=lambda one: one[1].badness)
    at, step = found[0]
    odds = [(at, 1.0)]
    for other, one in found[1:]:
        elsewhere = all(np.abs(other - known).max() > _APART for known, _ in odds)
        if elsewhere and one.badness < step.badness + _AS_GOOD:
            odds.append((other, math.exp(step.badness - one.badness)))
    total = sum(share for _, share in odds)
    return at, step, [(other, share / total) for other, share in odds[1:]]


@lru_cache(maxsize=64)
def _only_asked(view: View, asked: frozenset[str]) -> View:
    """The view with the measures that were sighted, and no others to be worked out."""
    return replace(view, measures=tuple(spec for spec in view.measures if spec.id in asked))


def _settled(
    known: _Known, items: Sequence[Sighting], at: Floats, *, no_worse: float = math.inf
) -> tuple[Floats, _Step]:
    """The most likely marks that are reached from some, by Gauss and Newton's method.

    Args:
        no_worse: the badness that is wanted of other figures than the most likely one: who comes no
            nearer to it is given up, and whether it is a little less does not matter.
    """
    least = _SETTLED if no_worse == math.inf else _ABOUT
    step = _linear(known, items, at)
    for _ in range(_ROUNDS):
        moved = _solved(step)
        share = 1.0
        for _ in range(_HALVINGS):
            there = at + share * moved
            after = _linear(known, items, there)
            if after.badness <= step.badness + 1e-12:
                break
            share *= 0.5
        else:
            break
        gain = step.badness - after.badness
        at, step = there, after
        if gain < least or (share < 1.0 and gain < _AT_A_KINK):
            break
        if gain < _HOPE * (step.badness - no_worse):
            break
    return at, step


def _head(view: View, points: PointTable) -> tuple[float, Floats]:
    """The head of the marks in heads, 1 but for rounding, and its slope over them."""
    head = reference_head(view, points)
    if isinstance(head, NotMeasurable):  # both ends in one spot: no prior has that
        return 1.0, np.zeros(2 * points.weights.shape[1])
    return head.value, head.gradient.ravel()


@dataclass(frozen=True, slots=True, eq=False)
class _Known:
    """A view with its prior, and to what SD the head is one head long."""

    view: View
    prior: Prior
    head: float = _HEAD_ON_THE_WAY[0]

    def points(self, at: Floats) -> PointTable:
        """The view's points of (2n,) marks."""
        n = len(self.prior.keys)
        marks = SightMarks(self.prior.keys, at.reshape(n, 2), np.zeros((n, 2, 2)), "head")
        return point_table(self.view, marks, frozenset(self.prior.keys))


def _first_scale(usual: Sighter, items: Sequence[Sighting]) -> float:
    """log(mm a head), as the typical figure would have it."""
    found = [
        math.log(one.value / at.value)
        for one in items
        if one.in_mm and one.value > 0.0
        and (at := usual.on(one)) is not None and at.value > 0.0
    ]  # fmt: skip
    return float(np.median(found)) if found else 0.0


def _scale_of(at: Floats) -> float:
    """mm a head."""
    return math.exp(min(max(float(at[-1]), -_MOST_SCALE), _MOST_SCALE))


@dataclass(frozen=True, slots=True, eq=False)
class _Step:
    """All that is known, linear about some marks: ``matrix`` @ change = ``goal``."""

    matrix: Floats
    goal: Floats
    badness: float
    values: Floats
    residuals: Floats
    slopes: Floats


_LOOSE = 1e-6
"""1 / SD with which log(mm a head) is held where no length is in mm."""


def _linear(known: _Known, items: Sequence[Sighting], at: Floats) -> _Step:
    prior, points = known.prior, known.points(at[:-1])
    n = len(prior.mean)
    held = np.zeros((n + 2, n + 1))
    held[:n, :n] = prior.root
    held[n, n] = _LOOSE
    head, slope = _head(known.view, points)
    held[n + 1, :n] = slope / known.head
    rest = np.append(prior.root @ (prior.mean - at[:-1]), [0.0, (1.0 - head) / known.head])
    badness = 0.5 * float(rest @ rest)
    k = len(items)
    values, residuals, slopes = np.zeros(k), np.zeros(k), np.zeros((k, n + 1))
    weights, goals = np.zeros(k), np.zeros(k)
    scale = _scale_of(at)
    sighter = Sighter(known.view, points, scale)
    for i, one in enumerate(items):
        found = sighter.on(one)
        if found is None:
            badness += 1e12  # two points of it came to lie in one spot
            continue
        values[i], slopes[i, :n] = found.value, found.gradient.ravel()
        if one.in_mm and one.sort is Sort.LENGTH and not one.of:
            slopes[i, n] = found.value
        u = max(one.u, EXACT)
        if one.sort.is_answer and one.value:
            weights[i], goals[i], worse = _probit(one.value * found.value / u)
            weights[i] /= u
            goals[i] *= one.value * u
        else:
            away = one.value - found.value
            away = wrap_degrees(away) if one.sort is Sort.TILT else away
            weights[i], goals[i], worse = 1.0 / u, away, 0.5 * (away / u) ** 2
            residuals[i] = away
        badness += worse
    matrix = np.vstack([held, slopes * weights[:, None]])
    goal = np.concatenate([rest, goals * weights])
    return _Step(matrix, goal, badness, values, residuals, slopes)


def _probit(z: float) -> tuple[float, float, float]:
    """An answer as a value: square root of its curvature, how far to go, -log of its chance; all
    in units of its doubt. ``z``, how far on its own side the marks have it."""
    from scipy.special import log_ndtr  # SciPy is loaded when it is first needed

    z = min(max(z, -_BEYOND_ALL), _BEYOND_ALL)
    chance = float(log_ndtr(z))
    if z < -_SURELY:  # the tail of the normal distribution falls off as fast as it is far
        return 1.0, -z, -chance
    hazard = math.exp(-0.5 * z * z - 0.5 * math.log(2.0 * math.pi) - chance)
    curvature = max(hazard * (hazard + z), 1e-12)
    return math.sqrt(curvature), hazard / curvature, -chance


def _solved(step: _Step) -> Floats:
    """The change of least squares, no mark further than `_FARTHEST_STEP`."""
    orthogonal, upper = np.linalg.qr(step.matrix)
    try:
        moved = np.linalg.solve(upper, orthogonal.T @ step.goal)
    except np.linalg.LinAlgError:  # sightings that are exact and many drown what is known before
        moved = np.linalg.lstsq(step.matrix, step.goal, rcond=None)[0]
    furthest = float(np.abs(moved).max())
    within: Floats = moved * min(1.0, _FARTHEST_STEP / furthest) if furthest > 0.0 else moved
    return within


def _spread_of(matrix: Floats) -> float:
    """Half the logarithm of the determinant of matrix^T matrix."""
    return 0.5 * float(np.linalg.slogdet(matrix.T @ matrix)[1])


def _covariance(matrix: Floats) -> Floats:
    """Inverse of matrix^T matrix."""
    upper = np.linalg.qr(matrix, mode="r")
    try:
        inverse = np.linalg.inv(upper)
    except np.linalg.LinAlgError:
        inverse = np.linalg.pinv(upper)
    covariance: Floats = inverse @ inverse.T
    return covariance
