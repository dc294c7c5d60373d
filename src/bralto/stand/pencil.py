"""Pencil and paper: a line with a wobble, lead on the tooth of a sheet."""

from __future__ import annotations

import numpy as np
from PIL import Image, ImageDraw

from bralto.core.arrays import Floats

__all__ = ["on_paper", "stroke"]

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


def on_paper(layer: Image.Image, rng: np.random.Generator) -> Image.Image:
    """Lead on the tooth of the paper: ``layer`` is 255 where nothing was drawn."""
    tooth = rng.standard_normal((layer.height, layer.width), dtype=np.float32)
    ink = 1.0 - np.asarray(layer, dtype=np.float32) / 255.0
    ink = np.clip(ink * (1.0 + 0.22 * tooth), 0.0, 1.0)[..., None]
    paper = _PAPER + 1.5 * tooth[..., None]
    picture = paper * (1.0 - ink) + _LEAD * ink
    return Image.fromarray(np.clip(picture, 0, 255).astype(np.uint8))
