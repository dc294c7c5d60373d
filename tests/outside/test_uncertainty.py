"""First-order uncertainty against the `uncertainties` package (3.2) and worked values."""

from __future__ import annotations

import numpy as np
import pytest
from tests.studies import figure_marks, moved, study_of
from uncertainties import ufloat, umath

from bralto.core.examination.assessment import assess
from bralto.core.study.values import Mark
from bralto.core.views.shipped_views import view_named

GIVEN = {
    "crown": (100.0, 50.0),
    "chin": (104.0, 170.0),
    "heel_r": (112.0, 935.0),
}  # checks.md, section B: 1.5 px a coordinate


def exact(points: dict[str, tuple[float, float]]) -> dict[str, Mark]:
    return {key: Mark(x, y, "seen", 0.0) for key, (x, y) in points.items()}


def test_heads_tall_is_the_worked_value() -> None:
    """R = 7.371584 is straight-line; ours is along plumb, so it is checked by the package below.

    checks.md gives u = 0.122368 for the straight quotient and 0.131433 when the shared crown is
    ignored; the plumb quotient must lie near the first.
    """
    marks = {key: Mark(x, y, "seen", 1.5) for key, (x, y) in GIVEN.items()}
    reading = assess(study_of(exact(GIVEN), marks)).reading("span.figure")
    crown, chin, heel = (
        tuple(ufloat(v, 1.5) for v in GIVEN[key]) for key in ("crown", "chin", "heel_r")
    )
    head = umath.sqrt((crown[0] - chin[0]) ** 2 + (crown[1] - chin[1]) ** 2)
    tall = (heel[1] - crown[1]) / head
    assert reading.drawing == pytest.approx(tall.nominal_value, rel=1e-12)
    assert reading.u == pytest.approx(tall.std_dev, rel=1e-6)
    assert reading.u == pytest.approx(0.1224, abs=5e-4)


def with_package(seen: dict[str, Mark], drawn: dict[str, Mark]) -> dict[str, object]:
    """Errors of some measures of every kind, by operator overloading on every coordinate."""
    r = {k: (ufloat(m.x, m.spread), ufloat(-m.y, m.spread)) for k, m in seen.items()}
    d = {k: (ufloat(m.x, m.spread), ufloat(-m.y, m.spread)) for k, m in drawn.items()}

    def dist(p: dict, a: str, b: str) -> object:
        return umath.sqrt((p[a][0] - p[b][0]) ** 2 + (p[a][1] - p[b][1]) ** 2)

    def angle(p: dict, a: str, b: str) -> object:
        return umath.degrees(umath.atan2(p[b][1] - p[a][1], p[b][0] - p[a][0]))

    def low(p: dict) -> object:
        return min(
            (p[k][1] for k in ("heel_r", "heel_l", "toe_r", "toe_l")), key=lambda v: v.nominal_value
        )

    head_r, head_d = dist(r, "crown", "chin"), dist(d, "crown", "chin")
    tall_r, tall_d = r["crown"][1] - low(r), d["crown"][1] - low(d)
    unit = {"head": head_d, "envelope": tall_d * head_r / tall_r}
    out: dict[str, object] = {}
    for school, u in unit.items():
        out[f"{school} height.navel"] = (d["crown"][1] - d["navel"][1]) / u - (
            r["crown"][1] - r["navel"][1]
        ) / head_r
        out[f"{school} height.chin"] = (d["crown"][1] - d["chin"][1]) / u - (
            r["crown"][1] - r["chin"][1]
        ) / head_r
        out[f"{school} offset.knee_l"] = (d["knee_l"][0] - d["pit_of_neck"][0]) / u - (
            r["knee_l"][0] - r["pit_of_neck"][0]
        ) / head_r
        out[f"{school} span.shoulders"] = (
            dist(d, "shoulder_r", "shoulder_l") / u - dist(r, "shoulder_r", "shoulder_l") / head_r
        )
        out[f"{school} span.figure"] = tall_d / u - tall_r / head_r
        out[f"{school} span.crotch_to_knee"] = (
            d["crotch"][1] - (d["knee_r"][1] + d["knee_l"][1]) / 2
        ) / u - (r["crotch"][1] - (r["knee_r"][1] + r["knee_l"][1]) / 2) / head_r
    out["head tilt.hips"] = angle(d, "hip_point_r", "hip_point_l") - angle(
        r, "hip_point_r", "hip_point_l"
    )
    out["head angle.counter_tilt"] = (
        angle(d, "shoulder_r", "shoulder_l") - angle(d, "hip_point_r", "hip_point_l")
    ) - (angle(r, "shoulder_r", "shoulder_l") - angle(r, "hip_point_r", "hip_point_l"))
    out["head angle.elbow_r"] = (
        angle(d, "elbow_r", "wrist_r") - angle(d, "elbow_r", "shoulder_r")
    ) - (angle(r, "elbow_r", "wrist_r") - angle(r, "elbow_r", "shoulder_r"))
    thigh_shank = [dist(p, "hip_point_r", "knee_r") / dist(p, "knee_r", "ankle_r") for p in (d, r)]
    out["envelope ratio.thigh_shank_r"] = thigh_shank[0] / thigh_shank[1] - 1
    out["envelope alignment.elbow_ribs_l"] = (d["ribcage_base"][1] - d["elbow_l"][1]) / unit[
        "envelope"
    ] - (r["ribcage_base"][1] - r["elbow_l"][1]) / head_r
    out["head fraction.crotch_half"] = (d["crown"][1] - d["crotch"][1]) / tall_d - (
        r["crown"][1] - r["crotch"][1]
    ) / tall_r
    return out


