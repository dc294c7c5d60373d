"""A study's own view: the shipped one, its model as it is placed and, as further landmarks, the
learner's anchors."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from bralto.core.errors import UserError
from bralto.core.study.values import Study
from bralto.core.views.laid_down import laid_down
from bralto.core.views.model import Landmark, View
from bralto.core.views.shipped_views import mark_measures, view_named
from bralto.core.views.stances import Stance

__all__ = ["placed", "view_of"]

_HOW = "the place that you named, on both pictures"


def view_of(study: Study) -> View:
    """The view of a study; where it is sighted from life, with its model as it is placed.

    Raises:
        UserError: it names a view that is not shipped, and has none of its own.
    """
    try:
        view = study.own_view or view_named(study.view)
    except UserError:  # which ones there are was told to who wrote the file or the command
        sentence = f"its view '{study.view:.40}' is not known here; a newer Bralto may know it"
        raise UserError(sentence) from None
    own = tuple((a.key, a.label) for a in study.anchors if view.landmark(a.key) is None)
    view = _anchored(view, own) if own else view
    if study.reference is None and study.sightings is not None:
        return placed(view, study.sightings.stance)
    return view


def placed(view: View, stance: Stance) -> View:
    """A view of a model that is placed so; the same one each time, itself where it is that."""
    plain = view.plain or view
    return plain if stance is Stance.STANDING else _placed(plain, stance)


@lru_cache(maxsize=64)
def _placed(view: View, stance: Stance) -> View:
    return replace(laid_down(view) if stance.is_lying else view, stance=stance, plain=view)


@lru_cache(maxsize=64)
def _anchored(view: View, anchors: tuple[tuple[str, str], ...]) -> View:
    step = view.passes[-1].key
    extra = tuple(Landmark(anchor, label, label, _HOW, step) for anchor, label in anchors)
    keys = tuple(mark.key for mark in extra)
    heights, offsets = mark_measures(
        view.edges[0], view.plumb, [(e.key, e.label) for e in extra], stations=keys, rails=keys
    )
    counted = tuple(replace(one, counted=view.unit) for one in (*heights, *offsets))
    own = replace(
        view,
        landmarks=view.landmarks + extra,
        measures=view.measures + counted,
        placing=view.placing + keys,
    )
    if view.limbs:
        return own
    # A thing of which nothing else is known: it is what the learner names of it.
    return replace(
        own,
        stations=view.stations + keys,
        rails=view.rails + keys,
        short=view.short + tuple((key,) for key in keys),
    )
