"""One vectorised formula a kind, value and gradient together.

Every function takes the points of one picture, ``xy`` (p, 2) in the sight frame (y up), and the
rows of m measures of that kind, and gives values (m,) and gradients (m, p, 2) over the points.
Lengths come in the frame's own unit, fractions as 0 at the upper end to 1 at the lower, ratios as a
plain number, tilts and angles in degrees, counter-clockwise positive, in (-180, 180]. Callers must
have asked `degenerate` first.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints

__all__ = ["APART", "FORMULAS", "Formula", "degenerate", "together", "wrap_degrees"]

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


def level_fraction(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Where a point falls along level between a first and a last one."""
    upper, at, lower = rows.T
    length = xy[lower, 0] - xy[upper, 0]
    f = (xy[at, 0] - xy[upper, 0]) / length
    grad, m = _grid(xy, rows)
    grad[m, at, 0] += 1.0 / length
    grad[m, lower, 0] -= f / length
    grad[m, upper, 0] -= (1.0 - f) / length
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


def _both(formula: Formula, xy: Floats, rows: Ints) -> tuple[Floats, Floats, Floats, Floats]:
    """A formula of two points for the first and the second pair of rows of four, in one go."""
    m = len(rows)
    value, grad = formula(xy, np.vstack([rows[:, :2], rows[:, 2:]]))
    return value[:m], grad[:m], value[m:], grad[m:]


def _quotient(length: Formula) -> Formula:
    """The formula |first pair| : |second pair|, lengths by the formula given."""

    def ratio(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
        above, by_above, below, by_below = _both(length, xy, rows)
        value = above / below
        return value, (by_above - value[:, None, None] * by_below) / below[:, None, None]

    return ratio


def angle(xy: Floats, rows: Ints) -> tuple[Floats, Floats]:
    """Tilt of the first pair less tilt of the second, degrees in (-180, 180]."""
    first, by_first, second, by_second = _both(tilt, xy, rows)
    return wrap_degrees(first - second), by_first - by_second


FORMULAS: dict[tuple[str, str], Formula] = {
    ("height", "plumb"): drop,
    ("offset", "level"): aside,
    ("span", "straight"): straight,
    ("span", "plumb"): plumb_span,
    ("span", "level"): level_span,
    ("fraction", "straight"): fraction,
    ("fraction", "plumb"): plumb_fraction,
    ("fraction", "level"): level_fraction,
    ("ratio", "straight"): _quotient(straight),
    ("ratio", "plumb"): _quotient(plumb_span),
    ("ratio", "level"): _quotient(level_span),
    ("tilt", "straight"): tilt,
    ("angle", "straight"): angle,
    ("alignment", "plumb"): aside,  # what should share a vertical misses it along level
    ("alignment", "level"): drop,
}
"""The one table from (kind, along) to its formula."""

APART: dict[tuple[str, str], tuple[tuple[int, int], ...]] = {
    ("span", "straight"): ((0, 1),),
    ("fraction", "straight"): ((0, 2),),
    ("fraction", "plumb"): ((0, 2),),
    ("fraction", "level"): ((0, 2),),
    ("ratio", "straight"): ((0, 1), (2, 3)),
    ("ratio", "plumb"): ((0, 1), (2, 3)),
    ("ratio", "level"): ((0, 1), (2, 3)),
    ("tilt", "straight"): ((0, 1),),
    ("angle", "straight"): ((0, 1), (2, 3)),
}
"""Columns of the points that must not lie in one spot (along that direction) for a value to be."""
_TINY = 1e-12


def together(xy: Floats, first: Ints, second: Ints, plumb: Bools, level: Bools) -> Bools:
    """(k,) array: which pairs of points lie in one spot, at one height or below each other.

    Args:
        first, second: (k,) rows of points.
        plumb, level: (k,) arrays, which pairs must lie apart along that direction; the others
            must lie apart anyhow.
    """
    tiny = _TINY * max(1.0, float(np.abs(xy).max(initial=0.0)))
    delta = np.abs(xy[second] - xy[first])
    apart = np.where(plumb, delta[:, 1], np.where(level, delta[:, 0], delta.max(axis=1)))
    return np.asarray(apart <= tiny)


def degenerate(kind: str, along: str, xy: Floats, rows: Ints) -> Bools:
    """(m,) array: where two points lie together and the formula has no value."""
    lost = np.zeros(len(rows), dtype=np.bool_)
    plumb, level = lost | (along == "plumb"), lost | (along == "level")
    for first, second in APART.get((kind, along), ()):
        lost = lost | together(xy, rows[:, first], rows[:, second], plumb, level)
    return lost


def wrap_degrees(angle: Floats) -> Floats:
    """Any angle brought into (-180, 180]."""
    return -((-angle + 180.0) % 360.0 - 180.0)
