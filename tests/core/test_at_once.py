"""Questions about a mark that was just set; accidents by hand on bodies of the bench."""

from __future__ import annotations

import pytest
from bench.bodies import bodies
from tests.core.sightings.sitters import posed
from tests.core.test_whereabouts import PX, shown, with_marks

from bralto.core.doubts.at_once import Question, ask_at_once
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named

FRONT = ("crown", "heel_r", "chin", "pit_of_neck", "navel", "crotch")


def asked(view: str, picture: Picture, key: str, at: Mark, ref: Picture | None = None) -> Question:
    return ask_at_once(view_named(view), picture.with_mark(key, at), key, ref)


@pytest.mark.parametrize(
    "view", ["figure-front", "figure-back", "figure-side", "head-front", "head-profile"]
)
def test_marks_that_are_right_are_seldom_asked_about(view: str) -> None:
    known, wrong, count = view_named(view), [], 0
    order = sorted((keys[0] for keys in known.short), key=known.placing.index)
    for number in range(len(bodies(view))):
        picture, marks = shown(view, number)
        reference = with_marks(picture, marks, *order)
        drawing = Picture("d", 4000, 4000)
        for key in order:
            picture = picture.with_mark(key, marks[key])
            drawn = Mark(30 + 1.1 * marks[key].x, 20 + marks[key].y, "seen", 1.0)  # 10 % wide
            drawing = drawing.with_mark(key, drawn)
            for one, ref in ((picture, None), (drawing, reference)):
                count += 1
                question = ask_at_once(known, one, key, ref)
                if question is not None:
                    wrong.append((number, key, question))
    assert len(wrong) <= 0.01 * count, wrong


@pytest.mark.parametrize("pose", ["at-rest", "kneeling", "crouching", "lying-side", "lying-back"])
def test_nothing_is_asked_of_one_that_kneels_or_lies_in_a_photo(pose: str) -> None:
    """Of the one on its back four marks were, as if it stood: toes above its knees."""
    view, picture = view_named("figure-front"), Picture("x", 4000, 4000)
    sitter = posed(pose)
    for one in view.landmarks:
        x, y = sitter[one.key]
        at = Mark(2000.0 + PX * float(x), 2000.0 - PX * float(y), "seen", 1.0)
        picture = picture.with_mark(one.key, at)
        assert ask_at_once(view, picture, one.key) is None, one.key


def test_the_other_side_of_a_pair_is_asked_about_and_can_be_exchanged() -> None:
    picture, marks = shown("figure-front")
    first = with_marks(picture, marks, *FRONT)
    question = asked("figure-front", first, "shoulder_r", marks["shoulder_l"])
    assert (question.kind, question.other, question.remedy) == ("side", "shoulder_l", "exchange")
    assert question.words == "That looks like the L shoulder:"
    # Also when both are set, the wrong way round.
    both = first.with_mark("shoulder_r", marks["shoulder_l"])
    question = asked("figure-front", both, "shoulder_l", marks["shoulder_r"])
    assert (question.kind, question.key) == ("side", "shoulder_l")


def test_crossed_ankles_and_folded_arms_are_no_accident_where_the_reference_has_them() -> None:
    picture, marks = shown("figure-front")
    right, left = marks["wrist_r"], marks["wrist_l"]
    crossed = marks | {"wrist_r": left, "wrist_l": right}
    keys = (*FRONT, "shoulder_r", "shoulder_l", "wrist_r", "wrist_l")
    reference = with_marks(picture, crossed, *keys)
    drawing = with_marks(picture, crossed, *keys[:-1])
    assert asked("figure-front", drawing, "wrist_l", right, reference) is None
    plain = with_marks(picture, marks, *keys)
    question = asked("figure-front", drawing, "wrist_l", right, plain)
    assert question is not None
    assert question.kind == "side"


def test_two_marks_in_one_spot_are_asked_about_unless_the_reference_has_them_so() -> None:
    picture, marks = shown("figure-front")
    first = with_marks(picture, marks, *FRONT[:3])
    near = Mark(marks["chin"].x + 1.5, marks["chin"].y, "seen", 1.0)
    question = asked("figure-front", first, "pit_of_neck", near)
    assert (question.kind, question.other, question.remedy) == ("double", "chin", "back")
    reference = first.with_mark("pit_of_neck", near)
    assert asked("figure-front", first, "pit_of_neck", near, reference) is None


def test_what_is_out_of_the_order_of_the_body_is_asked_about() -> None:
    picture, marks = shown("figure-front")
    # Two marks alone: crown below the heel.
    one = picture.with_mark("crown", marks["heel_r"])
    question = asked("figure-front", one, "heel_r", marks["crown"])
    assert (question.kind, question.remedy) == ("order", "exchange")
    assert question.words == "The crown lies below the R heel:"
    # A lying figure has no top above its bottom.
    flat = picture.with_mark("crown", Mark(100.0, 510.0))
    assert asked("figure-front", flat, "heel_r", Mark(900.0, 500.0)) is None
    # A knee above the hips.
    first = with_marks(picture, marks, *FRONT, "hip_point_r", "hip_point_l", "shoulder_r")
    hip = marks["hip_point_r"]
    question = asked("figure-front", first, "knee_r", Mark(hip.x, hip.y - PX))
    assert question.kind == "order"
    assert question.words.startswith("The R knee lies above the ")


def test_a_mark_far_from_where_it_is_looked_for_is_asked_about() -> None:
    picture, marks = shown("figure-front")
    first = with_marks(picture, marks, *FRONT[:4])
    aside = Mark(marks["navel"].x + 2.5 * PX, marks["navel"].y)
    question = asked("figure-front", first, "navel", aside)
    assert (question.kind, question.remedy) == ("far", "back")
