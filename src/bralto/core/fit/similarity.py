"""Best fit of the drawing to the reference: scale and shift, no rotation, robust by default.

No rotation: a tilt is an error, not a nuisance. No mirror: a mirrored drawing is not a good one.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import HUBER, RAYLEIGH_MEDIAN

__all__ = ["Similarity", "fit_similarity"]

_ITERATIONS = 60
_SETTLED = 1e-9
_EXACT = 1e-12


@dataclass(frozen=True, slots=True)
class Similarity:
    """Q ~ s P + t, with the exact first-order dependence on every mark.

    Attributes:
        scale: s, drawing units per reference unit.
        shift: (2,) array t, drawing units.
        residuals: (n, 2) array Q - s P - t, drawing units.
        weights: (n,) array, final weights, 1 / drawing units squared.
        by_reference: (3, n, 2) array, d(s, t_x, t_y) / dP.
        by_drawing: (3, n, 2) array, d(s, t_x, t_y) / dQ.
    """

    scale: float
    shift: Floats
    residuals: Floats
    weights: Floats
    by_reference: Floats
    by_drawing: Floats

    @property
    def scale_by_reference(self) -> Floats:
        """(n, 2) array, ds / dP."""
        gradient: Floats = self.by_reference[0]
        return gradient

    @property
    def scale_by_drawing(self) -> Floats:
        """(n, 2) array, ds / dQ."""
        gradient: Floats = self.by_drawing[0]
        return gradient


def fit_similarity(
    p: Floats, q: Floats, sigma: Floats, *, robust: bool = True, gradients: bool = True
) -> Similarity | NotMeasurable:
    """Weighted least squares, or Huber's M-estimate by iterated reweighting (Huber 1981, 7.8).

    Args:
        p: (n, 2) array, the reference's marks in its sight frame.
        q: (n, 2) array, the drawing's marks in its sight frame.
        sigma: (n,) array, placing SD of each mark in drawing units; weights are 1 / sigma^2.
        robust: Huber 1.345 on residual lengths, scaled by their median; else plain least squares.
        gradients: whether they are wanted; else they are 0.

    Returns:
        The fit, or why there is none: fewer than two marks, marks in one spot, a scale that is
        not positive. The gradient holds the robust scale estimate (the median) constant and is
        exact otherwise; without ``robust`` it is exact.
    """
    if len(p) < 2:
        return NotMeasurable("a best fit needs at least two marks that both pictures have")
    base = 1.0 / np.square(sigma)
    if np.ptp(p, axis=0).max() <= _EXACT * max(1.0, float(np.abs(p).max())):
        return NotMeasurable("the reference's marks all lie in one spot")
    sums = _Sums(p, q)
    weights, cut = base, np.inf
    scale, residuals = sums.solve(weights)
    inverse_sigma, middle = 1.0 / sigma, len(p) // 2
    for _ in range(_ITERATIONS if robust else 0):
        z = np.hypot(residuals[0], residuals[1]) * inverse_sigma
        cut = HUBER * max(1.0, float(np.sort(z)[middle]) / RAYLEIGH_MEDIAN)
        weights = base * np.minimum(1.0, cut / np.maximum(z, _EXACT))
        before = scale
        scale, residuals = sums.solve(weights)
        if abs(scale - before) <= _SETTLED * abs(scale):
            break
    if not scale > 0.0:
        return NotMeasurable(
            "the drawing's marks are mirrored or upside down against the reference"
        )
    by_p, by_q = np.zeros((2, 3, *p.shape))
    if gradients:
        by_p, by_q = _implicit(p, scale, residuals.T, sigma, cut)
    shift = (q - scale * p - residuals.T)[0]
    return Similarity(scale, shift, residuals.T, weights, by_p, by_q)


class _Sums:
    """Weighted least squares in closed form, solved for one set of weights after another.

    Works on centred marks, so that nothing is lost far from the origin, and gets every sum that
    the normal equations want from one product: 1, p, q, p . p and p . q, weighted.
    """

    def __init__(self, p: Floats, q: Floats) -> None:
        left, right = (p - p.mean(axis=0)).T, (q - q.mean(axis=0)).T
        squares, products = (left * left).sum(axis=0), (left * right).sum(axis=0)
        self._rows = np.vstack([np.ones(len(p)), left, right, squares, products])
        self._read = np.array([[0.0, 0.0, 0.0, 1.0, 0.0], [0.0, 0.0, 0.0, 0.0, 1.0]])

    def solve(self, weights: Floats) -> tuple[float, Floats]:
        """Scale and residuals (2, n) for weights (n,)."""
        total, px, py, qx, qy, squares, products = (self._rows @ weights).tolist()
        above = products - (px * qx + py * qy) / total
        scale = above / (squares - (px * px + py * py) / total)
        tx, ty = (qx - scale * px) / total, (qy - scale * py) / total
        read = self._read  # residuals are q - s p - t: a product with the rows 1, p, q
        read[0, 0], read[1, 0] = -tx, -ty
        read[0, 1] = read[1, 2] = -scale
        return scale, read @ self._rows[:5]


def _implicit(p: Floats, s: float, r: Floats, sigma: Floats, cut: float) -> tuple[Floats, Floats]:
    """d(s, t) / dP and / dQ by the implicit function theorem on the estimating equations.

    The gradient of the loss is sum_i J_i^T g_i with r_i = q_i - s p_i - t, J_i = dr_i / d(s, t),
    g_i = d(rho) / dr_i and H_i = dg_i / dr_i.
    """
    n = len(p)
    length = np.hypot(r[:, 0], r[:, 1])
    base = 1.0 / np.square(sigma)
    outside = length > cut * sigma
    shrink = np.where(outside, cut * sigma / np.where(outside, length, 1.0), 1.0)
    g = (base * shrink)[:, None] * r
    hessian = (base * shrink)[:, None, None] * np.eye(2)
    along = np.where(outside[:, None], r / np.where(outside, length, 1.0)[:, None], 0.0)
    hessian = hessian - (base * shrink)[:, None, None] * along[:, :, None] * along[:, None, :]
    jac = np.zeros((n, 2, 3))
    jac[:, :, 0] = -p
    jac[:, 0, 1] = jac[:, 1, 2] = -1.0
    weighted = hessian @ jac  # (n, 2, 3); the Hessian is symmetric
    curvature = jac.reshape(-1, 3).T @ weighted.reshape(-1, 3)
    by_q = weighted.transpose(2, 0, 1)
    by_p = -s * by_q
    by_p[0] -= g
    inverse = np.linalg.pinv(curvature)
    return -np.tensordot(inverse, by_p, axes=1), -np.tensordot(inverse, by_q, axes=1)
