"""Which sighting tells most: design of experiments on the linearised measures.

A sighting that is not yet taken has a known doubt, so what it will do to the doubt of every figure
check is known before its value is (linear-Gaussian, exact; Chaloner and Verdinelli 1995,
Statistical Science 10, 273). What counts is how many of the checks come near their tolerance, and
whether the faults that teachers see most would be named (`faults_told`).
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.verdict import tolerance_of
from bralto.core.sightings.faults_told import faults_told
from bralto.core.sightings.figure.formulas import AtOnce, Sighter
from bralto.core.sightings.figure.implied import Implied, checks_of, sighter_of
from bralto.core.study.taken import Sighting, Sort, doubt_of, sighting_of
from bralto.core.tolerances import Grade
from bralto.core.uncertainty import variances_of
from bralto.core.views.model import MeasureSpec, View
from bralto.core.views.pass_keys import PassKey

__all__ = ["Candidate", "candidates", "most_telling"]

_BY_KIND = {
    "figure": {"height": 0.7, "span": 1.0, "tilt": 0.4, "offset": 0.4},
    "part": {"height": 0.7, "span": 0.7, "fraction": 1.5, "ratio": 1.0, "alignment": 0.7},
}
_OTHERS, _GIRDLE, _LIMB, _ARM, _END = 0.1, {"figure": 8.0, "part": 0.7}, 3.0, 4.0, 0.25
"""What a check counts, by its kind and what the view shows: what is made of others counts little,
the tilt of a girdle and the length of a limb much, most that of an arm, of which one alone is often
wrong; hands and feet little, and so likeness, which comes last; of a head halves and thirds (chosen
here, weighed by `make sightings`, `portraits`)."""

_FLOOR = 0.15
"""Share of its tolerance, squared, to which the doubt of a check is worth bringing down."""

_NAMING = 12.0
"""What the chances that usual faults are named count beside the checks, a factor of e in one of
them as so many halvings of a check's doubt (chosen here, weighed by `make sightings`)."""

_SHORTEST = {"figure": 0.2, "part": 0.06}
"""Heads; a length that is expected to be shorter is not asked for: no thumb tells it."""

_COST = {Sort.LENGTH: 1.0, Sort.TILT: 0.8, Sort.PLUMB: 0.9, Sort.LEVEL: 0.9, Sort.FRACTION: 1.2}
_PER_HEAD = 0.06
"""What sightings cost in time, lengths besides by how often the pencil is stepped (chosen here, no
source)."""


@dataclass(frozen=True, slots=True)
class Candidate:
    """A sighting that may be asked for.

    Attributes:
        sighting: as it would be on the marks implied so far: its value must not be shown.
        tells: how much it is worth for its time, in halvings of one check's doubt, and what it does
            for naming faults in as many.
        about: id of the check whose doubt it takes away most.
    """

    sighting: Sighting
    tells: float
    about: str


@dataclass(frozen=True, slots=True, eq=False)
class _Checks:
    """The figure checks: their ids, (m, 2n) gradients, squared tolerances (m,), and how much each
    counts (m,): large things more."""

    ids: tuple[str, ...]
    slopes: Floats
    tolerances: Floats
    counts: Floats


@lru_cache(maxsize=1024)
def _weight(view: View, spec: MeasureSpec) -> float:
    """How much a check counts."""
    weight, ends = _BY_KIND[view.size].get(spec.kind, _OTHERS), set(spec.points)
    girdles = [set(one.span) for one in view.limbs if one.girdle]
    axes = [{*one.root, one.marks[0]} for one in view.limbs if not one.girdle]
    if spec.kind == "tilt":
        weight = _GIRDLE[view.size] if ends in girdles else weight if ends in axes else _OTHERS
    if spec.kind == "span" and view.size == "figure":
        weight = _LIMB if ends in axes or ends in girdles else weight
        weight = _ARM if ends in _arms(view) else weight
    ends_of = {key for one in view.limbs if one.work == "end" for key in one.marks}
    last = ends_of & set(spec.points) or spec.step == PassKey.LIKENESS
    return weight * (_END if last else 1.0)


def _arms(view: View) -> list[set[str]]:
    """Both ends of each limb that does not hang from the hips, nor from one that does."""
    legs: set[str] = set()
    arms = []
    for one in view.limbs:  # what hangs from a limb stands after it
        if one.socket or one.parent in legs:
            legs.add(one.key)
        elif one.work == "limb" and one.parent is not None:
            arms.append({*one.root, one.marks[0]})
    return arms


def _checks(view: View, implied: Implied, grade: Grade) -> _Checks:
    table = checks_of(view, implied)
    rows = [
        i for i, spec in enumerate(view.measures)
        if spec.telling and spec.id in view.once and table.ok[i]
        and not view.is_beyond(spec.points)
    ]  # fmt: skip
    slopes = table.gradients[rows].reshape(len(rows), -1)
    tolerances = np.array([tolerance_of(view.measures[i].kind, grade) for i in rows])
    counts = np.array([_weight(view, view.measures[i]) for i in rows])
    ids = tuple(view.measures[i].id for i in rows)
    return _Checks(ids, slopes, np.square(tolerances), counts)


