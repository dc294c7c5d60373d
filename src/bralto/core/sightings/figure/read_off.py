"""Where lengths in mm are read off: how far from the eye, how large they are on the paper.

A length that is read off at one distance from the eye is by similar triangles twice as long at
twice the distance; so sight-size is drawn, and so lengths are carried over from where a learner
stood before.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.sightings.figure.implied import Implied
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import View

__all__ = [
    "ARM_MM", "FARTHEST_MM", "NEAREST_MM", "HeadChange", "carried_by_head", "carried_over",
    "head_changed", "head_on_paper", "in_mm", "on_paper",
]  # fmt: skip

ARM_MM = 650.0
"""From the eye to a pencil at arm's length, mm (common practice, no source)."""

NEAREST_MM, FARTHEST_MM = 100.0, 10_000.0
"""Distances from the eye that can be meant (chosen here)."""


def in_mm(one: Sighting) -> bool:
    """Whether it is a length that was read off in mm."""
    return one.in_mm and one.sort is Sort.LENGTH and not one.of


def carried_over(sightings: Sightings, eye_mm: float) -> Sightings:
    """The same sightings with lengths in mm as they would be read off that far from the eye, mm.

    Where it is not known how far from the eye they were, they are taken as they are.
    """
    k = eye_mm / (sightings.eye_mm or eye_mm)
    items = tuple(_times(one, k) for one in sightings.items)
    return replace(sightings, items=items, eye_mm=eye_mm)


def carried_by_head(view: View, sightings: Sightings) -> Sightings:
    """The same sightings with lengths in mm as they would be read off where the head was read off
    last; as they are where it was no other before (`head_changed`)."""
    found = head_changed(view, sightings.items)
    if found is None:
        return sightings
    k, last = found.now / found.before, max(_heads(view, sightings.items))
    items = tuple(_times(one, k) for one in sightings.items[:last]) + sightings.items[last:]
    return replace(sightings, items=items)


def _times(one: Sighting, k: float) -> Sighting:
    return replace(one, value=k * one.value, u=k * one.u, said="") if in_mm(one) else one


def _heads(view: View, items: Sequence[Sighting]) -> list[int]:
    """Where the head was read off."""
    return [
        row for row, one in enumerate(items) if in_mm(one) and set(one.points) == set(view.head)
    ]


def on_paper(sightings: Sightings) -> float | None:
    """How many times as long a length is on the paper as where it was read off; None where it is
    not drawn as large as it is seen, or not known."""
    if not sightings.eye_mm or not sightings.plane_mm:
        return None
    return sightings.plane_mm / sightings.eye_mm


def head_on_paper(implied: Implied, times: float | None) -> tuple[float, float] | None:
    """A head on the paper and its standard uncertainty, mm; None where either is not known.

    Args:
        times: how many times as long a length is there as on the pencil (`on_paper`).
    """
    if times is None or implied.mm_per_head is None:
        return None
    mm = times * implied.mm_per_head
    return mm, mm * math.sqrt(max(float(implied.whole[-1, -1]), 0.0))


@dataclass(frozen=True, slots=True)
class HeadChange:
    """The head was so many mm on the pencil ``before`` (in the mean), and is another ``now``."""

    before: float
    now: float


def head_changed(view: View, items: Sequence[Sighting]) -> HeadChange | None:
    """Whether the head is longer or shorter on the pencil than it was: who sights stands, or holds
    it, otherwise. Told beyond twice the doubt of both."""
    heads = [items[row] for row in _heads(view, items)]
    if len(heads) < 2:
        return None
    *earlier, last = heads
    before = float(np.mean([one.value for one in earlier]))
    u = math.hypot(last.u, math.sqrt(float(np.mean([one.u**2 for one in earlier])) / len(earlier)))
    return HeadChange(before, last.value) if abs(last.value - before) > COVERAGE * u else None
