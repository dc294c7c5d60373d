"""What a learner does every time: habits out of the traits of many studies."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.longitudinal.statistics.discovery import discoveries
from bralto.core.longitudinal.statistics.random_effects import Mean, mean_over
from bralto.core.longitudinal.statistics.slope import Slope, pooled_slope
from bralto.core.longitudinal.traits.joint_fit import Amount
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_table import TraitSpec, traits_of
from bralto.core.student import quantile
from bralto.core.tolerances import Grade

__all__ = [
    "FEWEST",
    "LAST",
    "Habit",
    "found_habits",
    "rest_of_body",
    "tolerance_of_trait",
    "trait_over",
]

FEWEST = 4
"""Studies that a habit wants at least (measurement, section 9)."""

LAST = 20
"""Studies that habits are sought in: what was done before may be overcome by now (chosen here)."""

_SLOPE_TOLERANCE = 0.2
"""A slope may be so far from 1 (chosen here: at 0.9 a single pose counts as straightened)."""

_WIDEST_SLOPE = 2.0
"""A slope with a wider interval is one of lines that are hardly seen to lean at all."""


@dataclass(frozen=True, slots=True)
class Habit:
    """One trait over many studies.

    Attributes:
        trait: which.
        value: its size, with ``low`` and ``high`` of its interval: relative size as a share (0.08
            is 8 % more), degrees, heads, or of a slope drawn a unit of seen.
        nothing: the value of one who has no habit: 1 of a slope, else 0.
        p: the chance of a value as far from that if there were no habit.
        n: studies that tell it.
        tolerance: of one study, in the unit of the value; a habit is worth telling from half of it.
        state: ``habit`` (told), ``slight`` (surely there, but under half the tolerance), ``none``
            (surely less than the tolerance) or ``open`` (cannot be told yet).
        more: of an open one, how many more studies should settle it; None where too many.
    """

    trait: TraitSpec
    value: float
    low: float
    high: float
    nothing: float
    p: float
    n: int
    tolerance: float
    state: str
    more: int | None

    @property
    def size(self) -> float:
        """How far the value is from nothing, in tolerances; more is above 0."""
        return (self.value - self.nothing) / self.tolerance


def tolerance_of_trait(trait: TraitSpec, grade: Grade) -> float:
    """The tolerance that one study is held to, in the unit of a habit's value."""
    if trait.kind == "slope":
        return _SLOPE_TOLERANCE
    if trait.unit == "degrees":
        return grade.degrees
    return grade.percent / 100.0


def found_habits(group: str, studies: Sequence[StudyTraits], grade: Grade) -> tuple[Habit, ...]:
    """Every trait that at least `FEWEST` studies tell, habits first, then by size.

    Args:
        studies: of one group of views, oldest first; the last `LAST` count.
    """
    studies = studies[-LAST:]
    shared = rest_of_body(group, studies)
    asked = [
        (trait, found)
        for trait in traits_of(group)
        if (found := _over(trait, studies, shared)) is not None
    ]
    told = discoveries(np.array([found.p for _, found in asked]))
    habits = [
        _habit(trait, found, told=bool(yes), tolerance=tolerance_of_trait(trait, grade))
        for (trait, found), yes in zip(asked, told, strict=True)
    ]
    order = {"habit": 0, "open": 1, "slight": 2, "none": 3}
    return tuple(sorted(habits, key=lambda one: (order[one.state], -abs(one.size))))


def trait_over(
    group: str, trait: TraitSpec, studies: Sequence[StudyTraits], whole: Sequence[StudyTraits]
) -> Mean | Slope | None:
    """One trait over studies; None where fewer than `FEWEST` tell it. ``whole``, the studies that
    say what the rest of the body is."""
    return _over(trait, studies, rest_of_body(group, whole))


def _over(
    trait: TraitSpec, studies: Sequence[StudyTraits], shared: Mapping[str, float]
) -> Mean | Slope | None:
    if trait.kind == "slope":
        return _slope(trait.key, studies)
    return _mean(trait, studies, shared)


def _mean(
    trait: TraitSpec, studies: Sequence[StudyTraits], shared: Mapping[str, float]
) -> Mean | None:
    if trait.kind == "size":
        amounts = [_against_rest(trait.key, one.sizes, shared) for one in studies]
    else:
        amounts = [one.values.get(trait.key) for one in studies]
    known = [one for one in amounts if one is not None]
    if len(known) < FEWEST:
        return None
    values = np.array([one.value for one in known])
    return mean_over(values, np.maximum([one.u for one in known], _LEAST_U))


