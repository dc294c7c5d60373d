"""What each move would save beside a list that is fitted, and beside that list without some of it.

What a parameter costs is log N by the Bayesian information criterion (Schwarz 1978) and 2 gamma
log M for having looked at M moves (Chen and Chen 2008, Biometrika 95, 759).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.corrections.fitting import Fit, Problem, refit
from bralto.core.corrections.moves import Candidates, Move

__all__ = ["EVEN", "Dropping", "Free", "Search", "search_among"]

EVEN = 2.0
"""Two moves whose savings (weighted squares a parameter) differ by less save the same: noise alone
could have made the difference. The fix order decides then."""

_DISTINCT = 1e-3
"""A move of which less than this share is left beside the others (squares) cannot be told."""

_DISTINCT_BLOCK = 1e-12
"""Share of the largest below which a direction of a block counts as none."""

_GAMMA, _GAMMA_SCATTERED = 0.25, 1.0
"""How dear it is to have looked at many moves: little while the tolerance guards against naming
what is nothing, in full where the hand scatters beyond it (the second, of a boundless scatter)."""


@dataclass(frozen=True, slots=True)
class Free:
    """What of the candidates' columns is free beside a fit.

    Attributes:
        left: (k,) array, squared length of each column less what of it is fitted.
        crossed: of a shift's two columns with each other, likewise.
        along: (k,) array, of each column with the residual.
        squares: weighted squares of the residual.
    """

    left: Floats
    crossed: Floats
    along: Floats
    squares: float


@dataclass(frozen=True, slots=True)
class Dropping:
    """A fit in the linear approximation with some of its moves taken away.

    With G the inverse of the normal matrix and T the design by G, what is set free by columns J
    lies in the span of T_J, whose products are G_JJ; so nothing needs to be fitted anew.

    Attributes:
        free: of the whole fit.
        columns: of each chosen move in the design.
        inverse: G; ``design`` is T, and ``told`` the candidates' columns by T.
        parameters: of the design's columns, 0 for scale and shift.
    """

    free: Free
    columns: dict[int, list[int]]
    inverse: Floats
    design: Floats
    told: Floats
    parameters: Floats

    def _away(self, rows: Sequence[int]) -> tuple[list[int], Floats, Floats]:
        """The columns of some moves, a root W of the inverse of their block, and W W^T theta.

        Columns that the marks cannot tell apart make the block singular; what they share is left
        out.
        """
        gone = [column for row in rows for column in self.columns[row]]
        sizes, directions = np.linalg.eigh(self.inverse[np.ix_(gone, gone)])
        told = sizes > _DISTINCT_BLOCK * max(float(sizes[-1]), 0.0)
        root = np.asarray(directions[:, told] / np.sqrt(sizes[told]), np.float64)
        return gone, root, root @ (root.T @ self.parameters[gone])

    def without(self, rows: Sequence[int], double: Ints) -> Free:
        """What is free without the moves of those rows; ``double``, where shifts begin."""
        gone, root, force = self._away(rows)
        told = self.told[:, gone]
        white = told @ root
        return Free(
            left=self.free.left + (white * white).sum(axis=1),
            crossed=self.free.crossed + (white[double] * white[double + 1]).sum(axis=1),
            along=self.free.along + told @ force,
            squares=self.free.squares + float(self.parameters[gone] @ force),
        )

    def residual(self, fit: Fit, rows: Sequence[int]) -> Floats:
        """(2n,) array, the weighted residual without the moves of those rows."""
        gone, _, force = self._away(rows)
        return fit.residual + self.design[:, gone] @ force


@dataclass(frozen=True, slots=True)
class Search:
    """The candidates with their weighted derivatives at rest.

    Attributes:
        columns: (2n, k) array, two columns for a shift.
        sizes: (m,) array, parameters of each move; ``first``, where its columns begin.
        whole: (k,) array, squared length of each column; ``crossed`` of a shift's two with
            each other.
        fitted: lists of moves that have been fitted already.
        hand: the scatter that a lenient list of moves leaves, or None while that is searched.
    """

    problem: Problem
    moves: Sequence[Move]
    columns: Floats
    sizes: Ints
    first: Ints
    whole: Floats
    crossed: Floats
    fitted: dict[tuple[int, ...], Fit]
    hand: float | None = None

    @property
    def double(self) -> Ints:
        """Where the two columns of each shift begin."""
        double: Ints = self.first[self.sizes == 2]
        return double

    @property
    def nothing(self) -> Fit:
        """The fit of no move at all."""
        return self._fit([], [])

    def scatter(self, fit: Fit) -> float:
        """The yardstick for savings beside a fit: between what it leaves and what the hand may."""
        return 1.0 if self.hand is None else math.sqrt(self.hand * fit.scatter)

    def cost(self, fit: Fit) -> float:
        """What one parameter costs beside a fit, in weighted squares."""
        data, looks = 2 * len(self.problem.p), max(len(self.moves), 1)
        scatter = self.scatter(fit)
        gamma = _GAMMA_SCATTERED + (_GAMMA - _GAMMA_SCATTERED) / scatter
        return scatter * (math.log(data) + 2.0 * gamma * math.log(looks))

    def free(self, fit: Fit) -> Free:
        """What of the candidates is free beside a fit, whose residual is square to all of it."""
        fitted, double = fit.basis.T @ self.columns, self.double
        return Free(
            self.whole - (fitted * fitted).sum(axis=0),
            self.crossed - (fitted[:, double] * fitted[:, double + 1]).sum(axis=0),
            self.columns.T @ fit.residual,
            fit.squares,
        )

    def best(
        self, free: Free, fit: Fit, barred: Sequence[int], *, in_all: bool = False
    ) -> tuple[int, float] | None:
        """The row of the move that saves most and its saving; None where none is worth its cost.

        Args:
            free: what is free beside the moves that stay.
            fit: whose scatter is the yardstick.
            barred: rows that may not be taken.
            in_all: what counts is the saving less its cost, not the saving a parameter.
        """
        savings = self.savings(free)
        savings[list(barred)] = 0.0
        price = self.sizes * self.cost(fit)
        worth = savings > price
        if not worth.any():
            return None
        each = np.where(worth, savings - price if in_all else savings / self.sizes, 0.0)
        even = np.nonzero(worth & (each >= each.max() - EVEN * self.scatter(fit)))[0].tolist()
        row = min(even, key=lambda i: (self.moves[i].rank, -float(each[i])))
        return row, float(savings[row])

    def savings(self, free: Free) -> Floats:
        """(m,) array: squares that each move would save beside those that are fitted."""
        double, left, along = self.double, free.left, free.along
        told = left > _DISTINCT * self.whole
        savings: Floats = np.where(told, along * along / np.where(told, left, 1.0), 0.0)[self.first]
        a, b, c = left[double], left[double + 1], free.crossed
        u, v = along[double], along[double + 1]
        determinant = a * b - c * c
        able = determinant > _DISTINCT * self.whole[double] * self.whole[double + 1]
        both = (b * u * u - 2.0 * c * u * v + a * v * v) / np.where(able, determinant, 1.0)
        savings[self.sizes == 2] = np.where(able, both, 0.0)
        return savings

    def pair(self, fit: Fit) -> tuple[int, int] | None:
        """The two moves of one parameter that together save most beside a fit; None for none.

        Two faults can look like something else as long as either is asked for alone: two arms too
        short, like a long trunk.
        """
        rows = np.nonzero(self.sizes == 1)[0]
        if len(rows) < 2:
            return None
        columns = self.columns[:, self.first[rows]]
        free = columns - fit.basis @ (fit.basis.T @ columns)
        cross, along = free.T @ free, free.T @ fit.residual
        own = np.diag(cross)
        determinant = own[:, None] * own[None, :] - cross * cross
        whole = self.whole[self.first[rows]]
        able = determinant > _DISTINCT * whole[:, None] * whole[None, :]
        squared = own[None, :] * np.square(along)[:, None]
        both = squared + squared.T - 2.0 * cross * np.outer(along, along)
        saved = np.where(able, both / np.where(able, determinant, 1.0), 0.0)
        one, other = np.unravel_index(int(np.argmax(saved)), saved.shape)
        if saved[one, other] <= 2.0 * self.cost(fit):
            return None
        return int(rows[one]), int(rows[other])

    def dropping(self, chosen: Sequence[int], fit: Fit) -> Dropping:
        """A fit, ready to be looked at without some of its moves."""
        nuisance = fit.design.shape[1] - sum(len(theta) for theta in fit.parameters)
        ends = np.cumsum([nuisance] + [len(theta) for theta in fit.parameters]).tolist()
        normal = fit.design.T @ fit.design
        inverse = np.asarray(np.linalg.pinv(normal, hermitian=True), np.float64)
        design = fit.design @ inverse
        return Dropping(
            free=self.free(fit),
            columns={
                row: list(range(*span)) for row, span in zip(chosen, pairwise(ends), strict=True)
            },
            inverse=inverse,
            design=design,
            told=self.columns.T @ design,
            parameters=np.concatenate([np.zeros(nuisance), *fit.parameters]),
        )

    def refit(self, chosen: Sequence[int], before: Fit, new: int) -> tuple[list[int], Fit]:
        """The list with one move more, fitted from what is known."""
        longer = sorted([*chosen, new])
        start = list(before.parameters)
        start.insert(longer.index(new), np.zeros(self.moves[new].size))
        return longer, self._fit(longer, start)

    def without(
        self, chosen: Sequence[int], fit: Fit, rows: Sequence[int]
    ) -> tuple[list[int], Fit]:
        """The list without some moves, fitted from what is known."""
        kept = [
            (i, theta) for i, theta in zip(chosen, fit.parameters, strict=True) if i not in rows
        ]
        rest = [i for i, _ in kept]
        return rest, self._fit(rest, [theta for _, theta in kept])

    def _fit(self, chosen: Sequence[int], start: Sequence[Floats]) -> Fit:
        key = tuple(chosen)
        if key not in self.fitted:
            self.fitted[key] = refit(self.problem, [self.moves[i] for i in chosen], start)
        return self.fitted[key]


def search_among(candidates: Candidates, problem: Problem) -> Search:
    """Make ready to look among the moves of some marks."""
    moves, sizes = candidates.moves, candidates.sizes
    columns = problem.whiten(candidates.tangents(problem.p))
    first = np.cumsum(sizes) - sizes
    double = first[sizes == 2]
    return Search(
        problem,
        moves,
        columns,
        sizes,
        first,
        whole=(columns * columns).sum(axis=0),
        crossed=(columns[:, double] * columns[:, double + 1]).sum(axis=0),
        fitted={},
    )
