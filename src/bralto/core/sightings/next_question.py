"""What to ask next in the order in force, for the window and the command alike."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from bralto.core.results import NotMeasurable
from bralto.core.sightings.comparing import best_comparison
from bralto.core.sightings.figure.implied import Implied, imply, sighter_of
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.sightings.orders import MOST_TELLING, order_named
from bralto.core.study.taken import USUAL_ALONG, Sighting, Sort, doubt_of, sighting_of
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["OWN_SORTS", "Next", "next_questions", "own_question"]

OWN_SORTS = (Sort.LENGTH, Sort.TILT, Sort.PLUMB, Sort.LEVEL)
"""What a learner may choose any two marks for."""

_OFFERED, _LOOKED_AT = 4, 60
"""How many are offered, the last one a comparison at a glance; and among how many other sorts are
looked for."""


@dataclass(frozen=True, slots=True)
class Next:
    """A sighting to ask for.

    Attributes:
        sighting: as it is expected; its value must not be shown before it is answered.
        about: id of the figure check that it tells most of, or "".
    """

    sighting: Sighting
    about: str


def next_questions(
    view: View,
    items: Sequence[Sighting],
    grade: Grade,
    order: str = MOST_TELLING,
    skipped: Collection[tuple[object, ...]] = (),
) -> tuple[Next, ...] | NotMeasurable:
    """The next sighting and what may be taken instead, the best first; none where a school's order
    is done.

    Args:
        skipped: what was asked and could not be sighted (`Sighting.asks`).
    """
    return _questions(view, tuple(items), grade, order, frozenset(skipped))


def own_question(
    view: View,
    items: Sequence[Sighting],
    sort: Sort,
    points: tuple[str, str],
    of: tuple[str, ...] = (),
) -> Next | NotMeasurable:
    """Any two marks that a learner would sight, as a question, or why it is none.

    Args:
        sort: one of `OWN_SORTS`. of: the two marks of the length that a length is counted in; none
            where it is the head.
    """
    if len({*points}) < 2 or len({*of}) not in (0, 2):
        return NotMeasurable("it runs from one mark to another")
    if sort is Sort.LENGTH and set(points) == set(of or view.head):
        return NotMeasurable("a length against itself tells nothing")
    implied = imply(view, items)
    if isinstance(implied, NotMeasurable):
        return implied
    if sort is Sort.TILT:
        points = _tilted(view, implied, points)
    one = Sighting(sort, points, 0.0, 0.0, of, USUAL_ALONG.get(sort, "straight"))
    at = sighter_of(view, implied).on(one)
    if at is None:
        return NotMeasurable("nothing is known of these marks in this view")
    one = replace(one, value=at.value)
    return Next(replace(one, u=doubt_of(view, one)), "")


def _tilted(view: View, implied: Implied, points: tuple[str, str]) -> tuple[str, str]:
    """As a tilt runs: from the model's right, else from the upper end."""
    one, two = points
    if {one[-2:], two[-2:]} == {"_r", "_l"}:
        return (one, two) if one.endswith("_r") else (two, one)
    high, low = (float(implied.points.xy[view.point_rows[key], 1]) for key in points)
    return (one, two) if high >= low else (two, one)


@lru_cache(maxsize=16)
def _questions(
    view: View,
    items: tuple[Sighting, ...],
    grade: Grade,
    order: str,
    skipped: frozenset[tuple[object, ...]],
) -> tuple[Next, ...] | NotMeasurable:
    implied = imply(view, items)
    if isinstance(implied, NotMeasurable):
        return implied
    if order == MOST_TELLING:
        found = most_telling(view, implied, grade, most=_LOOKED_AT, skipped=skipped)
        several = _of_several_sorts([Next(one.sighting, one.about) for one in found])
        glance = best_comparison(view, implied, skipped)
        if glance is None:
            return several[:_OFFERED]
        return (*several[: _OFFERED - 1], Next(glance, ""))
    taken = {one.asks for one in items} | skipped
    sighter = sighter_of(view, implied)
    out = []
    for spec in order_named(view, order):
        one = sighting_of(view, spec, 0.0)
        at = None if one is None or one.asks in taken else sighter.on(one)
        if one is not None and at is not None:
            expected = sighting_of(view, spec, at.value)
            assert expected is not None
            out.append(Next(expected, spec.id))
    return tuple(out[:_OFFERED])


def _of_several_sorts(ranked: Sequence[Next]) -> tuple[Next, ...]:
    """The best one, then the best of every other sort, then the rest."""
    first: list[Next] = []
    for one in ranked:
        if all(one.sighting.sort is not other.sighting.sort for other in first):
            first.append(one)
    return (*first, *(one for one in ranked if one not in first))