@lru_cache(maxsize=64)
def _askable(view: View) -> AtOnce:
    """What a pencil can take of the measures, without a value."""
    found = []
    for spec in view.measures:
        one = sighting_of(view, spec, 0.0, 0.0)
        if one is None or spec.id not in view.once or not all(map(view.can_be_shown, spec.points)):
            continue
        if view.is_beyond(spec.points):
            continue  # it may be out of sight; who sees it sights it as one of their own
        if spec.points == view.head and spec.kind == "span":
            continue  # the unit itself
        if one.sort is Sort.LENGTH and spec.kind == "height" and spec.points[1] in view.head:
            continue  # the chin lies a head below the crown
        found.append(one)
    return AtOnce(view, found)


def candidates(view: View, implied: Implied) -> tuple[Sighting, ...]:
    """Every measure of the view that a pencil can take, as the implied figure would have it."""
    found, least, askable = [], _SHORTEST[view.size], _askable(view)
    values, _, ok = sighter_of(view, implied).on_all(askable)
    for one, value, had in zip(askable.items, values.tolist(), ok, strict=True):
        if not had or (one.sort is Sort.LENGTH and not one.of and abs(value) < least):
            continue
        if not one.can_be(value):
            continue
        found.append(replace(one, value=value, u=doubt_of(view, one, value)))
    return tuple(found)


def most_telling(
    view: View,
    implied: Implied,
    grade: Grade,
    among: Sequence[Sighting] | None = None,
    *,
    most: int = 4,
    skipped: Collection[tuple[object, ...]] = (),
) -> tuple[Candidate, ...]:
    """The sightings that would tell most about what is not yet known, best first; before all of
    them the whole (common practice, no source), a figure's height since all is counted against it.

    Args:
        among: those that may be asked for; all `candidates` where none are given.
        skipped: what was asked and could not be sighted (`Sighting.asks`).
    """
    open_to = [
        one for one in (candidates(view, implied) if among is None else among)
        if one.asks not in skipped
    ]  # fmt: skip
    values, slopes, ok = sighter_of(view, implied).on_all(AtOnce(view, open_to))
    had = [one for one, here in zip(open_to, ok, strict=True) if here]
    if not had:
        return ()
    values, slopes = values[ok], slopes[ok]
    checks = _checks(view, implied, grade)
    cov = implied.cov
    for one in implied.otherwise:
        cov = cov - one.share * np.outer(one.away, one.away)
    spread = slopes @ cov
    # Without the doubt between several figures not all is a variance that is positive.
    own = np.maximum(np.einsum("ki,ki->k", spread, slopes), 0.0) + np.square([x.u for x in had])
    now = np.maximum(variances_of(checks.slopes, cov), 0.0)[:, None]
    falls = np.minimum(np.square(checks.slopes @ spread.T) / own, now)
    for one in implied.otherwise:
        there = Sighter(view, one.points, implied.mm_per_head or 1.0)
        doubt = one.share * np.square(checks.slopes @ one.away)[:, None]
        apart = _tells_apart(there, AtOnce(view, had), values, own)
        now, falls = now + doubt, falls + doubt * apart
    floor = _FLOOR * checks.tolerances[:, None]
    gains = 0.5 * np.log2((floor + now) / (floor + now - falls))
    named = faults_told(view, implied, grade, cov, spread, own)
    worth = checks.counts @ gains + _NAMING * named
    tells = worth / np.array([_cost(one) for one in had])
    taken = {(one.sort, one.points) for one in implied.items}
    whole = _whole(view)
    first = [
        whole.index(one.measure)
        if one.measure in whole and (one.sort, one.points) not in taken
        else len(whole)
        for one in had
    ]
    order = np.lexsort((-tells, first))[:most]
    return tuple(
        Candidate(had[i], float(tells[i]), checks.ids[int(np.argmax(gains[:, i]))]) for i in order
    )


def _tells_apart(other: Sighter, had: AtOnce, values: Floats, own: Floats) -> Floats:
    """(k,) array, how much of the doubt between two figures each sighting would take away: a length
    is the same whichever way it points.

    Args:
        other: the other figure.
        values, own: (k,) arrays, of the likelier figure, and the variance of each sighting as it
            would be taken.
    """
    there, _, ok = other.on_all(had)
    off = there - values
    tilts = [one.sort is Sort.TILT for one in had.items]
    off[tilts] = wrap_degrees(off[tilts])
    apart = np.square(np.where(ok, off, 0.0))
    told: Floats = apart / (apart + own)
    return told


@lru_cache(maxsize=64)
def _whole(view: View) -> tuple[str, ...]:
    """Ids of what is asked before any part: the span from the top of the view to its bottom; of a
    head, which itself is the unit, how it is tilted and how wide it is against its height."""
    if view.axis:
        tilted = [one.id for one in view.measures if one.kind == "tilt" and one.against_plumb]
        broad = [
            one.id for one in view.measures if one.kind == "ratio" and one.points[2:] == view.head
        ]
        return (*tilted[:1], *broad[:1])
    spans = [one.id for one in view.measures if one.kind == "span" and one.points == view.edges]
    return tuple(spans[:1])


def _cost(one: Sighting) -> float:
    cost = _COST[one.sort] * (1.5 if one.of else 1.0)
    return cost + (_PER_HEAD * abs(one.value) if one.sort is Sort.LENGTH and not one.of else 0.0)
