"""The figure that sightings imply: all marks of a view with their joint doubt.

Marks are normal about the view's typical places (many bodies, many poses) before anything is
sighted, and each sighting is a value with its own doubt (`most_likely`). Of a model that sits or
lies the most likely marks are looked for from several figures, and others that suit the sightings
as well count beside them.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.points import PointTable
from bralto.core.measures.table import MeasureTable, measure_table
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.known_before import (
    HEAD_ON_THE_WAY,
    Effort,
    Known,
    Prior,
    head_of,
    prior_of,
    scale_of,
    usable,
)
from bralto.core.sightings.figure.most_likely import (
    ABOUT,
    NEARLY,
    Step,
    change_of,
    covariance,
    linear,
    settled,
    strained_marks,
)
from bralto.core.sightings.figure.other_ways import (
    hanging,
    hung_as,
    pointing_otherwise,
    whole_limbs,
)
from bralto.core.study.frames import SightMarks
from bralto.core.study.taken import Sighting
from bralto.core.views.model import View

__all__ = ["Implied", "Otherwise", "checks_of", "implied_about", "imply", "sighter_of"]

_HEAD = 1e-4
"""SD to which the head is one head long: the unit has no doubt, what is counted in it has."""

_UNLIKELY, _STARTS = 2.0, 3
"""Standard deviations of chi square beyond which the figure that was reached may not be the most
likely one, and others are looked for; and from how many kinds, those that suit best."""

_TIMES, _CLEARLY = 3, 0.5
"""How often all limbs are gone through for another way, and -log of the odds by which it must be
likelier."""

_AT_MOST = 800.0
"""`Effort` (600 lists of sitters that stand, sit and lie, with none to two wrong sightings, or
exact ones, took 505 at most)."""

_AS_GOOD, _APART = 6.0, 0.1
"""-log of the odds up to which other marks count beside the most likely ones; heads by which some
mark of them lies elsewhere."""


@dataclass(frozen=True, slots=True, eq=False)
class Otherwise:
    """Other marks that the sightings suit about as well.

    Attributes:
        points: the view's points of them.
        away: (2n,) array, how far from the most likely ones they lie.
        share: of all that is likely.
    """

    points: PointTable
    away: Floats
    share: float


@dataclass(frozen=True, slots=True, eq=False)
class Implied:
    """The most likely marks, or others about which all that is known is linear.

    Attributes:
        marks: sight frame, heads, the view's plumb mark at 0, 0, with their joint covariance.
        points: the view's points of them.
        prior: what was known before.
        mm_per_head: a head on the pencil, mm, where lengths are in mm; else None.
        items: the sightings that could be used, in their order.
        rows: of each its place in the list that was given.
        values: (k,) what each would be on these marks; ``residuals``, by how much it was sighted
            to be more, in its own unit (0 of answers).
        slopes: (k, 2n + 1) array, how each goes with the marks and with log(mm_per_head).
        whole: (2n + 1, 2n + 1) array, covariance of marks and log(mm_per_head).
        head_slope: (2n,) array, how the length of the head goes with the marks.
        away: (2n,) array, how far beside these marks all that is known lies, linear about them:
            zeros of the most likely marks, and of others not (`beside`).
        otherwise: what else it may be, where limbs may point the other way; their doubt is part of
            the covariances.
    """

    marks: SightMarks
    points: PointTable
    prior: Prior
    mm_per_head: float | None
    items: tuple[Sighting, ...]
    rows: tuple[int, ...]
    values: Floats
    residuals: Floats
    slopes: Floats
    whole: Floats
    head_slope: Floats
    away: Floats
    otherwise: tuple[Otherwise, ...] = ()

    @property
    def cov(self) -> Floats:
        """(2n, 2n) array, heads squared."""
        return self.whole[:-1, :-1]

    def away_of(self, keys: Sequence[str]) -> Floats:
        """(k, 2) array, how far beside some of the marks all that is known lies, heads."""
        row = {key: i for i, key in enumerate(self.marks.keys)}
        away: Floats = self.away.reshape(-1, 2)[[row[key] for key in keys]]
        return away


@lru_cache(maxsize=8)
def checks_of(view: View, implied: Implied) -> MeasureTable:
    """All measures of the view on these marks. Kept, as the next: much is asked of one figure."""
    return measure_table(view, implied.points)


@lru_cache(maxsize=8)
def sighter_of(view: View, implied: Implied) -> Sighter:
    """What sightings would be on these marks."""
    return Sighter(view, implied.points, implied.mm_per_head or 1.0)


def imply(
    view: View, sightings: Sequence[Sighting], *, wide: float = 1.0
) -> Implied | NotMeasurable:
    """The marks that sightings imply; without any, the typical figure with all its doubt.

    Sightings of points that the view or its prior lacks are left out.

    Args:
        wide: by what the spread of bodies and poses is taken to be larger than typical.
    """
    return _implied(view, tuple(sightings), wide)


@lru_cache(maxsize=64)
def _implied(view: View, sightings: tuple[Sighting, ...], wide: float) -> Implied | NotMeasurable:
    """Kept: the window asks for the same figure at every gesture."""
    prior = prior_of(view)
    if isinstance(prior, NotMeasurable):
        return prior
    if wide != 1.0:
        prior = replace(prior, cov=wide**2 * prior.cov, root=prior.root / wide)
    known, rows, scale = usable(view, prior, sightings, Effort(_AT_MOST))
    at, step = settled(known, np.append(prior.mean, scale), least=NEARLY)
    doubtful = _unlikely(known, step)
    if doubtful and not known.effort.is_spent:
        starts = [np.append(start, scale) for start in prior.starts]
        starts.sort(key=lambda start: linear(known, start).badness)
        for start in starts[:_STARTS]:
            other = settled(known, start, no_worse=step.badness, least=ABOUT)
            at, step = min((at, step), other, key=lambda one: one[1].badness)
    held = replace(known, head=HEAD_ON_THE_WAY[1])
    at, step = settled(held, _one_head_long(known, at))
    if len(prior.starts) and (doubtful or _unlikely(held, step)):
        at, step = _limb_by_limb(held, at, step)
    also: list[tuple[Floats, float]] = []
    if len(prior.starts) and wide == 1.0:
        at, step, also = _either_way(held, at, step)
    at = _one_head_long(known, at)
    whole = covariance(_surer(step.matrix, len(prior.mean) + 1))
    otherwise = []
    for there, share in also:
        elsewhere = known.points(there[:-1])
        away = there[:-1] / head_of(view, elsewhere)[0] - at[:-1]
        whole[:-1, :-1] += share * np.outer(away, away)
        otherwise.append(Otherwise(elsewhere, away, share))
    alone = np.zeros(len(prior.mean))
    return _made(known, rows, at, step, whole, alone, tuple(otherwise))


def implied_about(known: Known, implied: Implied, at: Floats) -> Implied:
    """What the same sightings imply, made linear about other marks than the most likely ones.

    Args:
        at: (2n + 1,) marks whose head is one head long, and log(mm a head).
    """
    step = linear(replace(known, head=_HEAD), at)
    change = change_of(step)
    scaled = np.append(at[:-1], at[-1] + change[-1])
    return _made(known, implied.rows, scaled, step, covariance(step.matrix), change[:-1])


def _one_head_long(known: Known, at: Floats) -> Floats:
    """The same marks, as large as makes their head one head: lengths in heads stay as they are."""
    head = head_of(known.view, known.points(at[:-1]))[0]
    return np.append(at[:-1] / head, at[-1])


def _surer(matrix: Floats, head: int) -> Floats:
    """All that is known, the head's length as sure as the unit is."""
    sure = matrix.copy()
    sure[head] *= HEAD_ON_THE_WAY[1] / _HEAD
    return sure