def test_every_kind_agrees_with_the_package() -> None:
    """1e-6 relative, reference and drawing marks with different spreads, both schools."""
    rng = np.random.default_rng(4)
    seen = {k: Mark(m.x, m.y, "seen", rng.uniform(0.5, 3)) for k, m in figure_marks().items()}
    drawn = {
        k: Mark(m.x + rng.normal(0, 9), m.y + rng.normal(0, 9), "seen", rng.uniform(0.5, 3))
        for k, m in moved(seen, 2.2, (10, 20)).items()
    }
    for name, value in with_package(seen, drawn).items():
        school, key = name.split(" ")
        reading = assess(study_of(seen, drawn, school=school)).reading(key)
        assert reading.error == pytest.approx(value.nominal_value, abs=1e-9), name
        assert reading.u == pytest.approx(value.std_dev, rel=1e-6, abs=1e-15), name


def test_a_sighting_angle_has_the_worked_uncertainty() -> None:
    """checks.md, section B: L = 500, sigma = 2 gives 53.1301 degrees +/- 0.324114."""
    ends = {"shoulder_r": (100.0, 500.0), "shoulder_l": (400.0, 100.0)}
    marks = {key: Mark(x, y, "seen", 2.0) for key, (x, y) in ends.items()}
    reading = assess(study_of(exact(ends), marks)).reading("tilt.shoulders")
    assert reading.drawing == pytest.approx(53.13010235, abs=1e-8)
    assert reading.u == pytest.approx(0.324114, abs=1e-6)


@pytest.mark.parametrize("school", ["head", "best-fit"])
def test_miss_and_measures_agree_with_monte_carlo(school: str) -> None:
    """JCGM 101:2008: the spread of 600 simulated placings, within its own 9 % (3 sigma)."""
    rng = np.random.default_rng(8)
    keys = [m.key for m in view_named("figure-front").landmarks]
    seen = figure_marks(spread=1.0)
    drawn = {
        k: Mark(2 * m.x + rng.normal(0, 14), 2 * m.y + rng.normal(0, 14), "seen", 1.5)
        for k, m in seen.items()
    }
    base = assess(study_of(seen, drawn, school=school))
    draws, misses = [], []
    for _ in range(600):
        a = {k: _shaken(seen[k], rng) for k in keys}
        b = {k: _shaken(drawn[k], rng) for k in keys}
        found = assess(study_of(a, b, school=school))
        misses.append(found.miss.value)
        draws.append(found.reading("height.crotch").error)
    assert np.std(draws) == pytest.approx(base.reading("height.crotch").u, rel=0.09)
    # The robust scale estimate is held constant in the gradient of the miss: a little looser.
    assert np.std(misses) == pytest.approx(base.miss.u, rel=0.15)


def _shaken(mark: Mark, rng: np.random.Generator) -> Mark:
    dx, dy = rng.normal(0.0, mark.spread, 2)
    return Mark(mark.x + dx, mark.y + dy, "seen", mark.spread)


def test_the_mark_limit_is_the_miss_of_marking_noise() -> None:
    """Copies that differ by placing alone have a root mean square miss equal to the limit."""
    rng = np.random.default_rng(9)
    seen = figure_marks(spread=1.5)
    drawn = moved(seen, 1.0, (0.0, 0.0))
    squares = []
    for _ in range(250):
        a = {k: _shaken(m, rng) for k, m in seen.items()}
        b = {k: _shaken(m, rng) for k, m in drawn.items()}
        squares.append(assess(study_of(a, b)).miss.value ** 2)
    limit = assess(study_of(seen, drawn)).miss.limit
    assert np.sqrt(np.mean(squares)) == pytest.approx(limit, rel=0.05)
