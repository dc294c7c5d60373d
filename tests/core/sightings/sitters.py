"""Figures of the model that are sighted: their true marks in heads, and their sightings."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from bench.bodies import bodies

from bralto.core.measures.points import PointTable, point_table
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.taken import Sighting, doubt_of, sighting_of
from bralto.core.study.frames import SightMarks
from bralto.core.study.values import Mark, Picture
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named

PX = 130.0


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
