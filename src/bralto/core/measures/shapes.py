"""Shapes: a polygon on both pictures, such as a negative shape, a big mass or the envelope.

Area, centroid and principal axis come from Green's theorem over the corners, so that their first
order uncertainty is exact in the corners; overlap comes from Shapely.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.contours import contours_apart
from bralto.core.measures.units import Length, Unit
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sight_points
from bralto.core.study.values import Picture
from bralto.core.terms import Visibility
from bralto.core.tolerances import DEFAULT_SPREAD_PX

__all__ = ["Figure", "ShapeReading", "area", "centroid", "principal_tilt", "read_shapes"]

_STEP = 1e-6


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure of a shape on both pictures with the standard uncertainty of its error."""

    reference: float
    drawing: float
    error: float
    u: float


@dataclass(frozen=True, slots=True)
class ShapeReading:
    """A shape, or why it cannot be measured.

    Attributes:
        name: the polygon's name.
        area: heads squared.
        width_height: width : height of its box; the error is relative.
        across, up: its centroid from the plumb mark, heads; None where that mark is missing.
        tilt: of its longer principal axis against level, degrees in (-90, 90].
        overlap: intersection over union once both lie on each other by their centroids, 0 to 1.
        contour: largest distance of the two outlines lying so, heads.
        overlap_u, contour_u: their standard uncertainties, first order; an exact copy has none.
    """

    name: str
    area: Figure
    width_height: Figure
    across: Figure | None
    up: Figure | None
    tilt: Figure
    overlap: float
    contour: float
    overlap_u: float
    contour_u: float


def _cross(xy: Floats) -> tuple[Floats, Floats]:
    following = np.concatenate([xy[..., 1:, :], xy[..., :1, :]], axis=-2)
    return xy[..., 0] * following[..., 1] - following[..., 0] * xy[..., 1], following


def area(xy: Floats) -> float:
    """Area of a simple polygon (n, 2), never negative (the shoelace formula)."""
    return abs(0.5 * float(_cross(xy - xy[0])[0].sum()))


def centroid(xy: Floats) -> Floats:
    """(..., 2) centroid of the area of simple polygons (..., n, 2)."""
    origin = xy.mean(axis=-2, keepdims=True)
    cross, following = _cross(xy - origin)
    weighed = (cross[..., None] * (xy - origin + following)).sum(axis=-2)
    middle: Floats = origin[..., 0, :] + weighed / (3.0 * cross.sum(axis=-1))[..., None]
    return middle


def principal_tilt(xy: Floats) -> float:
    """Direction of the longer principal axis of a polygon's area, degrees in (-90, 90]."""
    cross, following = _cross(xy := xy - centroid(xy))
    sign = 1.0 if cross.sum() >= 0.0 else -1.0
    x, y, xn, yn = xy[:, 0], xy[:, 1], following[:, 0], following[:, 1]
    xx = sign * float((cross * (x * x + x * xn + xn * xn)).sum()) / 12.0
    yy = sign * float((cross * (y * y + y * yn + yn * yn)).sum()) / 12.0
    xy_ = sign * float((cross * (x * yn + 2.0 * x * y + 2.0 * xn * yn + xn * y)).sum()) / 24.0
    return float(np.degrees(0.5 * np.arctan2(2.0 * xy_, xx - yy)))


def _box(xy: Floats) -> float:
    wide, high = np.ptp(xy, axis=0)
    return float(wide / high)


