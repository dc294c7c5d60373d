"""What each move would save beside a list that is fitted, in the linear approximation."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.corrections.candidates.moves import Candidates, Move
from bralto.core.corrections.fitting import Fit, Problem

__all__ = ["Savings", "savings_among"]

_DISTINCT = 1e-3
"""A move of which less than this share is left beside the others (squares) cannot be told."""


@dataclass(frozen=True, slots=True)
class Savings:
    """The candidates with their weighted derivatives at rest.

    Attributes:
        moves: bound to the reference's marks.
        columns: (2n, k) array, two columns for a shift that may go anywhere.
        sizes: (m,) array, parameters of each move; ``first``, where its columns begin.
        single: (m1,) array, the moves of one parameter; ``double``, where the two columns of each
            of the others begin.
        whole: (k,) array, squared length of each column; ``crossed`` of two columns of a move with
            each other.
        held: (k,) array, what each parameter is held to 0 with (1 / SD squared).
    """

    moves: Sequence[Move]
    columns: Floats
    sizes: Ints
    first: Ints
    single: Ints
    double: Ints
    whole: Floats
    crossed: Floats
    held: Floats

    def of(self, fits: Sequence[Fit]) -> Floats:
        """(l, m) array: squares that each move would save beside those of each list."""
        out = np.zeros((len(fits), len(self.moves)))
        alike: dict[int, list[int]] = {}
        for row, fit in enumerate(fits):
            alike.setdefault(fit.design.shape[1], []).append(row)
        for rows in alike.values():
            out[rows] = self._of_alike([fits[row] for row in rows])
        return out

    def _of_alike(self, fits: Sequence[Fit]) -> Floats:
        """The same of lists with as many parameters."""
        basis = np.linalg.qr(np.array([fit.design for fit in fits]))[0]
        fitted, double = basis.swapaxes(1, 2) @ self.columns, self.double
        left = self.whole - np.square(fitted).sum(axis=1)
        along = np.array([fit.residual for fit in fits]) @ self.columns
        told = left > _DISTINCT * self.whole
        left = left + self.held
        each = np.where(told, along * along / np.where(told, left, 1.0), 0.0)
        savings: Floats = each[:, self.first]
        if len(double):
            c = self.crossed - (fitted[..., double] * fitted[..., double + 1]).sum(axis=1)
            a, b = left[:, double], left[:, double + 1]
            u, v = along[:, double], along[:, double + 1]
            determinant = a * b - c * c
            able = determinant > _DISTINCT * self.whole[double] * self.whole[double + 1]
            both = (b * u * u - 2.0 * c * u * v + a * v * v) / np.where(able, determinant, 1.0)
            savings[:, self.sizes == 2] = np.where(able, both, 0.0)
        return savings

    def of_pairs(self, fit: Fit) -> Floats:
        """(m1, m1) array: squares that each two moves of one parameter would save together.

        Two faults can look like something else as long as either is asked for alone: two arms too
        short, like a long trunk.
        """
        columns = self.columns[:, self.first[self.single]]
        basis = np.linalg.qr(fit.design)[0]
        free = columns - basis @ (basis.T @ columns)
        cross, along = free.T @ free, free.T @ fit.residual
        cross.flat[:: len(cross) + 1] += self.held[self.first[self.single]]
        own = np.diag(cross)
        determinant = own[:, None] * own[None, :] - cross * cross
        whole = self.whole[self.first[self.single]]
        able = determinant > _DISTINCT * whole[:, None] * whole[None, :]
        squared = own[None, :] * np.square(along)[:, None]
        both = squared + squared.T - 2.0 * cross * np.outer(along, along)
        saved: Floats = np.where(able, both / np.where(able, determinant, 1.0), 0.0)
        return saved


def savings_among(candidates: Candidates, problem: Problem, held: Floats | None = None) -> Savings:
    """Make ready to look among the bound moves of some marks.

    Args:
        held: (k,) array, what each parameter is held to 0 with (1 / SD squared); none if None.
    """
    sizes = candidates.sizes
    columns = problem.whiten(candidates.tangents(problem.p)).T
    first = np.cumsum(sizes) - sizes
    double = first[sizes == 2]
    return Savings(
        candidates.moves,
        columns,
        sizes,
        first,
        single=np.nonzero(sizes == 1)[0],
        double=double,
        whole=(columns * columns).sum(axis=0),
        crossed=(columns[:, double] * columns[:, double + 1]).sum(axis=0),
        held=np.zeros(columns.shape[1]) if held is None else held,
    )
