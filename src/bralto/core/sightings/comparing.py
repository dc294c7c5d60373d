"""Questions that want no measure: is this longer than that, which side is up.

An answer tells the sign of a difference and nothing else; how much that is worth follows from how
sure the sign is already (the variance of a normal distribution that is cut at 0 falls by 2 / pi of
itself; Johnson, Kotz and Balakrishnan 1994, Continuous Univariate Distributions 1, 10.1, from
memory).
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator
from itertools import combinations

import numpy as np

from bralto.core.sightings.figure.formulas import Sighted, Sighter
from bralto.core.sightings.figure.implied import Implied, sighter_of
from bralto.core.study.taken import Sighting, Sort, doubt_of
from bralto.core.views.model import MeasureSpec, View

__all__ = ["best_comparison"]

_UNSURE = 1.5
"""Standard deviations from alike beyond which an answer is known before it is given."""

_SHORTEST = 0.15
"""Share of the figure's height below which lengths are too small to be compared."""


def best_comparison(
    view: View, implied: Implied, skipped: Collection[tuple[object, ...]] = ()
) -> Sighting | None:
    """The answer that is least known, of what can be seen at a glance; None where all are known.

    Args:
        skipped: what was asked already, or could not be told (`Sighting.asks`).
    """
    sighter = sighter_of(view, implied)
    taken = {one.asks for one in implied.items} | set(skipped)
    best, worth = None, 0.0
    found = [*_sides(view, sighter), *_lengths(view, implied, sighter)]
    slopes = np.array([at.gradient.ravel() for _, at in found])
    variances = np.einsum("ki,ki->k", slopes @ implied.cov, slopes) if found else np.zeros(0)
    for (one, at), variance in zip(found, variances.tolist(), strict=True):
        doubt = doubt_of(view, one)
        spread = math.sqrt(variance + doubt**2)
        if abs(at.value) > _UNSURE * spread or one.asks in taken:
            continue
        # In doubts of the eye that its answer takes away.
        told = (2.0 / math.pi) * variance / spread * math.exp(-((at.value / spread) ** 2)) / doubt
        if told > worth:
            best, worth = Sighting(one.sort, one.points, 0.0, doubt, one.of), told
    return best


def _sides(view: View, sighter: Sighter) -> Iterator[tuple[Sighting, Sighted]]:
    """Which side of a girdle is up."""
    for limb in view.limbs:
        if limb.girdle and limb.span:
            one = Sighting(Sort.HIGHER, (limb.span[0],), 0.0, 0.0, (limb.span[1],))
            at = sighter.on(one)
            if at is not None:
                yield one, at


def _lengths(view: View, implied: Implied, sighter: Sighter) -> Iterator[tuple[Sighting, Sighted]]:
    """Parts of the body against each other. Each length is taken once, and two of them are as their
    logarithms are: in the logarithm of their quotient the head that both are counted in is gone."""
    least = _SHORTEST * float(np.ptp(implied.marks.xy[:, 1]))
    rows, xy = view.point_rows, implied.points.xy

    def shows(spec: MeasureSpec) -> bool:
        if spec.kind != "span" or spec.along != "straight" or not spec.telling:
            return False
        if view.is_beyond(spec.points):
            return False
        first, last = (xy[rows[key]] for key in spec.points)
        long = float(np.hypot(*(first - last))) >= least
        return long and all(map(view.can_be_shown, spec.points))

    logs = []
    for spec in filter(shows, view.measures):
        at = sighter.on(Sighting(Sort.LENGTH, spec.points, 0.0, 0.0))
        if at is not None and at.value > 0.0:
            logs.append((spec.points, Sighted(math.log(at.value), at.gradient / at.value)))
    for (one, mine), (other, its) in combinations(logs, 2):
        if not set(one) & set(other):
            quotient = Sighted(mine.value - its.value, mine.gradient - its.gradient)
            yield Sighting(Sort.LONGER, one, 0.0, 0.0, other), quotient