def read_shapes(
    reference: Picture,
    drawing: Picture,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    u_heads: tuple[float, float],
    plumb: str,
) -> tuple[ShapeReading | tuple[str, NotMeasurable], ...]:
    """Every polygon that both pictures have, by name.

    Args:
        head, unit: a reference head on the reference, and on the drawing under the school.
        u_heads: relative standard uncertainty of these two lengths.
        plumb: the mark from which centroids are counted.

    Corners are placed with the spread of a mark of which nothing is known.
    """
    out: list[ShapeReading | tuple[str, NotMeasurable]] = []
    for name in sorted(set(reference.polygons) & set(drawing.polygons)):
        lengths = [one.value for one in (head, unit) if not isinstance(one, NotMeasurable)]
        if len(lengths) < 2:
            lacking = head if isinstance(head, NotMeasurable) else unit
            assert isinstance(lacking, NotMeasurable)
            out.append((name, lacking))
            continue
        sides = [
            _side(picture, name, length, plumb, whose)
            for picture, length, whose in zip(
                (reference, drawing), lengths, ("the reference", "the drawing"), strict=True
            )
        ]
        bad = next((side for side in sides if isinstance(side, NotMeasurable)), None)
        if bad is not None:
            out.append((name, bad))
            continue
        seen, drawn = (side for side in sides if not isinstance(side, NotMeasurable))
        out.append(_reading(name, seen, drawn, u_heads))
    return tuple(out)


@dataclass(frozen=True, slots=True)
class _Side:
    """A polygon of one picture in heads: corners (n, 2), their SD, the plumb mark and its SD."""

    xy: Floats
    sd: float
    plumb: Floats | None
    plumb_sd: float


def _side(
    picture: Picture, name: str, length: float, plumb: str, whose: str
) -> _Side | NotMeasurable:
    from shapely import Polygon  # loaded only where there are shapes

    corners = np.array(picture.polygons[name], dtype=np.float64).reshape(-1, 2)
    if len(corners) < 3:
        return NotMeasurable(f"on {whose}, {name} has fewer than three corners")
    found = sight_points(picture, corners, np.full(len(corners), DEFAULT_SPREAD_PX))
    if isinstance(found, NotMeasurable):
        return found
    xy = found.xy / length
    shape = Polygon(xy)
    if not shape.is_valid or shape.area <= 1e-12:
        return NotMeasurable(f"on {whose}, the outline of {name} crosses itself or is a line")
    middle, middle_sd = None, 0.0
    mark = picture.marks.get(plumb)
    if mark is not None and mark.visibility != Visibility.ABSENT:
        there = sight_points(picture, np.array([[mark.x, mark.y]]), np.array([mark.spread]))
        assert not isinstance(there, NotMeasurable)
        middle = there.xy[0] / length
        middle_sd = float(np.sqrt(np.trace(there.cov[0]) / 2.0)) / length
    sd = float(np.sqrt(np.einsum("nkk->n", found.cov).mean() / 2.0)) / length
    return _Side(xy, sd, middle, middle_sd)


def _reading(name: str, seen: _Side, drawn: _Side, u_heads: tuple[float, float]) -> ShapeReading:
    (overlap, contour), (overlap_u, contour_u) = _held_together(seen, drawn, u_heads)
    tilt = _figure(principal_tilt, seen, drawn, u_heads, power=0)
    wrapped = (tilt.error + 90.0) % 180.0 - 90.0
    across = up = None
    if seen.plumb is not None and drawn.plumb is not None:
        across, up = (_from_plumb(seen, drawn, u_heads, axis) for axis in (0, 1))
    return ShapeReading(
        name=name,
        area=_figure(area, seen, drawn, u_heads, power=2),
        width_height=_width_height(seen, drawn),
        across=across,
        up=up,
        tilt=Figure(tilt.reference, tilt.drawing, wrapped, tilt.u),
        overlap=overlap,
        contour=contour,
        overlap_u=overlap_u,
        contour_u=contour_u,
    )


