"""A stand-in for an arm with a pencil: sights a figure that is known, with an arm's scatter."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bralto.core.measures.points import picture_points
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.next_question import next_questions
from bralto.core.sightings.orders import MOST_TELLING
from bralto.core.study.taken import Sighting, doubt_of
from bralto.core.study.values import Picture
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["sighted_by_thumb"]


def sighted_by_thumb(
    view: View,
    known: Picture,
    many: int,
    grade: Grade,
    *,
    order: str = MOST_TELLING,
    seed: int = 1,
) -> tuple[Sighting, ...]:
    """So many sightings, or as many as the picture's marks and the order allow.

    Args:
        known: a picture that is marked: the sitter.
        order: in which they are asked for (`core.sightings.orders`).
    """
    found = picture_points(view, known, fewest=2)
    if isinstance(found, NotMeasurable):
        return ()
    sighter, rng = Sighter(view, found[1]), np.random.default_rng(seed)
    items: tuple[Sighting, ...] = ()
    hidden: set[tuple[object, ...]] = set()
    while len(items) < many:
        asked = next_questions(view, items, grade, order, hidden)
        if isinstance(asked, NotMeasurable) or not asked:
            break
        one = asked[0].sighting
        at = sighter.on(one)
        if at is None or not one.can_be(at.value):
            hidden.add(one.asks)
            continue
        one = replace(one, value=at.value)
        value = at.value + doubt_of(view, one) * float(rng.normal())
        items = (*items, replace(one, value=value, u=doubt_of(view, replace(one, value=value))))
    return items
