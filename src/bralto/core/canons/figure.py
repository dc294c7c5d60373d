"""A canon as a measured figure: marks where the average has them, to stand beside a drawing that
has no reference."""

from __future__ import annotations

from functools import lru_cache

from bralto.core.canons.library import Canon
from bralto.core.study import Mark, Picture
from bralto.core.views.model import View

__all__ = ["HEAD_PX", "canon_picture", "canon_stations"]

HEAD_PX = 100.0
"""Picture px a head of the figure that is made."""

_AIR = 0.6
_ASIDE = {
    "shoulder": 1.0, "nipple": 0.5, "elbow": 1.15, "wrist": 1.25, "fingertip": 1.3,
    "hip_point": 0.55, "trochanter": 0.7, "knee": 0.45, "ankle": 0.42, "heel": 0.42,
}  # fmt: skip
"""Heads from plumb of paired marks, where the canon names no width (common practice, no source).
They only draw the figure: nothing is measured by them."""


@lru_cache(maxsize=32)
def canon_picture(view: View, canon: Canon) -> Picture:
    """A picture without pixels whose marks stand at the canon's heights and widths.

    Marks of which the canon says nothing are left out; placing them has no doubt.
    """
    down = _heights(view, canon)
    tall = max([*down.values(), 1.0])
    wide = 2.0 * max(_ASIDE.values()) + 2.0 * _AIR
    middle = 0.5 * wide
    marks = {}
    for mark in view.landmarks:
        if mark.key not in down:
            continue
        across = 0.0
        stem, side = mark.key[:-2], mark.key[-2:]
        if side in {"_r", "_l"} and stem in _ASIDE:
            half = canon.values.get(f"span.{stem}s", 2.0 * _ASIDE[stem]) / 2.0
            # The model's right is on the viewer's left in a front view.
            left = (side == "_r") == (view.seen_from == "front")
            across = -half if left else half
        at = (middle + across) * HEAD_PX, (_AIR + down[mark.key]) * HEAD_PX
        marks[mark.key] = Mark(*at, spread=0.0)
    size = round(wide * HEAD_PX), round((tall + 2.0 * _AIR) * HEAD_PX)
    return Picture("", *size, marks)


@lru_cache(maxsize=32)
def canon_stations(view: View, canon: Canon) -> dict[str, float]:
    """Heads below the crown of every point that the canon names, directly or as a fraction."""
    down = {view.head[0]: 0.0, view.head[1]: view.heads}
    for name, value in canon.values.items():
        if name.startswith("height."):
            down.setdefault(name.removeprefix("height."), value)
    # A fraction places its middle point once both ends are placed; some rest on others.
    for _ in canon.values:
        for name, value in canon.values.items():
            spec = view.measure(name)
            if spec is None or spec.kind != "fraction" or spec.along == "level":
                continue
            first, at, last = spec.points
            if first in down and last in down:
                down.setdefault(at, down[first] + value * (down[last] - down[first]))
    return down


def _heights(view: View, canon: Canon) -> dict[str, float]:
    """The same of every mark: those that a point is made of stand where it stands."""
    made_of = {point.key: point.marks for point in view.points}
    out: dict[str, float] = {}
    for key, value in canon_stations(view, canon).items():
        for mark in made_of.get(key, (key,)):
            out.setdefault(mark, value)
    return out
