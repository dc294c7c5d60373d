"""Sightings that cannot both be true: standardised leave-one-out residuals, named in pairs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import NormalDist

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.known_before import EXACT
from bralto.core.sightings.figure.most_likely import NEVER
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import View

__all__ = ["Contradiction", "contradictions"]

_FALSE_LENGTH, _FALSE_OTHER = 0.025, 0.005
"""How often a length, and any other sighting, of a study may be named by chance: lengths are
miscounted by a whole head, what else is sighted errs by little (weighed by `make sightings`)."""

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
    without which it would agree. What no others tell cannot contradict them: of lengths, and of all
    else, there are as many as their residuals have degrees of freedom.
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
    limits = _limits(implied.items, np.where(values, spread.diagonal(), 0.0))
    while len(left) > 1:
        own = spread[left, left]
        told = own > NEVER
        sizes = np.where(told, np.abs(rest[left]) / np.sqrt(np.where(told, own, 1.0)), 0.0)
        worst = int(np.argmax(sizes / limits[left]))
        if sizes[worst] <= limits[left[worst]]:
            break
        # With one of them gone, how far is the worst of the others from what is left?
        after = np.array(
            [_worst_without(spread, rest, limits, left, at) for at in range(len(left))]
        )
        order = np.argsort(after, kind="stable")
        first = int(order[0])
        second = next((int(i) for i in order[1:] if after[i] <= 1.0), None)
        rows = [first] if second is None else [first, second]
        out.append(Contradiction(tuple(implied.rows[left[i]] for i in rows), float(sizes[worst])))
        gone = int(left[first])
        pull = spread[:, gone] / spread[gone, gone]
        rest = rest - pull * rest[gone]
        spread = spread - np.outer(pull, spread[gone])
        left = np.delete(left, first)
    return tuple(out)


def _limits(items: Sequence[Sighting], told: Floats) -> Floats:
    """(k,) array, how many standard deviations are beyond chance among lengths, and among all other
    sightings.

    Args:
        told: (k,) array, share of each one that the others tell too; they add up to how many there
            are to be tested.
    """
    lengths = np.array([one.sort is Sort.LENGTH for one in items], np.bool_)
    limits = np.zeros(len(items))
    for chosen, false in ((lengths, _FALSE_LENGTH), (~lengths, _FALSE_OTHER)):
        tests = max(1.0, float(told[chosen].sum()))
        limits[chosen] = NormalDist().inv_cdf(0.5 + 0.5 * (1.0 - false) ** (1.0 / tests))
    return limits


def _worst_without(spread: Floats, rest: Floats, limits: Floats, left: Ints, gone: int) -> float:
    """How far the worst of the others is from what is left with one of them gone, in its limit."""
    row = int(left[gone])
    if spread[row, row] <= NEVER:
        return float("inf")
    others = np.delete(left, gone)
    pull = spread[others, row] / spread[row, row]
    away = rest[others] - pull * rest[row]
    own = spread[others, others] - pull * spread[row, others]
    told = own > NEVER
    sizes = np.where(told, np.abs(away), 0.0) / np.sqrt(np.where(told, own, 1.0))
    return float((sizes / limits[others]).max())
