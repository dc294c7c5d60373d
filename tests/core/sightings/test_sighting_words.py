"""Sightings as practitioners say them, in and out."""

from __future__ import annotations

from dataclasses import replace

import pytest

from bralto.core.errors import UserError
from bralto.core.sightings.answers_read import read_value
from bralto.core.sightings.sighting_words import asked, heads_said, label_of, value_said
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")
LENGTH = Sighting(Sort.LENGTH, ("crown", "navel"), 0.0, 0.0, along="plumb")
SHOULDERS = Sighting(Sort.TILT, ("shoulder_r", "shoulder_l"), 0.0, 0.0)
ARM = Sighting(Sort.TILT, ("shoulder_r", "elbow_r"), 0.0, 0.0)
PLUMB = Sighting(Sort.PLUMB, ("pit_of_neck", "heel_r"), 0.0, 0.0)
HALF = Sighting(Sort.FRACTION, ("crown", "crotch", "heel_r"), 0.0, 0.0)
LONGER = Sighting(Sort.LONGER, ("knee_l", "heel_l"), 0.0, 0.0, ("knee_l", "navel"))


@pytest.mark.parametrize(
    ("value", "said"),
    [(2.3333, "2 1/3"), (3.95, "4 less a little"), (7.5, "7 1/2"), (0.75, "3/4"), (4.0, "4"),
     (3.06, "3 and a little"), (0.26, "1/4"), (-0.5, "−1/2"), (0.0, "0"),
     (0.08, "0.08"), (-0.05, "−0.05"), (-0.01, "0"), (0.15, "1/4 less a little"),
     (1.04, "1 and a little")],
)  # fmt: skip
def test_lengths_are_said_in_halves_thirds_and_quarters(value: float, said: str) -> None:
    assert heads_said(value) == said


@pytest.mark.parametrize(
    ("one", "text", "about", "value"),
    [
        (LENGTH, "2 1/3", 0.0, 7 / 3),
        (LENGTH, "2.3", 0.0, 2.3),
        (LENGTH, "2 : 3", 0.0, 2 / 3),
        (LENGTH, "2 to 3", 0.0, 2 / 3),
        (LENGTH, "1/2", 0.0, 0.5),
        (LENGTH, "4 less a little", 0.0, 3.95),
        (LENGTH, "3 heads", 0.0, 3.0),
        (LENGTH, "2,5", 0.0, 2.5),
        (LENGTH, "2 and a third", 0.0, 7 / 3),
        (LENGTH, "seven and a half heads", 0.0, 7.5),
        (LENGTH, "two thirds and a little", 0.0, 2 / 3 + 0.05),
        (LENGTH, "half a head", 0.0, 0.5),
        (LENGTH, "2\u00bd", 0.0, 2.5),
        (HALF, "half", 0.0, 0.5),
        (HALF, "three quarters", 0.0, 0.75),
        (HALF, "0,52", 0.0, 0.52),
        (HALF, "a third less a little", 0.0, 1 / 3 - 0.05),
        (SHOULDERS, "-8", 0.0, -8.0),
        (SHOULDERS, "R up 8", 0.0, -8.0),
        (SHOULDERS, "left up 3", 0.0, 3.0),
        (SHOULDERS, "level", 4.0, 0.0),
        # The long hand at five to lies 30 degrees left of upright: a line that falls to the right.
        (ARM, "five to three", -70.0, -60.0),
        (ARM, "2:55", -70.0, -60.0),
        (ARM, "quarter to three", -20.0, 0.0),
        (ARM, "twenty past four", -40.0, -30.0),
        (ARM, "12 left", -90.0, -102.0),
        (ARM, "plumb", -80.0, -90.0),
        (ARM, "20 up right", -170.0, -160.0),
        (ARM, "20 up left", -10.0, -20.0),
        (PLUMB, "0.2 left", 0.0, -0.2),
        (PLUMB, "0", 0.0, 0.0),
        (PLUMB, "1/4 right", 0.0, 0.25),
        (PLUMB, "left 0,2", 0.0, -0.2),
        (PLUMB, "half a head left", 0.0, -0.5),
        (PLUMB, "a quarter right", 0.0, 0.25),
        (SHOULDERS, "L up 5°", 0.0, 5.0),
        (LONGER, "no", 0.0, -1.0),
        (LONGER, "alike", 0.0, 0.0),
    ],
)
def test_what_is_said_is_read(one: Sighting, text: str, about: float, value: float) -> None:
    found = read_value(FRONT, one, text, about=about)
    assert found.value == pytest.approx(value)
    assert found.said == text
    assert found.u > 0.0


