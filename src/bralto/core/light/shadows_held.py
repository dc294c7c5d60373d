"""The shadows of a drawing held against the reference's, aligned by the marks.

Where a limb is drawn beside its place its shadow is too: the reference's shapes are carried with
the marks about them (`carrying`).
"""

from __future__ import annotations

from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.arrays import Floats
from bralto.core.light.carried_places import Carrying, carrying
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sight_points
from bralto.core.study.two_boards import BOARDS
from bralto.core.study.values import OUTLINE, Picture
from bralto.core.tolerances import GRADES, GRADES_OF
from bralto.core.views.model import View

if TYPE_CHECKING:
    from shapely import MultiPolygon

__all__ = ["LightReading", "Patch", "carried_with_marks", "read_light"]

_MATCHED = 0.25
"""Share of a shape that must be covered for it not to be lost, or invented (chosen here, no
source)."""


_CORNERS = 3

_SHARED = 0.25
"""Share of an edge's doubt that all edges of a picture have alike (chosen here, no source)."""


@dataclass(frozen=True, slots=True)
class _Sizes:
    """What is small and near on a view, heads of it; of a head or a part as much smaller as its
    grades are (chosen here for figures, no source).

    Attributes:
        near: within which a mark's own miss carries a shadow with it.
        edge: standard deviation of where the edge of a shadow lies: it is soft, and a hand or a
            threshold sets it.
        step: between the places of an edge that are asked; ``apart``, between two of which one
            knows nothing of the other.
        rim: from the figure's outline within which an edge is no terminator.
        farthest: beyond which another edge is meant.
        fine, big: by which an outline is simplified before its corners, or its big turns, count.
        least: heads squared of a place where shadows differ; ``shape``, of a whole shape.
    """

    near: float = 0.6
    edge: float = 0.02
    step: float = 0.03
    apart: float = 0.25
    rim: float = 0.06
    farthest: float = 1.0
    fine: float = 0.02
    big: float = 0.06
    least: float = 0.01
    shape: float = 0.05


@lru_cache(maxsize=8)
def _sizes(size: str) -> _Sizes:
    by = GRADES_OF[size]["developing"].head / GRADES["developing"].head
    areas = ("least", "shape")
    plain = asdict(_Sizes())
    return _Sizes(**{k: v * (by * by if k in areas else by) for k, v in plain.items()})


@dataclass(frozen=True, eq=False)
class Patch:
    """A place where shadows differ, or a whole shape: ``rings`` (n, 2) in the drawing's sight
    frame, the outer one first, ``area`` in heads squared, ``centre`` (2,) in heads."""

    rings: tuple[Floats, ...]
    area: float
    centre: Floats


@dataclass(frozen=True, eq=False)
class LightReading:
    """Shadows of both pictures, heads of the reference on the drawing.

    Attributes:
        seen_share, drawn_share: of the figure's outline that is dark.
        overlap: dark in both against dark in either, 0 to 1.
        edge: by how much the drawn terminator lies beyond the seen one, the median along it, +
            where dark goes further into the light; None where no edge of shadow runs over the form.
        edge_farthest: the same where it is farthest, with its place in the drawing's sight frame.
        seen_corners, drawn_corners: of all edges, as they turn.
        big_corners: of the reference's, simplified to its big turns.
        beyond, short: where dark goes too far, and where it falls short.
        lost, invented: whole shapes that only the reference has, or only the drawing.
        head: one reference head in units of the drawing's sight frame.
    """

    seen_share: float
    drawn_share: float
    overlap: Doubted
    edge: Doubted | None
    edge_farthest: tuple[Doubted, Floats] | None
    seen_corners: int
    drawn_corners: int
    big_corners: int
    beyond: tuple[Patch, ...]
    short: tuple[Patch, ...]
    lost: tuple[Patch, ...]
    invented: tuple[Patch, ...]
    head: float


def carried_with_marks(
    view: View, reference: Picture, drawing: Picture
) -> Carrying | NotMeasurable:
    """What carries a shadow, or a place of focus, to the drawing with the marks about it."""
    return carrying(view, reference, drawing, _sizes(view.size).near)


