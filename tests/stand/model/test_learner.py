"""The simulated learner on the model: habits do what they say, and Bralto finds them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.errors import UserError
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.body.kinematics import posed
from bralto.core.mannequin.body.landmarks import landmark_named
from bralto.core.mannequin.setting import default_setting, set_up
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.example import KNOWN, learner_named, simulated
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.habits import LEARNERS, PARTS, Habits, resized, straightened
from bralto.stand.model.pencil_view import Page, drawn_by
from bralto.stand.model.portrait import HeadHabits
from bralto.stand.model.stage import Stage

SMALL = Page(px_mm=0.8)
FRONT = view_named("figure-front")


@pytest.fixture(scope="module")
def stage() -> Stage:
    return Stage.of(set_up("weight-right"), COARSE)


def drawn_px(stage, habits, keys):
    """Where marks come out in the camera's picture."""
    view = stage.view(900, 1200)
    made = resized(stage.figure, habits, view)
    marks = [landmark_named("figure-front", key, "l") for key in keys]
    return view.project(np.array([made.world(mark.part, mark.at) for mark in marks]))


def test_parts_are_sized_about_their_joints_by_the_ruler(stage):
    keys = ("shoulder_l", "elbow_l", "wrist_l", "fingertip_l", "wrist_r")
    was = drawn_px(stage, Habits(), keys)
    now = drawn_px(stage, Habits(parts={"arm_l": 1.2, "head": 1.1}), keys)
    assert now[:4] - now[0] == pytest.approx(1.2 * (was[:4] - was[0]), abs=1e-6)
    assert now[[0, 4]] == pytest.approx(was[[0, 4]])
    # A forearm that is too small within it grows about the elbow, wherever that has come to lie.
    both = drawn_px(stage, Habits(parts={"arm_l": 1.2, "forearm_l": 0.8}), keys)
    assert both[1] == pytest.approx(now[1])
    assert both[2:4] - both[1] == pytest.approx(0.8 * 1.2 * (was[2:4] - was[1]), abs=1e-6)


def test_what_is_resized_stays_as_far_away_and_keeps_its_shading(stage):
    view = stage.view(900, 1200)
    was = resized(stage.figure, Habits(), view).mesh(COARSE)
    now = resized(stage.figure, Habits(parts={"leg_r": 0.8}), view).mesh(COARSE)
    assert view.depth(now.points) == pytest.approx(view.depth(was.points), abs=1e-5)
    assert (now.normals == was.normals).all()
    moved = np.unique(now.owner[(now.points != was.points).any(axis=1)[now.faces].all(axis=1)])
    assert {now.parts[row] for row in moved} == set(PARTS["leg_r"])


def test_tapering_limbs_are_shorter_the_further_out(stage):
    keys = ("shoulder_l", "elbow_l", "wrist_l", "fingertip_l")
    was, now = (np.diff(drawn_px(stage, h, keys), axis=0) for h in (Habits(), Habits(taper=0.9)))
    assert np.hypot(*now.T) / np.hypot(*was.T) == pytest.approx([1.0, 0.9, 0.81])


def test_stiffening_takes_the_same_share_of_every_lean():
    pose, build = set_up("weight-right").pose, set_up("at-rest").build
    stiff = straightened(build, pose, Habits(straight=0.5))
    assert stiff["pelvis.list"] == 0.5 * pose["pelvis.list"]
    assert stiff["chest.lean"] == 0.5 * pose["chest.lean"]
    assert stiff["shoulder_l.out"] == pose["shoulder_l.out"]
    before, after = posed(build, pose), posed(build, stiff)
    for leg in ("thigh_r", "shank_l", "foot_r"):  # only where they hang from is moved
        assert after.rotations[leg] == pytest.approx(before.rotations[leg], abs=1e-6)


def test_who_has_no_habits_draws_what_is_seen(stage):
    view = stage.view(900, 1200)
    drawing = drawn_by(stage, view, FRONT, Habits(), SMALL, 3)
    keys = list(drawing.marks)
    seen = view.project(
        np.array([stage.figure.world(m.part, m.at) for m in _landmarks(stage, view, keys)])
    )
    drawn = np.array([drawing.marks[k] for k in keys])
    a, b = seen - seen.mean(axis=0), drawn - drawn.mean(axis=0)
    scale = float((a * b).sum() / (a * a).sum())
    assert np.abs(b - scale * a).max() < 1e-6


def _landmarks(stage, view, keys):
    from bralto.core.mannequin.body.landmarks import landmarks_of
    from bralto.stand.model.answer import near_side

    found = landmarks_of("figure-front", tuple(keys), near_side(stage.figure, view))
    return [one.on_figure(stage.figure) for one in found]


