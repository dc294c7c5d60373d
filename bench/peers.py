"""The same figures through the `uncertainties` package, operator by operator: a peer for speed."""

from __future__ import annotations

from typing import Any

from uncertainties import ufloat, umath

from bralto.core.measures.masses import mass_weights
from bralto.core.study.values import Picture, Study
from bralto.core.views.model import View


def _points(view: View, picture: Picture) -> dict[str, tuple[Any, Any]]:
    """All points of a view, y up, each coordinate with its own uncertainty."""
    found = {
        key: (ufloat(mark.x, mark.spread), -ufloat(mark.y, mark.spread))
        for key, mark in picture.marks.items()
    }
    for point in view.points:
        ends = [found[key] for key in point.marks if key in found]
        if point.rule == "mass":
            shares, _ = mass_weights(view, tuple(picture.marks))
            weighed = list(zip(shares.tolist(), (found[key] for key in picture.marks), strict=True))
            found[point.key] = (
                sum(share * x for share, (x, _) in weighed if share),
                sum(share * y for share, (_, y) in weighed if share),
            )
        elif point.rule == "support":
            outer = [choose(ends, key=lambda xy: xy[0].nominal_value) for choose in (min, max)]
            found[point.key] = tuple((outer[0][i] + outer[1][i]) / 2 for i in (0, 1))
        elif point.rule == "lowest":
            found[point.key] = min(ends, key=lambda xy: xy[1].nominal_value)
        elif len(ends) == len(point.marks):
            found[point.key] = (
                sum(x for x, _ in ends) / len(ends),
                sum(y for _, y in ends) / len(ends),
            )
    return found


def _distance(a: tuple[Any, Any], b: tuple[Any, Any], along: str) -> Any:
    dx, dy = b[0] - a[0], b[1] - a[1]
    if along == "straight":
        return umath.sqrt(dx * dx + dy * dy)
    one = dy if along == "plumb" else dx
    return -one if one.nominal_value < 0.0 else one


def _direction(a: tuple[Any, Any], b: tuple[Any, Any]) -> Any:
    return umath.degrees(umath.atan2(b[1] - a[1], b[0] - a[0]))


def _value(kind: str, along: str, p: list[tuple[Any, Any]], head: Any) -> Any:
    if kind == "height" or (kind, along) == ("alignment", "level"):
        return (p[0][1] - p[1][1]) / head
    if kind in {"offset", "alignment", "balance"}:
        return (p[1][0] - p[0][0]) / head
    if kind == "span":
        return _distance(p[0], p[1], along) / head
    if kind == "ratio":
        return _distance(p[0], p[1], along) / _distance(p[2], p[3], along)
    if kind == "tilt":
        return _direction(p[0], p[1])
    if kind == "angle":
        return _direction(p[0], p[1]) - _direction(p[2], p[3])
    upper, at, lower = p
    if along == "plumb":
        return (upper[1] - at[1]) / (upper[1] - lower[1])
    dx, dy = lower[0] - upper[0], lower[1] - upper[1]
    return ((at[0] - upper[0]) * dx + (at[1] - upper[1]) * dy) / (dx * dx + dy * dy)


def with_package(study: Study, view: View) -> list[float]:
    """Standard uncertainty of the error of every measure under the head school."""
    assert study.reference is not None
    sides = []
    for picture in (study.reference, study.states[0].picture):
        points = _points(view, picture)
        head = _distance(points[view.head[0]], points[view.head[1]], "straight")
        sides.append(
            [
                _value(spec.kind, spec.along, [points[key] for key in spec.points], head)
                for spec in view.measures
            ]
        )
    return [float((drawn - seen).std_dev) for seen, drawn in zip(*sides, strict=True)]