def test_what_the_list_says_of_a_sighting_is_read_again() -> None:
    """A learner types what stands in the list: *on the line*, *12° off plumb, foot left*."""
    for one, values in (
        (LENGTH, (0.25, 1.0, 2 / 3, 3.75, 7.5)),
        (HALF, (0.5, 1 / 3, 0.75)),
        (SHOULDERS, (-8.0, 3.0, 0.0)),
        (ARM, (-102.0, -84.0, -10.0, 30.0, -90.0)),
        (PLUMB, (-0.2, 0.31, 0.0)),
        (LONGER, (1.0, -1.0, 0.0)),
    ):
        for value in values:
            sighting = replace(one, value=value, u=0.05)
            words = value_said(sighting)
            found = read_value(FRONT, one, words, about=value)
            assert found.value == pytest.approx(value, abs=0.005), words


def test_twenty_past_is_the_hand_at_four() -> None:
    """The long hand at 20 minutes points 120 degrees clockwise from twelve, 30 below level."""
    line = read_value(FRONT, ARM, "twenty past four", about=-30.0).value
    assert line == pytest.approx(90.0 - 120.0)


@pytest.mark.parametrize(
    ("one", "text"),
    [(LENGTH, ""), (LENGTH, "many"), (LENGTH, "2,5,5"), (HALF, "half half"), (LENGTH, "0"),
     (LENGTH, "1/0"), (LENGTH, "nan"),
     (SHOULDERS, "steep"), (SHOULDERS, "1e9"), (PLUMB, "left"), (LONGER, "maybe"),
     (LENGTH, "3 : 0")],
)  # fmt: skip
def test_what_is_no_answer_is_refused_with_what_is_wanted(one: Sighting, text: str) -> None:
    with pytest.raises(UserError):
        read_value(FRONT, one, text)


@pytest.mark.parametrize(
    ("one", "text", "most"),
    [(LENGTH, "73", "20 heads"), (SHOULDERS, "R up 400", "360°"), (PLUMB, "25 left", "20 heads"),
     (replace(LENGTH, in_mm=True), "2300", "2000 mm")],
)  # fmt: skip
def test_what_nobody_can_have_seen_is_a_slip(one: Sighting, text: str, most: str) -> None:
    """73 heads for 7.3, its point forgotten, went into the list."""
    with pytest.raises(UserError, match=f"'{text}' is more than can be, {most} at most"):
        read_value(FRONT, one, text)


def test_the_list_says_them_as_the_trade_does() -> None:
    assert value_said(read_value(FRONT, SHOULDERS, "R up 8")) == "R up 8°"
    assert value_said(read_value(FRONT, SHOULDERS, "0")) == "level"
    assert value_said(read_value(FRONT, ARM, "12 left", about=-90.0)) == "12° off plumb, foot left"
    # Nearer level than plumb it is told from level: the eyes of a turned head have no sides.
    assert value_said(read_value(FRONT, ARM, "-170")) == "10° up to your right"
    assert value_said(read_value(FRONT, ARM, "10 up left"), short=True) == "10° up left"
    assert value_said(read_value(FRONT, ARM, "level")) == "level"
    assert value_said(read_value(FRONT, PLUMB, "0.2 left")) == "0.20 left"
    assert value_said(read_value(FRONT, PLUMB, "0")) == "on the line"
    assert value_said(read_value(FRONT, LONGER, "no")) == "no"
    assert label_of(FRONT, LENGTH) == "navel from the top"
    assert "longer" in label_of(FRONT, LONGER)


def test_a_question_never_holds_what_is_expected() -> None:
    for one in (LENGTH, SHOULDERS, ARM, PLUMB, LONGER):
        expected = Sighting(one.sort, one.points, 3.21, 0.1, one.of, one.along)
        question = asked(FRONT, expected)
        assert asked(FRONT, one) == question
        assert "3" not in question.text + question.how
        assert question.text.endswith("?")
