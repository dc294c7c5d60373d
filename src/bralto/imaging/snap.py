"""Bring a mark to the line that it was meant for: the nearest edge, stroke or end of a line.

Only on request: hatching draws a mark away as gladly as the outline does.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

from bralto.core.arrays import Floats, Pixels
from bralto.core.results import NotMeasurable

__all__ = ["Snap", "snap"]

_SOFT = 1.2
"""Width of the line looked for, px (SD): a pencil line in a photo."""

_BROAD = 3.0
"""Half the width of the broadest pencil line, px."""

_FAINT = 2.5
"""A stroke or edge weaker than this many grey levels a pixel is grain."""


@dataclass(frozen=True, slots=True)
class Snap:
    """Where a mark was brought.

    Attributes:
        x, y: image px.
        gain: how far that is from where it was, image px.
        what: ``stroke``, ``edge`` or ``end``.
        across_deg: the direction across the line there, degrees from +x towards +y, 0 to 180.
    """

    x: float
    y: float
    gain: float
    what: str
    across_deg: float


def snap(picture: Pixels, x: float, y: float, reach: float) -> Snap | NotMeasurable:
    """The nearest line to a place, to a fraction of a pixel across it.

    A stroke is a ridge of the Hessian, an edge a crest of the gradient; both are found along their
    normal by a parabola (Steger 1998, IEEE PAMI 20, 113). Where a stroke stops nearby, its end.

    Args:
        picture: (h, w, 3) uint8, RGB.
        reach: how far it may lie, image px.
    """
    margin = math.ceil(reach + 6.0 * _SOFT)
    left, top = int(x) - margin, int(y) - margin
    size = 2 * margin + 1
    centre = (x - left - 0.5, y - top - 0.5)
    patch = _cut(picture, left, top, size)
    grey = cv2.GaussianBlur(
        cv2.cvtColor(patch, cv2.COLOR_RGB2GRAY).astype(np.float32), (0, 0), _SOFT
    )
    found = [
        (np.hypot(fx - centre[0], fy - centre[1]), fx, fy, what, across)
        for what, points in (("stroke", _ridges(grey)), ("edge", _crests(grey)))
        for fx, fy, across in points
    ]
    near = [one for one in found if one[0] <= reach]
    if not near:
        return NotMeasurable("no line lies near enough to snap to")
    # Both sides of a stroke are edges too; it is the stroke that is meant.
    away, fx, fy, what, across = min(
        near, key=lambda one: one[0] + (_BROAD if one[3] == "edge" else 0.0)
    )
    end = _end_of_stroke(grey, fx, fy, reach) if what == "stroke" else None
    if end is not None:
        fx, fy, what = *end, "end"
        away = float(np.hypot(fx - centre[0], fy - centre[1]))
    degrees = math.degrees(across) % 180.0
    return Snap(fx + left + 0.5, fy + top + 0.5, float(away), what, degrees)


def _cut(picture: Pixels, left: int, top: int, size: int) -> Pixels:
    """A square of the picture, its border repeated where it sticks out."""
    rows = np.clip(np.arange(top, top + size), 0, picture.shape[0] - 1)
    columns = np.clip(np.arange(left, left + size), 0, picture.shape[1] - 1)
    cut: Pixels = np.ascontiguousarray(picture[rows][:, columns])
    return cut


def _derivatives(grey: Pixels) -> tuple[Any, ...]:
    gy, gx = np.gradient(grey.astype(np.float64))
    gyy, gyx = np.gradient(gy)
    _, gxx = np.gradient(gx)
    return gx, gy, gxx, gyx, gyy


def _ridges(grey: Pixels) -> list[tuple[float, float, float]]:
    """Sub-pixel places on dark strokes, across which the light is least, and the direction across
    them, radians."""
    gx, gy, gxx, gxy, gyy = _derivatives(grey)
    half, other = (gxx + gyy) / 2.0, np.hypot((gxx - gyy) / 2.0, gxy)
    bend = half + other  # the larger curvature; the light is lowest along its direction
    angle = 0.5 * np.arctan2(2.0 * gxy, gxx - gyy)
    nx, ny = np.cos(angle), np.sin(angle)
    safe = np.where(np.abs(bend) > 1e-9, bend, 1.0)
    t = -(gx * nx + gy * ny) / safe
    on = (bend > _FAINT) & (np.maximum(np.abs(t * nx), np.abs(t * ny)) <= 0.6)
    ys, xs = np.nonzero(on)
    return [
        (
            float(px + t[py, px] * nx[py, px]),
            float(py + t[py, px] * ny[py, px]),
            float(angle[py, px]),
        )
        for py, px in zip(ys, xs, strict=True)
    ]


def _crests(grey: Pixels) -> list[tuple[float, float, float]]:
    """Sub-pixel places on edges, where it is steepest along the gradient, and the gradient's
    direction, radians."""
    gx, gy, *_ = _derivatives(grey)
    steep = np.hypot(gx, gy)
    out = []
    height, width = steep.shape
    ys, xs = np.nonzero(steep > 2.0 * _FAINT)
    for py, px in zip(ys, xs, strict=True):
        if not (2 <= px < width - 2 and 2 <= py < height - 2):
            continue
        nx, ny = gx[py, px] / steep[py, px], gy[py, px] / steep[py, px]
        before, here, after = (_between(steep, px + k * nx, py + k * ny) for k in (-1.0, 0.0, 1.0))
        bend = before - 2.0 * here + after
        if here < before or here < after or bend >= -1e-9:
            continue
        t = 0.5 * (before - after) / bend
        out.append((float(px + t * nx), float(py + t * ny), math.atan2(ny, nx)))
    return out


def _between(field: Floats, x: float, y: float) -> float:
    """Bilinear value of a field."""
    x0, y0 = int(x), int(y)
    fx, fy = x - x0, y - y0
    top = field[y0, x0] * (1 - fx) + field[y0, x0 + 1] * fx
    bottom = field[y0 + 1, x0] * (1 - fx) + field[y0 + 1, x0 + 1] * fx
    return float(top * (1 - fy) + bottom * fy)


def _end_of_stroke(grey: Pixels, x: float, y: float, reach: float) -> tuple[float, float] | None:
    """Where a stroke through a place stops within reach, following it both ways; None where it
    runs on both ways, or stops both ways (a dot)."""
    *_, gxx, gxy, gyy = _derivatives(grey)
    height, width = grey.shape

    def strength(px: float, py: float) -> tuple[float, float]:
        a, b, c = (_between(field, px, py) for field in (gxx, gxy, gyy))
        bend = (a + c) / 2.0 + math.hypot((a - c) / 2.0, b)
        return bend, 0.5 * math.atan2(2.0 * b, a - c) + math.pi / 2.0

    whole, direction = strength(x, y)
    stops = []
    for way in (0.0, math.pi):
        px, py, heading = x, y, direction + way
        for _ in range(int(2.0 * reach)):
            px, py = px + 0.5 * math.cos(heading), py + 0.5 * math.sin(heading)
            if not (2 <= px < width - 3 and 2 <= py < height - 3):
                break
            bend, turned = strength(px, py)
            if bend < 0.5 * whole:
                stops.append((px, py))
                break
            if math.cos(turned - heading) < 0.0:
                turned += math.pi
            heading = turned
    return stops[0] if len(stops) == 1 else None
