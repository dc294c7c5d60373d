"""The learner's own arm: how far sightings scatter that were taken twice, against the usual."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from bralto.core.measures.kinds import wrap_degrees
from bralto.core.study.taken import Sighting, Sort, doubt_of
from bralto.core.views.model import View

__all__ = ["FAMILIES", "Arm", "family_of", "known_arm", "pooled", "repeated", "taken_by"]

FAMILIES = ("lengths", "tilts", "plumbs", "fractions")
"""What an arm is steady at, one more than another."""

Arm = Mapping[str, tuple[float, int]]
"""By family how many times as far the learner's sightings scatter as the usual arm's
(`taken.doubt_of`), and the degrees of freedom that this rests on."""

_ENOUGH = 5
"""Degrees of freedom from which on a learner's own scatter counts (chosen here, no source)."""

_FAMILY = {Sort.LENGTH: "lengths", Sort.TILT: "tilts", Sort.PLUMB: "plumbs", Sort.LEVEL: "plumbs",
           Sort.FRACTION: "fractions"}  # fmt: skip


def family_of(one: Sighting) -> str:
    """One of `FAMILIES`, or "" of an answer."""
    return _FAMILY.get(one.sort, "")


def repeated(view: View, items: Sequence[Sighting]) -> dict[str, tuple[float, int]]:
    """Of all that was sighted more than once (an `Arm`): pooled, each about its own mean."""
    groups: dict[tuple[object, ...], list[Sighting]] = {}
    for one in items:
        if family_of(one):
            groups.setdefault(one.asks, []).append(one)
    found: Arm = {}
    for group in groups.values():
        if len(group) < 2:
            continue
        first = group[0]
        away = [_away(first, one) for one in group]
        middle = sum(away) / len(away)
        u = doubt_of(view, replace(first, value=first.value + middle))
        squares = sum((one - middle) ** 2 for one in away) / u**2
        degrees = len(group) - 1
        own = {family_of(first): (math.sqrt(squares / degrees), degrees)}
        found = pooled(found, own)
    return dict(found)


def _away(first: Sighting, other: Sighting) -> float:
    away = other.value - first.value
    return wrap_degrees(away) if first.sort is Sort.TILT else away


def pooled(one: Arm, other: Arm, *, without: Arm | None = None) -> dict[str, tuple[float, int]]:
    """Two of them together: mean squares weighed by their degrees of freedom.

    Args:
        without: what of ``other`` is in ``one`` already.
    """
    out = {}
    for family in FAMILIES:
        squares, degrees = 0.0, 0
        for arm, sign in ((one, 1), (other, 1), (without or {}, -1)):
            factor, many = arm.get(family, (0.0, 0))
            squares += sign * many * factor**2
            degrees += sign * many
        if degrees > 0:
            out[family] = (math.sqrt(max(squares, 0.0) / degrees), degrees)
    return out


def known_arm(arm: Arm) -> dict[str, float]:
    """The factors that rest on enough."""
    return {family: factor for family, (factor, many) in arm.items() if many >= _ENOUGH}


def taken_by(view: View, one: Sighting, arm: Mapping[str, float]) -> Sighting:
    """The sighting with its doubt as that arm takes it (`known_arm`)."""
    return replace(one, u=doubt_of(view, one) * arm.get(family_of(one), 1.0))
