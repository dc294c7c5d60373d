"""How well sightings suit a model that is placed as a view has it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.known_before import Effort, prior_of, usable
from bralto.core.sightings.figure.most_likely import learnt_of, settled, strains
from bralto.core.study.taken import Sighting
from bralto.core.views.model import View

__all__ = ["Suited", "cost_of"]


class Suited(NamedTuple):
    """How well a model that is placed as a view has it suits sightings.

    Attributes:
        cost: -log of how likely they are but for a constant.
        badness: how badly the most likely figure suits them, which is half a sighting's worth each
            on the average; ``but_one``, without the one that suits it worst.
    """

    cost: float
    badness: float
    but_one: float


_QUICKLY = 250.0
"""`Effort`, for every way in which a model may be placed."""


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
    _, step = settled(known, np.append(prior.mean, scale))
    worst = strains(known, step).max(initial=0.0)
    return Suited(
        step.badness + learnt_of(step, prior), step.badness, step.badness - 0.5 * float(worst) ** 2
    )
