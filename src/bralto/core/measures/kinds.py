"""One vectorised formula a kind, value and gradient together.

Every function takes the points of one picture, ``xy`` (p, 2) in the sight frame (y up), and the
rows of m measures of that kind, and gives values (m,) and gradients (m, p, 2) over the points.
Lengths come in the frame's own unit, fractions as 0 at the upper end to 1 at the lower, tilts in
degrees, counter-clockwise positive, in (-180, 180]. Callers must have asked `degenerate` first.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints

__all__ = ["FORMULAS", "degenerate", "wrap_degrees"]

Formula = Callable[[Floats, Ints], tuple[Floats, Floats]]


def _grid(xy: Floats, rows: Ints) -> tuple[Floats, Ints]:
    return np.zeros((len(rows), len(xy), 2)), np.arange(len(rows))


def drop(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """How far the second point lies below the first, along plumb."""
    first, second = rows.T
    grad, m = _grid(xy, rows)
    grad[m, first, 1] += 1.0
    grad[m, second, 1] -= 1.0
    return xy[first, 1] - xy[second, 1], grad


def aside(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """How far the second point lies to the right of the first, along level."""
    first, second = rows.T
    grad, m = _grid(xy, rows)
    grad[m, first, 0] -= 1.0
    grad[m, second, 0] += 1.0
    return xy[second, 0] - xy[first, 0], grad


def straight(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Straight distance of two points."""
    first, second = rows.T
    delta = xy[second] - xy[first]
    length = np.hypot(delta[:, 0], delta[:, 1])
    unit = delta / length[:, None]
    grad, m = _grid(xy, rows)
    grad[m, first] -= unit
    grad[m, second] += unit
    return length, grad


def _absolute(value: Floats, grad: Floats) -> tuple[Floats, Floats]:
    sign = np.where(value < 0.0, -1.0, 1.0)
    return value * sign, grad * sign[:, None, None]


def plumb_span(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Distance of two points along plumb, never negative."""
    return _absolute(*drop(xy, rows))


def level_span(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Distance of two points along level, never negative."""
    return _absolute(*aside(xy, rows))


def fraction(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Where a point's foot falls on the axis from an upper to a lower point.

    f = (a . d) / (d . d), d = lower - upper, a = at - upper.
    """
    upper, at, lower = rows.T
    d, a = xy[lower] - xy[upper], xy[at] - xy[upper]
    dd = np.sum(d * d, axis=1)
    f = np.sum(a * d, axis=1) / dd
    by_at = d / dd[:, None]
    by_lower = (a - 2.0 * f[:, None] * d) / dd[:, None]
    grad, m = _grid(xy, rows)
    grad[m, at] += by_at
    grad[m, lower] += by_lower
    grad[m, upper] -= by_at + by_lower
    return f, grad


def plumb_fraction(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Where a point's height falls between an upper and a lower point's."""
    upper, at, lower = rows.T
    length = xy[upper, 1] - xy[lower, 1]
    f = (xy[upper, 1] - xy[at, 1]) / length
    grad, m = _grid(xy, rows)
    grad[m, at, 1] -= 1.0 / length
    grad[m, lower, 1] += f / length
    grad[m, upper, 1] += (1.0 - f) / length
    return f, grad


def tilt(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Angle of the directed line against level, degrees, counter-clockwise positive."""
    first, second = rows.T
    delta = xy[second] - xy[first]
    squared = np.sum(delta * delta, axis=1)
    turn = np.degrees(np.column_stack([-delta[:, 1], delta[:, 0]]) / squared[:, None])
    grad, m = _grid(xy, rows)
    grad[m, first] -= turn
    grad[m, second] += turn
    return np.degrees(np.arctan2(delta[:, 1], delta[:, 0])), grad


FORMULAS: dict[tuple[str, str], Formula] = {
    ("height", "plumb"): drop,
    ("offset", "level"): aside,
    ("span", "straight"): straight,
    ("span", "plumb"): plumb_span,
    ("span", "level"): level_span,
    ("fraction", "straight"): fraction,
    ("fraction", "plumb"): plumb_fraction,
    ("tilt", "straight"): tilt,
}
"""The one table from (kind, along) to its formula."""

_CAN_FAIL = {
    ("span", "straight"),
    ("fraction", "straight"),
    ("fraction", "plumb"),
    ("tilt", "straight"),
}
_TINY = 1e-12


def degenerate(kind: str, along: str, xy: Floats, rows: Ints) -> Bools:
    """(m,) array: where two points lie in one spot (or height) and the formula has no value."""
    if (kind, along) not in _CAN_FAIL:
        return np.zeros(len(rows), dtype=np.bool_)
    delta = np.abs(xy[rows[:, -1]] - xy[rows[:, 0]])
    tiny = _TINY * max(1.0, float(np.abs(xy).max()))
    if along == "plumb":
        return np.asarray(delta[:, 1] <= tiny)
    return np.asarray(delta.max(axis=1) <= tiny)


def wrap_degrees(angle: Floats) -> Floats:
    """Any angle brought into (-180, 180]."""
    return -((-angle + 180.0) % 360.0 - 180.0)
