"""Paper that curls at its edges: how far they leave the lines between its corners, taken out.

Of a curled sheet the corners tell where it would lie flat. How far each edge leaves the line
between its corners is seen; how far into the sheet it curls is not. Here that fades with the square
of the distance from the middle of the sheet, between what paper does that curls over its outer
seventh, its outer quarter, its outer half or throughout; how far these lie apart is doubt (all
chosen here).
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bralto.core.arrays import Floats

__all__ = [
    "FLAT",
    "Bends",
    "bent",
    "curls_too_far",
    "flattened",
    "of_other_corners",
    "outline",
    "worst_doubt",
]

Bends = tuple[tuple[float, float, float], ...]
"""Of the upper, right, lower and left side: how far it lies outside the line between its corners at
a quarter, half and three quarters of the way clockwise, image px; () for a flat sheet."""

FLAT: Bends = ()

_AT = np.array([0.25, 0.5, 0.75])
_MISSED = 1.2
"""SD of that fading as a share of the bend, over depth^2 sqrt(1 - depth): what lies between those
four papers, to within 0.06 of each of their SDs at a quarter, half, three and nine tenths."""

_ROUNDS, _SETTLED = 25, 1e-9
"""Rounds at most, and px by which the last one may still move a place."""

_STEP = 1.0
"""Image px over which a slope is taken."""

_BEYOND = 1.2
"""Depth towards a side, 1 at the side itself, from which on nothing bends any more."""


_FARTHEST = 0.12
"""Of the sheet's shortest side: what bends further is not paper that curls (chosen here)."""


def curls_too_far(corners: Floats, bends: Bends) -> bool:
    """Whether edges leave the lines between the corners by more than paper that is drawn on."""
    sides = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    return bool(np.abs(np.array(bends)).max(initial=0.0) > _FARTHEST * sides.min())


def worst_doubt(bends: Bends) -> float:
    """SD of the mark that a bend leaves most unsure, four fifths of the way to its edge, px."""
    depth = 0.8  # where d^2 sqrt(1 - d) is largest
    most = _MISSED * depth**2 * np.sqrt(1.0 - depth)
    return float(most * np.abs(np.array(bends)).max(initial=0.0))


def bent(corners: Floats, bends: Bends, to_unit: Floats, flat: Floats) -> Floats:
    """Where places of the flat sheet lie in the photo.

    Args:
        corners: (4, 2) array, image px, clockwise from the top-left.
        bends: see `Bends`.
        to_unit: (3, 3) homography from image px of the flat sheet to its width and height as 1.
        flat: (n, 2) array, image px of the sheet as if it lay flat.

    Returns:
        (n, 2) array, image px.
    """
    return flat if not bends else flat + _away(corners, bends, to_unit, flat)[0]


def flattened(
    corners: Floats, bends: Bends, to_unit: Floats, xy: Floats
) -> tuple[Floats, Floats, Floats]:
    """Where places in the photo would lie if the sheet lay flat; arguments as of `bent`.

    Returns:
        (n, 2) image px; the Jacobian at each (n, 2, 2); and (n,) the SD that the way a bend fades
        leaves, image px.
    """
    if not bends:
        return xy, np.broadcast_to(np.eye(2), (len(xy), 2, 2)), np.zeros(len(xy))
    flat = xy
    for _ in range(_ROUNDS):  # a bend changes slowly: each round leaves half of what is off at most
        before, flat = flat, xy - _away(corners, bends, to_unit, flat)[0]
        if np.abs(flat - before).max(initial=0.0) < _SETTLED:
            break
    slopes = [
        (
            _away(corners, bends, to_unit, flat + step)[0]
            - _away(corners, bends, to_unit, flat - step)[0]
        )
        / (2.0 * _STEP)
        for step in _STEP * np.eye(2)
    ]
    jacobian = np.linalg.inv(np.asarray(np.eye(2) + np.stack(slopes, axis=2), np.float64))
    return flat, jacobian, _away(corners, bends, to_unit, flat)[1]


def outline(corners: Floats, bends: Bends, count: int = 24) -> Floats:
    """The sheet's edge as it curls, (4 count, 2) array, image px, clockwise from the first corner;
    arguments as of `bent`."""
    way = np.arange(count) / count
    along, outward = _sides(corners)
    sides = [
        corner + way[:, None] * run + (_bend_at(bend, way)[:, None] * normal if bends else 0.0)
        for corner, run, normal, bend in zip(
            corners, along, outward, bends or 4 * ((0.0, 0.0, 0.0),), strict=True
        )
    ]
    found: Floats = np.concatenate(sides)
    return found


def _sides(corners: Floats) -> tuple[Floats, Floats]:
    """(4, 2) from each corner to the next, and the unit vector out of the sheet there."""
    along = np.roll(corners, -1, axis=0) - corners
    outward = np.column_stack([along[:, 1], -along[:, 0]]) / np.linalg.norm(
        along, axis=1, keepdims=True
    )
    turn = along[0, 0] * along[1, 1] - along[0, 1] * along[1, 0]
    return along, outward * np.sign(turn)


def of_other_corners(bends: Bends, order: Sequence[int]) -> Bends:
    """The bends where the corners are taken in another order; flat where two that follow each
    other are no neighbours.

    Args:
        order: for each new corner which of the old ones it is.
    """
    found = []
    for here, following in zip(order, (*order[1:], order[0]), strict=True):
        if not bends or (following - here) % 4 not in {1, 3}:
            return FLAT
        same = (following - here) % 4 == 1
        a, b, c = bends[here if same else following]
        found.append((a, b, c) if same else (c, b, a))
    return tuple(found)


def _away(corners: Floats, bends: Bends, to_unit: Floats, flat: Floats) -> tuple[Floats, Floats]:
    """(n, 2) how far each place of the flat sheet is moved, and (n,) the doubt of it, image px."""
    lifted = np.column_stack([flat, np.ones(len(flat))]) @ to_unit.T
    s, t = (lifted[:, :2] / lifted[:, 2:]).T
    outward = _sides(corners)[1]
    moved, doubt = np.zeros_like(flat), np.zeros(len(flat))
    sides = ((s, 1.0 - t), (t, s), (1.0 - s, t), (1.0 - t, 1.0 - s))
    for (way, depth), bend, normal in zip(sides, bends, outward, strict=True):
        share = np.square(np.clip(2.0 * np.minimum(depth, _BEYOND) - 1.0, 0.0, None))
        size = _bend_at(bend, np.clip(way, 0.0, 1.0))
        moved += (share * size)[:, None] * normal
        inside = np.clip(depth, 0.0, 1.0)
        missed = _MISSED * np.square(inside) * np.sqrt(1.0 - inside)
        doubt += np.square(missed * size)
    return moved, np.sqrt(doubt)


def _bend_at(bend: tuple[float, float, float], way: Floats) -> Floats:
    """The bend along a side, 0 at both corners: a polynomial through the three values."""
    room = way * (1.0 - way)
    values = np.array(bend) / (_AT * (1.0 - _AT))
    a, b, c = (
        (way - _AT[(i + 1) % 3]) * (way - _AT[(i + 2) % 3])
        / ((_AT[i] - _AT[(i + 1) % 3]) * (_AT[i] - _AT[(i + 2) % 3]))
        for i in range(3)
    )  # fmt: skip
    found: Floats = room * (values[0] * a + values[1] * b + values[2] * c)
    return found
