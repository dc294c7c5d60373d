"""Colours: turned wood, plaster and painted boxes under one light and an even sky."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats, Pixels
from bralto.stand.model.form.mesh import Singles
from bralto.stand.model.light.seen import Seen, along

__all__ = ["BOX", "PLASTER", "WOOD", "Paint", "as_linear", "as_srgb", "shade"]


@dataclass(frozen=True, slots=True)
class Paint:
    """What a part is made of: its colour, linear light of red, green, blue, 0 to 1.

    ``grain`` is how strongly year rings show, ``gloss`` how bright its highlight is.
    """

    colour: tuple[float, float, float]
    grain: float = 0.0
    gloss: float = 0.0


WOOD = Paint((0.560, 0.360, 0.195), grain=1.0, gloss=0.045)
PLASTER = Paint((0.690, 0.660, 0.600), gloss=0.012)
BOX = Paint((0.420, 0.395, 0.360), gloss=0.045)
_KEY, _SKY, _BOUNCE = np.float32(1.02), np.float32(0.34), np.float32(0.13)


def shade(
    seen: Seen, light: Singles, sky: Singles, way: Floats, eye: Floats, paints: Sequence[Paint]
) -> Singles:
    """(k, 3) colours of what is seen, linear, 0 to 1.

    Args:
        light, sky: (k,) how much of either it has.
        way, eye: (3,) the way to the light, the place of the lens.
        paints: by owner.
    """
    n, toward = seen.normals, way.astype(np.float32)
    steep = along(n, toward)
    facing = np.maximum(steep, 0.0) * light
    up = 0.5 + 0.5 * n[:, 1]
    shine = _KEY * facing + sky * (_SKY * up + _BOUNCE * (1.0 - up))
    back = eye.astype(np.float32) - seen.points
    away = 1.0 / np.sqrt(along(back, back.T))
    # The cosine between the normal and the way half between lens and light, none of them built.
    mirrored = along(n, back.T) * away + steep
    mirrored /= np.sqrt(np.maximum(2.0 + 2.0 * along(back, toward) * away, np.float32(1e-9)))
    bright = np.nonzero((mirrored > 0.75) & (facing > 0.0))[0]  # elsewhere it is below 0.001
    colour, grain, gloss = (
        np.array([getattr(paint, name) for paint in paints], np.float32)
        for name in ("colour", "grain", "gloss")
    )
    if grain.any():
        shine *= 1.0 + grain[seen.owner] * _grain(seen.rest)
    colours: Singles = colour[seen.owner] * shine[:, None]
    shines = gloss[seen.owner[bright]] * mirrored[bright] ** 24 * light[bright]
    colours[bright] += shines[:, None]
    return colours


def _grain(rest: Singles) -> Singles:
    """(k,) how much lighter a piece of wood is by its year rings, cut along its length."""
    x, y, z = rest.T
    wave = 0.035 * np.sin(2.3 * y + 5.0 * x) + 0.02 * np.sin(5.1 * y)
    rings = np.sin(58.0 * (np.hypot(x + 0.9 + wave, 0.6 * z - 0.35)))
    tone = 0.045 * rings + 0.02 * np.sin(210.0 * x + 9.0 * y)
    return np.asarray(tone, dtype=np.float32)


def _curve(steps: int) -> Pixels:
    """(steps,) uint8: linear light in even steps as sRGB (IEC 61966-2-1)."""
    linear = np.linspace(0.0, 1.0, steps)
    curved = np.where(
        linear <= 0.0031308, 12.92 * linear, 1.055 * np.power(linear, 1 / 2.4) - 0.055
    )
    return (255.0 * curved + 0.5).astype(np.uint8)


def _back() -> Singles:
    """(256,) linear light of sRGB values (IEC 61966-2-1)."""
    curved = np.arange(256) / 255.0
    linear = np.where(curved <= 0.04045, curved / 12.92, ((curved + 0.055) / 1.055) ** 2.4)
    return linear.astype(np.float32)


_SRGB, _LINEAR = _curve(8192), _back()


def as_srgb(linear: Singles) -> Pixels:
    """Linear light, 0 to 1, as 8 bit; what is beyond is cut off."""
    steps = np.clip(linear * np.float32(len(_SRGB) - 1), 0, len(_SRGB) - 1)
    pixels: Pixels = _SRGB[steps.astype(np.int16)]
    return pixels


def as_linear(pixels: Pixels) -> Singles:
    """8 bit as linear light, 0 to 1."""
    light: Singles = _LINEAR[pixels]
    return light
