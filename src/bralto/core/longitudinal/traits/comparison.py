"""The same trait in two groups of studies: before and after, the ten before and the last ten."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.longitudinal.statistics.discovery import discoveries
from bralto.core.longitudinal.statistics.random_effects import LEVEL
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_habits import FEWEST, trait_over
from bralto.core.longitudinal.traits.trait_table import TraitSpec, traits_of
from bralto.core.student import quantile, two_sided

__all__ = ["TEN", "Change", "compared", "last_ten"]

TEN = 10
"""Studies that are held against as many before them."""


@dataclass(frozen=True, slots=True)
class Change:
    """A trait before and after, in the units of `trait_habits.Habit`.

    Attributes:
        by: after less before, with ``low`` and ``high`` of its interval.
        nothing: the value of one who has no habit.
        p: the chance of a change as large if there were none.
    """

    trait: TraitSpec
    before: float
    after: float
    by: float
    low: float
    high: float
    nothing: float
    p: float

    @property
    def told(self) -> bool:
        """Whether the interval leaves out that nothing changed."""
        return self.low > 0.0 or self.high < 0.0

    @property
    def helped(self) -> bool:
        """Whether what is told is nearer to no habit than before."""
        return self.told and abs(self.after - self.nothing) < abs(self.before - self.nothing)


def compared(
    group: str,
    trait: TraitSpec,
    before: Sequence[StudyTraits],
    after: Sequence[StudyTraits],
) -> Change | None:
    """How a trait changed between two groups of studies (Welch 1947, Biometrika 34, 28); None where
    either has too few that tell it."""
    if min(len(before), len(after)) < FEWEST:
        return None
    whole = [*before, *after]  # what the rest of the body is, is asked of all of them
    found = [trait_over(group, trait, studies, whole) for studies in (before, after)]
    first, second = found
    if first is None or second is None:
        return None
    variance = [one.u * one.u for one in (first, second)]
    error = math.sqrt(sum(variance))
    freedom = sum(variance) ** 2 / sum(
        v * v / (one.n - 1) for v, one in zip(variance, (first, second), strict=True)
    )
    reach = quantile(LEVEL, freedom) * error
    by = second.value - first.value
    p = two_sided(by / error, freedom)
    nothing = 1.0 if trait.kind == "slope" else 0.0
    values = [first.value, second.value, by, by - reach, by + reach]
    if trait.unit == "percent" and nothing == 0.0:  # from logarithms
        values = [math.expm1(value) for value in values]
    was, now, changed, low, high = values
    return Change(trait, was, now, changed, low, high, nothing, p)


def last_ten(group: str, studies: Sequence[StudyTraits]) -> tuple[Change, ...]:
    """What changed in the last ten studies against the ten before, false ones held to the share of
    `discovery`; the surest first."""
    before, after = studies[-2 * TEN : -TEN], studies[-TEN:]
    found = [
        change
        for trait in traits_of(group)
        if (change := compared(group, trait, before, after)) is not None
    ]
    told = discoveries(np.array([change.p for change in found]))
    kept = [change for change, yes in zip(found, told, strict=True) if yes and change.told]
    return tuple(sorted(kept, key=lambda change: change.p))
