"""The shortest list of moves that explains a drawing: greedy, re-fitted jointly, then pared down.

The drawing is q = s (P with all moves composed) + t + noise. Scale s and shift t are free unless
the school holds the scale: where the figure lies and how large it is are no faults. At each step
the move is taken that saves most weighted squares per parameter (in the fix order where two save
the same), if it saves more than it costs; then all are fitted anew by Gauss and Newton's method.

What a parameter costs is log N by the Bayesian information criterion (Schwarz 1978) and 2 gamma
log M for having looked at M moves (Chen and Chen 2008, Biometrika 95, 759).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations, pairwise

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.corrections.fitting import (
    LAST_ROUNDS,
    Fit,
    Problem,
    covariances,
    pose_problem,
    refit,
)
from bralto.core.corrections.moves import Candidates, Move
from bralto.core.tolerances import COVERAGE

__all__ = ["Explained", "explain"]

_MOST = 9
"""Moves at most, one a key from 1 to 9: a longer list is no help (common practice, no source)."""

_EVEN = 2.0
"""Two moves whose savings (weighted squares a parameter) differ by less save the same: noise alone
could have made the difference. The fix order decides then."""

_DISTINCT = 1e-3
"""A move of which less than this share is left beside the others (squares) cannot be told."""

_NEARLY = 1.2
"""A move whose saving in the linear approximation is less than this times its cost is looked at."""

_GAMMA, _GAMMA_SCATTERED = 0.25, 1.0
"""How dear it is to have looked at many moves: little while the tolerance guards against naming
what is nothing, in full where the hand scatters beyond it (the second, of a boundless scatter)."""

_PILOT = 4
"""Marks for each move of the lenient list at least, so that it cannot explain everything."""


@dataclass(frozen=True, slots=True)
class Explained:
    """A move that was found in the drawing.

    Attributes:
        move: which.
        parameter: (1,) or (2,) array: relative size, radians, or heads.
        covariance: (d, d) array from the placing of the marks and the scatter of the hand.
        share: of the weighted squares that it takes away; the shares of a list add up.
    """

    move: Move
    parameter: Floats
    covariance: Floats
    share: float


def explain(
    candidates: Candidates,
    p: Floats,
    q: Floats,
    sd: Floats,
    tolerance: float,
    *,
    whole_scale: bool = False,
) -> tuple[float, tuple[Explained, ...]]:
    """Find the moves that make the reference into the drawing.

    Args:
        candidates: moves of the n marks.
        p: (n, 2) array, the reference in its own heads, sight frame (y up).
        q: (n, 2) array, the drawing in the same heads, so that its scale is near 1.
        sd: (n,) array, SD of placing each mark, both pictures together, heads.
        tolerance: heads; where every mark lies nearer than this to its place, nothing is named.
        whole_scale: the scale is held at 1, and the size of the whole may be wrong.

    Returns:
        The scale beside the moves, and the moves, greatest first.
    """
    problem = pose_problem(p, q, sd, tolerance, whole_scale=whole_scale)
    moves, sizes = candidates.moves, candidates.sizes
    columns = problem.whiten(candidates.tangents(p))
    first = np.cumsum(sizes) - sizes
    double = first[sizes == 2]
    search = _Search(
        problem,
        moves,
        columns,
        sizes,
        first,
        whole=(columns * columns).sum(axis=0),
        crossed=(columns[:, double] * columns[:, double + 1]).sum(axis=0),
    )
    # A first, lenient list takes the faults away, so that what is left is the hand.
    pilot = _forward(search, len(p) // _PILOT)[1]
    search = replace(search, hand=pilot.scatter)
    chosen, fit = _pare(search, *_forward(search, _MOST))
    picked = [moves[i] for i in chosen]
    fit = refit(problem, picked, fit.parameters, rounds=LAST_ROUNDS)
    return fit.scale, _explained(picked, fit, covariances(problem, fit, picked))


def _forward(search: _Search, most: int) -> tuple[list[int], Fit]:
    """Add the best move until none is worth its cost or every mark is within tolerance."""
    chosen: list[int] = []
    fit = refit(search.problem, [], [])
    while len(chosen) < most and fit.worst > search.problem.tolerance:
        found = search.best(fit, chosen)
        if found is None:
            break
        chosen, fit = search.refit(chosen, fit, found[0])
    return chosen, fit


@dataclass(frozen=True, slots=True)
class _Search:
    """The candidates with their weighted derivatives at rest.

    Attributes:
        columns: (2n, k) array, two columns for a shift.
        sizes: (m,) array, parameters of each move; ``first``, where its columns begin.
        whole: (k,) array, squared length of each column; ``crossed`` of a shift's two with
            each other.
        hand: the scatter that a lenient list of moves leaves, or None while that is searched.
    """

    problem: Problem
    moves: Sequence[Move]
    columns: Floats
    sizes: Ints
    first: Ints
    whole: Floats
    crossed: Floats
    hand: float | None = None

    def scatter(self, fit: Fit) -> float:
        """The yardstick for savings beside a fit: between what it leaves and what the hand may."""
        return 1.0 if self.hand is None else math.sqrt(self.hand * fit.scatter)

    def cost(self, fit: Fit) -> float:
        """What one parameter costs beside a fit, in weighted squares."""
        data, looks = 2 * len(self.problem.p), max(len(self.moves), 1)
        scatter = self.scatter(fit)
        gamma = _GAMMA_SCATTERED + (_GAMMA - _GAMMA_SCATTERED) / scatter
        return scatter * (math.log(data) + 2.0 * gamma * math.log(looks))

    def best(
        self, fit: Fit, barred: Sequence[int], *, in_all: bool = False
    ) -> tuple[int, float] | None:
        """The row of the move that saves most and its saving; None where none is worth its cost.

        Args:
            barred: rows that may not be taken.
            in_all: what counts is the saving less its cost, not the saving a parameter.
        """
        savings = self.savings(fit)
        savings[list(barred)] = 0.0
        price = self.sizes * self.cost(fit)
        worth = savings > price
        if not worth.any():
            return None
        each = np.where(worth, savings - price if in_all else savings / self.sizes, 0.0)
        even = np.nonzero(worth & (each >= each.max() - _EVEN * self.scatter(fit)))[0].tolist()
        row = min(even, key=lambda i: (self.moves[i].rank, -float(each[i])))
        return row, float(savings[row])

    def savings(self, fit: Fit) -> Floats:
        """(m,) array: squares that each move would save beside those that are fitted.

        The residual is square to all that is fitted, so only the columns' own lengths must be
        taken less what of them is fitted already.
        """
        first, double = self.first, self.first[self.sizes == 2]
        fitted = fit.basis.T @ self.columns
        left = self.whole - (fitted * fitted).sum(axis=0)
        along = self.columns.T @ fit.residual
        told = left > _DISTINCT * self.whole
        savings: Floats = np.where(told, along * along / np.where(told, left, 1.0), 0.0)[first]
        a, b = left[double], left[double + 1]
        c = self.crossed - (fitted[:, double] * fitted[:, double + 1]).sum(axis=0)
        u, v = along[double], along[double + 1]
        determinant = a * b - c * c
        able = determinant > _DISTINCT * self.whole[double] * self.whole[double + 1]
        both = (b * u * u - 2.0 * c * u * v + a * v * v) / np.where(able, determinant, 1.0)
        savings[self.sizes == 2] = np.where(able, both, 0.0)
        return savings

    def refit(self, chosen: Sequence[int], before: Fit, new: int) -> tuple[list[int], Fit]:
        """The list with one move more, fitted from what is known."""
        longer = sorted([*chosen, new])
        start = list(before.parameters)
        start.insert(longer.index(new), np.zeros(self.moves[new].size))
        return longer, refit(self.problem, [self.moves[i] for i in longer], start)

    def dropped(
        self, chosen: Sequence[int], fit: Fit, rows: Sequence[int]
    ) -> tuple[list[int], Fit]:
        """The list without some moves, in the linear approximation about the whole list."""
        sizes = [len(theta) for theta in fit.parameters]
        nuisance = fit.design.shape[1] - sum(sizes)
        away = np.repeat([i in rows for i in chosen], sizes)
        gone = np.concatenate([np.zeros(nuisance, dtype=np.bool_), away])
        kept = fit.design[:, ~gone]
        basis = np.linalg.qr(kept)[0]
        residual = fit.residual + fit.design[:, gone] @ np.concatenate(fit.parameters)[away]
        residual = residual - basis @ (basis.T @ residual)
        miss = residual.reshape(-1, 2) / self.problem.root[:, None]
        worst = float(np.hypot(miss[:, 0], miss[:, 1]).max())
        others = [(i, t) for i, t in zip(chosen, fit.parameters, strict=True) if i not in rows]
        left = replace(
            fit, parameters=[t for _, t in others], residual=residual, design=kept, basis=basis,
            worst=worst,
        )  # fmt: skip
        return [i for i, _ in others], left

    def without(
        self, chosen: Sequence[int], fit: Fit, rows: Sequence[int]
    ) -> tuple[list[int], Fit]:
        """The list without some moves, fitted from what is known."""
        kept = [
            (i, theta) for i, theta in zip(chosen, fit.parameters, strict=True) if i not in rows
        ]
        start = [theta for _, theta in kept]
        return [i for i, _ in kept], refit(self.problem, [self.moves[i] for i, _ in kept], start)


def _clear(parameter: Floats, covariance: Floats) -> bool:
    """Whether a move is larger than k times its uncertainty along its own direction."""
    size = float(np.linalg.norm(parameter))
    if size == 0.0:
        return False
    direction = parameter / size
    variance = float(direction @ covariance @ direction)
    return size > COVERAGE * math.sqrt(max(0.0, variance))


def _pare(search: _Search, chosen: list[int], fit: Fit) -> tuple[list[int], Fit]:
    """Take back what has become needless; exchange one move or two where another serves better."""
    for _ in range(2 * _MOST):
        better = _spared(search, chosen, fit) or _exchanged(search, chosen, fit)
        if better is None:
            break
        chosen, fit = better
    return chosen, fit


def _spared(search: _Search, chosen: list[int], fit: Fit) -> tuple[list[int], Fit] | None:
    """The list without its first needless move, small ones first, or None."""
    doubts = covariances(search.problem, fit, [search.moves[i] for i in chosen])
    for row in sorted(chosen, key=lambda i: -search.moves[i].rank):
        price = float(search.sizes[row]) * search.cost(fit)
        at = chosen.index(row)

        def needless(left: Fit, price: float = price) -> bool:
            within = left.worst <= search.problem.tolerance
            return left.squares - fit.squares < price or within

        unclear = not _clear(fit.parameters[at], doubts[at])
        if unclear or needless(search.dropped(chosen, fit, [row])[1], _NEARLY * price):
            without = search.without(chosen, fit, [row])
            if unclear or needless(without[1]):
                return without
    return None


def _exchanged(search: _Search, chosen: list[int], fit: Fit) -> tuple[list[int], Fit] | None:
    """The list with one move in place of another or of two others, or None.

    Each exchange is tried in the linear approximation first; only what promises is fitted.
    """
    taken = [[row] for row in chosen] + [list(pair) for pair in combinations(chosen, 2)]
    for rows in taken:
        others, left = search.dropped(chosen, fit, rows)
        found = search.best(left, [*others, *rows], in_all=len(rows) > 1)
        if found is None:
            continue
        new, saving = found
        price = search.cost(fit) * float(search.sizes[new] - search.sizes[rows].sum())
        # A shorter list is the better one where both explain the drawing as well.
        favour = search.scatter(fit) * (_EVEN if len(rows) > 1 else -_EVEN)
        if left.squares - saving + price < fit.squares + favour:
            tried = search.refit(*search.without(chosen, fit, rows), new)
            if tried[1].squares + price < fit.squares + favour:
                return tried
    return None


def _explained(picked: Sequence[Move], fit: Fit, doubts: Sequence[Floats]) -> tuple[Explained, ...]:
    """Chosen moves, greatest first.

    They enter a stepwise fit, each time the one that takes away most of what is left; what it
    takes away then is its share, so the shares add up to that of the whole list.
    """
    nuisance = fit.design.shape[1] - sum(move.size for move in picked)
    basis = np.linalg.qr(fit.design[:, :nuisance])[0]
    # The drawing's squares before any move, in the final linearisation.
    steps = np.concatenate([*fit.parameters, np.zeros(0)])
    target = fit.residual + fit.design[:, nuisance:] @ steps
    target = target - basis @ (basis.T @ target)
    whole = float(target @ target)
    ends = np.cumsum([nuisance] + [move.size for move in picked])
    blocks = [fit.design[:, a:b] for a, b in pairwise(ends)]
    out: list[Explained] = []
    waiting = list(range(len(picked)))
    while waiting:
        gains = {}
        for i in waiting:
            free = blocks[i] - basis @ (basis.T @ blocks[i])
            own = np.linalg.qr(free)[0]
            gains[i] = float(np.sum(np.square(own.T @ target)))
        best = max(waiting, key=lambda i: (gains[i], -picked[i].rank))
        waiting.remove(best)
        share = gains[best] / whole if whole > 0.0 else 0.0
        out.append(Explained(picked[best], fit.parameters[best], doubts[best], share))
        basis = np.linalg.qr(np.column_stack([basis, blocks[best]]))[0]
    return tuple(sorted(out, key=lambda one: -one.share))
