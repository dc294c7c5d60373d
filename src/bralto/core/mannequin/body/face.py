"""What makes one sitter's face another's: thirds, widths, eyes, nose, mouth and jaw.

A face bends the head's own form, its landmarks with it: the form is made once, and a crown and a
chin stay one head apart. The ways in which it bends are ours, invented; no measured face.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["FACE_RANGE", "HEAD_PARTS", "PLAIN", "Face"]

HEAD_PARTS = frozenset({"head", "hair"})
"""Parts that a face bends."""

FACE_RANGE = (0.75, 1.3)
"""The least and the largest factor on anything of a face: between them nothing folds (a test holds
it at the ends); chosen here, no source."""

_LEVELS = np.array([-0.20, 0.087, 0.373, 0.660, 0.80])
"""Chin, base of the nose, brow, hairline and crown of the plain face, heads above the head's
joint (landmarks.toml)."""

_EYE, _WING, _CORNER, _SIDE = 0.147, 0.076, 0.108, 0.34
"""How far from the centre line pupil, wing of the nose, corner of the mouth and the side of the
face stand in the plain face, heads."""


@dataclass(frozen=True, slots=True)
class Face:
    """Factors on the plain face, each 1 there.

    Attributes:
        forehead, middle, lower: on the three thirds against each other and against what lies above
            the hairline; the head stays one head high.
        width: on all widths of the head.
        eyes_apart: on the distance of the pupils.
        nose_wide: on the wings of the nose; ``nose_out`` on how far the nose stands out.
        mouth_wide: on the mouth. ``jaw``: on the width of the jaw.
    """

    forehead: float = 1.0
    middle: float = 1.0
    lower: float = 1.0
    width: float = 1.0
    eyes_apart: float = 1.0
    nose_wide: float = 1.0
    nose_out: float = 1.0
    mouth_wide: float = 1.0
    jaw: float = 1.0

    def figures(self) -> dict[str, float]:
        """The factors by name."""
        return {one.name: float(getattr(self, one.name)) for one in fields(self)}

    def bent(self, points: Floats) -> Floats:
        """(..., 3) points of the plain head in this face; the head's frame, heads."""
        if self == PLAIN:
            return points
        x, y, z = np.moveaxis(points, -1, 0)
        aside = np.abs(x)
        front = _step(z, 0.05, 0.22)
        out = aside * self.width * (1.0 + (self.jaw - 1.0) * _step(-y, -0.16, 0.12))
        for factor, own, reach, level, tall in (
            (self.eyes_apart, _EYE, _SIDE, 0.315, 0.13),
            (self.nose_wide, _WING, 2.4 * _WING, 0.120, 0.10),
            (self.mouth_wide, _CORNER, 1.9 * _CORNER, 0.0, 0.10),
        ):
            by = (factor - 1.0) * own * _hump(aside, own, reach) * _hill((y - level) / tall)
            out = out + self.width * by * front
        nose = np.exp(-np.square(x / 0.058)) * _hill((y - 0.13) / 0.24)
        deep = z + (self.nose_out - 1.0) * 0.13 * nose * front
        bent: Floats = np.stack([np.sign(x) * out, _levels(self)(y), deep], axis=-1)
        return bent

    def turned(self, points: Floats, normals: Floats) -> Floats:
        """(n, 3) unit ways out of the bent surface, of those out of the plain one at ``points``."""
        if self == PLAIN:
            return normals
        step = 1e-4
        ways = [self.bent(points + step * e) - self.bent(points - step * e) for e in np.eye(3)]
        # Normals go by the inverse transpose: the cofactors of the slope, up to a factor.
        out = np.stack([np.cross(ways[i - 2], ways[i - 1]) for i in range(3)], axis=-1)
        turned = np.einsum("nij,nj->ni", out, normals)
        lengths = np.linalg.norm(turned, axis=1, keepdims=True)
        unit: Floats = turned / np.maximum(lengths, 1e-12)
        return unit


PLAIN = Face()


@lru_cache(maxsize=64)
def _levels(face: Face) -> Callable[[Floats], Floats]:
    """Heights of the plain face to those of another; straight on beyond crown and chin."""
    from scipy.interpolate import PchipInterpolator  # a quarter of a second to load

    thirds = np.diff(_LEVELS) * [face.lower, face.middle, face.forehead, 1.0]
    height = float(_LEVELS[-1] - _LEVELS[0])
    to = _LEVELS[0] + np.concatenate([[0.0], np.cumsum(thirds)]) * (height / thirds.sum())
    # Beyond the ends the whole is only shifted.
    knots = np.concatenate([[_LEVELS[0] - 1.0], _LEVELS, [_LEVELS[-1] + 1.0]])
    found: Callable[[Floats], Floats] = PchipInterpolator(
        knots, np.concatenate([[to[0] - 1.0], to, [to[-1] + 1.0]])
    )
    return found


def _step(t: Floats, low: float, high: float) -> Floats:
    """0 below ``low``, 1 above ``high``, smooth between."""
    s = np.clip((t - low) / (high - low), 0.0, 1.0)
    smooth: Floats = s * s * (3.0 - 2.0 * s)
    return smooth


def _hill(t: Floats) -> Floats:
    """1 at 0, 0 from 1 on either side, smooth."""
    return 1.0 - _step(np.abs(t), 0.0, 1.0)


def _hump(aside: Floats, own: float, reach: float) -> Floats:
    """0 on the centre line, 1 at ``own``, 0 from ``reach`` on, smooth."""
    rise = np.clip(aside / own, 0.0, 1.0)
    return np.where(aside <= own, rise, 1.0 - _step(aside, own, reach))
