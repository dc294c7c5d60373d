"""The Model place in the real window: posed by hand and by values, lit, drawn from."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, QRect, Qt, QTimer
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.core.action.sweeps import WHOLE
from bralto.core.mannequin.body.joints import joints
from bralto.core.mannequin.body.pose import Pose
from bralto.core.mannequin.known import is_quick
from bralto.core.mannequin.posing.poses import named_poses
from bralto.core.mannequin.setting import Setting, set_up
from bralto.core.study.two_boards import Board
from bralto.exchange.pose_file import read_settings, write_settings
from bralto.ui.bench.scales.rungs import stations
from bralto.ui.bench.told.screen_reader import ladder_words
from bralto.ui.model import drawn
from bralto.ui.model.draw_sheet import DrawSheet, Looked
from bralto.ui.model.drawn import Drawn, drawn_now
from bralto.ui.model.model_place import ModelPlace
from bralto.ui.model.model_state import OWN
from bralto.ui.session import prompting
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def opened(open_window: Callable[[Path], MainWindow], tmp_path: Path) -> MainWindow:
    """The window on an empty library."""
    return open_window(tmp_path / "library")


FIRST: list[Drawn] = []
"""The finished picture that most of these tests begin with; of every size that was asked for."""


@pytest.fixture
def place(opened: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> ModelPlace:
    """The Model place with its first finished picture, which is made for the first test alone."""

    def made_once(
        setting: Setting, width: int, height: int, *, finished: bool, **more: Any
    ) -> Drawn:
        if not finished or any(more.values()):
            return drawn_now(setting, width, height, finished=finished, **more)
        for one in FIRST:
            if (one.setting, one.view.width, one.view.height) == (setting, width, height):
                return one
        FIRST.append(drawn_now(setting, width, height, finished=True))
        return FIRST[-1]

    monkeypatch.setattr(drawn, "drawn_now", made_once)
    opened.go("Model")
    finished(qtbot, house(opened).model)
    return house(opened).model


def finished(qtbot: QtBot, place: ModelPlace) -> None:
    """Wait for the finished picture of what stands there now."""

    def there() -> bool:
        drawn = place.board.drawn
        return drawn is not None and drawn.finished and drawn.setting == place.state.setting

    qtbot.waitUntil(there, timeout=60_000)


def stand_up(place: ModelPlace, qtbot: QtBot, subject: str) -> None:
    """Have something else stand there, chosen by hand."""
    box = place.figure.subject
    box.setCurrentIndex(box.findData(subject))
    box.activated.emit(box.currentIndex())
    finished(qtbot, place)


def drag(place: ModelPlace, start: QPointF, by: tuple[int, int], steps: int = 4) -> None:
    board, at = place.board, start.toPoint()
    QTest.mousePress(board, LEFT, pos=at)
    for i in range(1, steps + 1):
        QTest.mouseMove(board, at + QPoint(by[0] * i // steps, by[1] * i // steps))
    QTest.mouseRelease(board, LEFT, pos=at + QPoint(*by))


def test_it_stands_there_finished_with_what_is_known(place: ModelPlace) -> None:
    assert place.pages.count() == 4
    words = " ".join(f"{name} {said}" for name, said in place.facts.rows)
    assert "figure, from the front" in words
    assert "31 landmarks" in words
    assert "within its base" in words
    assert "Weight on the right leg" in place.board.accessibleDescription()
    assert "pull a ring" in place.prompt().how


def test_a_hand_is_pulled_and_one_undo_puts_it_back(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    before = place.state.setting
    start = place.board.grips()["hand_l"]
    drag(place, start, (30, -120))
    state = place.state
    assert state.setting.pose.title == OWN
    assert state.setting.pose["elbow_l.bend"] != before.pose["elbow_l.bend"]
    assert state.undo_stack.count() == 1
    assert place.joints.joint.currentText() == "L shoulder"
    finished(qtbot, place)
    # The camera has put the figure into the middle again; against the other hand it has moved.
    grips = place.board.grips()
    moved = grips["hand_l"] - grips["hand_r"]
    assert moved.y() < (start - place.board.grips()["hand_r"]).y() + 40
    opened.undo()
    assert state.setting == before
    opened.redo()
    assert state.setting != before


def test_a_drag_is_followed_once_a_picture_and_to_its_end(
    place: ModelPlace, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """However often the pointer moves meanwhile; and never are two quick pictures made at once."""
    running, most = 0, 0

    def counted(*args: object, finished: bool, **more: object) -> Drawn:
        nonlocal running, most
        quick = not finished and "before" in more  # not a small one of the poses' page
        running += quick
        most = max(most, running)
        try:
            return drawn_now(*args, finished=finished, **more)
        finally:
            running -= quick

    monkeypatch.setattr(drawn, "drawn_now", counted)
    board, start = place.board, place.board.grips()["hand_l"].toPoint()
    view, pulls = board.drawn.view, []
    pull = place.state.pull
    monkeypatch.setattr(place.state, "pull", lambda grip, at: (pulls.append(at), pull(grip, at)))
    pictures: list[Drawn] = []
    place.drawer.drawn.connect(keep := pictures.append)
    QTest.mousePress(board, LEFT, pos=start)
    moves = 0
    while len(pictures) < 4:
        moves += 1
        assert moves < 5000
        QTest.mouseMove(board, start + QPoint(moves % 60, -2 * (moves % 60)))
        qtbot.wait(2)
    assert moves > len(pulls)
    assert 4 <= len(pulls) <= len(pictures) + 1
    QTest.mouseMove(board, start + QPoint(59, -118))
    QTest.mouseRelease(board, LEFT, pos=start + QPoint(59, -118))
    # Let go, it has come to where the pointer was last.
    k = board.height() / view.height
    assert k * view.project(pulls[-1]) == pytest.approx([start.x() + 59, start.y() - 118])
    finished(qtbot, place)
    place.drawer.drawn.disconnect(keep)
    assert most == 1


def test_the_shelf_waits_with_its_small_pictures_while_something_is_dragged(
    opened: MainWindow, qtbot: QtBot
) -> None:
    drawn.small_picture.cache_clear()
    opened.go("Model")
    place, grid = house(opened).model, house(opened).model.shelf.grid
    place.state.begin()
    place.state.turn_stand(5.0)
    qtbot.waitUntil(lambda: grid.waiting, timeout=60_000)  # one was being made
    there = len(grid.pictures)
    qtbot.wait(300)
    assert len(grid.pictures) == there
    place.state.end("stand")
    qtbot.waitUntil(lambda: len(grid.pictures) > there + 1, timeout=60_000)
    qtbot.waitUntil(lambda: grid.complete, timeout=60_000)


def test_in_another_light_the_same_stage_is_taken(place: ModelPlace, qtbot: QtBot) -> None:
    before = place.board.drawn.stage
    place.light.dials.dials["aside_deg"].spin.setValue(60.0)
    finished(qtbot, place)
    assert place.board.drawn.stage.caster is before.caster
    place.state.turn_joint("elbow_l.bend", 70.0)
    finished(qtbot, place)
    assert place.board.drawn.stage.caster is not before.caster


def test_beside_the_rings_the_stand_turns(place: ModelPlace) -> None:
    drag(place, QPointF(40.0, place.board.height() - 40.0), (120, 0))
    assert place.state.setting.turn_deg == pytest.approx(60.0)
    assert place.state.pose_key == "weight-right"  # still that pose


def test_lamp_and_eye_are_dragged_on_the_picture(place: ModelPlace, qtbot: QtBot) -> None:
    spots = place.board.handles()
    drag(place, spots["lamp"], (150, 40))
    look = place.state.setting.look
    assert look.aside_deg > 20
    assert look.above_deg < 40
    finished(qtbot, place)
    drag(place, place.board.handles()["eye"], (0, 120))
    assert place.state.setting.camera.eye_m < 1.3
    finished(qtbot, place)
    assert place.light.dials.dials["eye_m"].spin.value() == pytest.approx(
        place.state.setting.camera.eye_m, abs=0.006
    )


def test_keys_turn_and_raise_and_come_nearer(place: ModelPlace, qtbot: QtBot) -> None:
    board = place.board
    board.setFocus()
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Plus):
        qtbot.keyClick(board, key)
    setting = place.state.setting
    assert setting.turn_deg == 10.0
    assert setting.camera.eye_m == pytest.approx(1.6)
    assert setting.camera.distance_m == pytest.approx(4.55)


def test_too_near_is_said_and_nothing_can_be_drawn_then(place: ModelPlace, qtbot: QtBot) -> None:
    place.state.choose_pose("pointing")
    place.light.dials.dials["distance_m"].spin.setValue(0.5)
    qtbot.waitUntil(lambda: bool(place.board.fault), timeout=60_000)
    assert "step back" in place.prompt().lead
    assert not place.draw.isEnabled()
    place.light.dials.dials["distance_m"].spin.setValue(4.0)
    finished(qtbot, place)
    assert place.board.fault == ""
    assert place.draw.isEnabled()


def test_joints_by_exact_values_within_their_limits(place: ModelPlace) -> None:
    joints = place.joints
    joints.joint.setCurrentIndex(joints.joint.findData("elbow_r"))
    dial = joints.turns.dials["elbow_r.bend"]
    assert "150" in dial.spin.toolTip()
    dial.spin.setValue(90.0)
    assert place.state.setting.pose["elbow_r.bend"] == 90.0
    dial.spin.setValue(500.0)
    assert place.state.setting.pose["elbow_r.bend"] == 150.0
    place.state.turn_joint("elbow_r.bend", 500.0)  # said and put back
    assert place.state.setting.pose["elbow_r.bend"] == 150.0


def test_undo_in_a_field_takes_back_the_last_edit_of_the_place(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    dial = place.joints.turns.dials["pelvis.turn"]
    dial.spin.setValue(30.0)
    assert place.state.setting.turn_deg == pytest.approx(30.0)
    opened.activateWindow()
    line = dial.spin.lineEdit()
    line.setFocus()
    qtbot.waitUntil(line.hasFocus)
    control = Qt.KeyboardModifier.ControlModifier
    qtbot.keyClick(line, Qt.Key.Key_Z, control)
    assert place.state.setting.turn_deg == pytest.approx(0.0)
    qtbot.keyClick(line, Qt.Key.Key_Z, control | Qt.KeyboardModifier.ShiftModifier)
    assert place.state.setting.turn_deg == pytest.approx(30.0)
    # What is being typed is taken back first, and nothing else.
    line.selectAll()
    qtbot.keyClicks(line, "77")
    qtbot.keyClick(line, Qt.Key.Key_Z, control)
    assert "77" not in line.text()
    assert place.state.setting.turn_deg == pytest.approx(30.0)


def test_the_shelf_of_poses_says_what_stands_there(place: ModelPlace) -> None:
    said = place.shelf.grid.accessibleDescription
    for key in ("walking", "hand-on-hip"):
        place.state.choose_pose(key)
        assert said().startswith(f"{named_poses()[key].title}, stands there")
    place.state.undo_stack.undo()
    assert said().startswith(f"{named_poses()['walking'].title}, stands there")
    place.state.turn_joint("elbow_r.bend", 40.0)  # a pose of the learner's own
    assert "stands there" not in said()


def test_a_slider_drags_one_change(place: ModelPlace) -> None:
    dial = place.joints.turns.dials["pelvis.turn"]
    dial.slider.sliderPressed.emit()
    for at in (500, 600, 700):
        dial.slider.sliderMoved.emit(at)
    assert place.state.dragging
    dial.slider.setValue(750)
    dial.slider.sliderReleased.emit()
    assert not place.state.dragging
    assert place.state.setting.turn_deg == pytest.approx(90.0)
    assert place.state.undo_stack.count() == 1


def test_poses_are_chosen_on_the_shelf_by_pointer_and_keys(place: ModelPlace, qtbot: QtBot) -> None:
    grid = place.shelf.grid
    third = grid.poses[2].key
    QTest.mouseClick(grid, LEFT, pos=grid.area(2).center())
    assert place.state.pose_key == third
    grid.setFocus()
    qtbot.keyClick(grid, Qt.Key.Key_Down)
    qtbot.keyClick(grid, Qt.Key.Key_Return)
    assert place.state.pose_key == grid.poses[4].key
    assert grid.accessibleDescription().startswith(grid.poses[4].title)
    qtbot.waitUntil(lambda: len(grid.pictures) == len(named_poses()), timeout=60_000)


def test_other_subjects_and_proportions(place: ModelPlace, qtbot: QtBot) -> None:
    figure = place.figure
    figure.build.setCurrentIndex(figure.build.findData("child-8"))
    figure.build.activated.emit(figure.build.currentIndex())
    assert place.state.setting.build.key == "child-8"
    figure.figures.dials["leg"].spin.setValue(0.52)
    assert place.state.setting.build.leg == pytest.approx(0.52)
    assert figure.build.currentText() == "Own proportions"
    stand_up(place, qtbot, "egg")
    assert place.board.grips() == {}
    assert list(place.joints.turns.dials) == ["pelvis.turn"]
    assert ("Known", "4 landmarks") in place.facts.rows


def test_a_hand_in_plaster_is_drawn_from_and_counted_upwards(
    place: ModelPlace, opened: MainWindow, qtbot: QtBot
) -> None:
    """It points up, and its heights are counted from the wrist: no tip stands at -0.77."""
    stand_up(place, qtbot, "hand")
    assert place.figure.subject.currentText() == "hand in plaster"
    assert place.board.grips() == {}
    assert list(place.joints.turns.dials) == ["pelvis.turn"]
    assert ("Known", "15 landmarks") in place.facts.rows
    place.keep((Looked(place.state.setting, 600.0, 0, False),))
    qtbot.waitUntil(lambda: house(opened).bench is not None, timeout=60_000)
    settle(qtbot, opened)
    bench = house(opened).bench
    assert bench.study.view.key == "hand"
    bench.study.apply(prompting.enter_pass, "heights")
    ladder = bench.ladder
    tip = next(one for one in stations(bench.study) if one.key == "middle_tip")
    assert tip.reference == pytest.approx(-0.77, abs=0.01)
    assert ladder.figure(tip.reference) == "0.77"
    assert ladder.y_of(tip.reference) < ladder.y_of(0.0)
    assert any(one.startswith("middle tip: seen 0.77 ") for one in ladder_words(bench.study))
    opened.grab()


def test_a_head_is_made_another_sitter_s_and_tilted_by_its_crown(
    place: ModelPlace, qtbot: QtBot
) -> None:
    page = place.figure
    page.subject.setCurrentIndex(page.subject.findData("head"))
    page.subject.activated.emit(page.subject.currentIndex())
    place.show_page("Figure")
    finished(qtbot, place)
    assert page.figures.dials["face.lower"].spin.isVisible()
    assert not page.figures.dials["leg"].spin.isVisible()
    known = dict(row[:2] for row in place.facts.rows)["Known"]
    assert known.startswith("55 landmarks")  # without the three of the hair
    page.figures.dials["face.eyes_apart"].spin.setValue(1.1)
    assert place.state.setting.build.face.eyes_apart == pytest.approx(1.1)
    page.shown["hair"].click()
    page.shown["planes"].click()
    assert place.state.setting.hair
    assert place.state.setting.planes
    finished(qtbot, place)
    assert set(place.board.grips()) == {"head", "crown"}
    drag(place, place.board.grips()["crown"], (50, 0))
    # Towards your right, and that is its left.
    turns = place.state.setting.pose
    assert turns["head.lean"] + turns["neck.lean"] > 4.0
    before = place.state.undo_stack.count()
    drag(place, place.board.grips()["head"], (-60, 0))
    assert turns["head.twist"] == 0.0
    assert place.state.setting.pose["head.twist"] < -3.0
    assert place.state.undo_stack.count() == before + 1
    page.subject.setCurrentIndex(page.subject.findData("figure"))
    page.subject.activated.emit(page.subject.currentIndex())
    assert not page.shown["hair"].isVisible()
    finished(qtbot, place)
    assert "crown" not in place.board.grips()


def test_only_the_joints_of_what_stands_there_are_offered(place: ModelPlace, qtbot: QtBot) -> None:
    page = place.joints

    def offered() -> list[str]:
        return [page.joint.itemText(i) for i in range(page.joint.count())]

    page.joint.setCurrentIndex(page.joint.findData("shoulder_l"))
    assert len(offered()) == len(joints())
    place.state.choose_subject("head")
    assert offered() == ["stand", "neck", "head"]
    assert list(page.turns.dials) == ["pelvis.turn"]
    assert all(button.isEnabled() for button in page.whole)
    page.joint.setCurrentIndex(2)
    page.turns.dials["head.twist"].spin.setValue(30.0)
    assert place.state.setting.pose["head.twist"] == 30.0
    place.state.choose_subject("chair")
    assert offered() == ["stand"]
    assert not any(button.isEnabled() for button in page.whole)
    page.turns.dials["pelvis.turn"].spin.setValue(75.0)
    assert place.state.setting.turn_deg == 75.0
    finished(qtbot, place)
    place.state.choose_subject("figure")
    assert len(offered()) == len(joints())


def test_chance_mirror_and_straighten(place: ModelPlace) -> None:
    place.joints.hard.setValue(4)
    place.state.throw_dice()
    first = place.state.setting.pose
    place.state.throw_dice()
    assert place.state.setting.pose != first
    pose = place.state.setting.pose
    place.state.mirror()
    assert place.state.setting.pose["elbow_l.bend"] == pose["elbow_r.bend"]
    place.state.stand_still()
    assert set(place.state.setting.pose.turns) == {"pelvis.turn"}


def test_a_series_stands_on_the_tape_and_is_kept(
    opened: MainWindow, place: ModelPlace, tmp_path: Path
) -> None:
    for key in ("at-rest", "walking", "sitting"):
        place.state.choose_pose(key)
        place.series.add.click()
    place.series.seconds.setValue(300)
    segments, current, *_ = place.tape()
    assert [one.title for one in segments] == ["At rest", "Walking", "Sitting on a box"]
    assert segments[2].note == "5 min"
    assert current == "2"
    assert "9 min in all" in place.series.words.text()
    opened.tape.chosen.emit("1")
    assert place.state.pose_key == "walking"
    path = tmp_path / "series.json"
    place.files.write(path)
    assert [one.seconds for one in read_settings(path)] == [120.0, 120.0, 300.0]
    assert opened.prompt_line.prompt.lead == "series.json is written."
    place.series.drop.click()
    assert len(place.state.series) == 2
    place.files.read(path)
    assert len(place.state.series) == 3
    place.state.turn_stand(20.0)  # it is no longer the pose on the tape
    assert place.tape().current is None


def test_a_file_from_elsewhere_is_one_sentence_in_the_prompt(
    opened: MainWindow, place: ModelPlace, tmp_path: Path
) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text('{"format": "something"}')
    before = place.state.setting
    place.files.read(bad)
    assert "not a Bralto pose" in opened.trouble
    assert place.state.setting == before
    write_settings((set_up("crouching"),), bad)
    place.files.read(bad)
    assert place.state.pose_key == "crouching"
    assert place.state.series == ()


# Drawing


def begun(qtbot: QtBot, place: ModelPlace, shown_s: float | None = None) -> DrawSheet:
    place.draw_this(shown_s, full=False)
    sheet = place.sheet
    assert sheet is not None
    qtbot.waitUntil(lambda: sheet.in_sight, timeout=60_000)
    sheet.clock.stop()  # the test tells the time
    return sheet


def test_draw_this_makes_a_study_with_the_answer_key(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    sheet = begun(qtbot, place)
    for _ in range(65):
        sheet.tick()
    assert sheet.spent == sheet.seen == 65
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    sheet.tick()
    assert sheet.spent == 65  # paused
    qtbot.keyClick(sheet, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: opened.place == "Bench", timeout=60_000)
    assert place.sheet is None
    study = house(opened).bench.study.study
    assert study.view == "figure-front"
    assert study.states == ()
    assert len(study.reference.marks) == 31
    assert study.extra["model"]["seen_s"] == 65
    assert study.extra["model"]["from_memory"] is False
    assert house(opened).bench.study.undrawn
    said = opened.prompt_line.prompt
    assert "photograph" in f"{said.lead} {said.how}"


@pytest.mark.usefixtures("quick_sheets")
def test_hidden_for_drawing_from_memory_every_look_is_counted(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    sheet = begun(qtbot, place, 30)
    for _ in range(40):
        sheet.tick()
    assert sheet.hidden
    assert not sheet.in_sight
    assert sheet.seen == 30
    qtbot.keyPress(sheet, Qt.Key.Key_L)
    assert sheet.in_sight
    sheet.tick()
    qtbot.keyRelease(sheet, Qt.Key.Key_L)
    assert not sheet.in_sight
    assert sheet.looks == 1
    sheet.finish()
    qtbot.waitUntil(lambda: opened.place == "Bench", timeout=60_000)
    model = house(opened).bench.study.study.extra["model"]
    assert (model["looks"], model["seen_s"], model["from_memory"]) == (1, 31, True)


@pytest.mark.usefixtures("quick_sheets")
def test_brought_back_for_good_it_stays_and_is_told(place: ModelPlace, qtbot: QtBot) -> None:
    sheet = begun(qtbot, place, 10)
    for _ in range(12):
        sheet.tick()
    assert sheet.hidden
    qtbot.keyClick(sheet, Qt.Key.Key_H)
    for _ in range(5):
        sheet.tick()
    assert sheet.in_sight
    sheet.drawn.disconnect()  # nothing is to be kept here
    with qtbot.waitSignal(sheet.drawn) as told:
        sheet.finish()
    (looked,) = told.args[0]
    assert (looked.hidden, looked.seconds) == (True, 15)


@pytest.mark.usefixtures("quick_sheets")
def test_a_series_runs_by_its_times_and_keeps_a_study_of_each(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    for key in ("at-rest", "walking"):
        place.state.choose_pose(key)
        place.state.add_to_series()
        place.state.set_seconds(10.0)
    sheet = begun(qtbot, place)
    for _ in range(10):
        sheet.tick()
    assert sheet.setting.title == "Walking"
    qtbot.waitUntil(lambda: sheet.in_sight, timeout=60_000)
    for _ in range(10):
        sheet.tick()
    qtbot.waitUntil(lambda: opened.place == "Bench", timeout=60_000)
    opened.go("Shelf")
    titles = {entry.title for entry in house(opened).shelf_state.entries}
    assert {"At rest", "Walking"} <= titles
    assert house(opened).bench is not None
    assert house(opened).bench.study.study.title == "Walking"


@pytest.mark.usefixtures("quick_sheets")
def test_an_action_drill_is_quick_poses_whose_studies_begin_with_their_action(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    qtbot.mouseClick(place.series.quick, LEFT)
    series = place.state.series
    assert [one.seconds for one in series] == [30.0] * 4 + [60.0] * 3 + [120.0] * 2
    assert len({tuple(sorted(one.pose.turns.items())) for one in series}) == len(series)
    assert "9 poses, 9 min in all" in place.series.words.text()
    sheet = begun(qtbot, place)
    for _ in range(30):
        sheet.tick()
    assert sheet.setting.seconds == 30.0
    qtbot.keyClick(sheet, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: opened.place == "Bench", timeout=60_000)
    bench = house(opened).bench
    assert bench is not None
    study = bench.study
    assert is_quick(study.study)
    assert (study.session.tape, study.current_pass) == ("action", "action")
    assert study.undrawn
    assert WHOLE in study.picture(Board.REFERENCE).curves  # known, as the model's marks are


@pytest.mark.usefixtures("quick_sheets")
def test_leaving_keeps_nothing(opened: MainWindow, place: ModelPlace, qtbot: QtBot) -> None:
    sheet = begun(qtbot, place)
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    assert place.sheet is None
    assert opened.place == "Model"
    opened.go("Shelf")
    assert not house(opened).shelf_state.entries


@pytest.mark.usefixtures("quick_sheets")
def test_a_pose_that_cannot_be_shown_ends_the_series_and_keeps_what_was_drawn(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    bowed = set_up("at-rest")
    inside = replace(
        bowed,
        pose=Pose({"pelvis.tip": 60.0}, "Bowed"),
        camera=replace(bowed.camera, distance_m=0.6, eye_m=0.9),
    )
    place.state.series = (set_up("at-rest"), inside)
    sheet = begun(qtbot, place)
    with qtbot.waitSignal(place.said, timeout=60_000) as said:
        qtbot.keyClick(sheet, Qt.Key.Key_N)
    assert "step back" in said.args[0]
    qtbot.waitUntil(lambda: opened.place == "Bench", timeout=60_000)
    assert house(opened).bench.study.study.title == "At rest"


@pytest.mark.usefixtures("quick_sheets")
def test_a_pose_that_was_never_in_sight_is_not_kept(
    opened: MainWindow, place: ModelPlace, qtbot: QtBot
) -> None:
    place.state.series = (set_up("at-rest"), set_up("walking"), set_up("kneeling"))
    sheet = begun(qtbot, place)
    kept: list[tuple[Looked, ...]] = []
    sheet.drawn.disconnect()
    sheet.drawn.connect(kept.append)
    sheet.go_on()
    sheet.go_on()  # before its picture has come
    qtbot.waitUntil(lambda: sheet.in_sight, timeout=60_000)
    sheet.finish()
    assert [one.setting.title for one in kept[0]] == ["At rest", "Kneeling"]
    place.put_away()
    place.draw_this(full=False)
    place.sheet.finish()  # at once: as if it had been left
    assert place.sheet is None
    assert opened.place == "Model"


def test_the_button_says_what_will_be_drawn(place: ModelPlace) -> None:
    assert place.draw.text() == "Draw this"
    place.state.add_to_series()
    assert place.draw.text() == "Draw the series"
    place.state.drop_from_series()
    assert place.draw.text() == "Draw this"


def test_a_window_that_is_being_resized_is_drawn_anew_once(place: ModelPlace, qtbot: QtBot) -> None:
    sheet = begun(qtbot, place)
    before = sheet.picture
    asked = sheet.asked
    for width in range(520, 640, 10):
        sheet.resize(width, 700)
        sheet.repaint()
        assert sheet.in_sight  # the picture before, whole, meanwhile
    assert sheet.asked == asked
    qtbot.waitUntil(lambda: sheet.picture is not before, timeout=60_000)
    assert sheet.asked == asked + 1
    image = sheet.picture.image
    assert image.width() / image.height() == pytest.approx(630 / (700 - 54), rel=0.01)
    sheet.close()


def test_the_finished_picture_never_holds_up_the_window(place: ModelPlace, qtbot: QtBot) -> None:
    """Between two beats of a fast clock the GUI thread is never gone for long."""
    beats = [time.perf_counter()]
    clock = QTimer(place)
    clock.setInterval(5)
    clock.timeout.connect(lambda: beats.append(time.perf_counter()))
    clock.start()
    place.state.choose_pose("crouching")
    finished(qtbot, place)
    clock.stop()
    assert len(beats) > 30
    # The picture takes a second or two; a frozen window would show as one gap of that length.
    assert np.max(np.diff(beats)) < 0.6


def test_while_it_moves_the_picture_is_as_large_as_the_board_and_shows_what_is_held(
    place: ModelPlace, qtbot: QtBot
) -> None:
    """A small picture is enlarged by the worker, not painted large by the window's own thread;
    beside what is held no other ring is drawn."""
    board = place.board
    quick: list[Drawn] = []
    board.shown.connect(keep := lambda: quick.append(board.drawn))
    QTest.mousePress(board, LEFT, pos=QPoint(40, board.height() - 40))
    QTest.mouseMove(board, QPoint(42, board.height() - 40))
    qtbot.waitUntil(lambda: len(quick) > 0, timeout=60_000)
    board.shown.disconnect(keep)
    assert not quick[0].finished
    assert quick[0].image.size() == board.size() * board.devicePixelRatioF()
    assert quick[0].view.width < quick[0].image.width()
    ring = board.grips()["hand_r"].toPoint()
    around = QRect(ring.x() - 9, ring.y() - 9, 18, 18)
    held = board.grab(around).toImage()
    QTest.mouseRelease(board, LEFT, pos=QPoint(42, board.height() - 40))
    assert board.grab(around).toImage() != held
    finished(qtbot, place)