def test_the_pencil_lies_where_the_marks_say(stage):
    view = stage.view(900, 1200)
    wild = Habits(parts={"head": 1.2}, width=1.1, lean_deg=4.0, wobble=0.03)
    page = Page(px_mm=1.5)
    drawing = drawn_by(stage, view, FRONT, wild, page, 5)
    ink = np.asarray(drawing.image.convert("L")) < 150
    # On the outline: the crown, the fingertips, the sides of the hips, the toes.
    for key in ("crown", "fingertip_r", "fingertip_l", "trochanter_r", "toe_l"):
        x, y = (round(float(v)) for v in drawing.marks[key])
        reach = round(0.12 * drawing.head_px)
        assert ink[y - reach : y + reach, x - reach : x + reach].any(), key
    assert drawing.image.size == page.size
    assert not ink[:40].any()  # the sheet's margin stays clean


def test_the_same_seed_draws_the_same(stage):
    view = stage.view(300, 400)
    one, two, other = (
        drawn_by(stage, view, FRONT, LEARNERS["beginner"], SMALL, seed) for seed in (1, 1, 2)
    )
    assert one.image.tobytes() == two.image.tobytes()
    assert one.image.tobytes() != other.image.tobytes()
    assert any((one.marks[k] != other.marks[k]).any() for k in one.marks)


@pytest.mark.parametrize(
    ("habits", "move", "part", "size"),
    [
        (Habits(parts={"head": 1.14}), "scale", "head", 0.14),
        (Habits(parts={"arm_l": 0.86}), "scale", "arm_l", -0.14),
        (Habits(width=1.09), "stretch", None, 0.09),
        (Habits(lean_deg=4.0), "lean", None, 4.0),
    ],
)
def test_a_habit_is_named_by_the_corrections_of_the_whole_study(habits, move, part, size):
    setting = set_up("at-rest")
    careful = replace(habits, wobble=0.003, marks_mm=0.2)
    made = simulated(setting, {}, careful, seed=4, size=(450, 600), page=SMALL)
    first, *others = assess(made.study, corrections=True).corrections
    assert (first.move, first.part) == (move, part)
    assert sum(one.share for one in others) < 0.25 * first.share
    if move == "lean":
        assert first.amount == pytest.approx(size, abs=3.0 * first.u)
    elif move == "stretch":
        assert first.amount == pytest.approx(-100.0 * size / (1.0 + size), abs=1.0)
    else:
        assert first.factor == pytest.approx(1.0 + size, abs=0.03)


@pytest.mark.parametrize(("pose", "factor"), [("weight-left", 0.92), ("carrying", 1.11)])
def test_two_arms_alike_are_no_long_or_short_trunk(pose, factor):
    """Asked for one by one, neither arm explains as much as a trunk that is as wrong."""
    habits = Habits(parts={"arm_r": factor, "arm_l": factor}, wobble=0.003)
    made = simulated(set_up(pose), {}, habits, seed=4, size=(450, 600), page=SMALL)
    found = assess(made.study, corrections=True).corrections
    (one,) = found
    assert (one.move, one.part) == ("scale", "arms")
    assert one.factor == pytest.approx(factor, abs=0.02)


def test_a_simulated_study_knows_its_faults():
    made = simulated(set_up("walking"), {"subject": "figure"}, LEARNERS["beginner"], page=SMALL)
    assert set(made.pictures) == {"model.png", "drawing.png"}
    assert made.study.extra[KNOWN]["parts"]["head"] == LEARNERS["beginner"].parts["head"]
    picture = made.study.states[0].picture
    assert picture.sheet.size_mm == (297.0, 420.0)
    assert picture.marks.keys() == made.study.reference.marks.keys()
    assert made.pictures["drawing.png"].size == (picture.width, picture.height)


def test_what_cannot_be_drawn_is_said():
    with pytest.raises(UserError, match="no learner 'ape'"):
        learner_named("ape")
    with pytest.raises(
        UserError, match="no learner 'stiff' of the head; there are careful, eyes-h"
    ):
        learner_named("stiff", "head")
    with pytest.raises(UserError, match="this is egg"):
        learner_named("careful", "egg")
    for subject, habits in (("egg", Habits()), ("head", Habits()), ("figure", HeadHabits())):
        with pytest.raises(UserError, match=f"not of drawing what stands there: {subject}"):
            simulated(default_setting(subject), {}, habits)
    with pytest.raises(UserError, match="'tail' cannot be drawn too big"):
        drawn_px(Stage.of(set_up("at-rest"), COARSE), Habits(parts={"tail": 2.0}), ("chin",))
    assert {"head", "arm_r", "forearm_l", "hand_r", "leg_l", "shank_r", "foot_l"} <= set(PARTS)
