"""One vectorised formula a kind, value and gradient together.

Every function takes the points of m measures of that kind, ``at`` (m, k, 2) in the sight frame (y
up), and gives values (m,) and gradients (m, k, 2) over those points. Lengths come in the frame's
own unit, fractions as 0 at the upper end to 1 at the lower, ratios as a plain number, tilts and
angles in degrees, counter-clockwise positive, in (-180, 180]. Callers must have asked `degenerate`
first.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.views.model import Along, MeasureKind

__all__ = [
    "APART", "FORMULAS", "Formula", "counted_apart", "degenerate", "fold_degrees", "in_one_spot",
    "together", "wrap_degrees",
]  # fmt: skip

Formula = Callable[[Floats], tuple[Floats, Floats]]
_Angle = TypeVar("_Angle", float, Floats)

_BY_DROP = np.array([[0.0, 1.0], [0.0, -1.0]])
_BY_ASIDE = np.array([[-1.0, 0.0], [1.0, 0.0]])


def drop(at: Floats) -> tuple[Floats, Floats]:
    """How far the second point lies below the first, along plumb."""
    return at[:, 0, 1] - at[:, 1, 1], np.broadcast_to(_BY_DROP, at.shape)


def aside(at: Floats) -> tuple[Floats, Floats]:
    """How far the second point lies to the right of the first, along level."""
    return at[:, 1, 0] - at[:, 0, 0], np.broadcast_to(_BY_ASIDE, at.shape)


def _of_two(by_second: Floats) -> Floats:
    """(m, 2, 2) gradient of what depends on the second point less the first alone."""
    # Half as dear as to stack them; the moves of a list are tried by the thousand.
    both = np.empty((len(by_second), 2, 2))
    np.negative(by_second, out=both[:, 0])
    both[:, 1] = by_second
    return both


def straight(at: Floats) -> tuple[Floats, Floats]:
    """Straight distance of two points."""
    delta = at[:, 1] - at[:, 0]
    length: Floats = np.hypot(delta[:, 0], delta[:, 1])
    return length, _of_two(delta / length[:, None])


def _absolute(value: Floats, gradient: Floats) -> tuple[Floats, Floats]:
    sign = np.where(value < 0.0, -1.0, 1.0)
    return np.abs(value), gradient * sign[:, None, None]


def plumb_span(at: Floats) -> tuple[Floats, Floats]:
    """Distance of two points along plumb, never negative."""
    return _absolute(*drop(at))


def level_span(at: Floats) -> tuple[Floats, Floats]:
    """Distance of two points along level, never negative."""
    return _absolute(*aside(at))


def fraction(at: Floats) -> tuple[Floats, Floats]:
    """Where a point's foot falls on the axis from an upper to a lower point.

    f = (a . d) / (d . d), d = lower - upper, a = at - upper.
    """
    upper, middle, lower = at[:, 0], at[:, 1], at[:, 2]
    d, a = lower - upper, middle - upper
    dd = np.sum(d * d, axis=1)
    f = np.sum(a * d, axis=1) / dd
    gradient = np.empty_like(at)
    gradient[:, 1] = d / dd[:, None]
    gradient[:, 2] = (a - 2.0 * f[:, None] * d) / dd[:, None]
    gradient[:, 0] = -gradient[:, 1] - gradient[:, 2]
    return f, gradient


def _fraction_along(axis: int) -> Formula:
    """The formula of a fraction whose axis runs along one coordinate."""

    def along(at: Floats) -> tuple[Floats, Floats]:
        upper, middle, lower = at[:, 0, axis], at[:, 1, axis], at[:, 2, axis]
        length = lower - upper
        f = (middle - upper) / length
        gradient = np.zeros_like(at)
        gradient[:, 0, axis] = (f - 1.0) / length
        gradient[:, 1, axis] = 1.0 / length
        gradient[:, 2, axis] = -f / length
        return f, gradient

    return along


def tilt(at: Floats) -> tuple[Floats, Floats]:
    """Angle of the directed line against level, degrees, counter-clockwise positive."""
    delta = at[:, 1] - at[:, 0]
    x, y = delta[:, 0], delta[:, 1]
    per = np.degrees(1.0) / (x * x + y * y)
    turn = np.empty_like(delta)
    turn[:, 0], turn[:, 1] = -y * per, x * per
    return np.degrees(np.arctan2(y, x)), _of_two(turn)


def _both(formula: Formula, at: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    """A formula of two points for the first and the second pair of four, in one go."""
    value, gradient = formula(at.reshape(-1, 2, 2))
    value, gradient = value.reshape(-1, 2), gradient.reshape(-1, 2, 2, 2)
    return value[:, 0], gradient[:, 0], value[:, 1], gradient[:, 1]


def _quotient(length: Formula) -> Formula:
    """The formula |first pair| : |second pair|, lengths by the formula given."""

    def ratio(at: Floats) -> tuple[Floats, Floats]:
        above, by_above, below, by_below = _both(length, at)
        value, per = above / below, (1.0 / below)[:, None, None]
        return value, np.hstack([by_above * per, -value[:, None, None] * per * by_below])

    return ratio


def _of_both(at: Floats) -> tuple[Floats, Floats]:
    """The formula |first pair| : mean of |second pair| and |third pair|, straight distances."""
    value, gradient = straight(at.reshape(-1, 2, 2))
    lengths, by = value.reshape(-1, 3), gradient.reshape(-1, 3, 2, 2)
    mean = 0.5 * (lengths[:, 1] + lengths[:, 2])
    ratio, per = lengths[:, 0] / mean, (1.0 / mean)[:, None, None]
    by_below = -0.5 * ratio[:, None, None] * per
    return ratio, np.hstack([by[:, 0] * per, by_below * by[:, 1], by_below * by[:, 2]])


def angle(at: Floats) -> tuple[Floats, Floats]:
    """Tilt of the first pair less tilt of the second, degrees in (-180, 180]."""
    first, by_first, second, by_second = _both(tilt, at)
    return wrap_degrees(first - second), np.hstack([by_first, -by_second])


FORMULAS: dict[tuple[MeasureKind, Along], Formula] = {
    ("height", "plumb"): drop,
    ("offset", "level"): aside,
    ("span", "straight"): straight,
    ("span", "plumb"): plumb_span,
    ("span", "level"): level_span,
    ("fraction", "straight"): fraction,
    ("fraction", "plumb"): _fraction_along(1),
    ("fraction", "level"): _fraction_along(0),
    ("ratio", "straight"): _quotient(straight),
    ("ratio", "plumb"): _quotient(plumb_span),
    ("ratio", "level"): _quotient(level_span),
    ("ratio", "both"): _of_both,
    ("tilt", "straight"): tilt,
    ("angle", "straight"): angle,
    ("alignment", "plumb"): aside,  # what should share a vertical misses it along level
    ("alignment", "level"): drop,
    ("balance", "level"): aside,  # the plumb through the centre of mass misses the feet's middle
}
"""The one table from (kind, along) to its formula."""

APART: dict[tuple[MeasureKind, Along], tuple[tuple[int, int], ...]] = {
    ("span", "straight"): ((0, 1),),
    ("fraction", "straight"): ((0, 2),),
    ("fraction", "plumb"): ((0, 2),),
    ("fraction", "level"): ((0, 2),),
    ("ratio", "straight"): ((0, 1), (2, 3)),
    ("ratio", "plumb"): ((0, 1), (2, 3)),
    ("ratio", "level"): ((0, 1), (2, 3)),
    ("ratio", "both"): ((0, 1), (2, 3), (4, 5)),
    ("tilt", "straight"): ((0, 1),),
    ("angle", "straight"): ((0, 1), (2, 3)),
}
"""Columns of the points that must not lie in one spot (along that direction) for a value to be."""
_TINY = 1e-12


def together(xy: Floats, first: Ints, second: Ints, counted: Floats) -> Bools:
    """(k,) array: which pairs of points lie in one spot, at one height or below each other.

    Args:
        first, second: (k,) rows of points.
        counted: (k, 2) array, 0 where how far a pair lies apart along x or y does not count, see
            `counted_apart`.
    """
    delta = np.abs(xy[second] - xy[first]) * counted
    return np.asarray(delta.max(axis=1) <= _tiny(xy))


def in_one_spot(xy: Floats, first: int, second: int) -> bool:
    """Whether two points do, along no direction."""
    return bool(np.abs(xy[second] - xy[first]).max() <= _tiny(xy))


def _tiny(xy: Floats) -> float:
    return _TINY * max(1.0, float(np.abs(xy).max(initial=0.0)))


def counted_apart(along: Along) -> tuple[float, float]:
    """What counts of how far two points of a measure along a direction lie apart, along x and y."""
    return float(along != "plumb"), float(along != "level")


def degenerate(kind: MeasureKind, along: Along, xy: Floats, rows: Ints) -> Bools:
    """(m,) array: where two points lie together and the formula has no value."""
    lost = np.zeros(len(rows), dtype=np.bool_)
    counted = np.array([counted_apart(along)])
    for first, second in APART.get((kind, along), ()):
        lost = lost | together(xy, rows[:, first], rows[:, second], counted)
    return lost


def wrap_degrees(angle: _Angle) -> _Angle:
    """Any angle brought into (-180, 180]."""
    return -((-angle + 180.0) % 360.0 - 180.0)


def fold_degrees(angle: _Angle) -> _Angle:
    """The direction of a line without ends, degrees in (-90, 90]."""
    return -((-angle + 90.0) % 180.0 - 90.0)
