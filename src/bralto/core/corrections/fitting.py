"""One list of moves fitted to a drawing: weighted least squares by Gauss and Newton's method."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise

import numpy as np

from bralto.core.arrays import Floats, median
from bralto.core.corrections.candidates.composing import Lists
from bralto.core.corrections.candidates.moves import Move
from bralto.core.tolerances import CHI_SQUARED_MEDIAN

__all__ = [
    "LAST_ROUNDS", "Fit", "Fits", "Problem", "covariances", "hand_of", "pose_problem",
    "practised_hand", "refit", "refit_lists",
]  # fmt: skip

_SCATTER = 0.25
"""A mark may miss by this share of the tolerance without anything being wrong with it: the scatter
of a practised hand, as an SD (common practice, no source)."""

_ROUNDS, LAST_ROUNDS = 1, 6
"""Rounds of Gauss and Newton's method while searching, and for the list that is given."""

_SINGULAR = 1e-10

_WILDEST = 10.0
"""Bound of a parameter (relative size, radians, heads): marks that have nothing to do with each
other must not lead the method off to infinity."""


def practised_hand(tolerance: float) -> float:
    """SD of each coordinate of a mark by a practised hand, heads, of the grade's tolerance."""
    return _SCATTER * tolerance


@dataclass(frozen=True, slots=True)
class Problem:
    """What is held fixed.

    Attributes:
        p, q: (n, 2) marks of both pictures, heads; the drawing about its weighted mean.
        sd: (n,) SD of placing, heads.
        root: (n,) square roots of the weights; ``weights``, their shares, which add up to 1.
        goal: (2n,) array, ``q`` weighted.
        tolerance: heads.
        whole_scale: the scale is held at 1.
        joint: (2n, 2n) array, W with W^T W the inverse of the marks' covariance, where they are not
            independent of each other (of a reference that sightings imply); it weighs in place of
            ``root``. Else None.
    """

    p: Floats
    q: Floats
    sd: Floats
    root: Floats
    weights: Floats
    goal: Floats
    tolerance: float
    whole_scale: bool
    joint: Floats | None = None

    def whiten(self, fields: Floats) -> Floats:
        """(..., n, 2) fields as (..., 2n) rows, weighted."""
        if self.joint is not None:
            mixed: Floats = fields.reshape(*fields.shape[:-2], -1) @ self.joint.T
            return mixed
        white: Floats = (fields * self.root[:, None]).reshape(*fields.shape[:-2], -1)
        return white

    def misses(self, residuals: Floats) -> Floats:
        """(..., n, 2) how far marks lie from where they belong, heads, of (..., 2n) weighted
        residuals."""
        if self.joint is not None:
            apart = np.linalg.solve(self.joint, residuals.reshape(-1, len(self.joint)).T)
            return np.asarray(apart.T.reshape(*residuals.shape[:-1], -1, 2))
        return residuals.reshape(*residuals.shape[:-1], -1, 2) / self.root[:, None]

    def worst(self, residuals: Floats) -> Floats:
        """(...) the largest distance of a mark from where it belongs, heads, of (..., 2n) weighted
        residuals."""
        miss = self.misses(residuals)
        return np.asarray(np.hypot(miss[..., 0], miss[..., 1]).max(axis=-1))

    def scattered(self, hand: float) -> float:
        """Mean square of weighted residuals where a hand scatters by ``hand``, heads."""
        if self.joint is None:
            return float(np.square(np.hypot(self.sd, hand) * self.root).mean())
        more = max(0.0, hand**2 - practised_hand(self.tolerance) ** 2)
        return 1.0 + more * float(np.square(self.joint).sum()) / len(self.joint)

    def spread(self, hand: float) -> Floats:
        """(2n,) SD of weighted residuals where a hand scatters by ``hand``, heads (`hand_of`)."""
        if self.joint is None:
            return np.repeat(np.hypot(self.sd, hand) * self.root, 2)
        return np.full(2 * len(self.p), hand / practised_hand(self.tolerance))


@dataclass(frozen=True)
class Fit:
    """Chosen moves fitted together.

    Attributes:
        scale: drawing heads a reference head.
        parameters: one array a move.
        residual: (2n,) array, weighted.
        design: (2n, 2 or 3 + k) array, weighted derivatives; scale and shift first.
        worst: the largest distance of a mark from where it belongs, heads.
    """

    scale: float
    parameters: list[Floats]
    residual: Floats
    design: Floats
    worst: float

    @property
    def squares(self) -> float:
        """Weighted residual sum of squares."""
        return float(self.residual @ self.residual)


