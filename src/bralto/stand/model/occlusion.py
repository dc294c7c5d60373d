"""Shadow and the share of open sky, by a few rays a pixel and a filter that keeps edges."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.figure.light import cone, hemisphere
from bralto.stand.model.caster import Caster
from bralto.stand.model.mesh import Singles
from bralto.stand.model.seen import BACKDROP, Seen

__all__ = ["light_and_sky", "shared"]

_TILE = 4
"""Neighbours in a square of this side take different rays and share what they found."""

_OFF = np.float32(2e-3)
"""How far a ray starts off its surface, heads."""

_SHADOW_REACH = np.float32(16.0)
"""The figure's shadow is looked for so far from the stand, heads."""


def light_and_sky(
    caster: Caster, seen: Seen, px: Singles, way: Floats, soft_deg: float, rays: int
) -> tuple[Singles, Singles]:
    """How much of the key light and of the sky each pixel has, 0 to 1: two (n,) arrays.

    Grainy: neighbours have cast different rays, and `shared` evens them out.

    Args:
        px: (n, 2) middles of the pixels.
        way: (3,) unit way to the light.
        rays: to the light and to the sky, a pixel each; 0 casts one hard shadow and no sky.
    """
    n = len(seen.owner)
    light, sky = np.ones(n, np.float32), np.ones(n, np.float32)
    near = np.einsum("ij,ij->i", seen.points, seen.points) < _SHADOW_REACH**2
    at = np.nonzero((seen.owner != BACKDROP) & near)[0]
    toward = way.astype(np.float32)
    facing = seen.normals[at] @ toward > 0.0
    light[at[~facing]] = 0.0
    lit = at[facing]
    start = seen.points + _OFF * seen.normals
    if rays == 0:
        free = ~caster.blocked(start[lit], np.broadcast_to(toward, (len(lit), 3)))
        light[lit] = free
        return light, sky
    column, row = px.astype(np.int32).T % _TILE
    turn = column + _TILE * row
    count = rays * _TILE * _TILE
    # Mixed up, so that each pixel's few rays are spread over all of it.
    order = np.random.default_rng(7).permutation(count).reshape(_TILE * _TILE, rays)
    disc = cone(way, soft_deg, count).astype(np.float32)
    light[lit] = np.mean(
        [~caster.blocked(start[lit], disc[order[turn[lit], k]]) for k in range(rays)], axis=0
    )
    dome = hemisphere(count).astype(np.float32)
    frames = _frames(seen.normals[at])
    open_ = np.zeros(len(at), np.float32)
    for k in range(rays):
        local = dome[order[turn[at], k]]
        ways = local[:, :1] * frames[0] + local[:, 1:2] * frames[1] + local[:, 2:] * frames[2]
        open_ += ~caster.blocked(start[at], ways)
    sky[at] = open_ / rays
    return light, sky


def _frames(normals: Singles) -> tuple[Singles, Singles, Singles]:
    """Two ways across each (n, 3) normal, and itself (Duff et al. 2017, JCGT 6)."""
    x, y, z = normals.T
    sign = np.where(z >= 0.0, np.float32(1.0), np.float32(-1.0))
    a = -1.0 / (sign + z)
    b = x * y * a
    first = np.stack([1.0 + sign * x * x * a, sign * b, -sign * x], axis=-1)
    second = np.stack([b, sign + y * y * a, -y], axis=-1)
    return first, second, normals


def shared(
    light: Singles, sky: Singles, seen: Seen, size: tuple[int, int]
) -> tuple[Singles, Singles]:
    """Mean over the tile about each pixel, then over three tiles in a row.

    Of the same part alone, and turned about the same way.
    """
    width, height = size
    both = np.stack([light, sky]).reshape(2, height, width)
    owner = seen.owner.reshape(height, width)
    x, y, z = (seen.normals[:, k].reshape(height, width) for k in range(3))
    for axis, steps in ((0, (-2, -1, 1)), (1, (-2, -1, 1)), (0, (-4, 4)), (1, (-4, 4))):
        total, weight = both.copy(), np.ones((height, width), np.float32)
        for step in steps:
            here, there = _slices(axis, step)
            same = (owner[here] == owner[there]) & (
                x[here] * x[there] + y[here] * y[there] + z[here] * z[there] > 0.9
            )
            total[:, *here] += both[:, *there] * same
            weight[here] += same
        both = total / weight
    return both[0].ravel(), both[1].ravel()


def _slices(axis: int, step: int) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Where pixels have a neighbour ``step`` on, and where those neighbours are."""
    whole = slice(None)
    ahead = slice(step, None) if step > 0 else slice(None, step)
    behind = slice(None, -step) if step > 0 else slice(-step, None)
    return ((behind, whole), (ahead, whole)) if axis == 0 else ((whole, behind), (whole, ahead))
