"""The slope through the origin with errors in both variables, against other minimisers."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import minimize_scalar

from bralto.core.discover.life import Life, slope_through_origin
from bralto.core.results import NotMeasurable

# Pearson 1901 with York's weights (checks.md, section E), moved so that York's line of published
# slope -.480533 and intercept 5.47991 goes through the origin: the least squares stay the same.
X = np.array([0, 0.9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4])
Y = np.array([5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5])
WX = np.array([1000, 1000, 500, 800, 200, 80, 60, 20, 1.8, 1])
WY = np.array([1, 1.8, 4, 8, 20, 20, 70, 70, 100, 500])


def test_the_published_line_of_york_comes_out() -> None:
    """At the weighted centroid of the solution the free intercept is 0, so the slope agrees."""
    slope = -0.480533
    weight = WX * WY / (WX + slope**2 * WY)
    x, y = X - weight @ X / weight.sum(), Y - weight @ Y / weight.sum()
    found = slope_through_origin(x, y, WX**-0.5, WY**-0.5)
    assert isinstance(found, Life)
    assert found.slope == pytest.approx(slope, abs=1e-5)


def test_it_is_the_least_of_the_weighted_squares() -> None:
    rng = np.random.default_rng(7)
    x = rng.normal(0, 20, 15)
    ux, uy = rng.uniform(0.5, 3, 15), rng.uniform(0.5, 3, 15)
    y = 0.7 * x + rng.normal(0, 2, 15)
    found = slope_through_origin(x, y, ux, uy)
    least = minimize_scalar(
        lambda b: float(np.sum((y - b * x) ** 2 / (uy**2 + b**2 * ux**2))),
        bounds=(0, 2), method="bounded", options={"xatol": 1e-12},
    )  # fmt: skip
    assert found.slope == pytest.approx(least.x, abs=1e-7)


def test_its_uncertainty_is_the_scatter_of_repeats() -> None:
    rng = np.random.default_rng(8)
    true = rng.normal(0, 20, 12)
    slopes = []
    for _ in range(2000):
        x, y = true + rng.normal(0, 2, 12), 0.6 * true + rng.normal(0, 1.5, 12)
        found = slope_through_origin(x, y, np.full(12, 2.0), np.full(12, 1.5))
        slopes.append(found.slope)
    assert np.mean(slopes) == pytest.approx(0.6, abs=0.003)
    assert found.u == pytest.approx(np.std(slopes), rel=0.2)


def test_lines_that_are_all_level_or_plumb_cannot_tell() -> None:
    zero = np.zeros(4)
    assert isinstance(slope_through_origin(zero, zero, zero + 1, zero + 1), NotMeasurable)
