"""What the tool finds out, on figures whose answers are known by construction."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.puppet import Pose
from tests.studies import POSE, figure_marks, moved, study_of

from bralto.core.discover.balance import Balance, read_balance
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.fractions import nice_fractions
from bralto.core.discover.life import life_of_pose
from bralto.core.discover.lines import find_alignments, held_against, sight_lines
from bralto.core.discover.questions import ask
from bralto.core.examination.assessment import assess
from bralto.core.measures.masses import SEGMENTS
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named
from bralto.core.views.typical import other_side

VIEW, GRADE = view_named("figure-front"), GRADES["developing"]


def figure(marks: dict[str, Mark], plumb_deg: float = 0.0) -> Figure:
    found = figure_of(VIEW, Picture("", 4000, 4000, marks, plumb_deg))
    assert isinstance(found, Figure)
    return found


def at(**places: tuple[float, float]) -> Figure:
    """A figure of marks given in heads, y down, with a head of 100 px."""
    marks = {"crown": (0.0, 0.0), "chin": (0.0, 1.0)} | places
    return figure(
        {k: Mark(500 + 100 * x, 100 + 100 * y, "seen", 0.5) for k, (x, y) in marks.items()}
    )


def test_the_plumb_line_that_meets_most_marks_comes_first() -> None:
    one = at(pit_of_neck=(0.6, 1.4), crotch=(0.62, 4.0), heel_r=(0.58, 7.5), wrist_l=(2.0, 3.0))
    first, second = sight_lines(one, "plumb", GRADE)
    assert first.keys == ("pit_of_neck", "crotch", "heel_r")
    assert first.reach == pytest.approx(6.1)
    assert first.anchor in first.keys
    assert second.keys == ("crown", "chin")
    assert sight_lines(one, "level", GRADE) == ()


def test_levels_run_from_left_to_right() -> None:
    one = at(wrist_l=(2.0, 3.0), navel=(0.1, 3.02), wrist_r=(-1.5, 2.98))
    (level,) = sight_lines(one, "level", GRADE)
    assert level.keys == ("wrist_r", "navel", "wrist_l")


def test_a_long_and_exact_alignment_tells_more_than_a_short_or_loose_one() -> None:
    seen = at(navel=(0.0, 3.0), heel_r=(0.0, 7.5), wrist_l=(2.0, 3.04), elbow_l=(2.04, 1.5))
    found = find_alignments(seen, GRADE)
    assert found[0].along == "plumb"
    assert len(found[0].keys) == 3
    assert {"crown", "heel_r"} <= set(found[0].keys)
    assert found[0].miss == pytest.approx(0.0, abs=1e-12)
    level = next(one for one in found if one.along == "level")
    assert level.keys == ("navel", "wrist_l")
    drawn = at(navel=(0.2, 3.0), heel_r=(0.2, 7.5))
    assert held_against(found[0], drawn).miss == pytest.approx(0.2)
    assert held_against(level, drawn) is None  # the drawing lacks the wrist


def test_one_line_is_listed_once_however_many_marks_lie_on_it() -> None:
    """Six marks on one plumb line make fifteen pairs and twenty triples of the same line."""
    one = at(
        pit_of_neck=(0.0, 1.4), navel=(0.01, 3.0), crotch=(0.0, 4.0), heel_r=(0.01, 7.5),
        wrist_l=(1.5, 4.01),
    )  # fmt: skip
    found = find_alignments(one, GRADE)
    assert [two.along for two in found] == ["plumb", "level"]
    for own in (figure(figure_marks()), figure(figure_marks(Pose()))):
        listed = find_alignments(own, GRADE)
        for i, first in enumerate(listed):
            for second in listed[i + 1 :]:
                shared = set(first.keys) & set(second.keys)
                assert first.along != second.along or not shared, (first, second)


def test_questions_name_places_that_a_finger_can_show() -> None:
    """No middle between two knees, and no part whose ends are not said; nor whether a span is
    longer than one that lies on it."""
    asked = [q for q in ask(figure(figure_marks()), most=60) if q.options == ("longer", "shorter")]
    labels = {mark.short for mark in VIEW.landmarks} | {"sole"}
    assert asked
    for one in asked:
        words = one.text.removeprefix("Is ").removesuffix("?")
        for half in words.split(" longer or shorter than "):
            ends = (
                half.removesuffix(" straight across").removesuffix(" straight down").split(" to ")
            )
            assert set(ends) <= labels, one.text
    trivial = {"crown to chin", "crown to sole straight down"}
    assert not any(all(words in one.text for words in trivial) for one in asked)


def test_spans_that_are_a_simple_part_of_another_are_found() -> None:
    one = at(
        shoulder_r=(-1.0, 1.5), shoulder_l=(1.0, 1.5), elbow_r=(-1.0, 3.0), wrist_r=(-1.0, 4.0)
    )
    found = {(f.part, f.whole): f for f in nice_fractions(one, GRADE)}
    forearm = found["span.forearm_r", "span.upper_arm_r"]
    assert (forearm.numerator, forearm.denominator) == (2, 3)
    assert forearm.error_percent == pytest.approx(0.0, abs=1e-9)
    assert found["span.head", "span.shoulders"].denominator == 2
    rough = {k: Mark(m.x, m.y, "seen", 30.0) for k, m in figure_marks().items()}
    assert nice_fractions(figure(rough), GRADE) == ()  # marks too coarse to say so


def test_what_right_and_left_have_alike_is_told_and_asked_once() -> None:
    """Of a figure whose sides mirror each other: forearm and thigh of one side stand for all four
    pairs, and no question of the other side's has the answer of one before it."""
    marks = figure_marks()
    middle = marks["crown"].x
    for key in [key for key in marks if key.endswith("_r")]:
        marks[other_side(key)] = replace(marks[key], x=2.0 * middle - marks[key].x)
    for key in [key for key in marks if key == other_side(key)]:
        marks[key] = replace(marks[key], x=middle)
    one = figure(marks)
    told = nice_fractions(one, GRADE, most=100)
    limbs = [
        (frozenset(min(name, other_side(name)) for name in (f.part, f.whole)), f.denominator)
        for f in told
    ]
    assert len(limbs) > 8
    assert len(set(limbs)) == len(limbs)
    assert not any({f.part[-2:], f.whole[-2:]} == {"_r", "_l"} for f in told)
    asked = [frozenset(q.about) for q in ask(one, most=100)]
    sided = [q for q in asked if frozenset(map(other_side, q)) != q]
    assert sided
    assert not any(frozenset(map(other_side, q)) in asked for q in sided)


