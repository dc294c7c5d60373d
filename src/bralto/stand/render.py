"""The reference picture: the puppet shaded as a wooden figure before a plain wall."""

from __future__ import annotations

import numpy as np
from PIL import Image, ImageFilter

from bralto.core.arrays import Floats
from bralto.stand.solids import Solid, solids

__all__ = ["Framing", "render_figure"]

_LIGHT = np.array([-0.45, 0.62, 0.64])
_WOOD = np.array([201.0, 168.0, 128.0])
_WALL = np.array([188.0, 178.0, 162.0])


class Framing:
    """Heads to picture px: ``scale`` px a head, 0 at ``middle`` px across and ``floor`` px down."""

    def __init__(self, width: int, height: int, scale: float, middle: float, floor: float) -> None:
        self.width, self.height = width, height
        self.scale, self.middle, self.floor = scale, middle, floor

    def px(self, xy: Floats) -> Floats:
        """(..., 2) heads, y up, to image px, y down."""
        return np.stack(
            [self.middle + self.scale * xy[..., 0], self.floor - self.scale * xy[..., 1]], axis=-1
        )


def render_figure(body: dict[str, Floats], framing: Framing, seed: int) -> Image.Image:
    """Shade every solid into one height field; light from the upper left. RGB picture."""
    rng = np.random.default_rng(seed)
    shape = (framing.height, framing.width)
    depth = np.full(shape, -np.inf)
    normal = np.zeros((*shape, 3))
    for solid in solids(body):
        _splat(solid, framing, depth, normal)
    picture = _wall(framing, rng)
    rows, columns = np.nonzero(np.isfinite(depth))  # only wood is shaded
    n = normal[rows, columns]
    lit = np.clip(n @ (_LIGHT / np.linalg.norm(_LIGHT)), 0.0, 1.0)
    shade = 0.30 + 0.72 * lit - 0.16 * (1.0 - n[:, 2])
    grain = 1.0 + 0.025 * np.sin(60.0 * columns / shape[1] + 3.0 * np.sin(9.0 * rows / shape[0]))
    picture[rows, columns] = _WOOD * (shade * grain)[:, None] + 46.0 * (lit**18)[:, None]
    image = Image.fromarray(np.clip(picture, 0, 255).astype(np.uint8))
    return image.filter(ImageFilter.SMOOTH)


def _splat(solid: Solid, framing: Framing, depth: Floats, normal: Floats) -> None:
    a, b = framing.px(solid.a), framing.px(solid.b)
    ra, rb = solid.ra * framing.scale, solid.rb * framing.scale
    reach = max(ra, rb, float(np.hypot(*(b - a))) if solid.kind == "ball" else 0.0) + 1.0
    low = np.floor(np.minimum(a, b) - reach).astype(int)
    high = np.ceil(np.maximum(a, b) + reach).astype(int)
    x0, y0 = np.maximum(low, 0)
    x1, y1 = np.minimum(high, [framing.width, framing.height])
    if x1 <= x0 or y1 <= y0:
        return
    gx, gy = np.meshgrid(np.arange(x0, x1) + 0.5, np.arange(y0, y1) + 0.5)
    rel = np.stack([gx - a[0], gy - a[1]], axis=-1)
    along = b - a
    length = max(1e-6, float(np.hypot(*along)))
    unit = along / length
    if solid.kind == "ball":
        side = np.array([-unit[1], unit[0]])
        u, v = rel @ unit / length, rel @ side / ra
        w2 = 1.0 - u * u - v * v
        thick = min(length, ra)
        w = np.sqrt(np.maximum(w2, 0.0))
        height = thick * w
        n = (u / length)[..., None] * unit + (v / ra)[..., None] * side
        n3 = np.dstack([n[..., 0], -n[..., 1], w / thick])
    else:
        t = np.clip(rel @ unit / length, 0.0, 1.0)
        r = ra + (rb - ra) * t
        off = rel - t[..., None] * along
        w2 = r * r - np.sum(off * off, axis=-1)
        height = np.sqrt(np.maximum(w2, 0.0))
        n3 = np.dstack([off[..., 0], -off[..., 1], height])
    z = np.where(w2 > 0.0, height + solid.depth * framing.scale, -np.inf)
    window = (slice(y0, y1), slice(x0, x1))
    nearer = z > depth[window]
    depth[window] = np.where(nearer, z, depth[window])
    n3 /= np.maximum(np.linalg.norm(n3, axis=-1, keepdims=True), 1e-9)
    normal[window] = np.where(nearer[..., None], n3, normal[window])


def _wall(framing: Framing, rng: np.random.Generator) -> Floats:
    """Wall and floor with a soft shadow under the feet."""
    height, width = framing.height, framing.width
    y = np.linspace(0.0, 1.0, height)[:, None]
    x = np.linspace(-1.0, 1.0, width)[None, :]
    line = (framing.floor - 0.75 * framing.scale) / height
    light = (1.08 - 0.20 * y - 0.06 * x) * np.where(y > line, 0.90 + 0.10 * (y - line), 1.0)
    # A soft patch: a Gaussian ellipse to the right of the feet, away from the light.
    across = (np.arange(width) - framing.middle - 0.5 * framing.scale) / (0.85 * framing.scale)
    down = (np.arange(height) - framing.floor) / (0.15 * framing.scale)
    soft = 0.42 * np.exp(-0.5 * down**2)[:, None] * np.exp(-0.5 * across**2)[None, :]
    light *= 1.0 - soft
    grain = rng.standard_normal((height, width), dtype=np.float32)
    picture: Floats = light[..., None] * _WALL + 1.6 * grain[..., None]
    return picture
