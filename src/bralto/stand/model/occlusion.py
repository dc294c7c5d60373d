"""Shadow and the share of open sky, by a few rays a pixel and a filter that keeps edges."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.figure.light import cone, hemisphere
from bralto.stand.model.caster import Caster
from bralto.stand.model.mesh import Singles
from bralto.stand.model.seen import GROUND, Seen, along

__all__ = ["light_and_sky", "shared"]

_TILE = 4
"""Neighbours in a square of this side take different rays and share what they found."""

_PAD = 7
"""Px beyond which what a pixel found is not shared."""

_OFF = np.float32(2e-3)
"""How far a ray starts off its surface, heads."""

_SKY_REACH = np.float32(4.0)
"""So far from the figure's bounds the ground is asked for its sky, heads; beyond it has all of it
but for a share that no eye sees."""


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
    toward = way.astype(np.float32)
    wood = np.nonzero(seen.owner >= 0)[0]
    ground = np.nonzero(seen.owner == GROUND)[0]
    facing = along(seen.normals[wood], toward) > 0.0
    light[wood[~facing]] = 0.0
    shaded = _under(caster.mesh.points, seen.points[ground], way, soft_deg if rays else 0.0)
    lit = np.concatenate([wood[facing], ground[shaded]])
    start = seen.points[lit] + _OFF * seen.normals[lit]
    if rays == 0:
        light[lit] = ~caster.blocked(start, np.broadcast_to(toward, (len(lit), 3)))
        return light, sky
    column, row = px.astype(np.int32).T % _TILE
    turn = column + _TILE * row
    count = rays * _TILE * _TILE
    # Mixed up, so that each pixel's few rays are spread over all of it.
    order = np.random.default_rng(7).permutation(count).reshape(_TILE * _TILE, rays)
    disc = cone(way, soft_deg, count).astype(np.float32)[order]
    free = sum(~caster.blocked(start, disc[turn[lit], k]) for k in range(rays))
    light[lit] = np.asarray(free, dtype=np.float32) / rays
    near = _beside(caster.mesh.points, seen.points[ground])
    at = np.concatenate([wood, ground[near]])
    dome = hemisphere(count).astype(np.float32)[order]
    normals = seen.normals[at]
    start, frames, own = seen.points[at] + _OFF * normals, _frames(normals), turn[at]
    open_ = np.zeros(len(at), np.float32)
    for k in range(rays):
        local = dome[own, k]
        ways = local[:, :1] * frames[0] + local[:, 1:2] * frames[1] + local[:, 2:] * frames[2]
        open_ += ~caster.blocked(start, ways)
    sky[at] = open_ / rays
    return light, sky


def _under(mesh: Singles, points: Singles, way: Floats, soft_deg: float) -> Bools:
    """(n,) which points of the ground the mesh's shadow can fall on: bounds along the light."""
    flat = np.array([way[0], way[2]])
    length = float(np.hypot(*flat))
    u = flat / length if length > 1e-6 else np.array([1.0, 0.0])
    high = mesh[:, 1].astype(float)
    fall = mesh[:, [0, 2]] - high[:, None] * (flat / float(way[1]))
    # The light's edge stands lower than its middle: its shadow reaches further.
    lowest = max(float(np.arcsin(way[1])) - np.radians(soft_deg), 0.02)
    more = float(high.max()) * (1.0 / np.tan(lowest) - length / float(way[1]))
    wide = 0.1 + float(high.max()) * np.tan(np.radians(soft_deg)) / float(way[1])
    inside = np.ones(len(points), bool)
    for axis, before in ((u, max(more, wide)), (np.array([-u[1], u[0]]), wide)):
        shadow, there = fall @ axis, points[:, 0] * axis[0] + points[:, 2] * axis[1]
        inside &= (there > shadow.min() - before) & (there < shadow.max() + wide)
    return inside


def _beside(mesh: Singles, points: Singles) -> Bools:
    """(n,) which points of the ground lie near the mesh."""
    low, high = mesh.min(axis=0) - _SKY_REACH, mesh.max(axis=0) + _SKY_REACH
    inside = (points[:, 0] > low[0]) & (points[:, 0] < high[0])
    return np.asarray(inside & (points[:, 2] > low[2]) & (points[:, 2] < high[2]))


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
    whole = np.stack([light, sky]).reshape(2, height, width)
    # Where neighbours differ; elsewhere the mean is what it was.
    rows, columns = (np.nonzero((whole < 1.0).any(axis=(0, k)))[0] for k in (2, 1))
    if not len(rows):
        return light, sky
    crop = (
        slice(max(0, rows[0] - _PAD), rows[-1] + _PAD),
        slice(max(0, columns[0] - _PAD), columns[-1] + _PAD),
    )
    both = whole[:, *crop]
    owner = seen.owner.reshape(height, width)[crop]
    height, width = owner.shape
    normals = seen.normals.reshape(*whole.shape[1:], 3)[crop]
    x, y, z = (np.ascontiguousarray(normals[..., k]) for k in range(3))
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
    whole[:, *crop] = both
    return whole[0].ravel(), whole[1].ravel()


def _slices(axis: int, step: int) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Where pixels have a neighbour ``step`` on, and where those neighbours are."""
    whole = slice(None)
    ahead = slice(step, None) if step > 0 else slice(None, step)
    behind = slice(None, -step) if step > 0 else slice(-step, None)
    return ((behind, whole), (ahead, whole)) if axis == 0 else ((whole, behind), (whole, ahead))
