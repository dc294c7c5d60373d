"""Millimetres without a whole sheet: from one known length, or from one corner and a length.

Both give a `Sheet`, so that everything downstream is as with four corners. What they cannot know,
how aslant the photo was taken, goes into its spread.
"""

from __future__ import annotations

import math

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.study.values import Sheet

__all__ = ["sheet_from_corner", "sheet_from_length"]

Point = tuple[float, float]

_TOO_SHORT = 10.0  # px


def sheet_from_length(
    one: Point, two: Point, mm: float, size: tuple[int, int]
) -> Sheet | NotMeasurable:
    """The whole picture as a sheet, seen straight on, by one length known on it.

    Args:
        one, two: ends of the length, image px; mm: what it is.
        size: the picture's width and height, px.
    """
    length = math.dist(one, two)
    if length < _TOO_SHORT or not mm > 0.0:
        return NotMeasurable(f"a known length needs two ends at least {_TOO_SHORT:g} px apart")
    width, height = (float(side) for side in size)
    corners = ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height))
    return Sheet(corners, (width * mm / length, height * mm / length))


def sheet_from_corner(
    corner: Point, along: Point, other: Point, mm: float
) -> Sheet | NotMeasurable:
    """A square patch of paper by one of its corners, a known length from there along one edge, and
    any place on the other edge.

    The two edges are square to each other on the paper. As far as they are not so in the picture,
    it was taken aslant; where to cannot be told, so that much is the patch's spread.

    Args:
        corner, along, other: image px; mm: from corner to along.
    """
    origin, a, b = (np.array(point) for point in (corner, along, other))
    first, second = a - origin, b - origin
    length, reach = float(np.hypot(*first)), float(np.hypot(*second))
    if min(length, reach) < _TOO_SHORT or not mm > 0.0:
        return NotMeasurable(f"both edges must be shown over at least {_TOO_SHORT:g} px")
    second = second / reach * length
    turn = float(first[0] * second[1] - first[1] * second[0]) / length**2
    if abs(turn) < 0.5:
        return NotMeasurable("the two edges run nearly alike; show two that meet")
    if turn < 0.0:  # corners of a sheet run clockwise
        first, second = second, first
    ends = (origin, origin + first, origin + first + second, origin + second)
    aslant = abs(float(first @ second)) / length**2
    spread = 0.25 * aslant * length
    corners = tuple((float(x), float(y)) for x, y in ends)
    return Sheet(corners, (mm, mm), spread)  # type: ignore[arg-type]
