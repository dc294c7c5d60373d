"""The drawing: the same solids in pencil, with wobbling restated lines and hatching, on paper."""

from __future__ import annotations

import numpy as np
from PIL import Image, ImageDraw

from bralto.core.arrays import Floats
from bralto.stand.render import Framing
from bralto.stand.solids import outline, solids

__all__ = ["draw_in_pencil", "on_paper", "stroke"]

_OVER = 2  # drawn at twice the size, then reduced
_PAPER = np.array([249.0, 245.0, 234.0], dtype=np.float32)
_LEAD = np.array([52.0, 50.0, 54.0], dtype=np.float32)


def stroke(
    draw: ImageDraw.ImageDraw, line: Floats, tone: int, width: float, wobble: Floats
) -> None:
    """One line with a slow wobble; ``line`` (n, 2) px, ``wobble`` (3, 2) px amplitudes."""
    along = np.linspace(0.0, 1.0, len(line))
    shift = sum(
        np.outer(np.sin(2.0 * np.pi * (k + 1) * along + amp.sum()), amp)
        for k, amp in enumerate(wobble)
    )
    points = [(float(x), float(y)) for x, y in line + shift]
    draw.line(points, fill=tone, width=max(1, round(width)), joint="curve")


def draw_in_pencil(body: dict[str, Floats], framing: Framing, seed: int) -> Image.Image:
    """Draw a body on paper, nearer solids over farther ones. RGB picture."""
    rng = np.random.default_rng(seed)
    size = (framing.width * _OVER, framing.height * _OVER)
    layer = Image.new("L", size, 255)
    draw = ImageDraw.Draw(layer)
    unit = framing.scale * _OVER
    _block_in(draw, body, framing, rng)
    for solid in sorted(solids(body), key=lambda s: s.depth):
        ring = framing.px(outline(solid)) * _OVER
        polygon = [(float(x), float(y)) for x, y in ring]
        draw.polygon(polygon, fill=255)
        _hatch(layer, ring, unit, rng)
        closed = np.vstack([ring, ring[:6]])
        for tone, width in ((140, 0.009), (70, 0.016)):
            start = int(rng.integers(len(ring)))
            line = np.roll(closed[: len(ring)], start, axis=0)
            line = np.vstack([line, line[: int(rng.integers(1, 5))]])
            stroke(draw, line, tone, width * unit, rng.normal(0.0, 0.006 * unit, (3, 2)))
    return on_paper(layer.resize((framing.width, framing.height), Image.Resampling.BOX), rng)


def _block_in(
    draw: ImageDraw.ImageDraw, body: dict[str, Floats], framing: Framing, rng: np.random.Generator
) -> None:
    """Faint lines of the beginning: plumb, head counts, the tilts of shoulders and hips."""
    unit = framing.scale * _OVER
    neck = float(body["pit_of_neck"][0])
    top = float(body["crown"][1])
    lines = [np.array([[neck, top + 0.2], [neck, -0.1]])]
    lines += [np.array([[neck - 0.5, h], [neck + 0.5, h]]) for h in (0.0, top / 2, top)]
    lines += [np.array([body[f"{k}_r"], body[f"{k}_l"]]) for k in ("shoulder", "hip_point", "knee")]
    for ends in lines:
        fine = np.linspace(ends[0] * 1.0, ends[1], 24)
        line = framing.px(fine) * _OVER
        stroke(draw, line, 205, 0.008 * unit, rng.normal(0.0, 0.004 * unit, (3, 2)))


def _hatch(layer: Image.Image, ring: Floats, unit: float, rng: np.random.Generator) -> None:
    """Parallel strokes on the side away from the light, inside the outline only."""
    low, high = ring.min(axis=0), ring.max(axis=0)
    width, height = (int(v) + 2 for v in np.ceil(high - low))
    origin = np.floor(low)
    mask = Image.new("L", (width, height), 0)
    pen = ImageDraw.Draw(mask)
    pen.polygon([(float(x), float(y)) for x, y in ring - origin], fill=255)
    lit = ring - origin - [0.42 * min(width, height), 0.12 * min(width, height)]
    pen.polygon([(float(x), float(y)) for x, y in lit], fill=0)
    tone = Image.new("L", (width, height), 255)
    pen = ImageDraw.Draw(tone)
    gap = 0.045 * unit
    for start in np.arange(0.3 * width, width + height, gap):
        x = start + rng.normal(0.0, 0.15 * gap)
        pen.line(
            [(x, 0), (x - 0.62 * height, height)],
            fill=int(rng.integers(150, 190)),
            width=max(1, round(0.009 * unit)),
        )
    layer.paste(tone, (int(origin[0]), int(origin[1])), mask)


def on_paper(layer: Image.Image, rng: np.random.Generator) -> Image.Image:
    """Lead on the tooth of the paper: ``layer`` is 255 where nothing was drawn."""
    tooth = rng.standard_normal((layer.height, layer.width), dtype=np.float32)
    ink = 1.0 - np.asarray(layer, dtype=np.float32) / 255.0
    ink = np.clip(ink * (1.0 + 0.22 * tooth), 0.0, 1.0)[..., None]
    paper = _PAPER + 1.5 * tooth[..., None]
    picture = paper * (1.0 - ink) + _LEAD * ink
    return Image.fromarray(np.clip(picture, 0, 255).astype(np.uint8))
