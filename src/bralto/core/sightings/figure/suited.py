"""How well sightings suit a model that is placed as a view has it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.known_before import Effort, Known, prior_of, scale_of, usable
from bralto.core.sightings.figure.most_likely import Step, learnt_of, settled, strains
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import View

__all__ = ["Suited", "cost_of"]


class Suited(NamedTuple):
    """How well a model that is placed as a view has it suits sightings.

    Attributes:
        cost: -log of how likely they are but for a constant.
        badness: how badly the most likely figure suits them, which is half a sighting's worth each
            on the average.
        but_one: the cost where the one that suits it worst may simply be wrong: the less of both.
    """

    cost: float
    badness: float
    but_one: float


_QUICKLY = 250.0
"""`Effort`, for every way in which a model may be placed, and for one that may be wrong."""

_WRONG = 4.0
"""-log of the odds that one sighting among them is simply wrong (chosen here, no source: 1 in
50)."""

_BY = {Sort.LENGTH: 1.0, Sort.TILT: 30.0, Sort.PLUMB: 1.0, Sort.LEVEL: 1.0, Sort.FRACTION: 0.3}
_OF_ANOTHER = 0.5
"""By how much it is then, as an SD: a head counted too many, degrees, shares; and of a length that
is held against another (chosen here, no source)."""


def cost_of(view: View, sightings: Sequence[Sighting]) -> Suited | None:
    """How well sightings suit a model that is placed as the view has it (Laplace's approximation;
    MacKay 2003, Information Theory, 27); None where some of them cannot be told of it.

    It is reckoned from the typical figure alone, quickly.
    """
    prior = prior_of(view)
    if isinstance(prior, NotMeasurable):
        return None
    known, rows, scale = usable(view, prior, tuple(sightings), Effort(_QUICKLY))
    if len(rows) < len(sightings):
        return None
    step = _suiting(known, scale)
    cost = step.badness + learnt_of(step, prior)
    strained = strains(known, step)
    if not strained.any():
        return Suited(cost, step.badness, cost)
    worst = int(strained.argmax())
    one, u = known.items[worst], float(known.asked.u[worst])
    by = _OF_ANOTHER if one.of else _BY[one.sort]
    if one.in_mm and not one.of:
        by *= scale_of(np.array([scale]))
    wide = math.hypot(u, by)
    doubtful = (*known.items[:worst], replace(one, u=wide), *known.items[worst + 1 :])
    known = replace(known, items=doubtful, effort=Effort(_QUICKLY))
    wrong = _suiting(known, scale)
    but_one = wrong.badness + learnt_of(wrong, prior) + math.log(wide / u) + _WRONG
    return Suited(cost, step.badness, min(cost, but_one))


def _suiting(known: Known, scale: float) -> Step:
    """The most likely figure, from the typical one on."""
    return settled(known, np.append(known.prior.mean, scale))[1]
