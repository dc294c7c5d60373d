"""How much of a seen bend was drawn: one factor of all its leans, with its interval.

A pose that is straightened keeps its masses in place along the body and leans each of them less:
every direction of its sweep departs from that of the whole by a share of what it should. The
drawn points are fitted by the seen sweep so straightened, wherever it lies, however large it is
and whichever way the whole leans; what that leaves over tells the hand's own scatter, and
Student's t how far the share may be off.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from bralto.core.action.curve import Curve, lengths, offsets
from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.student import quantile

__all__ = ["LEVEL", "Kept", "as_meant", "kept_of"]

LEVEL = 0.95
"""Of the interval of the share."""

_FIRST = 0.9
"""The share from which it is sought: most straighten a little."""

_ROUNDS = 25
_FINE = 1e-10
_STEP = 1e-6
_DENSE = 401
_WANDERS = 0.107
"""Part of a sweep's length within which a hand that wanders stays on one side: 0.8 head of a figure
of 7.5 (chosen here, no source)."""

_SLOW = 0.6
"""Part of the variance that wanders so (chosen here; `make action` shows what comes of it)."""

_SUREST = 0.25
"""Part of a point's stated doubt below which so few distances cannot show the hand to be surer."""

_WILD = 5.0
"""A share, or a step towards it, beyond which the two strokes are no pair."""

_SLIGHT = 2.0
"""How many times its doubt the seen bend must have for a share of it to mean anything."""


@dataclass(frozen=True, slots=True)
class Kept:
    """The share of the bend that was drawn: 1 is as it is meant, below it is straightened.

    Attributes:
        share: with ``low`` and ``high``, the ends of its interval of level `LEVEL`.
        meant: by what the seen bend is meant to be drawn; 1 is as seen.
        course: (m, 2) array, the seen sweep as it is meant, laid on the drawing, its unit.
    """

    share: float
    low: float
    high: float
    meant: float
    course: Floats

    @property
    def straightened(self) -> bool:
        """Whether bend was surely lost."""
        return self.high < 1.0

    @property
    def overdone(self) -> bool:
        """Whether it surely bends more than was seen."""
        return self.low > 1.0


def kept_of(seen: Curve, drawn: Curve, meant: float = 1.0) -> Kept | NotMeasurable:
    """Hold a drawn sweep against the seen one, each in a unit of its own, y up.

    Args:
        meant: the share of its bend that is meant to be drawn; what was kept is a share of that.
    """
    if float(np.abs(offsets(seen.xy[None])).max()) < _SLIGHT * seen.sd:
        return NotMeasurable("the sweep that was seen is straight: no share of it can be told")
    course, points = _bent(seen), drawn.points
    chord, size = points[-1] - points[0], float(lengths(points) / lengths(seen.xy))
    theta = np.array([_FIRST, math.atan2(chord[1], chord[0]), *points[0], math.log(size)])
    for _ in range(_ROUNDS):
        off, slopes = _distances(course, theta, points)
        step, *_ = np.linalg.lstsq(slopes, -off, rcond=None)
        theta = theta + np.clip(step, -0.5, 0.5) * (np.abs(step) < _WILD)
        if float(np.abs(step).max()) < _FINE:
            break
    off, slopes = _distances(course, theta, points)
    alike = _alike(points)
    to_share = np.asarray(np.linalg.pinv(slopes), np.float64)
    left = (np.eye(len(off)) - slopes @ to_share) @ alike
    # What is left over of errors that are alike is less, and tells less (Satterthwaite 1946).
    freedom = float(np.trace(left)) ** 2 / float(np.trace(left @ left))
    variance = max(float(off @ off) / float(np.trace(left)), (_SUREST * drawn.sd) ** 2)
    share_u = math.sqrt(max(variance * float(to_share[0] @ alike @ to_share[0]), 0.0))
    share, reach = float(theta[0]), quantile(LEVEL, freedom) * share_u
    if not math.isfinite(share) or abs(share) > _WILD:
        return NotMeasurable("the drawn sweep is quite another than the seen one")
    goal = theta.copy()
    goal[0] = meant
    kept, low, high = (value / meant for value in (share, share - reach, share + reach))
    return Kept(kept, low, high, meant, _laid(course(goal), drawn.xy))


