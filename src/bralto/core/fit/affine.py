"""The affine reading: too wide, too tall, leaning, tilted (measurement, section 6)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable

__all__ = ["AffineReading", "read_affine"]


@dataclass(frozen=True, slots=True)
class AffineReading:
    """Q ~ A P + t, read in the trade's words.

    Attributes:
        width_scale: |A e_x|, drawing units per reference unit.
        height_scale: |A e_y|, drawing units per reference unit.
        too_wide_percent: 100 (width_scale / height_scale - 1).
        verticals_lean_deg: angle of A e_y from plumb, degrees, counter-clockwise positive.
        levels_tilt_deg: angle of A e_x from level, degrees, counter-clockwise positive.
    """

    width_scale: float
    height_scale: float
    too_wide_percent: float
    verticals_lean_deg: float
    levels_tilt_deg: float


def read_affine(p: Floats, q: Floats, weights: Floats) -> AffineReading | NotMeasurable:
    """Weighted least-squares affine map of the reference (n, 2) onto the drawing (n, 2)."""
    if len(p) < 3:
        return NotMeasurable("width against height needs at least three marks on both pictures")
    root = np.sqrt(weights)[:, None]
    centred = p - weights @ p / weights.sum()
    spread = np.linalg.svd(root * centred, compute_uv=False)
    if spread[1] <= 1e-9 * spread[0]:
        return NotMeasurable(
            "the marks all lie on one line, so width and height cannot be told apart"
        )
    design = np.column_stack([centred, np.ones(len(p))])
    solution = np.linalg.lstsq(root * design, root * q, rcond=None)[0]
    across, up = solution[0], solution[1]
    width, height = float(np.hypot(*across)), float(np.hypot(*up))
    if not (width > 0.0 and height > 0.0):
        return NotMeasurable("the drawing's marks all lie on one line")
    return AffineReading(
        width_scale=width,
        height_scale=height,
        too_wide_percent=100.0 * (width / height - 1.0),
        verticals_lean_deg=float(np.degrees(np.arctan2(-up[0], up[1]))),
        levels_tilt_deg=float(np.degrees(np.arctan2(across[1], across[0]))),
    )
