"""How the model is placed: as a picture shows it, said otherwise, and as the sightings suit it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from bralto.core.measures.points import picture_points
from bralto.core.measures.posture import LIES, UPRIGHT, posture
from bralto.core.results import NotMeasurable
from bralto.core.sightings.contradictions import Contradiction, contradictions
from bralto.core.sightings.figure.suited import cost_of
from bralto.core.study.anchored import placed
from bralto.core.study.taken import Sighting, Sightings, sighting_of
from bralto.core.study.values import Picture
from bralto.core.views.model import View
from bralto.core.views.stances import Stance
from bralto.core.views.typical import stances_of

__all__ = [
    "doubted",
    "likelier_stance",
    "otherwise_placed",
    "stance_doubt",
    "stance_said",
    "stance_seen",
]

_LIKELIER = 4.0
"""By how much more likely another stance must make the sightings to be asked about, -log of the
odds (chosen here, no source: 1 in 55)."""

_SUITED = 0.15
"""Badness a sighting up to which no other stance is looked for (chosen here, no source: of 80
models that stand none was asked about, after 1 to 16 sightings)."""

_SAID = {Stance.STANDING: "stands", Stance.SEATED: "sits or kneels", Stance.LYING: "lies"}


def stance_said(view: View, stance: Stance) -> str:
    """In words, after *the model*; it is the viewer's left and right."""
    said, way = _SAID[stance.facing_left], "right" if stance.is_right else "left"
    if stance.is_lying:
        return f"{said}, head {way}"
    if view.seen_from != "side":
        return said
    return f"{said}, facing {way}" if view.size == "figure" else f"faces {way}"


def doubted(
    view: View, items: Sequence[Sighting]
) -> tuple[Stance | None, tuple[Contradiction, ...]]:
    """Another way in which the model may be placed, or what cannot both be: while the first is
    asked none of the sightings is doubted, since they may all be true."""
    likelier = likelier_stance(view, items)
    return likelier, () if likelier is not None else contradictions(view, items)


def stance_doubt(view: View, likelier: Stance) -> str:
    """The sentence that asks whether the model is placed otherwise than is said; to which side, if
    that alone is another: few sightings tell it."""
    said, better = (_SAID[one.facing_left] for one in (view.stance, likelier))
    if said == better:
        said, better = stance_said(view, view.stance), stance_said(view, likelier)
    return f"These suit a model that {better} far better than one that {said}. How is it placed?"


def stance_seen(view: View, picture: Picture) -> Stance:
    """As the marks of a picture have it; as it is usually where they do not tell."""
    found = picture_points(view, picture, fewest=2)
    if isinstance(found, NotMeasurable):
        return Stance.STANDING
    marks = found[0]
    at = dict(zip(marks.keys, marks.xy, strict=True))
    how = posture(view, marks)
    if how == LIES:
        right = bool(at[view.head[0]][0] > marks.xy[:, 0].mean()) if view.head[0] in at else False
        stance = Stance.LYING_RIGHT if right else Stance.LYING
    else:
        right = bool(view.facing) and set(view.facing) <= at.keys()
        right = right and bool(at[view.facing[1]][0] > at[view.facing[0]][0])
        upright = Stance.SEATED if how == UPRIGHT else Stance.STANDING
        stance = Stance(f"{upright}-right") if right else upright
    return stance if stance in stances_of(view) else Stance.STANDING


def otherwise_placed(view: View, sightings: Sightings, stance: Stance) -> Sightings:
    """The same sightings of a model that is placed otherwise.

    What was given by a measure that means something else then (a height, of one that lies) stays
    what was sighted, and is no figure of that measure.
    """
    now = placed(view, stance)

    def kept(one: Sighting) -> Sighting:
        spec = now.measure(one.measure) if one.measure else None
        means = None if spec is None else sighting_of(now, spec, one.value, one.u)
        asks = replace(one, in_mm=False).asks
        return one if means is None or means.asks == asks else replace(one, measure="")

    return replace(sightings, items=tuple(map(kept, sightings.items)), stance=stance)


def likelier_stance(view: View, items: Sequence[Sighting]) -> Stance | None:
    """Another way in which the model may be placed and that suits the sightings far better; None
    where that which is said will do.

    Args:
        view: with the model as it is said to be placed.
    """
    known = stances_of(view)
    if not items or len(known) < 2:
        return None
    said = cost_of(view, items)
    if said is None or said.badness < _SUITED * len(items):
        return None
    best, least, likeliest = None, said.cost - _LIKELIER, said.but_one - _LIKELIER
    for stance in known:
        sightings = otherwise_placed(view, Sightings(tuple(items)), stance)
        found = cost_of(placed(view, stance), sightings.items)
        if found is not None and found.cost < least and found.but_one < likeliest:
            best, least, likeliest = stance, found.cost, found.but_one
    return best
