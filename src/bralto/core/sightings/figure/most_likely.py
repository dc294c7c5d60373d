"""The most likely marks of a figure that is sighted, by Gauss and Newton's method.

All that is known is made linear about some marks: typical places with their spread, the head's
length, and each sighting with its doubt (Tarantola 2005, Inverse Problem Theory, 3.4). An answer
(*longer*, *higher*) counts by the probit of its distance from *alike*.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.points import PointTable, point_table
from bralto.core.measures.units import Length, reference_head
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.taken import Sighting, Sort
from bralto.core.study.frames import SightMarks
from bralto.core.views.model import View

__all__ = [
    "EXACT", "HEAD_ON_THE_WAY", "Known", "Prior", "Step", "change_of", "covariance", "first_scale",
    "head_of", "linear", "scale_of", "settled", "spread_of",
]  # fmt: skip

HEAD_ON_THE_WAY = (0.05, 0.002)
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


def head_of(view: View, points: PointTable) -> tuple[float, Floats]:
    """The head of the marks in heads, 1 but for rounding, and its slope over them."""
    return _told(reference_head(view, points), 2 * points.weights.shape[1])


def _told(head: Length | NotMeasurable, n: int) -> tuple[float, Floats]:
    if isinstance(head, NotMeasurable):  # both ends in one spot: no prior has that
        return 1.0, np.zeros(n)
    return head.value, head.gradient.ravel()


class _Asked:
    """What was sighted, as arrays of k.

    Attributes:
        value, u: in each sighting's own unit, ``u`` no less than `EXACT`.
        answers: which are answers but *alike*; ``tilts``, which are tilts; ``on_pencil``, which are
            lengths in mm.
    """

    def __init__(self, items: Sequence[Sighting]) -> None:
        self.value = np.array([one.value for one in items], np.float64)
        self.u = np.array([max(one.u, EXACT) for one in items], np.float64)
        self.answers = [i for i, one in enumerate(items) if one.sort.is_answer and one.value]
        self.tilts = [i for i, one in enumerate(items) if one.sort is Sort.TILT]
        self.on_pencil = [
            i for i, one in enumerate(items)
            if one.in_mm and one.sort is Sort.LENGTH and not one.of
        ]  # fmt: skip


@dataclass(frozen=True, eq=False)
class Known:
    """All that is known of a figure: how the marks of its view usually lie, what was sighted of it,
    and to what SD the head is one head long."""

    view: View
    prior: Prior
    items: tuple[Sighting, ...]
    head: float = HEAD_ON_THE_WAY[0]

    @cached_property
    def asked(self) -> _Asked:
        """What was sighted, as arrays."""
        return _Asked(self.items)

    def points(self, at: Floats) -> PointTable:
        """The view's points of (2n,) marks."""
        n = len(self.prior.keys)
        marks = SightMarks(self.prior.keys, at.reshape(n, 2), np.zeros((n, 2, 2)), "head")
        return point_table(self.view, marks, frozenset(self.prior.keys))


def first_scale(usual: Sighter, items: Sequence[Sighting]) -> float:
    """log(mm a head), as the typical figure would have it."""
    found = [
        math.log(one.value / at.value)
        for one in items
        if one.in_mm and one.value > 0.0
        and (at := usual.on(one)) is not None and at.value > 0.0
    ]  # fmt: skip
    return float(np.median(found)) if found else 0.0


def scale_of(at: Floats) -> float:
    """mm a head."""
    return math.exp(min(max(float(at[-1]), -_MOST_SCALE), _MOST_SCALE))


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
    n, k = len(prior.mean), len(known.items)
    sighter = Sighter(known.view, points, scale_of(at))
    head, slope = _told(sighter.head, n)
    values, over_marks, ok = sighter.on_all(known.items)
    slopes = np.zeros((k, n + 1))
    slopes[:, :n] = over_marks
    slopes[asked.on_pencil, n] = values[asked.on_pencil]
    away = asked.value - values
    away[asked.tilts] = wrap_degrees(away[asked.tilts])
    weights, goals, worse = 1.0 / asked.u, away, 0.5 * np.square(away / asked.u)
    residuals = np.where(ok, away, 0.0)
    for i in asked.answers:
        side, u = asked.value[i], asked.u[i]
        weight, goal, worse[i] = _probit(side * values[i] / u)
        weights[i], goals[i], residuals[i] = weight / u, goal * side * u, 0.0
    weights, worse = np.where(ok, weights, 0.0), np.where(ok, worse, _LACKING)
    rest = np.append(prior.root @ (prior.mean - at[:-1]), [0.0, (1.0 - head) / known.head])
    matrix = np.zeros((n + 2 + k, n + 1))
    matrix[:n, :n], matrix[n, n], matrix[n + 1, :n] = prior.root, _LOOSE, slope / known.head
    matrix[n + 2 :] = slopes * weights[:, None]
    badness = 0.5 * float(rest @ rest) + float(worse.sum())
    return Step(matrix, np.append(rest, goals * weights), badness, values, residuals, slopes)


def settled(
    known: Known,
    at: Floats,
    *,
    no_worse: float = math.inf,
    about: bool = False,
) -> tuple[Floats, Step]:
    """The most likely marks that are reached from some, by Gauss and Newton's method.

    Args:
        no_worse: the badness that is wanted of other figures than the most likely one: who comes no
            nearer to it is given up, and whether it is a little less does not matter.
        about: it is enough to know them about.
    """
    least = _ABOUT if about or no_worse < math.inf else _SETTLED
    step = linear(known, at)
    for _ in range(_ROUNDS):
        moved = _solved(step)
        share = 1.0
        for _ in range(_HALVINGS):
            there = at + share * moved
            after = linear(known, there)
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


def change_of(step: Step) -> Floats:
    """The change of least squares."""
    n = step.matrix.shape[1]
    # The goal as one more column: what turns the matrix is not wanted by itself.
    upper = np.asarray(np.linalg.qr(np.column_stack([step.matrix, step.goal]), mode="r"))
    try:
        return np.asarray(np.linalg.solve(upper[:n, :n], upper[:n, n]), np.float64)
    except np.linalg.LinAlgError:  # sightings that are exact and many drown what is known before
        return np.asarray(np.linalg.lstsq(step.matrix, step.goal, rcond=None)[0], np.float64)


def _solved(step: Step) -> Floats:
    """The same, no mark further than `_FARTHEST_STEP`."""
    moved = change_of(step)
    furthest = float(np.abs(moved).max())
    within: Floats = moved * min(1.0, _FARTHEST_STEP / furthest) if furthest > 0.0 else moved
    return within


def spread_of(matrix: Floats) -> float:
    """Half the logarithm of the determinant of matrix^T matrix."""
    return 0.5 * float(np.linalg.slogdet(matrix.T @ matrix)[1])


def covariance(matrix: Floats) -> Floats:
    """Inverse of matrix^T matrix."""
    upper = np.linalg.qr(matrix, mode="r")
    try:
        inverse = np.linalg.inv(upper)
    except np.linalg.LinAlgError:
        inverse = np.linalg.pinv(upper)
    covariance: Floats = inverse @ inverse.T
    return covariance
