"""Colours: turned wood under one light and an even sky, a pale ground that fades into the wall."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats
from bralto.stand.model.mesh import Singles
from bralto.stand.model.seen import BACKDROP, GROUND, Seen, along

__all__ = ["shade"]

# Linear light, 0 to 1.
_WOOD = np.array([0.560, 0.360, 0.195], np.float32)
_BOX = np.array([0.420, 0.395, 0.360], np.float32)
_WALL = np.array([0.735, 0.715, 0.675], np.float32)
_RING = np.array([0.300, 0.280, 0.250], np.float32)
_KEY, _SKY, _BOUNCE = np.float32(1.02), np.float32(0.34), np.float32(0.13)

_FADE = (9.0, 34.0)
"""Distances from the stand between which the ground becomes the wall, heads."""


def shade(
    seen: Seen,
    light: Singles,
    sky: Singles,
    way: Floats,
    eye: Floats,
    boxes: tuple[int, ...],
    ring: float | None,
) -> Singles:
    """(n, 3) colours, linear, 0 to 1.

    Args:
        boxes: owners that are no wood. ring: radius of the circle on the ground, heads.
    """
    colours = np.broadcast_to(_WALL, (len(seen.owner), 3)).copy()
    ground = np.nonzero(seen.owner == GROUND)[0]
    colours[ground] = _ground(seen, ground, light, sky, ring)
    wood = np.nonzero(seen.owner > BACKDROP + 1)[0]
    n, toward = seen.normals[wood], way.astype(np.float32)
    facing = np.maximum(along(n, toward), 0.0) * light[wood]
    up = 0.5 + 0.5 * n[:, 1]
    shine = _KEY * facing + sky[wood] * (_SKY * up + _BOUNCE * (1.0 - up))
    back = eye.astype(np.float32) - seen.points[wood]
    back /= np.sqrt(np.einsum("ij,ij->i", back, back))[:, None]
    half = back + toward
    half /= np.sqrt(np.einsum("ij,ij->i", half, half))[:, None]
    mirrored = np.einsum("ij,ij->i", n, half)
    bright = np.nonzero((mirrored > 0.75) & (facing > 0.0))[0]  # elsewhere it is below 0.001
    gloss = np.float32(0.045) * mirrored[bright] ** 24 * light[wood[bright]]
    base = _WOOD * _grain(seen.rest[wood])[:, None]
    if boxes:
        base[np.isin(seen.owner[wood], boxes)] = _BOX
    lit = base * shine[:, None]
    lit[bright] += gloss[:, None]
    colours[wood] = lit
    return colours


def _grain(rest: Singles) -> Singles:
    """Year rings of a piece of wood, cut along its length."""
    x, y, z = rest.T
    wave = 0.035 * np.sin(2.3 * y + 5.0 * x) + 0.02 * np.sin(5.1 * y)
    rings = np.sin(58.0 * (np.hypot(x + 0.9 + wave, 0.6 * z - 0.35)))
    tone = 1.0 + 0.045 * rings + 0.02 * np.sin(210.0 * x + 9.0 * y)
    return np.asarray(tone, dtype=np.float32)


def _ground(
    seen: Seen, at: np.ndarray, light: Singles, sky: Singles, ring: float | None
) -> Singles:
    points = seen.points[at]
    out = np.sqrt(points[:, 0] ** 2 + points[:, 2] ** 2)
    fade = np.clip((out - _FADE[0]) / (_FADE[1] - _FADE[0]), 0.0, 1.0)
    fade = fade * fade * (3.0 - 2.0 * fade)
    lit = 0.60 * light[at] + 0.40 * sky[at]
    lit = lit + (1.0 - lit) * fade
    colours: Singles = _WALL * ((np.float32(0.90) + np.float32(0.10) * fade) * lit)[:, None]
    if ring is not None:
        # As wide as a pencil line, wider where the ground is seen aslant and far.
        blur = 0.012 + 0.0006 * seen.depth[at]
        near = np.nonzero(np.abs(out - ring) < 3.0 * blur)[0]
        line = 0.75 * np.exp(-(((out[near] - ring) / blur[near]) ** 2))
        colours[near] += (_RING - colours[near]) * line[:, None]
    return colours