def test_questions_have_the_answer_of_the_marks_and_turn_with_a_mirror() -> None:
    marks = figure_marks()
    questions = ask(figure(marks))
    assert len(questions) >= 5
    assert all(one.answer in one.options and 0.0 < one.tells <= 1.0 for one in questions)
    assert [q.tells for q in questions] == sorted((q.tells for q in questions), reverse=True)
    mirrored = {k: Mark(1000 - m.x, m.y, "seen", m.spread) for k, m in marks.items()}
    there = {q.text: q.answer for q in ask(figure(mirrored), most=50)}
    shared = [q for q in ask(figure(marks), most=50) if q.text in there]
    assert len(shared) > 5
    for one in shared:
        same = there[one.text] == one.answer
        assert same != (one.options == ("left", "right")), one.text


def test_what_the_marks_themselves_cannot_tell_is_not_asked() -> None:
    coarse = {k: Mark(m.x, m.y, "seen", 200.0) for k, m in figure_marks().items()}
    assert ask(figure(coarse)) == ()


def test_the_masses_are_the_whole_body_and_the_table_printed() -> None:
    """de Leva 1996 (checks.md, section G, from memory): shares sum to 99.99 % and 100.00 %."""
    assert sum(one.mass for one in SEGMENTS) == pytest.approx(1.0, abs=1e-4)
    by_name = {one.name: one for one in SEGMENTS}
    for name, women, men in (
        ("head", 6.68, 6.94), ("trunk", 42.57, 43.46), ("upper_arm_r", 2.55, 2.71),
        ("forearm_l", 1.38, 1.62), ("hand_r", 0.56, 0.61), ("thigh_l", 14.78, 14.16),
        ("shank_r", 4.81, 4.33), ("foot_l", 1.29, 1.37),
    ):  # fmt: skip
        assert by_name[name].mass == pytest.approx((women + men) / 200, abs=1e-5), name
    for name, women, men in (
        ("upper_arm_r", 57.54, 57.72), ("forearm_l", 45.59, 45.74), ("thigh_r", 36.12, 40.95),
        ("shank_l", 44.16, 44.59), ("foot_r", 40.14, 44.15), ("trunk", 41.51, 44.86),
    ):  # fmt: skip
        assert by_name[name].centre == pytest.approx((women + men) / 200, abs=1e-5), name


def balance(marks: dict[str, Mark]) -> Balance:
    found = read_balance(figure(marks), GRADE)
    assert isinstance(found, Balance)
    return found


