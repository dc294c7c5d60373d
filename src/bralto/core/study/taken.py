"""A sighting: one value taken from life by eye and pencil, with its doubt; and the list of them."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import lru_cache

from bralto.core.views.model import Along, MeasureKind, MeasureSpec, View
from bralto.core.views.stances import Stance

__all__ = [
    "DEGREES",
    "HEAD_DEGREES",
    "LEAST",
    "MOST_SIGHTINGS",
    "PENCIL_MM",
    "RELATIVE",
    "SURE",
    "USUAL_ALONG",
    "Sighting",
    "Sightings",
    "Sort",
    "doubt_of",
    "sighting_of",
    "unknown_points",
]  # fmt: skip

RELATIVE = 0.03
"""SD of a length taken at arm's length with the thumb on a pencil, as a share of it (chosen here,
no source)."""

LEAST = {"figure": 0.05, "part": 0.015}
"""The least of it in heads, and of how far something misses a plumb or level line, by what the view
shows: a sitter for a portrait is nearer, a head on the pencil three times as large (chosen here, no
source)."""

DEGREES = 2.0
"""SD of a tilt carried over with a stiff arm, degrees (chosen here, no source)."""

HEAD_DEGREES = 3.0
"""SD of how the pencil is tilted that is held as a head is, degrees (chosen here, no source: of
heads turned by up to 20 degrees the centre line and the upright of the skull are as far apart)."""

SURE = 0.03
"""Two lengths that differ by less than this share, two heights by less than `LEAST`, are compared
no better than by tossing a coin (chosen here, no source)."""

PENCIL_MM = 180.0
"""Length of a pencil, mm (common practice, no source)."""

MOST_SIGHTINGS = 200
"""Sightings that a study may have."""


class Sort(StrEnum):
    """What was sighted. The first five are values, the last three are answers to a question."""

    LENGTH = "length"
    TILT = "tilt"
    PLUMB = "plumb"
    LEVEL = "level"
    FRACTION = "fraction"
    LONGER = "longer"
    HIGHER = "higher"
    LEFT = "left"

    @property
    def is_answer(self) -> bool:
        """Whether yes, no or alike was answered, and nothing measured."""
        return self in {Sort.LONGER, Sort.HIGHER, Sort.LEFT}


@dataclass(frozen=True, slots=True)
class Sighting:
    """One value or answer.

    Attributes:
        sort: what it is.
        points: of the view. A length or a tilt runs from the first to the second, a tilt from the
            model's right or from the upper end; what misses a plumb or level line, from the one
            that the line goes through; a fraction: upper end, place, lower end. *Longer*: the ends
            of the first length; *higher*, *left* of the viewer: one point.
        of: the length that a length is counted in (two points), nothing where it is the head; of an
            answer the other length or point.
        along, of_along: ``straight``, ``plumb`` or ``level``: how either length is taken.
        value: heads, or the quotient where ``of`` is a length; mm where ``in_mm``; degrees,
            counter-clockwise positive; heads to the viewer's right or downwards; a share of the
            axis; of an answer 1 is yes, -1 no, 0 alike.
        u: its standard uncertainty in the same unit; of an answer the difference (relative of
            lengths, heads else) within which it is no better than chance.
        in_mm: a length read off the pencil, or off a divider.
        said: as it was entered.
        measure: id of the view's measure where it was given by that.
    """

    sort: Sort
    points: tuple[str, ...]
    value: float
    u: float
    of: tuple[str, ...] = ()
    along: Along = "straight"
    of_along: Along = "straight"
    in_mm: bool = False
    said: str = ""
    measure: str = ""
    taken: str | None = None
    extra: Mapping[str, object] = field(default_factory=dict, hash=False)

    @property
    def asks(self) -> tuple[object, ...]:
        """What was asked: two sightings of which this is the same are repeats."""
        return self.sort, self.points, self.of, self.along, self.of_along, self.in_mm

    def can_be(self, value: float) -> bool:
        """Whether an eye could say that: a share is of what a mark lies between, so 0 to 1."""
        return self.sort is not Sort.FRACTION or 0.0 <= value <= 1.0


@dataclass(frozen=True, slots=True)
class Sightings:
    """All that was sighted of one pose.

    Attributes:
        items: in the order in which they were taken.
        taken: an ISO 8601 instant, or None.
        eye_mm: from the eye to where lengths are read off, where lengths are in mm.
        plane_mm: from the eye to the plane of the paper, for sight-size; None where it is not.
        stance: how the model is placed.
    """

    items: tuple[Sighting, ...] = ()
    taken: str | None = None
    eye_mm: float | None = None
    plane_mm: float | None = None
    stance: Stance = Stance.STANDING
    extra: Mapping[str, object] = field(default_factory=dict, hash=False)


USUAL_ALONG: dict[Sort, Along] = {Sort.PLUMB: "level", Sort.LEVEL: "plumb"}
"""How what misses a line is taken: beside a plumb line, above or below a level one."""

_BY_KIND: dict[tuple[MeasureKind, Along], tuple[Sort, Along]] = {
    ("height", "plumb"): (Sort.LENGTH, "plumb"),
    ("span", "straight"): (Sort.LENGTH, "straight"),
    ("span", "plumb"): (Sort.LENGTH, "plumb"),
    ("span", "level"): (Sort.LENGTH, "level"),
    ("offset", "level"): (Sort.PLUMB, "level"),
    ("alignment", "plumb"): (Sort.PLUMB, "level"),
    ("alignment", "level"): (Sort.LEVEL, "plumb"),
    ("tilt", "straight"): (Sort.TILT, "straight"),
    ("fraction", "straight"): (Sort.FRACTION, "straight"),
    ("fraction", "plumb"): (Sort.FRACTION, "plumb"),
    ("fraction", "level"): (Sort.FRACTION, "level"),
}


def sighting_of(
    view: View, spec: MeasureSpec, value: float, u: float | None = None
) -> Sighting | None:
    """A measure of the view, sighted; None where a pencil cannot take it.

    Args:
        value: in the measure's own unit: heads, degrees, a fraction or a quotient.
        u: standard uncertainty; the arm's where none is given.
    """
    known = _BY_KIND.get((spec.kind, spec.along))
    if view.lies and spec.kind == "height":  # above or below a level line: no length
        known = Sort.LEVEL, "plumb"
    if known is not None:
        made = Sighting(known[0], spec.points, value, 0.0, along=known[1], measure=spec.id)
    elif spec.kind == "ratio" and len(spec.points) == 4:
        made = Sighting(
            Sort.LENGTH, spec.points[:2], value, 0.0, spec.points[2:], spec.along, spec.along,
            measure=spec.id,
        )  # fmt: skip
    else:
        return None
    return replace(made, u=doubt_of(view, made) if u is None else u)


def doubt_of(view: View, one: Sighting, value: float | None = None) -> float:
    """What an arm's sighting is worth before the learner's own is known, in its own unit.

    Args:
        value: as it would be with this one; its own where none is given.
    """
    size, least = abs(one.value if value is None else value), LEAST[view.size]
    if one.sort is Sort.LENGTH:
        # In mm or as a quotient there is no head to count the least in.
        u = RELATIVE * size if one.in_mm or one.of else max(RELATIVE * size, least)
        return math.hypot(u, _by_tilt(view, one))
    if one.sort is Sort.TILT:
        return DEGREES
    if one.sort in {Sort.PLUMB, Sort.LEVEL}:
        return max(RELATIVE * size, least)
    if one.sort is Sort.FRACTION:
        return math.hypot(RELATIVE, _by_tilt(view, one))
    return SURE if one.sort is Sort.LONGER else least


def _by_tilt(view: View, one: Sighting) -> float:
    """What the tilt of the pencil makes of a length or fraction down a head or across it: little on
    the centre line, much of what lies far beside it."""
    if not view.axis or one.in_mm or one.of or one.along == "straight":
        return 0.0
    return math.radians(HEAD_DEGREES) * _tilted(view, one.sort, one.points, one.along)


@lru_cache(maxsize=512)
def _tilted(view: View, sort: Sort, points: tuple[str, ...], along: Along) -> float:
    """By how much it changes on a head as heads usually are, heads or a share of the axis, per
    radian by which the pencil is tilted; 0 where nothing is known of a point."""
    from bralto.core.views.typical import typical_of  # NumPy is loaded when it is first needed

    typical = typical_of(view.key, view.stance)
    if typical is None:
        return 0.0
    made_of = {one.key: one.marks for one in view.points}
    at = []
    for key in points:
        rows = [typical.row[mark] for mark in made_of.get(key, (key,)) if mark in typical.row]
        if not rows:
            return 0.0
        at.append(typical.mean[rows].mean(axis=0))
    down, aside = (1, 0) if along == "plumb" else (0, 1)
    away = [one - at[0] for one in at[1:]]
    if sort is Sort.LENGTH:
        return abs(float(away[0][aside]))
    place, end = away
    if not end[down]:
        return 0.0
    return abs(float((place[aside] * end[down] - place[down] * end[aside]) / end[down] ** 2))


def unknown_points(view: View, one: Sighting) -> tuple[str, ...]:
    """Points of a sighting that the view does not have."""
    return tuple(key for key in (*one.points, *one.of) if key not in view.point_rows)
