"""What is told over studies, against statsmodels, SciPy and worked examples of the literature."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import optimize, stats
from statsmodels.stats.meta_analysis import combine_effects
from statsmodels.stats.multitest import multipletests

from bralto.core.longitudinal.statistics.discovery import discoveries
from bralto.core.longitudinal.statistics.random_effects import mean_over
from bralto.core.longitudinal.statistics.slope import pooled_slope, slope_of
from bralto.core.longitudinal.statistics.trend import theil_sen, trend_of
from bralto.core.student import normal_quantile, quantile, quick_quantile, two_sided


def test_t_is_that_of_scipy() -> None:
    for freedom in (1.0, 2.5, 11.0, 200.0):
        assert quantile(0.95, freedom) == pytest.approx(stats.t.ppf(0.975, freedom), rel=1e-9)
        assert two_sided(1.7, freedom) == pytest.approx(2 * stats.t.sf(1.7, freedom), rel=1e-9)
    for freedom in (4.0, 8.0, 30.0, 198.0):
        exact = stats.t.ppf(0.975, freedom)
        assert quick_quantile(0.95, freedom) == pytest.approx(exact, rel=0.02)
    assert normal_quantile(0.95) == pytest.approx(1.959963984540054, abs=1e-12)


def test_the_mean_of_students_sleep_data_and_its_t_interval() -> None:
    """Student 1908 (checks.md E): the difference of two soporifics in ten patients. Where the
    studies' own doubt is nothing beside their scatter, random effects are the plain t test."""
    extra = np.array([1.2, 2.4, 1.3, 1.3, 0.0, 1.0, 1.8, 0.8, 4.6, 1.4])
    found = mean_over(extra, np.full(10, 1e-6))
    assert found.value == pytest.approx(1.58, abs=1e-6)
    assert (found.low, found.high) == pytest.approx((0.7001142, 2.4598858), abs=1e-6)
    assert found.p == pytest.approx(0.00283289, abs=1e-6)
    assert found.between == pytest.approx(1.229995, abs=1e-5)


@pytest.mark.parametrize("seed", range(6))
def test_random_effects_agree_with_statsmodels(seed: int) -> None:
    """Paule and Mandel's variance between studies, Hartung and Knapp's interval."""
    rng = np.random.default_rng(seed)
    n = int(rng.integers(4, 40))
    u = rng.uniform(0.02, 0.08, n)
    values = 0.05 + rng.normal(0.0, 0.06, n) + rng.normal(0.0, u)
    theirs = combine_effects(values, u**2, method_re="iterated", use_t=True)
    ours = mean_over(values, u)
    assert ours.between**2 == pytest.approx(theirs.tau2, rel=1e-6)
    assert ours.value == pytest.approx(theirs.mean_effect_re, rel=1e-6)
    assert ours.u == pytest.approx(theirs.sd_eff_w_re_hksj, rel=1e-6)
    low, high = theirs.conf_int(use_t=True)[3]
    assert (ours.low, ours.high) == pytest.approx((low, high), rel=1e-6)


def test_studies_that_agree_better_than_they_can_are_not_as_sure_as_they_look() -> None:
    """All alike. Lower 1 % of chi squared with 8 degrees of freedom: 1.646 (handbook table, e.g.
    Abramowitz and Stegun 1964, 26.8: 1.64648)."""
    found = mean_over(np.full(9, 0.04), np.full(9, 0.03))
    assert (found.value, found.between) == (pytest.approx(0.04), 0.0)
    assert found.u == pytest.approx(0.01 * (1.64648 / 8.0) ** 0.5, rel=1e-5)
    assert found.high - found.value == pytest.approx(stats.t.ppf(0.975, 8) * found.u)


def test_an_interval_over_studies_that_differ_by_their_doubt_alone_holds_as_often_as_it_says() -> (
    None
):
    """Student's t does, and nothing is added to it: 95 % of 4,000, give or take 1 %."""
    rng = np.random.default_rng(1)
    u = np.full(12, 0.04)
    held = sum(
        found.low < 0.02 < found.high
        for found in (mean_over(0.02 + rng.normal(0.0, u), u) for _ in range(4000))
    )
    assert 0.94 < held / 4000 < 0.96


@pytest.mark.parametrize("seed", range(5))
def test_false_discoveries_are_those_of_statsmodels_and_scipy(seed: int) -> None:
    p = np.random.default_rng(seed).uniform(0.0, 1.0, 25) ** 3
    theirs, _, _, _ = multipletests(p, 0.10, method="fdr_bh")
    assert discoveries(p).tolist() == theirs.tolist()
    adjusted = stats.false_discovery_control(p, method="bh")
    assert discoveries(p).tolist() == (adjusted <= 0.10).tolist()


def test_nothing_asked_finds_nothing() -> None:
    assert discoveries(np.zeros(0)).tolist() == []
    assert not discoveries(np.array([0.2, 0.9])).any()


def test_sens_own_example() -> None:
    """Sen 1968 (checks.md E): slope 4, 93 % interval 3.714 to 4.375."""
    x = np.array([1.0, 2.0, 3.0, 4.0, 10.0, 12.0, 18.0])
    y = np.array([9.0, 15.0, 19.0, 20.0, 45.0, 55.0, 78.0])
    slope, low, high = theil_sen(x, y, 0.93)
    assert slope == pytest.approx(4.0, abs=1e-9)
    assert (low, high) == pytest.approx((26 / 7, 4.375), abs=1e-9)


