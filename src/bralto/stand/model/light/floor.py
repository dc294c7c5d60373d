"""The ground and the wall behind the figure: what a picture shows where no part is in the way."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Ints, Pixels
from bralto.core.mannequin.camera import View3D
from bralto.stand.model.form.mesh import Singles
from bralto.stand.model.light.seen import BACKDROP, GROUND, Owners, pixels_of
from bralto.stand.model.light.shade import as_srgb

__all__ = ["UP", "WALL", "Behind", "Floor", "behind", "floor_colours", "floor_under"]

# Linear light, 0 to 1.
WALL = np.array([0.735, 0.715, 0.675], np.float32)
_RING = np.array([0.300, 0.280, 0.250], np.float32)

_FADE = (9.0, 34.0)
"""Distances from the stand between which the ground becomes the wall, heads."""

_AHEAD = 40.0
"""The ground is looked at as far as this behind the figure, heads; then it is wall."""

UP = np.array([0.0, 1.0, 0.0], np.float32)
"""The ground's normal."""


@dataclass(frozen=True, slots=True, eq=False)
class Floor:
    """Where rays come down on the ground.

    Attributes:
        at: (g,) rows of the rays that do, ascending.
        x, z: (g,) where, heads; ``depth`` (g,) along the camera's way, heads.
    """

    at: Ints
    x: Singles
    z: Singles
    depth: Singles

    def only(self, which: Bools) -> Floor:
        """Some of its (g,) places."""
        return Floor(self.at[which], self.x[which], self.z[which], self.depth[which])

    @property
    def points(self) -> Singles:
        """(g, 3) world, heads."""
        return np.stack([self.x, np.zeros_like(self.x), self.z], axis=-1)

    @property
    def out(self) -> Singles:
        """(g,) distances from the stand's middle, heads."""
        out: Singles = np.sqrt(self.x * self.x + self.z * self.z)
        return out


def floor_under(view: View3D, px: Singles) -> Floor:
    """Follow the rays through (n, 2) image px down, as far as the ground goes."""
    across, down, start = view.axes.astype(np.float32)
    eye = view.eye.astype(np.float32)
    limit = np.float32(np.hypot(view.eye[0], view.eye[2]) + _AHEAD)
    fall = px[:, 0] * across[1] + px[:, 1] * down[1] + start[1]
    at = np.nonzero(fall < -eye[1] / limit)[0]
    far = -eye[1] / fall[at]
    u, v = px[at, 0], px[at, 1]
    x = eye[0] + far * (u * across[0] + v * down[0] + start[0])
    z = eye[2] + far * (u * across[2] + v * down[2] + start[2])
    return Floor(at, x, z, far)


def floor_colours(floor: Floor, light: Singles, sky: Singles, ring: float | None) -> Singles:
    """(g, 3) linear colours; ``light``, ``sky`` (g,) what the ground has of them, 0 to 1.

    Args:
        ring: radius of the circle on the ground, heads.
    """
    colours: Singles = WALL * _tones(floor, light, sky)[:, None]
    if ring is not None:
        # As wide as a pencil's line, wider where the ground is seen aslant and far.
        out, blur = floor.out, 0.012 + 0.0006 * floor.depth
        near = np.nonzero(np.abs(out - ring) < 3.0 * blur)[0]
        line = 0.75 * np.exp(-(((out[near] - ring) / blur[near]) ** 2))
        colours[near] += (_RING - colours[near]) * line[:, None]
    return colours


def _tones(floor: Floor, light: Singles, sky: Singles) -> Singles:
    """(g,) how bright the ground is, as a share of the wall."""
    near, far = _FADE
    fade = np.clip((floor.out - np.float32(near)) * np.float32(1.0 / (far - near)), 0.0, 1.0)
    fade *= fade * (3.0 - 2.0 * fade)
    lit = np.float32(0.60) * light + np.float32(0.40) * sky
    lit += (1.0 - lit) * fade
    tones: Singles = (np.float32(0.90) + np.float32(0.10) * fade) * lit
    return tones


@dataclass(frozen=True, slots=True, eq=False)
class Behind:
    """All that n pixels show where nothing stands.

    Attributes:
        floor: the ground. ``owner`` (n,) `GROUND` or `BACKDROP`.
    """

    floor: Floor
    owner: Owners

    def pixels(self, ring: float | None) -> Pixels:
        """(n, 3) uint8, in full light; a copy."""
        return _in_full_light(self, ring).copy()


@lru_cache(maxsize=4)
def _in_full_light(back: Behind, ring: float | None) -> Pixels:
    pixels = np.tile(as_srgb(WALL), (len(back.owner), 1))
    full = np.ones(len(back.floor.at), np.float32)
    pixels[back.floor.at] = as_srgb(floor_colours(back.floor, full, full, ring))
    return pixels


def behind(view: View3D, first: int, last: int) -> Behind:
    """Ground and wall of a picture's pixels from ``first`` to ``last``, row after row.

    Kept: the camera mostly stays where it is.
    """
    eye, turned, centre = (
        tuple(one.ravel().tolist()) for one in (view.eye, view.rotation, view.centre)
    )
    return _behind(eye, turned, view.focal, centre, view.width, view.height, first, last)


@lru_cache(maxsize=4)
def _behind(
    eye: tuple[float, ...], turned: tuple[float, ...], focal: float, centre: tuple[float, ...],
    width: int, height: int, first: int, last: int,
) -> Behind:  # fmt: skip
    rotation = np.array(turned).reshape(3, 3)
    view = View3D(np.array(eye), rotation, focal, np.array(centre), width, height)
    floor = floor_under(view, pixels_of(width, height)[first:last])
    owner = np.full(last - first, BACKDROP, dtype=np.int16)
    owner[floor.at] = GROUND
    owner.setflags(write=False)
    return Behind(floor, owner)