def _alike(points: Floats) -> Floats:
    """(n + 2, n + 2) how alike errors of distances are: a hand scatters from point to point, and
    wanders to one side for a while; so does the seen sweep, which was drawn too."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    apart = (along[:, None] - along[None]) / (_WANDERS * max(float(along[-1]), 1e-12))
    alike = np.eye(len(points) + 2)
    alike[:-2, :-2] *= 1.0 - _SLOW
    alike[:-2, :-2] += _SLOW * np.exp(-0.5 * np.square(apart))
    return alike


def as_meant(seen: Curve, meant: float) -> Floats:
    """(m, 2) the seen sweep with all its leans by a factor, between the same two ends."""
    return _laid(_bent(seen)(np.array([meant, 0.0, 0.0, 0.0, 0.0])), seen.xy)


def _bent(seen: Curve) -> Callable[[Floats], Floats]:
    """Of (share, turn, x, y, log of size): (m, 2), the seen sweep with a share of its leans, turned
    from there on and laid there."""
    about = math.atan2(*(seen.xy[-1] - seen.xy[0])[::-1])
    leans = seen.directions - about
    leans -= 2.0 * math.pi * round(float(leans.mean()) / (2.0 * math.pi))
    steps = np.hypot(*np.diff(seen.xy, axis=0).T)
    rest = 0.5 * (leans[1:] + leans[:-1])

    def course(theta: Floats) -> Floats:
        share, turn, x, y, size = theta
        heading = turn + share * rest
        run = (np.exp(size) * steps)[:, None] * np.column_stack([np.cos(heading), np.sin(heading)])
        laid: Floats = np.array([x, y]) + np.concatenate([np.zeros((1, 2)), np.cumsum(run, axis=0)])
        return laid

    return course


def _laid(course: Floats, onto: Floats) -> Floats:
    """A course turned, scaled and moved so that its ends lie on those of another."""
    mine, theirs = (complex(*(xy[-1] - xy[0])) for xy in (course, onto))
    away = course - course[0]
    spun = (away[:, 0] + 1j * away[:, 1]) * (theirs / mine)
    laid: Floats = np.column_stack([spun.real, spun.imag]) + onto[0]
    return laid


def _distances(
    course: Callable[[Floats], Floats], theta: Floats, points: Floats
) -> tuple[Floats, Floats]:
    """Distances of points square to a course, and of its two ends along it; with their slopes."""
    line = course(theta)
    dense = np.linspace(0.0, len(line) - 1.0, _DENSE)
    rows = np.arange(len(line), dtype=np.float64)
    fine = np.column_stack([np.interp(dense, rows, line[:, axis]) for axis in (0, 1)])
    away = np.hypot(points[:, None, 0] - fine[None, :, 0], points[:, None, 1] - fine[None, :, 1])
    foot = dense[np.argmin(away, axis=1)]
    foot[0], foot[-1] = 0.0, len(line) - 1.0
    run = np.column_stack([np.interp(foot, rows, np.gradient(line[:, axis])) for axis in (0, 1)])
    run /= np.hypot(run[:, 0], run[:, 1])[:, None]
    normal = np.column_stack([-run[:, 1], run[:, 0]])

    def rest(of: Floats) -> Floats:
        there = np.column_stack([np.interp(foot, rows, of[:, axis]) for axis in (0, 1)])
        off = points - there
        square = np.einsum("nd,nd->n", off, normal)
        along = np.einsum("nd,nd->n", off, run)
        return np.concatenate([square, along[[0, -1]]])

    slopes = np.empty((len(points) + 2, len(theta)))
    for i in range(len(theta)):
        ahead, behind = theta.copy(), theta.copy()
        ahead[i] += _STEP
        behind[i] -= _STEP
        slopes[:, i] = (rest(course(ahead)) - rest(course(behind))) / (2.0 * _STEP)
    return rest(line), slopes