def test_an_upright_figure_balances_in_the_middle_and_an_arm_moves_it_by_its_mass() -> None:
    upright = figure_marks(Pose())
    even = balance(upright)
    assert even.offset == pytest.approx(0.0, abs=1e-9)
    assert (even.inside, even.bearing, even.mass) == (True, "both", pytest.approx(1.0, abs=1e-4))
    # Forearm and hand moved 0.5 head to the right: by the share of mass that hangs on those marks.
    out = {
        k: Mark(m.x + 50.0, m.y, "seen", m.spread) if k in {"wrist_l", "fingertip_l"} else m
        for k, m in upright.items()
    }
    by_hand = 0.5 * (0.0150 * 0.45665 + 0.00585)
    assert balance(out).offset == pytest.approx(by_hand / even.mass, rel=1e-9)


def test_the_measure_of_balance_is_that_of_each_picture_alone() -> None:
    """Toes and fingertips that one picture lacks do not count on the other either."""
    seen, drawn = figure_marks(Pose()), figure_marks(POSE)
    reading = assess(study_of(seen, drawn)).reading("balance.feet")
    assert (reading.reference, reading.drawing) == pytest.approx(
        (balance(seen).offset, balance(drawn).offset), abs=1e-9
    )
    assert reading.u == pytest.approx(np.hypot(balance(seen).u, balance(drawn).u), rel=0.05)
    bare = {k: m for k, m in drawn.items() if not k.startswith(("toe", "fingertip"))}
    lesser = {k: m for k, m in seen.items() if k in bare}
    both, alone = (assess(study_of(one, bare)).reading("balance.feet") for one in (lesser, seen))
    assert both.error == pytest.approx(alone.error)
    headless = {k: m for k, m in drawn.items() if k != "pit_of_neck"}
    lacking = assess(study_of(seen, headless)).reading("balance.feet")
    assert "lacks marks of 90 % of the body's mass that the other picture has too" in lacking.reason


def test_the_weight_is_on_the_leg_under_the_higher_hip() -> None:
    assert balance(figure_marks(Pose(hips=8))).bearing == "l"  # turned so that the left goes up
    assert balance(figure_marks(Pose(hips=-8))).bearing == "r"
    leaning = {
        k: Mark(m.x + 0.3 * (820 - m.y), m.y, "seen", m.spread)
        for k, m in figure_marks(Pose()).items()
    }
    fallen = balance(leaning)
    assert not fallen.inside
    assert fallen.offset > 1.0
    few = {k: m for k, m in figure_marks().items() if k != "crotch"}
    assert isinstance(read_balance(figure(few), GRADE), NotMeasurable)


@pytest.mark.parametrize("share", [0.5, 0.8, 1.0, 1.2])
def test_straightened_poses_have_a_slope_below_one(share: float) -> None:
    """A puppet whose every joint turns by a share of the seen angle."""

    def part(angles: dict) -> dict:
        return {side: tuple(share * one for one in all_) for side, all_ in angles.items()}

    flatter = Pose(
        share * POSE.hips, share * POSE.shoulders, share * POSE.head, share * POSE.lean,
        part(POSE.arms), part(POSE.legs),
    )  # fmt: skip
    drawn = figure_marks(flatter)
    life = life_of_pose(figure(figure_marks()), figure(drawn))
    assert life.slope == pytest.approx(share, abs=0.06)


def test_a_turned_picture_with_its_plumb_correction_finds_the_same() -> None:
    marks = figure_marks()
    turned = moved(marks, 1.5, (900.0, 200.0), clockwise=9.0)
    plain, other = figure(marks), figure(turned, plumb_deg=9.0)
    assert [x.keys for x in sight_lines(plain, "plumb", GRADE)] == [
        x.keys for x in sight_lines(other, "plumb", GRADE)
    ]
    assert balance(marks).offset == pytest.approx(read_balance(other, GRADE).offset, abs=1e-9)


def test_without_a_head_or_with_one_mark_there_is_a_reason() -> None:
    for marks in ({"crown": Mark(1, 1)}, {"crown": Mark(1, 1), "navel": Mark(1, 300)}):
        assert isinstance(figure_of(VIEW, Picture("", 9, 9, marks)), NotMeasurable)
    level = figure(figure_marks(Pose(arms=dict.fromkeys("rl", (0.0, 0.0, 0.0)))))
    assert isinstance(
        life_of_pose(level, figure({k: figure_marks()[k] for k in ("crown", "chin")})),
        NotMeasurable,
    )
