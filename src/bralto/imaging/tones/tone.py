"""Other ways to look at a picture: even paper, squinting, a few values. All of them copies."""

from __future__ import annotations

import cv2
import numpy as np

from bralto.core.arrays import Floats, Pixels

__all__ = ["even_light", "look_at", "squint", "values"]

_WHITE = 250.0
_SQUINT = 0.012  # of the longer side: what half-closed eyes leave (common practice, no source)


def even_light(picture: Pixels) -> Pixels:
    """Paper made white everywhere: uneven light and soft shadows are divided away.

    Args:
        picture: (h, w, 3) uint8, RGB; most of what surrounds any line must be paper.

    Returns:
        The same shape and type.
    """
    longer = max(picture.shape[:2])
    shrink = max(1, longer // 500)
    small = cv2.resize(picture, None, fx=1 / shrink, fy=1 / shrink, interpolation=cv2.INTER_AREA)
    # Paper is what is lightest nearby; a line or hatching is narrower than the brush.
    brush = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (31, 31))
    paper = cv2.morphologyEx(small, cv2.MORPH_CLOSE, brush)
    paper = cv2.GaussianBlur(paper, (0, 0), 15.0)
    full = cv2.resize(paper, (picture.shape[1], picture.shape[0]), interpolation=cv2.INTER_LINEAR)
    even: Pixels = cv2.divide(picture, np.maximum(full, 24), scale=_WHITE)
    return even


def squint(picture: Pixels) -> Pixels:
    """Blurred as through half-closed eyes: the big masses stay."""
    soft: Pixels = cv2.GaussianBlur(picture, (0, 0), _SQUINT * max(picture.shape[:2]))
    return soft


def values(picture: Pixels, steps: int, outline: Floats | None = None) -> Pixels:
    """Reduced to a few values, split where the picture itself parts best (k-means on its greys).

    Args:
        steps: how many, 2 or more.
        outline: (k, 2) array, px: only what lies inside decides.
    """
    grey = cv2.cvtColor(squint(picture), cv2.COLOR_RGB2GRAY)
    mask: Pixels = np.ones(grey.shape, dtype=np.uint8)
    if outline is not None:
        mask[:] = 0
        cv2.fillPoly(mask, [np.round(outline).astype(np.int32)], 1)
        mask = cv2.erode(mask, np.ones((15, 15), np.uint8), borderValue=0)
    inside = grey[mask > 0] if mask.any() else grey.ravel()
    counts = np.bincount(inside, minlength=256).astype(np.float64)
    levels = np.arange(256, dtype=np.float64)
    present = np.nonzero(counts)[0]
    centres = np.linspace(present[0], present[-1], steps)
    for _ in range(40):
        nearest = np.argmin(np.abs(levels[:, None] - centres[None, :]), axis=1)
        for k in range(steps):
            weight = counts * (nearest == k)
            if weight.sum() > 0.0:
                centres[k] = weight @ levels / weight.sum()
    shown = np.linspace(30.0, 235.0, steps)
    table = shown[np.argmin(np.abs(levels[:, None] - centres[None, :]), axis=1)]
    flat: Pixels = table.astype(np.uint8)[grey]
    return np.repeat(flat[..., None], 3, axis=2)


def look_at(picture: Pixels, way: str, outline: Floats | None = None) -> Pixels:
    """One of `looks.LOOKS`; the picture itself is never changed.

    Args:
        outline: (k, 2) array, px, of the sheet of paper in it; on paper light and shadow of the
            room are taken away before values are told apart.
    """
    if way == "plain":
        return picture
    even = picture if outline is None and way != "even light" else even_light(picture)
    if way == "squint":
        return squint(even)
    if way in {"two values", "three values"}:
        return values(even, 2 if way == "two values" else 3, outline)
    return even
