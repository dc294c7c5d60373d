"""Questions that want no measure: is this longer than that, which side is up.

An answer tells the sign of a difference and nothing else; how much that is worth follows from how
sure the sign is already (the variance of a normal distribution that is cut at 0 falls by 2 / pi of
itself; Johnson, Kotz and Balakrishnan 1994, Continuous Univariate Distributions 1, 10.1, from
memory).
"""

from __future__ import annotations

import math
from collections.abc import Collection
from dataclasses import replace
from functools import lru_cache
from itertools import combinations
from typing import NamedTuple

import numpy as np

from bralto.core.arrays import Ints
from bralto.core.sightings.figure.formulas import AtOnce
from bralto.core.sightings.figure.implied import Implied, sighter_of
from bralto.core.study.taken import Sighting, Sort, doubt_of
from bralto.core.views.model import View

__all__ = ["best_comparison"]

_UNSURE = 1.5
"""Standard deviations from alike beyond which an answer is known before it is given."""

_SHORTEST = 0.15
"""Share of the figure's height below which lengths are too small to be compared."""


class _Glances(NamedTuple):
    """What can be seen at a glance in a view: which side of a girdle is up, and which of two parts
    of the body is longer.

    Attributes:
        sides, parts: the girdles, and the parts, as sightings without a value.
        first, second: (p,) arrays, rows of the parts that may be held against each other.
    """

    sides: AtOnce
    parts: AtOnce
    first: Ints
    second: Ints


@lru_cache(maxsize=64)
def _glances(view: View) -> _Glances:
    sides = [
        Sighting(Sort.HIGHER, limb.span[:1], 0.0, 0.0, limb.span[1:])
        for limb in view.limbs if limb.girdle and limb.span
    ]  # fmt: skip
    parts = [
        Sighting(Sort.LENGTH, spec.points, 0.0, 0.0, measure=spec.id)
        for spec in view.measures
        if spec.kind == "span" and spec.along == "straight" and spec.telling
        and not view.is_beyond(spec.points) and all(map(view.can_be_shown, spec.points))
    ]  # fmt: skip
    pairs = [
        (i, j) for i, j in combinations(range(len(parts)), 2)
        if not set(parts[i].points) & set(parts[j].points)
    ]  # fmt: skip
    first, second = np.array(pairs, dtype=np.intp).reshape(-1, 2).T
    return _Glances(AtOnce(view, sides), AtOnce(view, parts), first, second)


def best_comparison(
    view: View, implied: Implied, skipped: Collection[tuple[object, ...]] = ()
) -> Sighting | None:
    """The answer that is least known, of what can be seen at a glance; None where all are known.

    Args:
        skipped: what was asked already, or could not be told (`Sighting.asks`).
    """
    glances, sighter = _glances(view), sighter_of(view, implied)
    up, by_up, has_side = sighter.on_all(glances.sides)
    lengths, by_length, has_length = sighter.on_all(glances.parts)
    shows = has_length & (lengths >= _SHORTEST * float(np.ptp(implied.marks.xy[:, 1])))
    shows &= lengths > 0.0
    # Each length is taken once, and two are held against each other by their logarithms: in that of
    # their quotient the head that both are counted in is gone.
    logs = np.log(np.where(shows, lengths, 1.0))
    by_log = by_length / np.where(shows, lengths, 1.0)[:, None]
    first, second = glances.first, glances.second
    values = np.append(up, logs[first] - logs[second])
    slopes = np.vstack([by_up, by_log[first] - by_log[second]])
    higher, longer = (
        doubt_of(view, Sighting(sort, (), 0.0, 0.0)) for sort in (Sort.HIGHER, Sort.LONGER)
    )
    doubts = np.repeat([higher, longer], [len(up), len(first)])
    variances = np.einsum("ki,ki->k", slopes @ implied.cov, slopes)
    spread = np.sqrt(variances + np.square(doubts))
    # In doubts of the eye that its answer takes away.
    told = (2.0 / math.pi) * variances / spread * np.exp(-np.square(values / spread)) / doubts
    told[np.abs(values) > _UNSURE * spread] = 0.0
    told[~np.append(has_side, shows[first] & shows[second])] = 0.0
    taken = {one.asks for one in implied.items} | set(skipped)
    for k in np.argsort(-told, kind="stable").tolist():
        if told[k] <= 0.0:
            break
        one = _asked(glances, k, float(doubts[k]))
        if one.asks not in taken:
            return one
    return None


def _asked(glances: _Glances, number: int, doubt: float) -> Sighting:
    """A question of them: sides first, then pairs of parts."""
    sides, parts = glances.sides.items, glances.parts.items
    if number < len(sides):
        return replace(sides[number], u=doubt)
    pair = number - len(sides)
    one, other = parts[glances.first[pair]], parts[glances.second[pair]]
    return Sighting(Sort.LONGER, one.points, 0.0, doubt, other.points)
