"""Habits as one picture: what is told of a learner shows in what is drawn, and nothing else."""

from __future__ import annotations

import math

import pytest

from bralto.stand.model.habit_picture import HabitPicture, habit_picture
from bralto.stand.model.pencil_view import PageDrawing


def tilt_of_eyes(drawing: PageDrawing) -> float:
    """Degrees, clockwise."""
    one, other = (drawing.marks[key] for key in ("eye_outer_r", "eye_outer_l"))
    return math.degrees(math.atan2(other[1] - one[1], other[0] - one[0]))


def eyes_down(drawing: PageDrawing) -> float:
    """How far down from crown to chin the eyes lie, as a share."""
    eyes = 0.5 * (drawing.marks["eye_outer_r"][1] + drawing.marks["eye_outer_l"][1])
    crown, chin = drawing.marks["crown"][1], drawing.marks["chin"][1]
    return float((eyes - crown) / (chin - crown))


def shown(**traits: float) -> HabitPicture:
    return habit_picture("head", traits, 2.0)


def test_tipped_heads_set_upright_are_shown_so() -> None:
    """Seven tenths of a tip, twice as strong: four tenths."""
    both = shown(head_tip=0.7)
    assert abs(tilt_of_eyes(both.seen)) > 9.0
    share = tilt_of_eyes(both.drawn) / tilt_of_eyes(both.seen)
    assert share == pytest.approx(0.4, abs=0.1)


def test_bowed_heads_brought_level_and_a_raised_chin_move_the_eyes_up() -> None:
    """What bows shows its crown, so the eyes lie lower."""
    level, bowed, raised = shown(eyes=0.0), shown(head_raise=0.75), shown(chin_up=5.0)
    assert eyes_down(bowed.seen) > eyes_down(level.seen) + 0.05
    assert eyes_down(level.seen) + 0.01 < eyes_down(bowed.drawn) < eyes_down(bowed.seen) - 0.01
    assert eyes_down(raised.seen) == pytest.approx(eyes_down(level.seen), abs=1e-6)
    assert eyes_down(raised.drawn) < eyes_down(level.seen) - 0.03


def test_what_cannot_be_shown_is_left_out() -> None:
    both = shown(head_turn=0.7, eyes=0.03)
    assert both.shown == ("eyes",)
    assert tilt_of_eyes(both.drawn) == pytest.approx(tilt_of_eyes(both.seen), abs=1.5)


def test_what_is_seen_is_the_same_whatever_the_habits_are() -> None:
    none, one = habit_picture("figure", {}), habit_picture("figure", {"head": 0.1})
    assert one.seen is none.seen is none.drawn
    assert one.drawn.marks["chin"][1] > one.seen.marks["chin"][1] + 2.0
