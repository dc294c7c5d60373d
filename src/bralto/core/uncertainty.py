"""First-order propagation of uncertainty, JCGM 100:2008, 5.1.2, equation (10) in matrix form."""

from __future__ import annotations

from bralto.core.arrays import Floats

__all__ = ["propagate"]


def propagate(gradients: Floats, cov: Floats) -> Floats:
    """Variances of m results from n independent marks.

    Args:
        gradients: (m, n, 2) array, d(result) / d(mark position).
        cov: (n, 2, 2) array, covariance of each mark's position.

    Returns:
        (m,) array of variances: sum over marks of g^T C g. Marks are independent of each other;
        results that share a mark (a height and the head it is counted in) are right because the
        gradient of the whole formula is taken first.
    """
    x, y = gradients[..., 0], gradients[..., 1]
    variances: Floats = (
        (x * x) @ cov[:, 0, 0] + (x * y) @ (cov[:, 0, 1] + cov[:, 1, 0]) + (y * y) @ cov[:, 1, 1]
    )
    return variances
