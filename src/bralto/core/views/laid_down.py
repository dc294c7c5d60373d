"""A view as a figure that lies is measured.

What a view measures along plumb of a standing figure, a lying one has along level, and the other
way round: where the knee divides the leg, how deep the chest is, what lies in one line with what.
Offsets from the plumb line stay as they are, and heights are counted from the level line through
the same mark instead of from the crown, which is no top any more.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from bralto.core.views.model import Along, DerivedPoint, MeasureSpec, View

__all__ = ["FROM_LEVEL", "laid_down"]

FROM_LEVEL = " from level"
"""What the label of a height ends with that is counted from a level line."""

_TURNED: dict[Along, Along] = {"plumb": "level", "level": "plumb"}


@lru_cache(maxsize=16)
def laid_down(view: View) -> View:
    """The view as a lying figure is measured; the same one each time, itself where it is that."""
    if view.lies:
        return view
    measures = tuple(_laid(view, spec) for spec in view.measures)
    points = tuple(_at_the_end(one) for one in view.points)
    return replace(view, measures=measures, points=points, lies=True)


def _laid(view: View, spec: MeasureSpec) -> MeasureSpec:
    if spec.kind == "height":
        ends = (view.plumb, spec.points[1])
        label = f"{view.point_label(spec.points[1])}{FROM_LEVEL}"
        return replace(spec, points=ends, label=label)
    if spec.kind == "offset":  # its stations lie side by side
        return replace(spec, telling=spec.telling or spec.points[1] in view.stations)
    if spec.kind == "balance" or spec.along not in _TURNED:
        return spec
    along = _TURNED[spec.along]
    if spec.kind == "alignment":
        first, second = (view.point_label(key) for key in spec.points)
        return replace(spec, along=along, label=f"{second} {_IN_LINE[along]} the {first}")
    label = spec.label.replace("whole height", "whole length")
    return replace(spec, along=along, label=label.replace(f", {spec.along}", f", {along}"))


_IN_LINE = {"level": "level with", "plumb": "plumb with"}


def _at_the_end(point: DerivedPoint) -> DerivedPoint:
    """The sole is what lies farthest from the crown."""
    return replace(point, rule="farthest") if point.rule == "lowest" else point
