"""The prompt's order: short set first, mark by mark on both boards."""

from __future__ import annotations

import pytest

from bralto.core.marking.placing import Step, choose_side, next_step
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named

VIEW = view_named("figure-front")


def test_a_mark_is_asked_for_on_the_other_board_before_the_next_begins() -> None:
    assert next_step(VIEW, (), ()) == Step(Board.REFERENCE, ("crown",), True)
    assert next_step(VIEW, ("crown",), ()) == Step(Board.DRAWING, ("crown",), True)
    assert next_step(VIEW, (), ("crown",)) == Step(Board.REFERENCE, ("crown",), True)
    assert next_step(VIEW, ("crown",), ("crown",)).keys == ("heel_r", "heel_l")


def test_the_drawing_is_asked_for_the_heel_that_the_reference_has() -> None:
    step = next_step(VIEW, ("crown", "heel_l"), ("crown",))
    assert step == Step(Board.DRAWING, ("heel_l",), True)


def test_the_whole_order_ends_and_asks_for_each_mark_once_a_board() -> None:
    seen: list[str] = []
    drawn: list[str] = []
    asked = []
    while (step := next_step(VIEW, seen, drawn)) is not None:
        asked.append(step)
        (seen if step.board == Board.REFERENCE else drawn).append(step.key)
    assert len(asked) == 2 * len(VIEW.landmarks)
    assert sum(step.short for step in asked) == 2 * 14
    assert [step.short for step in asked] == sorted((s.short for s in asked), reverse=True)


def test_skipped_marks_are_not_asked_for() -> None:
    step = next_step(VIEW, (), (), skipped=("crown", "heel_r"))
    assert step.keys == ("chin",)


def test_the_lower_heel_is_told_by_the_side_of_the_click() -> None:
    picture = Picture("a", 800, 800, {"crown": Mark(400, 50)})
    step = Step(Board.REFERENCE, ("heel_r", "heel_l"), True)
    assert choose_side(VIEW, step, picture, 350.0) == "heel_r"
    assert choose_side(VIEW, step, picture, 450.0) == "heel_l"


def test_from_behind_the_lower_heel_is_told_the_other_way_round() -> None:
    back = view_named("figure-back")
    step = next_step(back, {"crown"}, {"crown"})
    assert step.keys == ("heel_r", "heel_l")
    picture = Picture("", 100, 100, {"crown": Mark(50, 5)})
    assert choose_side(back, step, picture, 60.0) == "heel_r"
    assert choose_side(back, step, picture, 40.0) == "heel_l"


@pytest.mark.parametrize("key", ["head-front", "head-profile", "head-three-quarter"])
@pytest.mark.parametrize("order", ["", "outline", "eye"])
def test_a_head_is_begun_where_the_school_begins_it(key: str, order: str) -> None:
    """Top and bottom, the outline, or one eye: the same short set, in another order."""
    view, asked = view_named(key), []
    first = view.first_marks(order)
    while (step := next_step(view, asked, asked, first=first)) is not None and step.short:
        asked.append(step.key)
    assert tuple(asked[: len(first)]) == first
    assert sorted(asked) == sorted(keys[0] for keys in view.short)
    assert ("eye" if order == "eye" else "crown") in asked[0]
    assert view.first_marks("no such order") == ()