@dataclass(frozen=True)
class Fits:
    """Several lists fitted side by side (`Fit`), of k parameters at most.

    Attributes:
        scale: (l,) array; ``sizes``, parameters of each list's moves.
        theta: (l, k) array; 0 for those that a list has not.
        residual: (l, 2n) array.
        rows: (l, 2 or 3 + k, 2n) array, the designs, a row a column; 0 likewise.
        worst: (l,) array.
    """

    scale: Floats
    sizes: Sequence[Sequence[int]]
    theta: Floats
    residual: Floats
    rows: Floats
    worst: Floats

    @property
    def slopes(self) -> Floats:
        """(l, k, 2n) array, weighted derivatives by the parameters alone."""
        return self.rows[:, self.rows.shape[1] - self.theta.shape[1] :]

    def one(self, row: int) -> Fit:
        """One of them alone."""
        ends = list(accumulate(self.sizes[row], initial=0))
        others = self.rows.shape[1] - self.theta.shape[1]
        return Fit(
            float(self.scale[row]),
            [self.theta[row, a:b] for a, b in pairwise(ends)],
            self.residual[row],
            self.rows[row, : others + ends[-1]].T,
            float(self.worst[row]),
        )


def pose_problem(
    p: Floats,
    q: Floats,
    sd: Floats,
    tolerance: float,
    *,
    whole_scale: bool,
    implied: Floats | None = None,
) -> Problem:
    """Weigh the marks by their placing and what a practised hand may scatter.

    Args:
        implied: (2n, 2n) array, covariance of a reference that sightings imply, heads squared: the
            best list is then the one that would explain the drawing best if the body were free
            to be any that the sightings allow. None where the reference was seen.
    """
    root = 1.0 / np.hypot(sd, practised_hand(tolerance))
    weights = root * root / float(root @ root)
    q = q - weights @ q
    if implied is None:
        goal = (q * root[:, None]).reshape(-1)
        return Problem(p, q, sd, root, weights, goal, tolerance, whole_scale)
    whole = implied + np.diag(np.repeat(1.0 / np.square(root), 2))
    joint = np.asarray(np.linalg.inv(np.linalg.cholesky(whole)), np.float64)
    goal = joint @ q.reshape(-1)
    return Problem(p, q, sd, root, weights, goal, tolerance, whole_scale, joint)


def refit(
    problem: Problem,
    moves: Sequence[Move],
    start: Sequence[Floats],
    rounds: int = _ROUNDS,
    ridge: Floats | None = None,
) -> Fit:
    """Gauss-Newton on scale, shift and all parameters of the moves, in so many rounds at most.

    Args:
        ridge: (k,) array, what each parameter is held to 0 with (1 / SD squared); none if None.
    """
    begin = np.concatenate([*start, np.zeros(0)])[None]
    held = None if ridge is None else ridge[None]
    return refit_lists(problem, [moves], begin, rounds, ridges=held).one(0)


def refit_lists(
    problem: Problem,
    lists: Sequence[Sequence[Move]],
    start: Floats,
    rounds: int = _ROUNDS,
    *,
    ridges: Floats | None = None,
    at_rest: Floats | None = None,
) -> Fits:
    """Gauss-Newton on each of several lists, side by side (`refit`).

    Args:
        start: (l, k) array, the parameters of each list, in the order of its moves; 0 for those
            that a list has not.
        ridges: (l, k) array, what they are held to 0 with; none if None.
        at_rest: (l, k, n, 2) array, how the marks go with the parameters at 0, where it is known
            and all of them start there; else None.
    """
    n, sizes = len(problem.p), [[move.size for move in moves] for moves in lists]
    composed, theta = Lists(lists, n), start
    nuisance = 2 if problem.whole_scale else 3
    fields = np.zeros((len(lists), nuisance + composed.most, n, 2))
    fields[:, 0, :, 0] = fields[:, 1, :, 1] = 1.0
    each = np.arange(fields.shape[1])
    settled = not composed.most
    for last in range(rounds + 1):
        if at_rest is not None:
            at, slopes, at_rest = np.broadcast_to(problem.p, (len(lists), n, 2)), at_rest, None
        else:
            at, slopes = composed.at(theta, problem.p)
        scale, shift = _place(problem, at)
        residual = problem.q - scale[:, None, None] * at - shift[:, None]
        if not problem.whole_scale:
            fields[:, 2] = at
        fields[:, nuisance:] = scale[:, None, None, None] * slopes
        design, white = problem.whiten(fields), problem.whiten(residual)
        if settled or last == rounds:
            break
        square = design @ design.swapaxes(1, 2)
        diagonal = square[:, each, each]
        # Never quite singular; and a parameter that a list has not stays where it is.
        square[:, each, each] = np.where(diagonal > 0.0, diagonal * (1.0 + _SINGULAR), 1.0)
        goal = (design @ white[:, :, None])[:, :, 0]
        if ridges is not None:
            square[:, each[nuisance:], each[nuisance:]] += ridges
            goal[:, nuisance:] -= ridges * theta
        step = np.linalg.solve(square, goal[:, :, None])[:, nuisance:, 0]
        theta = np.minimum(np.maximum(theta + step, -_WILDEST), _WILDEST)
        settled = float(np.abs(step).max()) < _SETTLED
    return Fits(scale, sizes, theta, white, design, problem.worst(white))


