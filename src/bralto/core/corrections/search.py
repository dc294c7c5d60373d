"""The shortest list of moves that explains a drawing: greedy, re-fitted jointly, then pared down.

The drawing is q = s (P with all moves composed) + t + noise. Scale s and shift t are free unless
the school holds the scale: where the figure lies and how large it is are no faults. At each step
the move is taken that saves most weighted squares per parameter (in the fix order where two save
the same), if it saves more than it costs; then all are fitted anew by Gauss and Newton's method.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations, pairwise

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.fitting import (
    LAST_ROUNDS,
    Fit,
    covariances,
    pose_problem,
    refit,
)
from bralto.core.corrections.moves import Candidates, Move
from bralto.core.corrections.savings import EVEN, Dropping, Search, search_among
from bralto.core.tolerances import COVERAGE

__all__ = ["Explained", "explain"]

_MOST = 9
"""Moves at most, one a key from 1 to 9: a longer list is no help (common practice, no source)."""

_NEARLY = 1.2
"""A move whose saving in the linear approximation is less than this times its cost is looked at."""

_PAIR = 2
"""A list that is longer is held against the one that begins with the best two moves."""

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
    search = search_among(candidates, problem)
    # A first, lenient list takes the faults away, so that what is left is the hand.
    pilot = _forward(search, len(p) // _PILOT)[1]
    search = replace(search, hand=pilot.scatter)
    chosen, fit = _shorter(search, *_pare(search, *_forward(search, _MOST)))
    picked = [candidates.moves[i] for i in chosen]
    fit = refit(problem, picked, fit.parameters, rounds=LAST_ROUNDS)
    doubts = covariances(problem, fit, np.asarray(np.linalg.pinv(fit.design), np.float64), picked)
    return fit.scale, _explained(picked, fit, doubts)


def _shorter(search: Search, chosen: list[int], fit: Fit) -> tuple[list[int], Fit]:
    """The list, or the one that begins with the best two moves where that is the better one."""
    pair = search.pair(search.nothing) if len(chosen) > _PAIR else None
    if pair is None or set(pair) <= set(chosen):
        return chosen, fit
    start = search.refit(*search.refit([], search.nothing, pair[0]), pair[1])
    other = _forward(search, len(chosen), start)
    # Pared only where it promises: that is most of the work.
    if _better(search, other, (chosen, fit)):
        other = _pare(search, *other)
        if _better(search, other, (chosen, fit)):
            return other
    return chosen, fit


def _better(search: Search, one: tuple[list[int], Fit], than: tuple[list[int], Fit]) -> bool:
    """Whether a list says as much with less, by more than noise alone could make it."""
    (rows, fit), (others, before) = one, than
    price = search.cost(before) * float(search.sizes[rows].sum() - search.sizes[others].sum())
    return fit.squares + price < before.squares - EVEN * search.scatter(before)


def _forward(
    search: Search, most: int, start: tuple[list[int], Fit] | None = None
) -> tuple[list[int], Fit]:
    """Add the best move until none is worth its cost or every mark is within tolerance."""
    chosen, fit = start or ([], search.nothing)
    while len(chosen) < most and fit.worst > search.problem.tolerance:
        found = search.best(search.free(fit), fit, chosen)
        if found is None:
            break
        chosen, fit = search.refit(chosen, fit, found[0])
    return chosen, fit


def _clear(parameter: Floats, covariance: Floats) -> bool:
    """Whether a move is larger than k times its uncertainty along its own direction."""
    size = float(np.linalg.norm(parameter))
    if size == 0.0:
        return False
    direction = parameter / size
    variance = float(direction @ covariance @ direction)
    return size > COVERAGE * math.sqrt(max(0.0, variance))


def _pare(search: Search, chosen: list[int], fit: Fit) -> tuple[list[int], Fit]:
    """Take back what has become needless; exchange one move or two where another serves better."""
    for _ in range(2 * _MOST):
        dropping = search.dropping(chosen, fit)
        better = _spared(search, chosen, fit, dropping) or _exchanged(search, chosen, fit, dropping)
        if better is None:
            break
        chosen, fit = better
    return chosen, fit


def _spared(
    search: Search, chosen: list[int], fit: Fit, dropping: Dropping
) -> tuple[list[int], Fit] | None:
    """The list without its first needless move, small ones first, or None."""
    picked = [search.moves[i] for i in chosen]
    doubts = covariances(search.problem, fit, dropping.design.T, picked)
    for row in sorted(chosen, key=lambda i: -search.moves[i].rank):
        price = float(search.sizes[row]) * search.cost(fit)
        at = chosen.index(row)

        def needless(residual: Floats, worst: float, price: float = price) -> bool:
            within = worst <= search.problem.tolerance
            return float(residual @ residual) - fit.squares < price or within

        unclear = not _clear(fit.parameters[at], doubts[at])
        left = dropping.residual(fit, [row])
        if unclear or needless(left, search.problem.worst(left), _NEARLY * price):
            without = search.without(chosen, fit, [row])
            if unclear or needless(without[1].residual, without[1].worst):
                return without
    return None


def _exchanged(
    search: Search, chosen: list[int], fit: Fit, dropping: Dropping
) -> tuple[list[int], Fit] | None:
    """The list with one move in place of another or of two others, or None.

    Each exchange is tried in the linear approximation first; only what promises is fitted.
    """
    double = search.double
    taken = [[row] for row in chosen] + [list(pair) for pair in combinations(chosen, 2)]
    for rows in taken:
        left = dropping.without(rows, double)
        found = search.best(left, fit, chosen, in_all=len(rows) > 1)
        if found is None:
            continue
        new, saving = found
        price = search.cost(fit) * float(search.sizes[new] - search.sizes[rows].sum())
        # A shorter list is the better one where both explain the drawing as well.
        favour = search.scatter(fit) * (EVEN if len(rows) > 1 else -EVEN)
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
