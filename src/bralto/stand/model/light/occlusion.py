"""Shadow and the share of open sky, by a few rays a pixel and a filter that keeps edges."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.mannequin.light import cone, hemisphere
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.form.mesh import Singles
from bralto.stand.model.light.floor import UP, Floor
from bralto.stand.model.light.seen import Owners, Seen, along

__all__ = ["Mapped", "light_and_sky", "shared"]

Mapped = Callable[[Callable[[Any], Any], Iterable[Any]], Iterable[Any]]

_TILE = 4
"""Neighbours in a square of this side take different rays and share what they found."""

_PAD = 7
"""Px beyond which what a pixel found is not shared."""

_ALIKE = np.float32(0.9)
"""Cosine between normals beyond which neighbours share what they found."""

_OFF = np.float32(2e-3)
"""How far a ray starts off its surface, heads."""

_SKY_REACH = np.float32(4.0)
"""So far from the figure's bounds the ground is asked for its sky, heads; beyond it has all of it
but for a share that no eye sees."""


def light_and_sky(
    caster: Caster, seen: Seen, floor: Floor, px: Singles, way: Floats, soft_deg: float, rays: int
) -> tuple[Singles, Singles]:
    """How much of the key light and of the sky each pixel has, 0 to 1: two (n,) arrays.

    Grainy: neighbours have cast different rays, and `shared` evens them out.

    Args:
        floor: the ground that is seen, none of it hidden.
        px: (n, 2) middles of the pixels.
        way: (3,) unit way to the light.
        rays: to the light and to the sky, a pixel each; 0 casts one hard shadow and no sky.
    """
    light, sky = np.ones(seen.count, np.float32), np.ones(seen.count, np.float32)
    toward = way.astype(np.float32)
    turned = along(seen.normals, toward) > 0.0
    facing = np.nonzero(turned)[0]
    light[seen.at.take(np.nonzero(~turned)[0])] = 0.0
    under = floor.only(_under(caster.mesh.points, floor, way, soft_deg if rays else 0.0))
    lit = np.concatenate([seen.at.take(facing), under.at])
    start = np.concatenate([_off(seen).take(facing, axis=0), under.points + _OFF * UP])
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
    near = floor.only(_beside(caster.mesh.points, floor))
    at = np.concatenate([seen.at, near.at])
    start = np.concatenate([_off(seen), near.points + _OFF * UP])
    dome = hemisphere(count).astype(np.float32)[order]
    normals = np.concatenate([seen.normals, np.broadcast_to(UP, near.points.shape)])
    own, frames = turn[at], _frames(normals)
    open_ = np.zeros(len(at), np.float32)
    for k in range(rays):
        local = dome[own, k]
        ways = local[:, :1] * frames[0] + local[:, 1:2] * frames[1] + local[:, 2:] * frames[2]
        open_ += ~caster.blocked(start, ways)
    sky[at] = open_ / rays
    return light, sky


def _off(seen: Seen) -> Singles:
    """(k, 3) where rays start, a little off what is seen."""
    start: Singles = seen.points + _OFF * seen.normals
    return start


def _under(mesh: Singles, floor: Floor, way: Floats, soft_deg: float) -> Bools:
    """(g,) which points of the ground the mesh's shadow can fall on: bounds along the light."""
    flat = np.array([way[0], way[2]])
    length = float(np.hypot(*flat))
    u = flat / length if length > 1e-6 else np.array([1.0, 0.0])
    high = mesh[:, 1].astype(float)
    fall = mesh[:, [0, 2]] - high[:, None] * (flat / float(way[1]))
    # The light's edge stands lower than its middle: its shadow reaches further.
    lowest = max(float(np.arcsin(way[1])) - np.radians(soft_deg), 0.02)
    more = float(high.max()) * (1.0 / np.tan(lowest) - length / float(way[1]))
    wide = 0.1 + float(high.max()) * np.tan(np.radians(soft_deg)) / float(way[1])
    inside = np.ones(len(floor.x), bool)
    for axis, before in ((u, max(more, wide)), (np.array([-u[1], u[0]]), wide)):
        shadow, there = fall @ axis, floor.x * axis[0] + floor.z * axis[1]
        inside &= (there > shadow.min() - before) & (there < shadow.max() + wide)
    return inside


def _beside(mesh: Singles, floor: Floor) -> Bools:
    """(g,) which points of the ground lie near the mesh."""
    low, high = mesh.min(axis=0) - _SKY_REACH, mesh.max(axis=0) + _SKY_REACH
    inside = (floor.x > low[0]) & (floor.x < high[0])
    return np.asarray(inside & (floor.z > low[2]) & (floor.z < high[2]))


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
    light: Singles, sky: Singles, seen: Seen, owner: Owners, run: Mapped = map
) -> tuple[Singles, Singles]:
    """Mean over the tile about each pixel, then over three tiles in a row: two (n,) arrays.

    Of the same part alone, and turned about the same way.

    Args:
        owner: (h, w) what each pixel sees.
        run: how two stretches of the picture are worked at, one after the other or at once.
    """
    whole = np.stack([light, sky]).reshape(2, *owner.shape)
    # Where neighbours differ; elsewhere the mean is what it was.
    rows, columns = (np.nonzero((whole < 1.0).any(axis=(0, k)))[0] for k in (2, 1))
    if not len(rows):
        return light, sky
    left, right = max(0, columns[0] - _PAD), columns[-1] + _PAD
    top, bottom = max(0, rows[0] - _PAD), min(len(owner), rows[-1] + _PAD)
    normals = np.zeros((3, owner.size), np.float32)
    normals[:, seen.at] = seen.normals.T
    normals = normals.reshape(3, *owner.shape)

    def evened(ends: tuple[int, int]) -> Singles:
        # What lies beside a stretch has its share in it.
        first, last = ends
        around = slice(max(0, first - _PAD), last + _PAD), slice(left, right)
        both = _evened(whole[:, *around], owner[around], normals[:, *around])
        return both[:, first - around[0].start :][:, : last - first]

    middle = (top + bottom) // 2
    halves = list(run(evened, [(top, middle), (middle, bottom)]))
    whole[:, top:bottom, left:right] = np.concatenate(halves, axis=1)
    return whole[0].ravel(), whole[1].ravel()


def _evened(both: Singles, owner: Owners, normals: Singles) -> Singles:
    """`shared` of (2, h, w) light and sky, all of them."""
    x, y, z = normals
    # Each with the one before and the two after it; then with those four on, on either side.
    for axis, steps in ((0, (1, 2)), (1, (1, 2)), (0, (4,)), (1, (4,))):
        total, weight = both.copy(), np.ones(owner.shape, np.float32)
        for step in steps:
            a, b = _slices(axis, step)
            same = owner[a] == owner[b]
            part = same & (owner[a] >= 0)
            same &= ~part | (x[a] * x[b] + y[a] * y[b] + z[a] * z[b] > _ALIKE)
            for here, there in ((b, a), (a, b))[: 1 if step == 2 else 2]:
                total[:, *here] += both[:, *there] * same
                weight[here] += same
        both = total / weight
    return both


def _slices(axis: int, step: int) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Where pixels have a neighbour ``step`` on, and where those neighbours are."""
    whole, first, then = slice(None), slice(None, -step), slice(step, None)
    return ((first, whole), (then, whole)) if axis == 0 else ((whole, first), (whole, then))
