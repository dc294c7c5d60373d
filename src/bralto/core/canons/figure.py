"""A canon as a measured figure: marks where the average has them, to stand beside a drawing that
has no reference; and what follows from its stations."""

from __future__ import annotations

import math
from collections.abc import Mapping, Set
from functools import lru_cache

from bralto.core.canons.shipped_canons import Average, Canon
from bralto.core.measures.points import picture_points
from bralto.core.measures.table import measure_table
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.views.model import MeasureSpec, View

__all__ = ["HEAD_PX", "canon_averages", "canon_picture", "canon_stations"]

HEAD_PX = 100.0
"""Picture px a head of the figure that is made."""

_AIR = 0.6
_ASIDE = {
    "shoulder": 0.88, "deltoid": 1.0, "nipple": 0.5, "elbow": 1.15, "wrist": 1.25,
    "fingertip": 1.3, "hip_point": 0.55, "trochanter": 0.7, "knee": 0.45, "knee_hollow": 0.45,
    "gluteal_fold": 0.4, "ankle": 0.42, "heel": 0.42,
}  # fmt: skip
"""Heads from plumb of paired marks, where the canon names no width (common practice, no source).
They only draw the figure: nothing is measured by them."""

_LENGTHS = frozenset({"height", "span"})


@lru_cache(maxsize=32)
def canon_picture(view: View, canon: Canon) -> Picture:
    """A picture without pixels whose marks stand at the canon's heights and widths.

    Marks of which the canon says nothing are left out; placing them has no doubt.
    """
    down = _heights(view, canon)
    tall = max([*down.values(), 1.0])
    wide = 2.0 * max(_ASIDE.values()) + 2.0 * _AIR
    middle = 0.5 * wide
    marks, said = {}, canon.values(view.key)
    for mark in view.landmarks:
        if mark.key not in down:
            continue
        across = _before(view) if mark.key == view.head[1] else 0.0
        stem, side = mark.key[:-2], mark.key[-2:]
        if side in {"_r", "_l"} and stem in _ASIDE:
            width = said.get(f"span.{stem}s")
            half = width.middle / 2.0 if width else _ASIDE[stem]
            # The model's right is on the viewer's left in a front view.
            left = (side == "_r") == (view.seen_from == "front")
            across = -half if left else half
        at = (middle + across) * HEAD_PX, (_AIR + down[mark.key]) * HEAD_PX
        marks[mark.key] = Mark(*at, spread=0.0)
    size = round(wide * HEAD_PX), round((tall + 2.0 * _AIR) * HEAD_PX)
    return Picture("", *size, marks)


@lru_cache(maxsize=32)
def canon_stations(
    view: View, canon: Canon, given: tuple[tuple[str, float], ...] = ()
) -> dict[str, float]:
    """Heads below the crown of every point that the canon names, directly or as a fraction.

    Args:
        given: points of a picture with their heights in its own heads: thirds begin at a hairline
            that no canon puts anywhere.
    """
    said, own = canon.values(view.key), dict(given)
    top, bottom = view.head
    down = {top: 0.0} | ({bottom: view.heads} if not _before(view) else {})
    for name, value in said.items():
        if name.startswith("height."):
            down.setdefault(name.removeprefix("height."), value.middle)
    # A fraction places its middle point once both ends are placed; some rest on others.
    for _ in said:
        for name, value in said.items():
            spec = view.measure(name)
            if spec is None or spec.kind != "fraction" or spec.along == "level":
                continue
            first, at, last = spec.points
            for end in (first, last):
                if end not in down and end in own:
                    down[end] = own[end]
            if first in down and last in down:
                down.setdefault(at, down[first] + value.middle * (down[last] - down[first]))
    return down


def _before(view: View) -> float:
    """Heads by which the line that the head is measured by runs forward: from the side it slants,
    and is the longer for it."""
    return math.sqrt(view.heads**2 - 1.0) if view.facing and view.heads > 1.0 else 0.0


@lru_cache(maxsize=64)
def canon_averages(view: View, canon: Canon) -> Mapping[str, Average]:
    """What a canon says of a view's measures, and what follows from its stations: every height,
    and every span, fraction and ratio along plumb between them. What it says itself goes before."""
    said = dict(canon.values(view.key))
    stations = canon_stations(view, canon)
    picture = canon_picture(view, canon)
    found = picture_points(view, picture)
    average_head = view.size != "figure" and view.heads != 1.0  # of a hand no height is counted
    if isinstance(found, NotMeasurable) or average_head:
        return said
    table = measure_table(view, found[1])
    known = stations.keys() | {
        mark for one in view.points if one.rule == "mean" and one.key in stations
        for mark in one.marks
    }  # fmt: skip
    for row, spec in enumerate(view.measures):
        if spec.id in said or not table.ok[row] or not _follows(spec, known):
            continue
        value = float(table.values[row])
        value /= HEAD_PX if spec.kind in _LENGTHS else 1.0
        said[spec.id] = Average(value, value)
    return said


def _follows(spec: MeasureSpec, known: Set[str]) -> bool:
    down = spec.along == "plumb" and spec.kind in {"height", "span", "fraction", "ratio"}
    return down and known >= set(spec.points)


def _heights(view: View, canon: Canon) -> dict[str, float]:
    """The same of every mark: those that a point is made of stand where it stands."""
    made_of = {point.key: point.marks for point in view.points}
    out: dict[str, float] = {}
    for key, value in canon_stations(view, canon).items():
        for mark in made_of.get(key, (key,)):
            out.setdefault(mark, value)
    return out