def _held_together(
    seen: _Side, drawn: _Side, u_heads: tuple[float, float]
) -> tuple[tuple[float, float], tuple[float, float]]:
    """Overlap and contour distance, and their u by central differences over every corner.

    The heads that both are counted in count too, as stretches of the whole outline.
    """
    ones, twos = [seen.xy], [drawn.xy]
    spreads = []
    for moved, other, side, u_head in (
        (ones, twos, seen, u_heads[0]),
        (twos, ones, drawn, u_heads[1]),
    ):
        corners = np.eye(side.xy.size).reshape(-1, *side.xy.shape)
        steps = np.concatenate([corners, (side.xy - centroid(side.xy))[None]])
        for step in steps:
            moved += [side.xy + _STEP * step, side.xy - _STEP * step]
        other += [other[0]] * (2 * len(steps))
        spreads += [side.sd] * len(corners) + [u_head]
    figures = _over_each_other(ones, twos)
    slopes = (figures[:, 1::2] - figures[:, 2::2]) / (2.0 * _STEP)
    u = np.sqrt(np.square(slopes * spreads).sum(axis=1))
    return (float(figures[0, 0]), float(figures[1, 0])), (float(u[0]), float(u[1]))


def _over_each_other(ones: Sequence[Floats], twos: Sequence[Floats]) -> Floats:
    """(2, k) array: overlap and contour distance of k pairs of outlines, laid centre on centre."""
    import shapely

    one, two = (np.array(outlines) for outlines in (ones, twos))
    one, two = (xy - centroid(xy)[:, None] for xy in (one, two))
    first, second = shapely.polygons(one), shapely.polygons(two)
    common = shapely.area(shapely.intersection(first, second))
    either = shapely.area(first) + shapely.area(second) - common
    return np.array([common / either, contours_apart(one, two)])


def _from_plumb(seen: _Side, drawn: _Side, u_heads: tuple[float, float], axis: int) -> Figure:
    """A centroid from the plumb mark: it is this distance that the head's doubt stretches."""

    def place(xy: Floats) -> float:
        return float(centroid(xy)[axis])

    assert seen.plumb is not None
    assert drawn.plumb is not None
    one, two = replace(seen, xy=seen.xy - seen.plumb), replace(drawn, xy=drawn.xy - drawn.plumb)
    found = _figure(place, one, two, u_heads, power=1)
    return replace(found, u=float(np.hypot(found.u, np.hypot(seen.plumb_sd, drawn.plumb_sd))))


def _width_height(seen: _Side, drawn: _Side) -> Figure:
    """Width : height; the error drawing / reference - 1 with the gradient of that quotient."""
    a, b = _box(seen.xy), _box(drawn.xy)
    ua, ub = (
        float(np.sqrt(np.square(_gradient(_box, side.xy)).sum())) * side.sd
        for side in (seen, drawn)
    )
    return Figure(a, b, b / a - 1.0, float(np.hypot(ub / a, b * ua / a**2)))


def _figure(
    formula: Callable[[Floats], float],
    seen: _Side,
    drawn: _Side,
    u_heads: tuple[float, float],
    *,
    power: int,
) -> Figure:
    """A figure on both sides; ``power`` says how it goes with the head that it is counted in."""
    values, variance = [], 0.0
    for side, u_head in zip((seen, drawn), u_heads, strict=True):
        value = formula(side.xy)
        gradient = _gradient(formula, side.xy)
        variance += float(np.square(gradient).sum()) * side.sd**2 + (power * value * u_head) ** 2
        values.append(value)
    return Figure(values[0], values[1], values[1] - values[0], float(np.sqrt(variance)))


def _gradient(formula: Callable[[Floats], float], xy: Floats) -> Floats:
    """(n, 2) central differences; a tilt may turn by half a circle between them."""
    out = np.zeros_like(xy)
    for i in range(len(xy)):
        for axis in range(2):
            ahead, behind = xy.copy(), xy.copy()
            ahead[i, axis] += _STEP
            behind[i, axis] -= _STEP
            change = formula(ahead) - formula(behind)
            if formula is principal_tilt:
                change = (change + 90.0) % 180.0 - 90.0
            out[i, axis] = change / (2.0 * _STEP)
    return out
