"""The affine reading: too wide, too tall, leaning, tilted (measurement, section 6)."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.uncertainty import propagate

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
        too_wide_percent_u, verticals_lean_deg_u, levels_tilt_deg_u: their standard uncertainties
            from the placing of the marks.
    """

    width_scale: float
    height_scale: float
    too_wide_percent: float
    verticals_lean_deg: float
    levels_tilt_deg: float
    too_wide_percent_u: float
    verticals_lean_deg_u: float
    levels_tilt_deg_u: float


def read_affine(
    p: Floats, q: Floats, weights: Floats, cov_p: Floats, cov_q: Floats
) -> AffineReading | NotMeasurable:
    """Weighted least-squares affine map of the reference onto the drawing.

    Args:
        p, q: (n, 2) arrays, the reference's marks and the drawing's, y up.
        weights: (n,) array.
        cov_p, cov_q: (n, 2, 2) or (2n, 2n) arrays, the marks' doubt (`propagate`), units squared.
    """
    if len(p) < 3:
        return NotMeasurable("width against height needs at least three marks on both pictures")
    root = np.sqrt(weights)[:, None]
    centred = p - weights @ p / weights.sum()  # so that the shift takes no part in the rest
    left, spread, right = np.linalg.svd(root * centred, full_matrices=False)
    if spread[1] <= 1e-9 * spread[0]:
        return NotMeasurable(
            "the marks all lie on one line, so width and height cannot be told apart"
        )
    by_mark = (left / spread @ right).T * root.T  # (2, n): how each mark counts
    (ax, ay), (ux, uy) = (by_mark @ q).tolist()  # A e_x, A e_y
    width, height = math.hypot(ax, ay), math.hypot(ux, uy)
    if not (width > 0.0 and height > 0.0):
        return NotMeasurable("the drawing's marks all lie on one line")
    wide, turn = 100.0 / (width * height), math.degrees(1.0)
    tall, lean, tilt = -wide * (width / height) ** 2, turn / height**2, turn / width**2
    # (3, 2, 2): how width against height, lean and tilt go with A e_x and with A e_y.
    slopes = np.array([
        [[wide * ax, wide * ay], [tall * ux, tall * uy]],
        [[0.0, 0.0], [-lean * uy, lean * ux]],
        [[-tilt * ay, tilt * ax], [0.0, 0.0]],
    ])  # fmt: skip
    drawn = by_mark.T @ slopes
    seen = -drawn @ np.array([[ax, ux], [ay, uy]])  # a mark that is off there pulls A p
    u = np.sqrt(propagate(drawn, cov_q) + propagate(seen, cov_p))
    return AffineReading(
        width, height, 100.0 * (width / height - 1.0),
        math.degrees(math.atan2(-ux, uy)), math.degrees(math.atan2(ay, ax)), *u.tolist(),
    )  # fmt: skip