def _made(
    known: Known,
    rows: tuple[int, ...],
    at: Floats,
    step: Step,
    whole: Floats,
    away: Floats,
    otherwise: tuple[Otherwise, ...] = (),
) -> Implied:
    """Put together; ``rows`` of the sightings in the list that was given."""
    n, prior = len(known.prior.keys), known.prior
    blocks = whole[:-1, :-1].reshape(n, 2, n, 2)
    each = blocks[np.arange(n), :, np.arange(n), :]
    in_mm = any(one.in_mm for one in known.items)
    points = known.points(at[:-1])
    marks = SightMarks(prior.keys, at[:-1].reshape(n, 2), each, "head", whole[:-1, :-1])
    return Implied(
        marks, points, prior, scale_of(at) if in_mm else None, known.items, rows,
        step.values, step.residuals, step.slopes, whole, head_of(known.view, points)[1],
        away, otherwise,
    )  # fmt: skip


def _unlikely(known: Known, step: Step) -> bool:
    """Whether the marks suit what was sighted worse than marks by chance do but seldom."""
    usual = 0.5 * len(known.items)
    return step.badness > usual + _UNLIKELY * math.sqrt(usual)


def _limb_by_limb(known: Known, at: Floats, step: Step) -> tuple[Floats, Step]:
    """The most likely marks where one limb or another lies as bodies of some other kind have it."""
    first = step
    limbs = tuple(whole_limbs(known.view))
    in_vain = 0
    strained = strained_marks(known, step)
    for limb in limbs * _TIMES:
        before = step
        if strained[hanging(known.view, known.prior.keys, limb)].any():
            for there in hung_as(known.view, known.prior.keys, limb, known.prior.starts, at[:-1]):
                other = settled(known, np.append(there, at[-1]), no_worse=step.badness, least=ABOUT)
                if other[1].badness < step.badness - _CLEARLY:
                    at, step = other
        if step is not before:
            strained = strained_marks(known, step)
        in_vain = in_vain + 1 if step is before else 0
        if in_vain == len(limbs) or known.effort.is_spent:
            break
    # Those of a limb that was taken otherwise are only known about.
    return (at, step) if step is first else settled(known, at)


def _either_way(
    known: Known, at: Floats, step: Step
) -> tuple[Floats, Step, list[tuple[Floats, float]]]:
    """The most likely marks where limbs may point the other way, and other marks that are about as
    likely, each with its share."""
    usual = known.prior.mean, known.prior.cov
    ways = pointing_otherwise(known.view, known.prior.keys, usual, known.items, at[:-1])
    found = []
    for way in ways:
        there = np.append(way, at[-1])
        found.append(settled(known, there, no_worse=step.badness + _AS_GOOD, least=ABOUT))
        if known.effort.is_spent:
            break
    found.append((at, step))
    found.sort(key=lambda one: one[1].badness)
    if found[0][1] is not step:  # it was known about well enough to be another's match
        found[0] = settled(known, found[0][0])
    at, step = found[0]
    odds = [(at, 1.0)]
    for other, one in found[1:]:
        elsewhere = all(np.abs(other - there).max() > _APART for there, _ in odds)
        if elsewhere and one.badness < step.badness + _AS_GOOD:
            odds.append((other, math.exp(step.badness - one.badness)))
    total = sum(share for _, share in odds)
    return at, step, [(other, share / total) for other, share in odds[1:]]
