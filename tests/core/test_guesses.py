"""Guess first: what is asked, and how a guess parts the eye's error from the hand's."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.discover.figures import figure_of
from bralto.core.examination.assessment import assess
from bralto.core.measures.kinds import fold_degrees
from bralto.core.session.guesses import questions, seeing_and_doing, told_right
from bralto.core.study.values import Guess, Mark
from bralto.core.views.shipped_views import view_keys, view_named

MARKS = figure_marks(spread=0.3)
STUDY = study_of(MARKS, MARKS)
ASKED = questions(figure_of(view_named("figure-front"), STUDY.reference))


def test_numbers_and_choices_are_asked_by_turns_each_within_its_range() -> None:
    kinds = [bool(one.options) for one in ASKED]
    assert kinds[:4] == [False, True, False, True]
    assert len(ASKED) <= 7
    found = assess(STUDY)
    for one in ASKED:
        if one.options:
            assert one.answer in one.options
            continue
        reading = found.reading(one.key)
        value = reading.reference * one.factor
        value = fold_degrees(value) if one.unit == "°" else value
        assert one.low <= value <= one.high


@pytest.mark.parametrize("key", view_keys())
def test_every_view_has_something_to_ask_once_it_is_marked(key: str) -> None:
    view = view_named(key)
    marks = {k: Mark(300 + 37 * (i % 4), 100 + 31 * i, "seen", 0.5)
             for i, k in enumerate(view.placing)}  # fmt: skip
    figure = figure_of(view, study_of(marks, {}, view=key).reference)
    asked = questions(figure)
    assert all(one.text.endswith("?") for one in asked)
    assert asked or key == "object" or not any(m.kind == "tilt" for m in view.measures)


def test_seeing_error_and_hand_error_add_up_to_the_error() -> None:
    taller = {key: replace(m, y=m.y + 0.06 * (m.y - 100.0)) for key, m in MARKS.items()}
    taller["chin"] = MARKS["chin"]
    taller["crown"] = MARKS["crown"]
    study = study_of(MARKS, taller)
    guesses = (Guess("span.figure", 9.0), Guess("span.figure", 8.0), Guess("tilt.hips", 20.0))
    found = {one.label: one for one in seeing_and_doing(assess(study), guesses, ASKED)}
    whole = found["whole height"]
    reading = assess(study).reading("span.figure")
    assert whole.guess == 8.0  # the latest
    assert whole.seeing == pytest.approx(8.0 - reading.reference)
    assert whole.seeing + whole.hand == pytest.approx(reading.error)
    hips = found["hips"]
    assert hips.seeing == pytest.approx(20.0 - fold_degrees(hips.seen))
    undrawn = seeing_and_doing(assess(study_of(MARKS, {})), guesses, ASKED)
    assert {one.hand for one in undrawn} == {None}


def test_a_fraction_is_asked_and_told_in_percent() -> None:
    crotch = next(one for one in ASKED if one.key == "fraction.crotch_half")
    (one,) = seeing_and_doing(assess(STUDY), (Guess(crotch.key, 0.6),), [crotch])
    assert one.guess == pytest.approx(60.0)
    assert 40.0 < one.seen < 60.0
    assert one.unit == " %"


def test_a_tilt_guessed_across_plumb_is_near_not_half_a_turn_away() -> None:
    """-88 and +88 degrees are 4 degrees apart, as lines without ends."""
    hips = next(one for one in ASKED if one.key == "tilt.hips")
    steep = dict(MARKS)
    steep["hip_point_l"] = replace(MARKS["hip_point_r"], y=MARKS["hip_point_r"].y + 80.0,
                                   x=MARKS["hip_point_r"].x + 2.0)  # fmt: skip
    study = study_of(steep, steep)
    (one,) = seeing_and_doing(assess(study), (Guess("tilt.hips", 88.0),), [hips])
    assert abs(one.seeing) < 5.0


def test_answers_without_a_figure_are_told_beside_what_is_so() -> None:
    asked = [one for one in ASKED if one.options]
    wrong = next(option for option in asked[0].options if option != asked[0].answer)
    (told,) = told_right({asked[0].key: wrong, "unknown": "yes"}, asked)
    assert (told.given, told.answer) == (wrong, asked[0].answer)
