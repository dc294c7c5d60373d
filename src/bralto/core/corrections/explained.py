"""Moves that were found in a drawing, with how sure their amounts are and what each takes away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.candidates.moves import Move
from bralto.core.corrections.fitting import Fit

__all__ = ["Explained", "explained"]

_TIED = 0.8
"""Correlation of two amounts above which they hold only together (chosen here, no source)."""


@dataclass(frozen=True, slots=True)
class Explained:
    """A move that was found in the drawing.

    Attributes:
        move: which.
        parameter: (1,) or (2,) array: relative size, radians, or heads.
        covariance: (d, d) array from the placing of the marks and the scatter of the hand.
        share: of the weighted squares that it takes away; the shares of a list add up.
        tied: other moves of the list whose amounts hold only together with this one's.
    """

    move: Move
    parameter: Floats
    covariance: Floats
    share: float
    tied: tuple[Move, ...] = ()


def _orthonormal(columns: Floats) -> Floats:
    """(n, d) array whose columns span the same; those of one that is 0 are 0."""
    if columns.shape[1] > 1:
        return np.asarray(np.linalg.qr(columns)[0], np.float64)
    long = float(np.sqrt(np.square(columns).sum()))
    return columns / long if long > 0.0 else columns


def explained(
    picked: Sequence[Move], fit: Fit, doubts: Sequence[Floats], tied: Floats
) -> tuple[Explained, ...]:
    """Chosen moves, greatest first.

    They enter a stepwise fit, each time the one that takes away most of what is left; what it
    takes away then is its share, so the shares add up to that of the whole list.

    Args:
        picked: of the fit, in its order. doubts, tied: of their amounts (`fitting.covariances`).
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
        gains, own = {}, {}
        for i in waiting:
            own[i] = _orthonormal(blocks[i] - basis @ (basis.T @ blocks[i]))
            gains[i] = float(np.sum(np.square(own[i].T @ target)))
        best = max(waiting, key=lambda i: (gains[i], -picked[i].rank))
        waiting.remove(best)
        share = gains[best] / whole if whole > 0.0 else 0.0
        with_it = tuple(picked[i] for i in np.nonzero(tied[best] > _TIED)[0].tolist())
        out.append(Explained(picked[best], fit.parameters[best], doubts[best], share, with_it))
        basis = np.column_stack([basis, own[best]])
    return tuple(sorted(out, key=lambda one: -one.share))
