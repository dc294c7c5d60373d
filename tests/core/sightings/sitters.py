"""Figures of the model that are sighted: their true marks in heads, and their sightings."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from bench.bodies import bodies, seen

from bralto.core.mannequin.body.pose import STAND
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.setting import Setting, set_up
from bralto.core.measures.points import PointTable, point_table
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.implied import Implied, imply
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.study.frames import SightMarks
from bralto.core.study.taken import Sighting, Sort, doubt_of, sighting_of
from bralto.core.study.values import Mark, Picture
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.typical import other_side

PX = 130.0
Places = dict[str, np.ndarray]


def places(view_key: str, number: int = 0) -> dict[str, np.ndarray]:
    """True marks of a body of the bench, heads, y up."""
    return dict(bodies(view_key)[number].marks)


def points_of(view_key: str | View, marks: dict[str, np.ndarray]) -> PointTable:
    keys = tuple(marks)
    xy = np.array([marks[key] for key in keys])
    table = SightMarks(keys, xy, np.zeros((len(xy), 2, 2)), "head")
    return point_table(_view(view_key), table, frozenset(keys))


def _view(one: str | View) -> View:
    return view_named(one) if isinstance(one, str) else one


def sighted(
    view_key: str | View,
    marks: dict[str, np.ndarray],
    *measures: str,
    u: float | None = None,
    rng: np.random.Generator | None = None,
) -> tuple[Sighting, ...]:
    """Those measures as the pencil takes them: exactly, or with the arm's doubt by chance."""
    view = _view(view_key)
    points = points_of(view, marks)
    sighter, out = Sighter(view, points), []
    for name in measures:
        spec = view.measure(name)
        assert spec is not None, name
        one = sighting_of(view, spec, 0.0)
        assert one is not None, name
        at = sighter.on(one)
        assert at is not None, name
        one = replace(one, value=at.value)
        one = replace(one, u=doubt_of(view, one) if u is None else u)
        if rng is not None:
            one = replace(one, value=one.value + one.u * float(rng.normal()))
        out.append(one)
    return tuple(out)


def picture(
    marks: dict[str, np.ndarray],
    spread: float = 0.0,
    rng: np.random.Generator | None = None,
    scatter: float = 0.0,
) -> Picture:
    """A picture with those marks, ``scatter`` px off by chance."""
    found = {}
    for key, (x, y) in marks.items():
        dx, dy = (0.0, 0.0) if rng is None else rng.normal(0.0, scatter, 2)
        found[key] = Mark(1000.0 + PX * x + dx, 1500.0 - PX * y + dy, "seen", spread)
    return Picture("drawing.png", 4000, 4000, found)


def posed(name: str, view_key: str = "figure-front", around: float = 0.0) -> Places:
    """True marks of a named pose, heads, y up; in other views than from the front it faces front
    and is walked round."""
    setting: Setting = set_up(name)
    if view_key != "figure-front":
        turns = dict(setting.pose.turns) | {STAND: 0.0}
        setting = replace(setting, pose=replace(setting.pose, turns=turns))
    camera = Camera(around_deg=around)
    return dict(seen(view_named(view_key), replace(setting, camera=camera)).marks)


def mirrored(marks: Places) -> Places:
    """The picture in a looking glass, its marks named as one sees them then."""
    return {other_side(key): np.array([-1.0, 1.0]) * at for key, at in marks.items()}


def implied(view: View, items: tuple[Sighting, ...]) -> Implied:
    """The figure that sightings imply, which there is."""
    found = imply(view, items)
    assert isinstance(found, Implied)
    return found


def by_chance(view: View, marks: Places, many: int, seed: int) -> tuple[Sighting, ...]:
    """So many of the view's telling measures in any order, sighted with the arm's doubt."""
    rng, items = np.random.default_rng(seed), ()
    points = points_of(view, marks)
    specs = [spec for spec in view.measures if spec.telling]
    for row in rng.permutation(len(specs)):
        one = sighting_of(view, specs[row], 0.0)
        if one is not None and Sighter(view, points).on(one) is not None and len(items) < many:
            items = (*items, *sighted(view, marks, specs[row].id, rng=rng))
    return items


def by_the_tool(view: View, marks: Places, many: int, seed: int = 1) -> tuple[Sighting, ...]:
    """What the tool asks for, sighted with the arm's doubt."""
    rng, items = np.random.default_rng(seed), ()
    for _ in range(many):
        asked = most_telling(view, implied(view, items), view.grade("developing"), most=1)
        one = asked[0].sighting
        items = (*items, *sighted(view, marks, one.measure, rng=rng))
    return items


_VALUES = (0.0, 1.0, -1.0, 1e-9, 100.0, -100.0, 3.3, 7.5, 90.0, 180.0, -180.0, 0.5)
_DOUBTS = (0.0, 1e-9, 1e-3, 0.05, 2.0, 1e6)
_ENDS = {Sort.FRACTION: 3, Sort.HIGHER: 1, Sort.LEFT: 1}


def wild(view: View, rng: np.random.Generator) -> Sighting:
    """A sighting of any points, with any value and doubt that a file may have."""
    points, sort = list(view.point_rows), list(Sort)[int(rng.integers(len(Sort)))]

    def some(many: int) -> tuple[str, ...]:
        return tuple(map(str, rng.choice(points, many, replace=False)))

    of: tuple[str, ...] = ()
    if sort is Sort.LONGER or (sort is Sort.LENGTH and rng.random() < 0.3):
        of = some(2)
    elif sort.is_answer:
        of = some(1)
    value = float(rng.integers(-1, 2)) if sort.is_answer else float(rng.choice(_VALUES))
    if sort is Sort.LENGTH:
        value = abs(value) or 1.0
    along = "level"
    if sort in {Sort.LENGTH, Sort.FRACTION, Sort.LONGER}:
        along = str(rng.choice(["straight", "plumb", "level"]))
    in_mm = sort is Sort.LENGTH and not of and rng.random() < 0.3
    return Sighting(sort, some(_ENDS.get(sort, 2)), value, float(rng.choice(_DOUBTS)), of, along,
                    in_mm=in_mm)  # fmt: skip