@pytest.mark.parametrize(("seed", "tied"), [(1, False), (2, False), (3, True)])
def test_theil_sen_agrees_with_scipy(seed: int, tied: bool) -> None:
    rng = np.random.default_rng(seed)
    n = int(rng.integers(6, 60))
    x = np.arange(n, dtype=float)
    y = np.round(0.03 * x + rng.normal(0.0, 0.2, n), 1 if tied else 9)
    theirs = stats.theilslopes(y, x, 0.95)
    assert theil_sen(x, y) == pytest.approx((theirs.slope, theirs.low_slope, theirs.high_slope))


def test_a_trend_is_a_change_in_percent_over_ten_studies() -> None:
    values = 0.2 * 0.97 ** np.arange(30) * np.random.default_rng(4).uniform(0.99, 1.01, 30)
    trend = trend_of(values)
    low, high = trend.percent
    assert low < 100.0 * (0.97**10 - 1.0) < high
    assert trend.told
    line, below, above = trend.line(np.arange(30.0))
    assert np.all((below <= line) & (line <= above))
    assert np.all((below[1:-1] < values[1:-1] * 1.02) & (values[1:-1] * 0.98 < above[1:-1]))


def test_the_band_of_a_trend_holds_the_line_it_comes_from() -> None:
    """95 % at any place on it; simulated, so between 90 and 99 %."""
    rng = np.random.default_rng(11)
    at, held = np.array([0.0, 12.0, 24.0]), np.zeros(3)
    for _ in range(400):
        x = np.arange(25.0)
        trend = trend_of(np.exp(-2.0 - 0.02 * x + rng.normal(0.0, 0.3, 25)))
        _, low, high = trend.line(at)
        true = np.exp(-2.0 - 0.02 * at)
        held += (low <= true) & (true <= high)
    assert np.all(held / 400 >= 0.90)
    assert np.all(held / 400 <= 0.99)


# Pearson 1901 with York's weights, moved so that York's published line goes through the origin, as
# in test_life.py: slope -.480533.
X = np.array([0, 0.9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4])
Y = np.array([5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5])
WX = np.array([1000, 1000, 500, 800, 200, 80, 60, 20, 1.8, 1])
WY = np.array([1, 1.8, 4, 8, 20, 20, 70, 70, 100, 500])


def test_the_slope_with_errors_in_both_variables_is_yorks() -> None:
    weight = WX * WY / (WX + 0.480533**2 * WY)
    x, y = X - weight @ X / weight.sum(), Y - weight @ Y / weight.sum()
    slope, _, _ = slope_of(x, y, WX**-0.5, 1.0 / WY)
    assert slope == pytest.approx(-0.480533, abs=1e-5)


def test_a_pooled_slope_holds_the_truth_as_often_as_it_says() -> None:
    """Studies whose own slopes scatter, two lines each, and a hand that adds to what is drawn."""
    rng = np.random.default_rng(12)
    held, slopes = 0, []
    for _ in range(600):
        x = rng.normal(0.0, 7.0, (16, 2))
        y = (0.72 + rng.normal(0.0, 0.08, (16, 1))) * x + rng.normal(0.0, 1.5, (16, 2))
        u = np.full(32, 0.6)
        seen, drawn = x.ravel() + rng.normal(0.0, 0.6, 32), y.ravel() + rng.normal(0.0, 0.6, 32)
        found = pooled_slope(seen, drawn, u, u, np.repeat(np.arange(16), 2))
        held += found.low <= 0.72 <= found.high
        slopes.append(found.value)
    assert 0.93 <= held / 600 <= 0.975
    assert np.mean(slopes) == pytest.approx(0.72, abs=0.006)


@pytest.mark.parametrize("seed", range(12))
def test_the_hand_is_what_the_squares_of_a_slope_leave_over(seed: int) -> None:
    """The scatter at which the least of the weighted squares, which SciPy finds, is what is to be
    expected of so many pairs; 0 where placing alone makes more of them."""
    rng = np.random.default_rng(seed)
    x, wide = rng.normal(0.0, 8.0, 30), rng.choice([0.0, 1.0, 6.0, 40.0])
    ux, uy = rng.uniform(0.2, 0.8, (2, 30))
    scatter = 0.3 if wide == 0.0 else 1.0  # what agrees better than placing allows
    y = 0.6 * x + scatter * (rng.normal(0.0, np.hypot(uy, wide)) + rng.normal(0.0, 0.6 * ux))
    hand = pooled_slope(x, y, ux, uy, np.arange(30) // 2).hand

    def squares(slope: float) -> float:
        return float((np.square(y - slope * x) / (uy**2 + hand**2 + (slope * ux) ** 2)).sum())

    least = optimize.minimize_scalar(squares, (0.3, 0.9), tol=1e-10).fun
    assert (hand == 0.0) == (wide == 0.0)
    if hand == 0.0:
        assert least <= 29.0
    else:
        assert least == pytest.approx(29.0, rel=1e-6)


def test_a_slope_wants_something_to_straighten() -> None:
    x = np.full(8, 0.1)
    assert pooled_slope(x, x, x, x, np.arange(8) // 2) is None
