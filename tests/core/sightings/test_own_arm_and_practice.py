"""The learner's own arm, and how well a learner sights what is known."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy import stats
from tests.core.sightings.sitters import picture, places, sighted

from bralto.core.longitudinal.sighting_told import sighting_of_study
from bralto.core.longitudinal.skills_besides import sighted_alone
from bralto.core.sightings.how_sighted import FEWEST, how_sighted
from bralto.core.sightings.own_arm import known_arm, pooled, repeated, taken_by
from bralto.core.study.taken import Sighting, Sightings, Sort, doubt_of
from bralto.core.study.values import Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")
NAMES = ("height.navel", "height.crotch", "span.figure", "span.shoulders", "span.thigh_r",
         "span.thigh_l", "span.shank_r", "span.upper_arm_l")  # fmt: skip


def test_bias_and_scatter_have_the_textbook_intervals() -> None:
    """Against SciPy's own t and chi-squared intervals of a sample of normal errors."""
    seen, rng = places("figure-front"), np.random.default_rng(8)
    errors = rng.normal(4.0, 2.0, len(NAMES))  # percent
    items = [
        replace(one, value=one.value * (1.0 + error / 100.0))
        for one, error in zip(sighted("figure-front", seen, *NAMES), errors, strict=True)
    ]
    (found,) = how_sighted(FRONT, items, picture(seen))
    assert (found.family, found.unit, found.many) == ("lengths", "%", len(NAMES))
    n, mean, sd = len(errors), errors.mean(), errors.std(ddof=1)
    low, high = stats.t.interval(0.95, n - 1, loc=mean, scale=sd / math.sqrt(n))
    assert (found.bias, found.low, found.high) == pytest.approx((mean, low, high))
    least = sd * math.sqrt((n - 1) / stats.chi2.ppf(0.975, n - 1))
    most = sd * math.sqrt((n - 1) / stats.chi2.ppf(0.025, n - 1))
    assert (found.scatter, found.least, found.most) == pytest.approx((sd, least, most))
    assert found.is_biased


def test_tilts_wrap_and_too_few_are_not_told() -> None:
    seen = places("figure-front")
    (one,) = sighted("figure-front", seen, "tilt.shoulders")
    round_the_back = replace(one, value=one.value + 360.0 + 3.0)
    found = how_sighted(FRONT, [round_the_back] * FEWEST, picture(seen))
    assert found[0].bias == pytest.approx(3.0)
    assert how_sighted(FRONT, [one] * (FEWEST - 1), picture(seen)) == ()
    answer = Sighting(Sort.HIGHER, ("crown",), 1.0, 0.05, ("sole",))
    assert how_sighted(FRONT, [answer] * 5, picture(seen)) == ()


def test_the_record_keeps_how_far_off_sightings_were_in_tolerances() -> None:
    """By hand: three lengths a tenth too long and a tilt 3 degrees off."""
    seen, grade = places("figure-front"), GRADES["developing"]
    items = [
        replace(one, value=1.1 * one.value) for one in sighted("figure-front", seen, *NAMES[:3])
    ]
    (tilt,) = sighted("figure-front", seen, "tilt.shoulders")
    items.append(replace(tilt, value=tilt.value - 3.0))
    study = Study("Practice", "figure-front", picture(seen), (), sightings=Sightings(tuple(items)))
    found, lengths = sighting_of_study(study)  # of one tilt alone no bias is kept
    assert (found.skill, found.unit, found.measures) == ("sighting", "tolerance", 4)
    sizes = [10.0 / grade.percent] * 3 + [3.0 / grade.degrees]
    assert found.value == pytest.approx(sum(sizes) / 4.0)
    assert found.u == pytest.approx(np.std(sizes, ddof=1) / 2.0)
    kept = sighted_alone(study, "no drawing")
    assert kept is not None
    assert kept.skill("sighting") == found
    assert kept.only_sighted
    assert (lengths.skill, lengths.unit, lengths.measures) == ("sighting lengths", "%", 3)
    assert (lengths.value, lengths.u) == pytest.approx((10.0, 0.0), abs=1e-9)
    # Neither too few, nor of a figure from life, which nobody knows.
    few = replace(study, sightings=Sightings(tuple(items[: FEWEST - 1])))
    assert sighting_of_study(few) == ()
    assert sighted_alone(few, "no drawing") is None
    assert sighting_of_study(replace(study, reference=None)) == ()


def test_what_is_sighted_twice_tells_the_arm() -> None:
    """The pooled variance of pairs: half the mean square of their differences."""
    one = Sighting(Sort.LENGTH, ("crown", "navel"), 4.0, 0.0, along="plumb")
    u = doubt_of(FRONT, one)
    steps = np.array([0.5, -1.0, 2.0, 1.5, -0.5])
    items = []
    for i, step in enumerate(steps):
        # Each pair asks something else.
        pair = replace(one, points=("crown", FRONT.stations[i + 3]))
        items += [
            replace(pair, value=4.0 - step * u / 2.0),
            replace(pair, value=4.0 + step * u / 2.0),
        ]
    factor, degrees = repeated(FRONT, items)["lengths"]
    assert degrees == len(steps)
    assert factor == pytest.approx(math.sqrt(np.mean(np.square(steps)) / 2.0), rel=1e-6)
    assert repeated(FRONT, items[:1]) == {}
    assert known_arm({"lengths": (factor, 4)}) == {}
    arm = known_arm({"lengths": (factor, 5)})
    assert taken_by(FRONT, one, arm).u == pytest.approx(factor * u)
    tilt = Sighting(Sort.TILT, ("shoulder_r", "shoulder_l"), 1.0, 0.0)
    assert taken_by(FRONT, tilt, arm).u == pytest.approx(doubt_of(FRONT, tilt))


def test_evenings_are_pooled_and_none_counts_twice() -> None:
    first, second = {"tilts": (1.0, 4)}, {"tilts": (2.0, 2)}
    both = pooled(first, second)
    assert both["tilts"] == pytest.approx((math.sqrt((4 * 1.0 + 2 * 4.0) / 6), 6))
    again = pooled(both, second, without=second)  # opened again, nothing sighted since
    assert again["tilts"] == pytest.approx(both["tilts"])
