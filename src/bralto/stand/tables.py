"""What a sheet lies on: table tops without names, made from noise."""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np

from bralto.core.arrays import Pixels

__all__ = ["TABLES", "table"]

TABLES = ("wood", "cloth", "white", "cluttered")
"""Boards with grain, a dark cloth, a white table, and a desk with things on it."""

_TILE = 1024
_MM = 0.9  # mm a texel


def table(name: str, rng: np.random.Generator) -> Callable[[Pixels, Pixels], Pixels]:
    """What gives the (h, w, 3) colours of a table at places u, v (h, w), mm, 0 to 255."""
    tile = {"wood": _wood, "cloth": _cloth, "white": _white, "cluttered": _cluttered}[name](rng)
    shift = rng.uniform(0, _TILE, 2).astype(np.float32)
    angle = rng.uniform(0, np.pi)
    c, s = np.float32(np.cos(angle) / _MM), np.float32(np.sin(angle) / _MM)

    def at(u: Pixels, v: Pixels) -> Pixels:
        # Remap takes no wrapped borders over many turns of the tile: fold by hand.
        x, y = (_folded(one) for one in (c * u - s * v + shift[0], s * u + c * v + shift[1]))
        found: Pixels = cv2.remap(tile, x, y, cv2.INTER_LINEAR)
        return found

    return at


def _folded(texels: Pixels) -> Pixels:
    turn = np.float32(_TILE - 1)
    folded: Pixels = texels - turn * np.floor(texels / turn)
    return folded


def _noise(rng: np.random.Generator, blur: tuple[float, float]) -> Pixels:
    """Smooth noise of SD 1, blurred along x and y by texels; broad noise is made small."""
    shrink = [max(1, int(by / 4.0)) for by in blur]
    size = (_TILE // shrink[1] + 2, _TILE // shrink[0] + 2)
    raw = rng.normal(0.0, 1.0, size).astype(np.float32)
    soft = cv2.GaussianBlur(raw, (0, 0), sigmaX=blur[0] / shrink[0], sigmaY=blur[1] / shrink[1])
    soft = cv2.resize(soft, (_TILE, _TILE), interpolation=cv2.INTER_CUBIC)
    scaled: Pixels = (soft - soft.mean()) / max(float(soft.std()), 1e-6)
    return scaled


def _coloured(tone: Pixels, colour: tuple[float, float, float]) -> Pixels:
    found: Pixels = np.clip(tone[..., None] * np.array(colour, dtype=np.float32), 0, 255)
    return found


def _wood(rng: np.random.Generator) -> Pixels:
    grain = (
        0.10 * _noise(rng, (60, 1.5)) + 0.06 * _noise(rng, (18, 0.8)) + 0.08 * _noise(rng, (90, 25))
    )
    boards = np.ones((_TILE, 1), dtype=np.float32)
    for seam in range(0, _TILE, 128):
        boards[seam : seam + 3] = 0.55
    tone = (1.0 + grain) * boards * float(rng.uniform(0.75, 1.15))
    return _coloured(tone, (171, 126, 84))


def _cloth(rng: np.random.Generator) -> Pixels:
    x = np.arange(_TILE, dtype=np.float32)
    weave = 0.08 * np.sin(x * 1.9)[None] + 0.08 * np.sin(x * 1.7)[:, None]
    tone = 1.0 + weave + 0.10 * _noise(rng, (1.2, 1.2)) + 0.15 * _noise(rng, (60, 60))
    return _coloured(tone.astype(np.float32), (62, 68, 78))


def _white(rng: np.random.Generator) -> Pixels:
    tone = 1.0 + 0.012 * _noise(rng, (2, 2)) + 0.03 * _noise(rng, (120, 120))
    return _coloured(tone, (226, 225, 222))


def _cluttered(rng: np.random.Generator) -> Pixels:
    """A grey desk with books, pencils and cups: straight edges and light things that mislead."""
    tile = _coloured(1.0 + 0.04 * _noise(rng, (3, 3)), (128, 122, 116))
    for _ in range(26):
        x, y = rng.uniform(0, _TILE, 2)
        size = (float(rng.uniform(30, 150)), float(rng.uniform(4, 110)))
        box = cv2.boxPoints(((x, y), size, float(rng.uniform(0, 180)))).astype(np.int32)
        colour = tuple(float(c) for c in rng.uniform(40, 235, 3))
        cv2.fillPoly(tile, [box], colour)
    for _ in range(6):
        x, y = (int(c) for c in rng.uniform(0, _TILE, 2))
        colour = tuple(float(c) for c in rng.uniform(60, 240, 3))
        cv2.circle(tile, (x, y), int(rng.uniform(20, 45)), colour, -1)
    return tile
