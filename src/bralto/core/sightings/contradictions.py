"""Sightings that cannot both be true: standardised leave-one-out residuals, named in pairs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import NormalDist

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.known_before import EXACT
from bralto.core.sightings.figure.most_likely import NEVER
from bralto.core.study.taken import Sighting
from bralto.core.views.model import View

__all__ = ["Contradiction", "contradictions"]

_FALSE = 0.025
"""How often one among all sightings of a study may be named by chance (weighed by `make sightings`,
where that is rarer, since bodies are taken to vary more than they do)."""

_WIDE = 3.0
"""By what bodies and poses may be further from the typical ones than they usually are (weighed by
`make sightings`: less doubts unusual bodies, more sees less)."""


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Sightings of which one is wrong, by their places in the list that was given.

    Attributes:
        rows: the likeliest first; one alone where it fits nothing else.
        size: how far they are from each other, in standard deviations.
    """

    rows: tuple[int, ...]
    size: float


def contradictions(view: View, sightings: Sequence[Sighting]) -> tuple[Contradiction, ...]:
    """What cannot be, worst first; at most one for each sighting.

    Bodies and poses may be three times as far from the typical ones as they usually are: what is
    unusual contradicts nothing.

    A sighting that lies further from what all others say than chance would have it among so many
    (Sidak 1967, Journal of the American Statistical Association 62, 626) is named with the one
    without which it would agree. What no others tell cannot contradict them, so they count as many
    as the residuals have degrees of freedom.
    """
    implied = imply(view, sightings, wide=_WIDE)
    if isinstance(implied, NotMeasurable) or not implied.items:
        return ()
    k = len(implied.items)
    values = np.array([not (one.sort.is_answer and one.value) for one in implied.items], bool)
    if values.sum() < 2:
        return ()
    left = np.flatnonzero(values)
    out: list[Contradiction] = []
    u = np.array([max(one.u, EXACT) for one in implied.items])
    slopes = implied.slopes / u[:, None]
    spread = np.eye(k) - slopes @ implied.whole @ slopes.T
    rest = implied.residuals / u
    tests = max(1.0, float(spread[left, left].sum()))
    limit = NormalDist().inv_cdf(1.0 - (1.0 - (1.0 - _FALSE) ** (1.0 / tests)) / 2.0)
    while len(left) > 1:
        own = spread[left, left]
        told = own > NEVER
        sizes = np.where(told, np.abs(rest[left]) / np.sqrt(np.where(told, own, 1.0)), 0.0)
        worst = float(sizes.max())
        if worst <= limit:
            break
        # With one of them gone, how far is the worst of the others from what is left?
        after = np.array([_worst_without(spread, rest, left, at) for at in range(len(left))])
        order = np.argsort(after, kind="stable")
        first = int(order[0])
        second = next((int(i) for i in order[1:] if after[i] <= limit), None)
        rows = [first] if second is None else [first, second]
        out.append(Contradiction(tuple(implied.rows[left[i]] for i in rows), worst))
        gone = int(left[first])
        pull = spread[:, gone] / spread[gone, gone]
        rest = rest - pull * rest[gone]
        spread = spread - np.outer(pull, spread[gone])
        left = np.delete(left, first)
    return tuple(out)


def _worst_without(spread: np.ndarray, rest: np.ndarray, left: np.ndarray, gone: int) -> float:
    row = int(left[gone])
    if spread[row, row] <= NEVER:
        return float("inf")
    others = np.delete(left, gone)
    pull = spread[others, row] / spread[row, row]
    away = rest[others] - pull * rest[row]
    own = spread[others, others] - pull * spread[row, others]
    told = own > NEVER
    return float((np.where(told, np.abs(away), 0.0) / np.sqrt(np.where(told, own, 1.0))).max())
