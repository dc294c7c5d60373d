"""The model stand's state without a window: what is put, dragged, undone, listed, refused."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, QSize

from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.posing.reach import GRIPS
from bralto.core.mannequin.posing.standing import stood
from bralto.core.mannequin.setting import default_setting, set_up
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.stage import Stage
from bralto.ui.model.drawn import Pace, drawn_now, sized
from bralto.ui.model.handles import eye_at_height, eye_spot, lamp_at, lamp_spot
from bralto.ui.model.model_facts import facts_of
from bralto.ui.model.model_state import OWN, ModelState


@pytest.fixture
def state() -> ModelState:
    """A stand as it first is."""
    return ModelState()


def heard(state: ModelState) -> dict[str, list]:
    """What the state tells, by signal."""
    found: dict[str, list] = {"changed": [], "edited": [], "trouble": []}
    state.changed.connect(lambda: found["changed"].append(state.setting))
    state.edited.connect(lambda: found["edited"].append(state.setting))
    state.trouble.connect(found["trouble"].append)
    return found


def test_what_is_dragged_away_and_back_is_back(state: ModelState) -> None:
    """At the very place where the drag began the figure is as it was, not as a step before."""
    state.turn_stand(5.0)
    start = state.setting
    state.begin()
    for degrees in (10.0, 20.0, 10.0, 5.0):
        state.turn_joint("pelvis.turn", degrees)
    assert state.setting == start
    state.end("turn")
    assert state.undo_stack.count() == 1


def test_a_drag_is_one_step_back(state: ModelState) -> None:
    start = state.setting
    state.begin()
    for degrees in (10.0, 20.0, 30.0):
        state.turn_joint("elbow_l.bend", degrees)
    state.end("elbow")
    state.turn_joint("elbow_l.bend", 40.0)
    assert state.undo_stack.count() == 2
    state.undo_stack.undo()
    assert state.setting.pose["elbow_l.bend"] == 30.0
    state.undo_stack.undo()
    assert state.setting == start


def test_what_cannot_be_is_said_and_put_back(state: ModelState) -> None:
    told = heard(state)
    start = state.setting
    state.turn_joint("knee_l.bend", 300.0)
    state.set_figure("leg", 0.9)
    state.set_camera(Camera(distance_m=0.01))
    state.set_look(Look(above_deg=0.0))
    assert state.setting == start
    assert len(told["trouble"]) == len(told["changed"]) == 4
    assert told["edited"] == []  # so that the sentence stays until something is changed
    assert all(words.endswith(".") and words[0].isupper() for words in told["trouble"])
    assert state.undo_stack.count() == 0


def test_the_same_again_is_no_change(state: ModelState) -> None:
    told = heard(state)
    state.choose_pose("weight-right")
    state.choose_build("seven-and-a-half")
    state.choose_subject("figure")
    assert told["changed"] == []


def test_a_pose_keeps_its_name_until_a_joint_is_moved(state: ModelState) -> None:
    state.choose_pose("walking")
    state.turn_stand(250.0)
    assert state.pose_key == "walking"
    assert -180.0 <= state.setting.turn_deg <= 180.0
    state.turn_joint("head.nod", 5.0)
    assert (state.pose_key, state.setting.pose.title) == ("", OWN)


def test_a_subject_brings_its_camera_and_a_pose_the_figure_back(state: ModelState) -> None:
    state.choose_subject("head")
    assert state.setting.camera == default_setting("head").camera
    assert state.pose_key == ""
    state.choose_pose("sitting")
    assert state.setting.subject == "figure"
    assert state.setting.camera == default_setting().camera


def test_a_pose_from_the_shelf_fits_the_build_in_force(state: ModelState) -> None:
    state.choose_build("child-4")
    state.choose_pose("one-knee")
    assert state.setting == replace(state.setting, pose=set_up("one-knee", "child-4").pose)


@pytest.mark.parametrize("grip", sorted(GRIPS))
def test_every_grip_can_be_pulled(state: ModelState, grip: str) -> None:
    figure = stood(state.setting.build, state.setting.pose)
    one = GRIPS[grip]
    state.pull(grip, figure.world(one.part, one.at) + np.array([0.1, 0.15, 0.1]))
    assert state.setting.pose.title == OWN
    state.setting.checked()


def test_a_series_is_added_to_taken_from_and_opened(state: ModelState) -> None:
    for key in ("at-rest", "walking", "sitting"):
        state.choose_pose(key)
        state.add_to_series()
    state.hold_up(0)
    assert state.held_up == 0
    state.set_seconds(30.0)
    state.drop_from_series()
    assert [one.title for one in state.series] == ["Walking", "Sitting on a box"]
    assert state.current == 0
    state.hold_up(7)  # there is none
    assert state.current == 0
    state.take_series((set_up("kneeling"),))
    assert (state.series, state.current, state.pose_key) == ((), None, "kneeling")
    state.drop_from_series()
    state.set_seconds(3.0)
    assert state.series == ()


# Handles


@pytest.mark.parametrize(("aside", "above"), [(-170, 10), (-40, 45), (0, 88), (95, 30)])
def test_the_lamp_hangs_where_it_was_put(aside: float, above: float) -> None:
    size = QSize(640, 600)
    look = Look(aside_deg=aside, above_deg=above)
    back = lamp_at(Look(), lamp_spot(look, size), size)
    assert back.aside_deg == pytest.approx(aside, abs=0.51)
    assert back.above_deg == pytest.approx(above, abs=0.51)
    far = lamp_at(look, QPointF(-900.0, 9000.0), size).checked()
    assert (far.aside_deg, far.above_deg) == (-180.0, 5.0)


def test_the_eye_follows_the_pointer() -> None:
    """Dragged to another height, its level in the next picture is about where the pointer was."""
    setting = default_setting()
    view = Stage.of(setting, COARSE).view(450, 600)
    raised = eye_at_height(setting, view, 60.0)
    assert raised > setting.camera.eye_m
    moved = replace(setting, camera=replace(setting.camera, eye_m=raised))
    after = Stage.of(moved, COARSE).view(450, 600)
    assert eye_spot(after) == pytest.approx(eye_spot(view) - 60.0, abs=15.0)
    assert eye_at_height(setting, view, 1e6) == 4.0
    assert eye_at_height(setting, view, -1e6) == 0.05


# What is drawn and what is told of it


def test_pictures_are_no_larger_than_they_may_be() -> None:
    assert sized(300, 400, 120_000) == (300, 400)
    wide, high = sized(3000, 2000, 120_000)
    assert wide * high == pytest.approx(120_000, rel=0.01)
    assert wide / high == pytest.approx(1.5, rel=0.01)
    assert min(sized(1, 100_000, 10)) >= 16


def test_while_it_is_dragged_the_camera_stays() -> None:
    one = drawn_now(default_setting(), 90, 120, finished=False)
    other = drawn_now(set_up("crouching"), 180, 240, finished=False, held=one.view)
    assert other.view.focal == pytest.approx(2.0 * one.view.focal)
    assert other.view.eye == pytest.approx(one.view.eye)
    assert (one.key, other.finished) == (None, False)
    assert (other.image.width(), other.image.height()) == (180, 240)


def test_facts_say_where_the_weight_is_and_that_the_eye_is_near() -> None:
    def told(**changes: object) -> dict[str, str]:
        setting = replace(set_up("at-rest"), **changes)
        return dict(facts_of(drawn_now(setting, 90, 120, finished=True)))

    calm = told(camera=Camera(distance_m=30.0))
    assert calm["Weight"].startswith("within its base")
    assert "" not in calm
    pose = set_up("at-rest").pose.with_turns({"pelvis.tip": 40.0})
    falling = told(pose=pose, camera=Camera(distance_m=2.0))
    assert "it would fall" in falling["Weight"]
    assert "From 2.0 m" in falling[""]
    arm = set_up("at-rest").pose.with_turns({"shoulder_l.forward": 85.0})
    assert told(pose=arm)["Shortest"].startswith(("L upper arm", "L forearm"))
    assert told(pose=arm)["Shortest"].endswith("towards you")


def test_what_moves_is_made_as_large_as_the_machine_keeps_up_with() -> None:
    def settled(ms_a_px: float, pace: Pace) -> list[int]:
        sizes = []
        for _ in range(60):
            sizes.append(pace.px)
            pace.took(8.0 + ms_a_px * pace.px)
        return sizes

    fast, slow, crawling = (settled(ms, Pace()) for ms in (1e-4, 4e-4, 1e-2))
    assert set(fast) == {300 * 400}
    # 56 ms for the large one, 39 for the next: that is kept, and does not alternate.
    assert set(slow[10:]) == {240 * 320}
    assert crawling[-1] == min(crawling)
    pace = Pace()
    pace.took(900.0)  # modules are loaded for the first one
    assert pace.px == 300 * 400
    settled(1e-2, pace)
    assert settled(5e-5, pace)[-1] == 300 * 400  # the other work is over
