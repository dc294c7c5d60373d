"""First-order propagation of uncertainty, JCGM 100:2008, 5.1.2, equation (10) in matrix form."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["propagate", "scatter", "variances_of"]


def propagate(gradients: Floats, cov: Floats) -> Floats:
    """Variances of m results from n marks.

    Args:
        gradients: (m, n, 2) array, d(result) / d(mark position).
        cov: (n, 2, 2) array, covariance of each mark's position where marks are independent of
            each other; or (2n, 2n), of all of them together, x and y side by side.

    Returns:
        (m,) array of variances: sum over marks of g^T C g. Results that share a mark (a height and
        the head it is counted in) are right because the gradient of the whole formula is taken
        first.
    """
    if cov.ndim == 2:
        return variances_of(gradients.reshape(len(gradients), -1), cov)
    x, y = gradients[..., 0], gradients[..., 1]
    variances: Floats = (
        (x * x) @ cov[:, 0, 0] + (x * y) @ (cov[:, 0, 1] + cov[:, 1, 0]) + (y * y) @ cov[:, 1, 1]
    )
    return variances


def variances_of(slopes: Floats, cov: Floats) -> Floats:
    """(m,) array of variances s^T C s, of (m, k) slopes over k results with covariance (k, k)."""
    variances: Floats = ((slopes @ cov) * slopes).sum(axis=1)
    return variances


def scatter(cov: Floats, n: int) -> float:
    """Sum of the variances of x and y of the first n marks; ``cov`` as for `propagate`."""
    if cov.ndim == 2:
        return float(np.trace(cov[: 2 * n, : 2 * n]))
    return float(np.einsum("nkk->", cov[:n]))
