"""A question of the learner's own: any two marks, against the head or any other two."""

from __future__ import annotations

import numpy as np
import pytest

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.next_question import OWN_SORTS, own_question
from bralto.core.study.taken import DEGREES, RELATIVE, Sort
from bralto.core.views.shipped_views import view_named

VIEW = view_named("figure-front")


def test_any_two_marks_are_a_length_with_the_arms_own_doubt() -> None:
    found = own_question(VIEW, (), Sort.LENGTH, ("navel", "knee_l"))
    assert not isinstance(found, NotMeasurable)
    one = found.sighting
    assert (one.sort, one.points, one.of, one.measure) == (Sort.LENGTH, ("navel", "knee_l"), (), "")
    assert 1.8 < one.value < 3.2  # of a standing figure 2 to 3 heads (common practice, no source)
    assert one.u == pytest.approx(max(RELATIVE * one.value, 0.05))


def test_a_length_is_counted_in_any_other() -> None:
    arm, leg = ("shoulder_r", "elbow_r"), ("knee_r", "heel_r")
    there, back = (own_question(VIEW, (), Sort.LENGTH, a, b) for a, b in ((arm, leg), (leg, arm)))
    assert not isinstance(there, NotMeasurable)
    assert not isinstance(back, NotMeasurable)
    assert there.sighting.value * back.sighting.value == pytest.approx(1.0)


def test_a_tilt_runs_from_the_models_right_and_a_line_from_its_first_mark() -> None:
    for points in (("elbow_r", "wrist_l"), ("wrist_l", "elbow_r")):
        found = own_question(VIEW, (), Sort.TILT, points)
        assert not isinstance(found, NotMeasurable)
        assert found.sighting.points == ("elbow_r", "wrist_l")
        assert found.sighting.u == DEGREES
    # Without two sides it runs from the upper end, as of a head's own line.
    for points in (("crown", "chin"), ("chin", "crown")):
        found = own_question(VIEW, (), Sort.TILT, points)
        assert not isinstance(found, NotMeasurable)
        assert found.sighting.points == ("crown", "chin")
    plumb = own_question(VIEW, (), Sort.PLUMB, ("pit_of_neck", "heel_r"))
    assert not isinstance(plumb, NotMeasurable)
    assert plumb.sighting.points == ("pit_of_neck", "heel_r")


@pytest.mark.parametrize("sort", OWN_SORTS)
def test_what_is_asked_can_be_sighted_and_tells(sort: Sort) -> None:
    found = own_question(VIEW, (), sort, ("elbow_r", "knee_l"))
    assert not isinstance(found, NotMeasurable)
    before = imply(VIEW, ())
    after = imply(VIEW, (found.sighting,))
    assert not isinstance(before, NotMeasurable)
    assert not isinstance(after, NotMeasurable)
    # What was sighted is known by its own doubt at most afterwards.
    at = Sighter(VIEW, after.points).on(found.sighting)
    assert at is not None
    slope = at.gradient.ravel()
    now = float(np.sqrt(slope @ after.cov @ slope))
    was = float(np.sqrt(slope @ before.cov @ slope))
    assert now < was
    assert now <= found.sighting.u + 1e-9


@pytest.mark.parametrize(
    ("points", "of"),
    [
        (("navel", "navel"), ()),
        (("crown", "chin"), ()),
        (("knee_r", "heel_r"), ("heel_r", "knee_r")),
        (("knee_r", "heel_r"), ("chin", "chin")),
    ],
)
def test_what_tells_nothing_is_no_question(points: tuple[str, str], of: tuple[str, ...]) -> None:
    assert isinstance(own_question(VIEW, (), Sort.LENGTH, points, of), NotMeasurable)
