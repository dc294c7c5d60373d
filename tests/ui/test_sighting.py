"""Sighting lines and the stick: what is taken on one board is carried to the other in heads."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from pytestqt.qtbot import QtBot

from bralto.core.canons.shipped_canons import canons_of
from bralto.core.measures.kinds import fold_degrees
from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.work.sighting import DIVISIONS
from bralto.ui.boards.picture_board import PictureBoard


def drag(board: PictureBoard, qtbot: QtBot, one: QPointF, two: QPointF) -> None:
    left = Qt.MouseButton.LeftButton
    qtbot.mousePress(board, left, pos=one.toPoint())
    qtbot.mouseMove(board, ((one + two) / 2).toPoint())
    qtbot.mouseMove(board, two.toPoint())
    qtbot.mouseRelease(board, left, pos=two.toPoint())


def test_a_stick_along_the_shoulders_says_their_tilt_and_span(bench: Bench, qtbot: QtBot) -> None:
    board = bench.reference
    one, two = board.at("shoulder_r"), board.at("shoulder_l")
    bench.work.take_tool(board, "stick")
    assert bench.prompt().lead == "Hold a stick along any line:"
    drag(board, qtbot, one, two)
    study = bench.study.assessment
    tilt, span = (study.reading(f"{k}.shoulders").reference for k in ("tilt", "span"))
    degrees, heads = bench.sighting.words().replace("−", "-").split(" · ")
    assert float(degrees.removesuffix("°")) == pytest.approx(tilt, abs=1.0)
    assert float(heads.removesuffix(" heads")) == pytest.approx(span, abs=0.02)
    # On the drawing the same stick is as long in its own heads, and leans alike.
    stick = bench.sighting.stick
    ends = [bench.sighting.on_board(bench.drawing, end) for end in (stick.one, stick.two)]
    px = study.unit.drawing_px * bench.drawing.viewport.zoom
    assert np.hypot(ends[1].x() - ends[0].x(), ends[1].y() - ends[0].y()) / px == pytest.approx(
        span, abs=0.02
    )
    bare = bench.drawing.grab().toImage()
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.sighting.out
    assert bench.drawing.grab().toImage() != bare


def test_plumb_and_level_run_through_the_same_place_of_both_figures(
    bench: Bench, qtbot: QtBot
) -> None:
    qtbot.keyClick(bench, Qt.Key.Key_P)
    qtbot.keyClick(bench, Qt.Key.Key_L)
    bare = bench.drawing.grab().toImage()
    chin = bench.reference.at("chin")
    qtbot.mouseMove(bench.reference, chin.toPoint())
    there = bench.sighting.on_board(bench.drawing, bench.sighting.pointer)
    assert there.y() == pytest.approx(bench.drawing.at("chin").y(), abs=1.5)  # one head down
    assert bench.drawing.grab().toImage() != bare
    qtbot.keyClick(bench, Qt.Key.Key_P)
    assert bench.sighting.lines == {"level"}


def test_two_sticks_tell_the_angle_between_their_lines(bench: Bench, qtbot: QtBot) -> None:
    board = bench.reference
    qtbot.keyClick(bench, Qt.Key.Key_J)  # none is out: it is the first
    assert bench.active_board().tool.name == "stick"
    bench.work.take_tool(board, "stick")
    drag(board, qtbot, board.at("shoulder_r"), board.at("shoulder_l"))
    bench.work.take_tool(board, "second stick")
    # Nearly at the marks is at the marks: sticks are held to them.
    slip = QPointF(3.0, -2.0)
    drag(board, qtbot, board.at("hip_point_r") + slip, board.at("hip_point_l") - slip)
    counter = bench.study.assessment.reading("angle.counter_tilt").reference
    said = bench.sighting.words().split(" · ")
    assert said[-1] == f"{abs(counter):.0f}° between both"
    assert bench.sighting.second.tilt == pytest.approx(
        fold_degrees(bench.study.assessment.reading("tilt.hips").reference), abs=0.1
    )


def test_halves_thirds_and_heads_are_marked_on_a_limb(bench: Bench, qtbot: QtBot) -> None:
    board = bench.reference
    bench.work.take_tool(board, "stick")
    drag(board, qtbot, board.at("hip_point_l"), board.at("ankle_l"))
    held, shares = bench.sighting.stick, []
    pictures = []
    for divided in DIVISIONS:
        assert bench.sighting.divided == divided
        shares.append([share for share, _ in bench.sighting.marks_on(held, "stick")])
        pictures.append(bench.drawing.grab().toImage())
        qtbot.keyClick(bench, Qt.Key.Key_X)
    assert shares[:3] == [[], [0.5], [1 / 3, 2 / 3]]
    assert shares[3] == pytest.approx([i / held.length for i in range(int(held.length) + 1)])
    assert all(one != other for one, other in pairwise(pictures))
    assert bench.sighting.divided == ""


def test_dividers_carry_a_length_and_count_its_steps(bench: Bench, qtbot: QtBot) -> None:
    board = bench.reference
    bench.reference.setFocus()
    bench.work.take_tool(board, "dividers")
    drag(board, qtbot, board.at("crown"), board.at("chin"))
    assert "1.00 heads in the dividers" in bench.sighting.words().replace("0.99", "1.00")
    assert board.tool.name == "steps"  # what is stepped along comes next
    qtbot.keyClick(board, Qt.Key.Key_Escape)
    other = bench.drawing
    bench.work.take_tool(other, "steps")
    drag(other, qtbot, other.at("crown"), other.at("chin"))
    head = bench.study.assessment.reading("span.head")
    steps = float(bench.sighting.words().split(" ")[0])
    assert steps == pytest.approx(head.drawing / head.reference, abs=0.03)
    marks = bench.sighting.marks_on(bench.sighting.steps, "steps")
    assert len(marks) == int(steps + 1e-6)
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.sighting.out


def test_a_stick_is_held_out_by_keys_alone(bench: Bench, qtbot: QtBot) -> None:
    board = bench.active_board()
    board.setFocus()
    qtbot.keyClick(board, Qt.Key.Key_A)
    shift = Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(board, Qt.Key.Key_Right, shift)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    for _ in range(20):
        qtbot.keyClick(board, Qt.Key.Key_Right, shift)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert board.tool is None
    assert bench.sighting.stick is not None
    assert bench.sighting.stick.length > 0.5


def test_big_forms_and_a_canon_are_laid_over_both_and_taken_off(bench: Bench, qtbot: QtBot) -> None:
    bare = [board.grab().toImage() for board in bench.boards]
    qtbot.keyClick(bench, Qt.Key.Key_K)
    assert all(b.grab().toImage() != was for b, was in zip(bench.boards, bare, strict=True))
    qtbot.keyClick(bench, Qt.Key.Key_K)
    assert [board.grab().toImage() for board in bench.boards] == bare
    control = Qt.KeyboardModifier.ControlModifier
    seen = []
    for canon in (*(one for one in canons_of(bench.study.view.key) if not one.apart), None):
        qtbot.keyClick(bench, Qt.Key.Key_K, control)
        assert bench.study.session.canon is canon
        if canon is not None:
            assert canon.title in bench.prompt().lead
        seen.append(bench.drawing.grab().toImage())
    assert len(seen) > 2
    assert all(one != bare[1] for one in seen[:-1])
    assert seen[-1] == bare[1]


def test_one_board_takes_the_room_of_both(bench: Bench, qtbot: QtBot) -> None:
    wide = bench.reference.width()
    qtbot.keyClick(bench, Qt.Key.Key_F2)
    assert bench.reference.isVisible()
    assert not bench.drawing.isVisible()
    assert bench.reference.width() > 1.8 * wide
    qtbot.keyClick(bench, Qt.Key.Key_F2)
    assert not bench.reference.isVisible()
    assert bench.drawing.isVisible()
    qtbot.keyClick(bench, Qt.Key.Key_F2)
    assert bench.reference.width() == wide


def test_a_new_stick_is_never_painted_as_one_that_was_put_away(bench: Bench, qtbot: QtBot) -> None:
    """What is held stays painted in a layer; another stick may have the address of the old one."""
    ends = [("shoulder_r", "shoulder_l"), ("hip_point_r", "ankle_r"), ("crown", "heel_l")] * 8
    shown: dict[tuple[str, str], object] = {}
    for pair in ends:
        marks = bench.study.picture(Board.REFERENCE).marks
        places = [QPointF(marks[key].x, marks[key].y) for key in pair]
        bench.sighting.hold_out(bench.reference, "stick", *places)
        picture = bench.drawing.grab().toImage()
        assert shown.setdefault(pair, picture) == picture
        qtbot.keyClick(bench, Qt.Key.Key_Escape)
    one, two, three = shown.values()
    assert one != two != three != one
