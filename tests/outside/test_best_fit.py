"""The best fit against scikit-image 0.26 and morphops 0.1.13 where their models coincide."""

from __future__ import annotations

import morphops
import numpy as np
import pytest
from scipy.optimize import minimize
from scipy.spatial import procrustes
from skimage.transform import SimilarityTransform

from bralto.core.fit.similarity import fit_similarity
from bralto.core.results import NotMeasurable

RNG = np.random.default_rng(11)


def unturned_pair(n: int = 20) -> tuple[np.ndarray, np.ndarray]:
    """Noisy similar shapes whose least-squares turn is 0, so that both models have one optimum."""
    p = RNG.normal((300.0, -700.0), 100.0, (n, 2))
    q = 1.7 * p + RNG.normal((40.0, 90.0), 12.0, (n, 2))
    turn = SimilarityTransform.from_estimate(p, q).rotation
    c, s = np.cos(-turn), np.sin(-turn)
    return p, (q - q.mean(axis=0)) @ np.array([[c, s], [-s, c]]) + q.mean(axis=0)


def test_scale_shift_and_residual_agree_with_both_libraries() -> None:
    p, q = unturned_pair()
    ours = fit_similarity(p, q, np.ones(len(p)), robust=False)
    theirs = SimilarityTransform.from_estimate(p, q)
    assert theirs.rotation == pytest.approx(0.0, abs=1e-12)
    assert ours.scale == pytest.approx(theirs.scale, rel=1e-9)
    assert ours.shift == pytest.approx(theirs.translation, rel=1e-9)
    result = morphops.opa(p, q, do_scaling=True, no_reflect=True)
    assert ours.scale == pytest.approx(result["b"], rel=1e-9)
    assert np.sum(ours.residuals**2) == pytest.approx(result["oss"], rel=1e-9)


def test_weights_agree_with_repeated_marks() -> None:
    """A mark of half the spread weighs as much as four of the same: plain least squares says so."""
    p, q = unturned_pair(8)
    sigma = np.ones(8)
    sigma[2] = 0.5
    weighted = fit_similarity(p, q, sigma, robust=False)
    four = np.r_[np.arange(8), 2, 2, 2]
    repeated = fit_similarity(p[four], q[four], np.ones(11), robust=False)
    assert weighted.scale == pytest.approx(repeated.scale, rel=1e-12)


def test_a_mirrored_shape_is_not_accepted_as_scipy_accepts_it() -> None:
    """checks.md, trap of section A: this shape against its mirror image is 0 for SciPy."""
    p = np.array([[0.0, 0.0], [4.0, 0.0], [4.0, 7.0], [1.0, 3.0]])
    q = p * [-1.0, 1.0]
    assert procrustes(p, q)[2] == pytest.approx(0.0, abs=1e-12)
    ours = fit_similarity(p, q, np.ones(4), robust=False)
    upside_down = fit_similarity(p, -p, np.ones(4), robust=False)
    assert np.sum(ours.residuals**2) > 10.0
    assert isinstance(upside_down, NotMeasurable)


def test_gradients_of_the_fit_are_exact() -> None:
    """Against central differences; the robust scale estimate is held as documented, so plain."""
    p, q = unturned_pair(9)
    sigma, step = np.full(9, 2.0), 1e-4
    fit = fit_similarity(p, q, sigma, robust=False)
    for which, gradient in ((0, fit.by_reference), (1, fit.by_drawing)):
        for i in (0, 4, 8):
            for axis in range(2):
                ends = []
                for sign in (1.0, -1.0):
                    pair = [p.copy(), q.copy()]
                    pair[which][i, axis] += sign * step
                    one = fit_similarity(pair[0], pair[1], sigma, robust=False)
                    ends.append(np.array([one.scale, *one.shift]))
                slope = (ends[0] - ends[1]) / (2 * step)
                assert gradient[:, i, axis] == pytest.approx(slope, rel=1e-5, abs=1e-9)


@pytest.mark.parametrize(
    ("p", "said"),
    [(np.zeros((1, 2)), "two marks"), (np.full((5, 2), 3.0), "one spot")],
)
def test_degenerate_marks_give_a_reason(p: np.ndarray, said: str) -> None:
    found = fit_similarity(p, p + 1.0, np.ones(len(p)))
    assert isinstance(found, NotMeasurable)
    assert said in found.reason


def test_the_robust_fit_is_the_least_of_hubers_loss() -> None:
    """SciPy minimises the same sum of rho over the residual lengths from another start; Huber 1981.

    The cut is the one that our fit settled on; the optimum must then be the same to 1e-6.
    """
    rng = np.random.default_rng(11)
    p = rng.uniform(0, 8, (20, 2))
    q = 1.3 * p + [3.0, -2.0] + rng.normal(0, 0.05, (20, 2))
    q[4] += [2.0, 1.0]  # one wild mark
    sigma = rng.uniform(0.03, 0.08, 20)
    ours = fit_similarity(p, q, sigma)
    lengths = np.hypot(*ours.residuals.T) / sigma
    down = ours.weights * sigma**2  # the share of its weight that each mark kept
    cut = float(np.max(lengths[down < 1 - 1e-9] * down[down < 1 - 1e-9]))

    def loss(theta: np.ndarray) -> float:
        z = np.hypot(*(q - theta[0] * p - theta[1:]).T) / sigma
        return float(np.sum(np.where(z <= cut, z * z / 2, cut * z - cut * cut / 2)))

    theirs = minimize(loss, [1.0, 0.0, 0.0], method="Nelder-Mead", options={
        "xatol": 1e-10, "fatol": 1e-14, "maxiter": 20000, "maxfev": 20000})  # fmt: skip
    assert ours.scale == pytest.approx(theirs.x[0], abs=1e-6)
    assert ours.shift == pytest.approx(theirs.x[1:], abs=1e-5)
    plain = fit_similarity(p, q, sigma, robust=False)
    assert abs(ours.scale - 1.3) < abs(plain.scale - 1.3)
