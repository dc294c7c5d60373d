"""The most likely marks of a figure that is sighted, by Gauss and Newton's method.

All that is known is made linear about some marks: typical places with their spread, the head's
length, and each sighting with its doubt (Tarantola 2005, Inverse Problem Theory, 3.4). An answer
(*longer*, *higher*) counts by the probit of its distance from *alike*.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.known_before import Known, Prior, scale_of, told_head

__all__ = [
    "ABOUT", "NEARLY", "NEVER", "Step", "change_of", "covariance", "learnt_of", "linear", "settled",
    "strained_marks", "strains",
]  # fmt: skip

_FARTHEST_STEP = 3.0
"""Heads, or in log(mm a head), that a round may move anything: sightings that are no figure's must
not lead the method off to infinity."""

_SURELY, _BEYOND_ALL = 30.0, 1e6
"""Doubts of its own from which on an answer is as wrong as can be reckoned with, and at most."""

_HOPE = 0.2
"""Share of what is left to a wanted badness that a round must gain, or it is given up."""

ABOUT, NEARLY = 0.1, 0.01
"""The gain below which a figure is known well enough that is only held against others, and that is
gone on from."""

_ROUNDS, _SETTLED, _ROUNDING = 40, 1e-7, 1e-12
"""Rounds at most, the gain (-log likelihood) below which another one changes nothing that is shown,
and the share of all that is rounding."""

_DAMPED, _MORE, _LESS, _TRIES = 1.0, 4.0, 10.0, 9
"""How much a step is damped first that would make it worse, by what more at each further try (by 4,
then by 16, by 64), by what less in the next round, and how often it is tried (chosen on 850 lists
of sitters that stand, sit and lie, with none to two wrong sightings: others that were tried reached
worse figures, or as good ones in more steps)."""

_AT_A_KINK = 1e-3
"""As `_SETTLED`, of a step that had to be damped: where another foot becomes the lower one the
likelihood has an edge, along which it would go in ever smaller steps."""


@dataclass(frozen=True, slots=True, eq=False)
class Step:
    """All that is known, linear about some marks: ``matrix`` @ change = ``goal``."""

    matrix: Floats
    goal: Floats
    badness: float
    values: Floats
    residuals: Floats
    slopes: Floats


_LOOSE = 1e-6
"""1 / SD with which log(mm a head) is held where no length is in mm."""


_LACKING = 1e12
"""-log likelihood of marks of which two that are held against each other lie in one spot."""


def linear(known: Known, at: Floats) -> Step:
    """All that is known, linear about (2n + 1,) marks and log(mm a head)."""
    prior, points, asked = known.prior, known.points(at[:-1]), known.asked
    known.effort.spend(asked.cost)
    n, k = len(prior.mean), len(known.items)
    sighter = Sighter(known.view, points, scale_of(at))
    head, slope = told_head(sighter.head, n)
    values, over_marks, ok = sighter.on_all(asked.at_once)
    slopes = np.zeros((k, n + 1))
    slopes[:, :n] = over_marks
    on_pencil = asked.at_once.on_pencil
    slopes[on_pencil, n] = values[on_pencil]
    away = asked.value - values
    away[asked.tilts] = wrap_degrees(away[asked.tilts])
    weights, goals, worse = 1.0 / asked.u, away, 0.5 * np.square(away / asked.u)
    residuals = np.where(ok, away, 0.0)
    for i in asked.answers:
        side, u = asked.value[i], asked.u[i]
        weight, goal, worse[i] = _probit(side * values[i] / u)
        weights[i], goals[i], residuals[i] = weight / u, goal * side * u, 0.0
    weights, worse = np.where(ok, weights, 0.0), np.where(ok, worse, _LACKING)
    matrix, aim = np.zeros((n + 2 + k, n + 1)), np.zeros(n + 2 + k)
    matrix[:n, :n], matrix[n, n], matrix[n + 1, :n] = prior.root, _LOOSE, slope / known.head
    np.multiply(slopes, weights[:, None], out=matrix[n + 2 :])
    aim[:n], aim[n + 1] = prior.root @ (prior.mean - at[:-1]), (1.0 - head) / known.head
    badness = 0.5 * float(aim @ aim) + float(worse.sum())
    aim[n + 2 :] = goals * weights
    return Step(matrix, aim, badness, values, residuals, slopes)


def settled(
    known: Known,
    at: Floats,
    *,
    no_worse: float = math.inf,
    least: float = _SETTLED,
) -> tuple[Floats, Step]:
    """The most likely marks that are reached from some, by Gauss and Newton's method.

    A step that makes it worse is damped (Levenberg 1944, Quarterly of Applied Mathematics 2, 164):
    as though the marks as they are were known besides, so many times as well as the typical ones.
    A tilt that was sighted the wrong way leads through figures in which both its ends fall together
    and no step, however short, goes on straight.

    Args:
        no_worse: the badness that is wanted of other figures than the most likely one: who comes no
            nearer to it is given up, and whether it is a little less does not matter.
        least: the gain below which they are known well enough.
    """
    step, damped = linear(known, at), 0.0
    for _ in range(_ROUNDS):
        rounding = _ROUNDING * max(1.0, step.badness)
        for tried in range(_TRIES):
            there = at + _moved(known, step, at, damped)
            after = linear(known, there)
            if after.badness <= step.badness + rounding:
                break
            damped = damped * _MORE ** (tried + 1) or _DAMPED
        else:
            break
        gain = step.badness - after.badness
        at, step = there, after
        if known.effort.is_spent:
            break
        if gain < max(least, rounding) or (damped and gain < _AT_A_KINK):
            break
        if gain < _HOPE * (step.badness - no_worse):
            break
        damped = damped / _LESS if damped > _DAMPED else 0.0
    return at, step


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


def strains(known: Known, step: Step) -> Floats:
    """(k,) array: how far each sighting is from what all else says, in standard deviations
    (standardised leave-one-out residuals); 0 of answers, and where it alone tells."""
    u = known.asked.u
    slopes = step.slopes / u[:, None]
    own = 1.0 - np.einsum("ki,ij,kj->k", slopes, covariance(step.matrix), slopes)
    told = own > NEVER
    away: Floats = np.where(told, np.abs(step.residuals / u) / np.sqrt(np.where(told, own, 1.0)), 0)
    return away


NEVER = 0.03
"""Share of a sighting's variance below which it alone tells, and nothing can doubt it: what the
others have it be is then told by bends of the likelihood that are not seen here (weighed on 36
sitters as those of `make sightings`, that stand, sit and lie)."""


def strained_marks(known: Known, step: Step) -> Bools:
    """(n,) array: marks of sightings that all else says are wrong, of answers that are not so."""
    asked = known.asked
    strained = strains(known, step) > _STRAINED
    for i in asked.answers:
        strained[i] = asked.value[i] * step.values[i] < 0.0
    told: Bools = (step.slopes[strained, :-1] != 0.0).any(axis=0).reshape(-1, 2).any(axis=1)
    return told


_STRAINED = 2.0
"""Standard deviations."""


def change_of(step: Step) -> Floats:
    """The change of least squares."""
    return _least_squares(step.matrix, step.goal)


def _least_squares(matrix: Floats, goal: Floats) -> Floats:
    n = matrix.shape[1]
    # The goal as one more column: what turns the matrix is not wanted by itself.
    upper = np.asarray(np.linalg.qr(np.column_stack([matrix, goal]), mode="r"))
    try:
        return np.asarray(np.linalg.solve(upper[:n, :n], upper[:n, n]), np.float64)
    except np.linalg.LinAlgError:  # sightings that are exact and many drown what is known before
        return np.asarray(np.linalg.lstsq(matrix, goal, rcond=None)[0], np.float64)


def _moved(known: Known, step: Step, at: Floats, damped: float) -> Floats:
    """The same, damped, and no mark further than `_FARTHEST_STEP`."""
    prior, matrix, goal = known.prior, step.matrix, step.goal
    n = len(prior.mean)
    if known.asked.are_few:
        moved = _from_typical(prior, at, matrix[n + 1 :, :-1], goal[n + 1 :], damped)
    elif damped:
        stay = np.zeros((n, n + 1))
        stay[:, :n] = math.sqrt(damped) * prior.root
        moved = _least_squares(np.vstack([matrix, stay]), np.append(goal, np.zeros(n)))
    else:
        moved = change_of(step)
    furthest = float(np.abs(moved).max())
    within: Floats = moved * min(1.0, _FARTHEST_STEP / furthest) if furthest > 0.0 else moved
    return within


def _from_typical(prior: Prior, at: Floats, slopes: Floats, goal: Floats, damped: float) -> Floats:
    """The same where what was sighted are fewer numbers than there are marks: the equations have a
    row for each sighting in place of each mark (Tarantola 2005, 3.4).

    Args:
        at: (n + 1,) marks, and log(mm a head), which nothing tells.
        slopes, goal: (k, n), (k,) all that is known but typical places, in units of its doubt.
    """
    looser = 1.0 / (1.0 + damped)
    towards = looser * (prior.mean - at[:-1])
    by_marks = looser * (slopes @ prior.cov)
    whole = by_marks @ slopes.T
    whole.flat[:: len(goal) + 1] += 1.0
    return np.append(towards + np.linalg.solve(whole, goal - slopes @ towards) @ by_marks, 0.0)


def learnt_of(step: Step, prior: Prior) -> float:
    """By how much the marks, and log(mm a head), are known better than before: half the logarithm
    of the quotient of the determinants, never less than 0."""
    after, before = step.matrix.T @ step.matrix, prior.root.T @ prior.root
    logs = np.linalg.slogdet(after)[1] - np.linalg.slogdet(before)[1]
    return 0.5 * float(logs) - math.log(_LOOSE)


def covariance(matrix: Floats) -> Floats:
    """Inverse of matrix^T matrix."""
    upper = np.linalg.qr(matrix, mode="r")
    try:
        inverse = np.linalg.inv(upper)
    except np.linalg.LinAlgError:
        inverse = np.linalg.pinv(upper)
    covariance: Floats = inverse @ inverse.T
    return covariance