_SETTLED = 1e-9
"""A step of the parameters (relative size, radians, heads) after which one more changes nothing."""


def _place(problem: Problem, at: Floats) -> tuple[Floats, Floats]:
    """Scale (l,) (1 where it is held) and shift (l, 2) of weighted least squares, of (l, n, 2)
    marks."""
    if problem.joint is not None:
        return _placed_jointly(problem, at)
    mean: Floats = problem.weights @ at
    if problem.whole_scale:
        return np.ones(len(at)), -mean
    white = problem.whiten(at - mean[:, None])
    scale: Floats = (white @ problem.goal) / np.square(white).sum(axis=1)
    shift: Floats = -scale[:, None] * mean
    return scale, shift


def _placed_jointly(problem: Problem, at: Floats) -> tuple[Floats, Floats]:
    """The same where the marks are not independent of each other."""
    fields = np.zeros((len(at), 3, *at.shape[1:]))
    fields[:, 0, :, 0] = fields[:, 1, :, 1] = 1.0
    fields[:, 2] = at
    rows = problem.whiten(fields)
    if problem.whole_scale:
        free, goal = rows[:, :2], problem.goal - rows[:, 2]
    else:
        free, goal = rows, np.broadcast_to(problem.goal, (len(at), len(problem.goal)))
    found = np.linalg.solve(free @ free.swapaxes(1, 2), free @ goal[:, :, None])[:, :, 0]
    scale = np.ones(len(at)) if problem.whole_scale else np.asarray(found[:, 2], np.float64)
    return scale, np.asarray(found[:, :2], np.float64)


def hand_of(problem: Problem, fit: Fit) -> float:
    """SD of the hand's own scatter that a fit leaves over, heads, beside the placing of the marks.

    From the squared misses over both directions of every mark, for their degrees of freedom; those
    beyond 2.5 SD, which the middle one tells, count as 2.5 (winsorized): a mark that is wild must
    not pass for a shaky hand. Widened as the variance of Student's t is for so many of them.
    """
    if problem.joint is not None:
        # What is left over is of the body that was not sighted as much as of the hand.
        excess = fit.squares / max(1.0, len(fit.residual) - fit.design.shape[1])
        return practised_hand(problem.tolerance) * math.sqrt(max(1.0, excess))
    miss = np.square(fit.residual / np.repeat(problem.root, 2))
    spent = max(0.25, 1.0 - fit.design.shape[1] / len(miss))
    middle = median(miss) / (CHI_SQUARED_MEDIAN * spent)
    whole = float(np.minimum(miss, _FAR * middle).mean()) / (_WINSORIZED * spent)
    freedom = max(_FEWEST_FREE, len(miss) * spent)
    placed = float(np.square(problem.sd).mean())
    return math.sqrt(max(0.0, whole * freedom / (freedom - 2.0) - placed))


_FAR, _WINSORIZED = 6.25, 0.9776
"""2.5 squared, and the mean of a squared standard normal that is cut off there."""

_FEWEST_FREE = 4.0


def covariances(
    problem: Problem, fit: Fit, moves: Sequence[Move], hand: float
) -> tuple[list[Floats], Floats]:
    """How sure the amounts of moves are (the sandwich of least squares).

    Args:
        hand: SD of the hand's own scatter at each mark, heads (`hand_of`), which comes on top of
            the placing of the marks.

    Returns:
        The covariance of each move's parameters; and (k, k), the largest correlation of a
        parameter of one move with one of another, 0 on the diagonal.
    """
    inverse = np.asarray(np.linalg.pinv(fit.design), np.float64)
    first = fit.design.shape[1] - sum(move.size for move in moves)
    spread = inverse * problem.spread(hand)
    covariance = spread @ spread.T
    ends = np.cumsum([first] + [move.size for move in moves])
    blocks = list(pairwise(ends.tolist()))
    deviation = np.sqrt(np.maximum(covariance.diagonal(), 1e-300))
    correlation = np.abs(covariance / np.outer(deviation, deviation))
    tied = np.zeros((len(moves), len(moves)))
    for i, (a, b) in enumerate(blocks):
        for j, (c, d) in enumerate(blocks):
            tied[i, j] = 0.0 if i == j else float(correlation[a:b, c:d].max())
    return [covariance[a:b, a:b] for a, b in blocks], tied