def read_light(view: View, reference: Picture, drawing: Picture) -> LightReading | NotMeasurable:
    """Hold the shadows of a drawing against those of its reference."""
    outlines = [
        [np.array(ring, dtype=np.float64) for ring in picture.shadows if len(ring) >= _CORNERS]
        for picture in (reference, drawing)
    ]
    lacking = [name for name, rings in zip(BOARDS, outlines, strict=True) if not rings]
    if lacking:
        return NotMeasurable(f"no shadow is outlined on the {' and the '.join(lacking)} yet")
    by = carried_with_marks(view, reference, drawing)
    if isinstance(by, NotMeasurable):
        return by
    unit, sizes = by.head, _sizes(view.size)
    seen_rings, drawn_rings = [], []
    for ring in outlines[0]:
        there = by.to_sight(ring)
        if isinstance(there, NotMeasurable):
            return there
        seen_rings.append(there / unit)
    for ring in outlines[1]:
        flat = sight_points(drawing, ring, np.zeros(len(ring)))
        if isinstance(flat, NotMeasurable):
            return flat
        drawn_rings.append(flat.xy / unit)
    seen, drawn = _region(seen_rings), _region(drawn_rings)
    if seen.is_empty or drawn.is_empty:
        return NotMeasurable("an outline of shadow crosses itself or is a line")
    whole = _region([])
    if len(reference.polygons.get(OUTLINE, ())) >= _CORNERS:
        rim = by.to_sight(np.array(reference.polygons[OUTLINE]))
        if not isinstance(rim, NotMeasurable):
            whole = _region([rim / unit])
    figure = whole if not whole.is_empty else _multi(seen.union(drawn).convex_hull)
    placing = np.einsum("nkk->n", by.pair.drawn.cov[: by.pair.shared]).mean()
    placed = float(np.sqrt(placing / 2.0)) / unit
    either, common = seen.union(drawn).area, seen.intersection(drawn).area
    # Part of an edge's doubt is shared by all of it, as that of a threshold; the rest is not.
    long = seen.length + drawn.length
    off = sizes.edge * (0.5 * _SHARED * long + float(np.sqrt(sizes.apart * long)))
    overlap = Doubted(common / either, off / either)
    edge, farthest = _terminator(seen, drawn, whole, placed, sizes)
    return LightReading(
        seen_share=seen.intersection(figure).area / figure.area,
        drawn_share=drawn.intersection(figure).area / figure.area,
        overlap=overlap,
        edge=edge,
        edge_farthest=None if farthest is None else (farthest[0], farthest[1] * unit),
        seen_corners=_corners(_multi(seen.simplify(sizes.fine))),
        drawn_corners=_corners(_multi(drawn.simplify(sizes.fine))),
        big_corners=_corners(_multi(seen.simplify(sizes.big))),
        beyond=_patches(_multi(drawn.difference(seen)), unit, sizes),
        short=_patches(_multi(seen.difference(drawn)), unit, sizes),
        lost=_unmatched(seen, drawn, unit, sizes),
        invented=_unmatched(drawn, seen, unit, sizes),
        head=unit,
    )


def _multi(shape: object) -> MultiPolygon:
    """The areas of any shape."""
    from shapely import GeometryCollection, MultiPolygon, Polygon

    if isinstance(shape, MultiPolygon):
        return shape
    if isinstance(shape, Polygon):
        return MultiPolygon([] if shape.is_empty else [shape])
    if isinstance(shape, GeometryCollection):
        return MultiPolygon([one for one in shape.geoms if isinstance(one, Polygon)])
    return MultiPolygon([])


def _region(rings: list[Floats]) -> MultiPolygon:
    """What is dark: within an odd number of rings."""
    from shapely import MultiPolygon, Polygon, make_valid

    dark = MultiPolygon([])
    for ring in rings:
        if len(ring) >= _CORNERS:
            dark = _multi(dark.symmetric_difference(_multi(make_valid(Polygon(ring)))))
    return dark


def _rims(shape: MultiPolygon) -> list[Floats]:
    return [
        np.asarray(ring.coords) for one in shape.geoms for ring in (one.exterior, *one.interiors)
    ]


def _corners(shape: MultiPolygon) -> int:
    return sum(len(ring) - 1 for ring in _rims(shape))


def _patches(shape: MultiPolygon, unit: float, sizes: _Sizes) -> tuple[Patch, ...]:
    """Parts of a difference that are wider than the doubt of two edges, largest first."""
    wide = _multi(shape.buffer(-sizes.edge).buffer(sizes.edge).intersection(shape))
    return _as_patches([one for one in wide.geoms if one.area >= sizes.least], unit)


def _as_patches(parts: list, unit: float) -> tuple[Patch, ...]:  # type: ignore[type-arg]
    parts = sorted(parts, key=lambda one: -one.area)
    return tuple(
        Patch(
            tuple(unit * np.asarray(ring.coords) for ring in (one.exterior, *one.interiors)),
            float(one.area),
            np.array([one.centroid.x, one.centroid.y]),
        )
        for one in parts
    )


def _unmatched(
    shape: MultiPolygon, other: MultiPolygon, unit: float, sizes: _Sizes
) -> tuple[Patch, ...]:
    """Whole shapes of one that the other hardly covers."""
    alone = [
        one
        for one in shape.geoms
        if one.area >= sizes.shape and one.intersection(other).area < _MATCHED * one.area
    ]
    return _as_patches(alone, unit)


def _terminator(
    seen: MultiPolygon, drawn: MultiPolygon, figure: MultiPolygon, placed: float, sizes: _Sizes
) -> tuple[Doubted | None, tuple[Doubted, Floats] | None]:
    """By how much the drawn edge lies beyond the seen one, median and farthest, along those edges
    of shapes that both have which run over the form and not along its outline."""
    from shapely import LineString, Point

    matched = [one for one in seen.geoms if one.intersection(drawn).area >= _MATCHED * one.area]
    rim = figure.boundary.buffer(sizes.rim) if not figure.is_empty else None
    edges = drawn.boundary
    places, away = [], []
    for one in matched:
        for ring in (one.exterior, *one.interiors):
            line = LineString(ring.coords)
            for at in np.arange(0.5 * sizes.step, line.length, sizes.step):
                place = line.interpolate(float(at))
                if rim is not None and rim.contains(place):
                    continue
                far = float(edges.distance(place))
                if far <= sizes.farthest:
                    places.append((place.x, place.y))
                    away.append(far if drawn.contains(Point(place)) else -far)
    if not away:
        return None, None
    distances = np.array(away)
    # Neighbouring places share their edge, and all of them the marks by which they are aligned.
    several = max(1.0, len(distances) * sizes.step / sizes.apart)
    one_u = float(np.hypot(placed, sizes.edge))
    u = float(np.hypot(one_u, sizes.edge / np.sqrt(several)))
    most = int(np.argmax(np.abs(distances)))
    # Where a limb's whole light side is lost in shadow the edge can go no further: the median.
    middle = Doubted(float(np.median(distances)), u)
    return middle, (
        Doubted(float(distances[most]), one_u),
        np.array(places[most]),
    )
