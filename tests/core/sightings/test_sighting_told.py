"""How one sights, over several sitters."""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from scipy import stats

from bralto.core.examination.summary import NO_FACTS, SkillFigure, Summary
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.sighting_told import sighting_told
from bralto.core.results import NotMeasurable
from bralto.core.sightings.sense_words import (
    bias_words,
    scatter_words,
    sighting_check,
    sighting_words,
)

BEGUN = datetime(2026, 5, 4, 18, 0, tzinfo=UTC)


def practised(number: int, errors: dict[str, np.ndarray]) -> Counted:
    """What the record keeps of one sitter: of each family the mean and its standard error."""
    skills = [SkillFigure("sighting", "tolerance", 1.0, 0.1, 0.0, 9)]
    for family, some in errors.items():
        u = float(some.std(ddof=1)) / math.sqrt(len(some))
        skills.append(SkillFigure(f"sighting {family}", "%", float(some.mean()), u, 0.0, len(some)))
    nothing = NotMeasurable("no drawing")
    return Counted(
        str(number), "Practice", BEGUN + timedelta(days=number), "figure-front", "observed", (),
        0.0, NO_FACTS, Summary(nothing, nothing, tuple(skills)),
    )  # fmt: skip


def test_the_scatter_is_that_about_each_sitters_own_mean() -> None:
    """Against SciPy: the pooled SD of three samples, its chi-squared interval, and, where all of
    them are as many, Student's t of their means."""
    rng = np.random.default_rng(3)
    samples = [rng.normal(mean, 2.5, 6) for mean in (2.0, 5.0, 3.5)]
    (found,) = sighting_told([practised(i, {"lengths": one}) for i, one in enumerate(samples)])
    squares = sum(float(np.square(one - one.mean()).sum()) for one in samples)
    assert (found.family, found.unit, found.many, found.sitters) == ("lengths", "%", 18, 3)
    assert found.scatter == pytest.approx(math.sqrt(squares / 15))
    ends = [math.sqrt(squares / stats.chi2.ppf(p, 15)) for p in (0.975, 0.025)]
    assert (found.least, found.most) == pytest.approx(ends)
    means = [one.mean() for one in samples]
    low, high = stats.t.interval(0.95, 2, loc=np.mean(means), scale=stats.sem(means))
    assert found.bias == pytest.approx(np.mean(means))
    assert (found.low, found.high) == pytest.approx((low, high), rel=1e-6)


def test_nineteen_of_twenty_intervals_hold_what_is_true() -> None:
    """400 learners by chance, who see lengths 3 % long on average, on one evening more than on
    another; four to seven sightings of each of six sitters."""
    rng, held, sure = np.random.default_rng(11), 0, 0
    for _ in range(400):
        some = [
            practised(i, {"lengths": rng.normal(rng.normal(3.0, 1.0), 3.0, rng.integers(4, 8))})
            for i in range(6)
        ]
        (found,) = sighting_told(some)
        held += found.low <= 3.0 <= found.high
        sure += found.least <= 3.0 <= found.most
    # Three standard errors of a share of 0.95 in 400: 0.033.
    assert held / 400 == pytest.approx(0.95, abs=0.033)
    assert sure / 400 == pytest.approx(0.95, abs=0.033)


def test_two_sitters_tell_nothing_yet_and_the_last_twenty_count() -> None:
    steps = np.array([0.0, 1.0, 2.0])
    assert sighting_told([practised(i, {"tilts": steps}) for i in range(2)]) == ()
    early = [practised(i, {"tilts": 40.0 + steps}) for i in range(30)]
    late = [practised(100 + i, {"tilts": steps}) for i in range(20)]
    (found,) = sighting_told([*late, *early])  # whatever their order
    assert (found.sitters, found.bias) == (20, pytest.approx(1.0))


def test_a_family_that_was_not_sighted_of_all_is_told_of_those_that_tell() -> None:
    steps = np.array([2.0, 3.0, 4.0])
    some = [practised(i, {"lengths": steps}) for i in range(3)]
    some += [practised(9 + i, {"lengths": steps, "tilts": -steps}) for i in range(3)]
    lengths, tilts = sighting_told(some)
    assert (lengths.sitters, tilts.sitters) == (6, 3)
    assert (lengths.bias, tilts.bias) == pytest.approx((3.0, -3.0))


def test_it_is_said_what_is_surely_off_and_of_what_nothing_is_told() -> None:
    rng = np.random.default_rng(5)
    some = [
        practised(i, {"lengths": rng.normal(6.0, 1.0, 5), "tilts": rng.normal(0.0, 2.0, 5)})
        for i in range(4)
    ]
    lengths, tilts = found = sighting_told(some)
    assert lengths.is_biased
    assert bias_words(lengths).endswith("%, too long")
    assert bias_words(tilts).endswith("°, none told")
    assert scatter_words(lengths).startswith("scatter ")
    said = sighting_words(found)
    assert said.startswith("How you sight, 4 sitters: lengths +")
    assert said.endswith("of tilts no bias is told.")
    assert sighting_words(()) == ""
    assert sighting_check(found).startswith("lengths +")
    assert "check the head again" in sighting_check(found)
    assert sighting_check(found[1:]) == ""