_LEAST_U = 1e-4


def _against_rest(
    key: str, sizes: Mapping[str, Amount], shared: Mapping[str, float]
) -> Amount | None:
    """The size of one part against the others, as far as these are themselves as they should be."""
    if key not in sizes:
        return None
    others = {k: w for k, w in shared.items() if k != key and k in sizes and w > 0.0}
    total = sum(others.values())
    if total <= 0.0:
        return None
    rest = sum(w * sizes[k].value for k, w in others.items()) / total
    u = sum((w * sizes[k].u / total) ** 2 for k, w in others.items())
    return Amount(sizes[key].value - rest, math.sqrt(sizes[key].u ** 2 + u))


def rest_of_body(group: str, studies: Sequence[StudyTraits]) -> Mapping[str, float]:
    """How much each part says of how large the body is, so that a big head is not a short trunk.

    Sizes are only known against each other. The common level is where most of the body agrees over
    all studies: the mean by how much of a body a part makes up, without those that stand out
    (Tukey's biweight, Beaton and Tukey 1974, Technometrics 16, 147).
    """
    specs = {one.key: one.weight for one in traits_of(group) if one.kind == "size"}
    means, doubts = {}, {}
    for key in specs:
        known = [one.sizes[key].value for one in studies if key in one.sizes]
        if len(known) >= FEWEST:
            means[key] = float(np.mean(known))
            scatter = float(np.std(known, ddof=1)) / math.sqrt(len(known))
            doubts[key] = math.hypot(_SAME, scatter)
    if not means:
        return specs
    at, said = np.array(list(means.values())), np.array(list(doubts.values()))
    weight = np.array([specs[key] for key in means])
    level = _weighted_median(at, weight)
    for _ in range(_ROUNDS):
        away = (at - level) / (_TUKEY * said)
        bears = weight * np.square(np.maximum(0.0, 1.0 - np.square(away)))
        level = float(bears @ at / bears.sum()) if bears.sum() > 0.0 else level
    return dict(zip(means, bears.tolist(), strict=True))


_SAME = 0.01
"""Parts whose mean sizes differ by less than this agree, whatever the doubts."""
_TUKEY = 4.685
_ROUNDS = 20


def _weighted_median(values: Floats, weights: Floats) -> float:
    order = np.argsort(values)
    share = np.cumsum(weights[order]) / weights.sum()
    return float(values[order][int(np.searchsorted(share, 0.5))])


def _slope(key: str, studies: Sequence[StudyTraits]) -> Slope | None:
    rows = [
        (one.seen, one.drawn, one.u_seen, one.u_drawn, number)
        for number, study in enumerate(studies)
        for one in study.pairs.get(key, ())
    ]
    if len({row[4] for row in rows}) < FEWEST:
        return None
    x, y, ux, uy, number = np.array(rows, dtype=np.float64).T
    found = pooled_slope(x, y, ux, uy, number.astype(np.intp))
    return None if found is None or found.high - found.low > _WIDEST_SLOPE else found


def _habit(trait: TraitSpec, found: Mean | Slope, *, told: bool, tolerance: float) -> Habit:
    ends = [found.value, found.low, found.high]
    nothing = 1.0 if isinstance(found, Slope) else 0.0
    if trait.unit == "percent" and nothing == 0.0:  # from logarithms
        ends = [math.expm1(end) for end in ends]
    value, low, high = ends
    away, half = abs(value - nothing), 0.5 * (high - low)
    surely = low > nothing or high < nothing
    within = nothing - tolerance < low and high < nothing + tolerance
    if told and surely and away > 0.5 * tolerance:
        state = "habit"
    elif within:
        state = "slight" if surely else "none"
    else:
        state = "open"
    more = _more(found.n, half, max(away, 0.5 * tolerance)) if state == "open" else None
    return Habit(trait, value, low, high, nothing, found.p, found.n, tolerance, state, more)


def _more(n: int, half: float, wanted: float) -> int | None:
    """How many more studies bring an interval of ``half`` width down to ``wanted``, if they scatter
    alike: it goes with t / sqrt(n). None where more are wanted than are looked at."""
    per = half / quantile(0.95, n - 1) * math.sqrt(n)
    for more in range(1, LAST - n + 1):
        if per * quantile(0.95, n + more - 1) / math.sqrt(n + more) <= wanted:
            return more
    return None
