"""Typical miss: the one figure that is tracked over time (measurement, section 6)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.fit.similarity import Similarity
from bralto.core.uncertainty import propagate, scatter

__all__ = ["Miss", "typical_miss"]

_FREE = 3  # scale and two shifts are spent on the fit


@dataclass(frozen=True, slots=True)
class Miss:
    """Root mean square residual after the best fit, in reference heads.

    Attributes:
        value: the typical miss.
        u: its standard uncertainty from the placing of the marks.
        limit: the mark limit, the miss that marking noise alone would give.
        marks: how many marks it rests on.
    """

    value: float
    u: float
    limit: float
    marks: int


def typical_miss(
    fit: Similarity,
    p: Floats,
    cov_p: Floats,
    cov_q: Floats,
    head: float,
    head_gradient: Floats,
) -> Miss:
    """Typical miss of a best fit with its first-order uncertainty.

    Args:
        fit: the best fit of n marks.
        p: (n, 2) array, the reference's marks.
        cov_p: (m, 2, 2) or (2m, 2m) array over all the reference's marks (`propagate`), reference
            units squared.
        cov_q: (n, 2, 2) array, drawing units squared.
        head: the reference's head, reference units.
        head_gradient: (m, 2) array, d(head) / d(reference marks), m >= n, the fitted marks first.
    """
    n, s, r = len(p), fit.scale, fit.residuals
    unit = s * head
    square = float(np.sum(r * r)) / n
    noise = (scatter(cov_q, n) + s * s * scatter(cov_p, n)) / n
    limit = np.sqrt(noise * max(0.0, 1.0 - _FREE / (2.0 * n))) / unit
    value = np.sqrt(square) / unit
    if value <= 1e-9:
        # A perfect copy: the root has no slope at 0. The SD of the root mean square of pure noise
        # with 2n - 3 degrees of freedom stands in (normal approximation of the chi distribution).
        return Miss(
            float(value), float(limit / np.sqrt(2.0 * max(1, 2 * n - _FREE))), float(limit), n
        )
    # d(square) through the residuals r = q - s p - t, then through (s, t) themselves.
    by_fit = -2.0 / n * np.array([np.sum(r * p), r[:, 0].sum(), r[:, 1].sum()])
    by_q = 2.0 / n * r + np.einsum("i,inl->nl", by_fit, fit.by_drawing)
    by_p = -2.0 * s / n * r + np.einsum("i,inl->nl", by_fit, fit.by_reference)
    half = 1.0 / (2.0 * np.sqrt(square) * unit)
    by_q = half * by_q - value / s * fit.scale_by_drawing
    over_all = -value / head * head_gradient
    over_all[:n] += half * by_p - value / s * fit.scale_by_reference
    variance = propagate(by_q[None], cov_q)[0] + propagate(over_all[None], cov_p)[0]
    return Miss(float(value), float(np.sqrt(variance)), float(limit), n)
