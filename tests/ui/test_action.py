"""The action on the real bench: both tapes, the sweep by pointer and by keys, undone, kept."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot
from tests.studies import study_of
from tests.ui.conftest import Opener, house, settle
from tests.ui.test_passes import click_row, kept

from bralto.core.action.bend_kept import Kept
from bralto.core.action.sweeps import WHOLE
from bralto.core.study.two_boards import BOARDS, Board
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.passes.push_slip import PushSlip
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import prompting
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.widgets.heading import Heading
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton
ALONG = ("crown", "pit_of_neck", "navel", "crotch", "knee_r", "heel_r")


def stroke(board: PictureBoard, share: float = 1.0) -> list[tuple[float, float]]:
    """Board places along a figure, its leans drawn at a share."""
    places = [board.at(key) for key in ALONG]
    xy = np.array([[at.x(), at.y()] for at in places if at is not None])
    chord = xy[-1] - xy[0]
    normal = np.array([-chord[1], chord[0]]) / np.hypot(*chord)
    off = (xy - xy[0]) @ normal
    return [tuple(one) for one in xy - (1.0 - share) * off[:, None] * normal]


def draw(board: PictureBoard, qtbot: QtBot, share: float = 1.0) -> None:
    for x, y in stroke(board, share):
        qtbot.mouseClick(board, LEFT, pos=QPointF(x, y).toPoint())
    qtbot.keyClick(board, Qt.Key.Key_Return)


def labels(bench: Bench) -> list[str]:
    return [row.label for row in bench.column.list_of("action").rows]


@pytest.fixture
def in_action(bench: Bench, window: MainWindow, qtbot: QtBot) -> Bench:
    bench.study.apply(prompting.enter_pass, "action")
    settle(qtbot, window)
    return bench


def test_a_click_begins_the_sweep_on_either_picture_and_the_bend_kept_is_told(
    window: MainWindow, in_action: Bench, qtbot: QtBot
) -> None:
    bench = in_action
    draw(bench.reference, qtbot)
    assert bench.drawing.tool is not None  # the other picture follows by itself
    assert "action on the drawing" in window.prompt_line.prompt.lead
    draw(bench.drawing, qtbot, 0.6)
    assert bench.drawing.tool is None
    (pair,) = bench.study.examination.sweeps
    assert isinstance(pair.kept, Kept)
    assert any(label.startswith("You kept ") for label in labels(bench))
    assert len(kept(window, bench).reference.curves[WHOLE]) == len(ALONG)
    assert next(one for one in bench.segments() if one.key == "action").done
    before = bench.drawing.grab().toImage()
    bench.study.undo_stack.undo()
    assert WHOLE not in bench.study.picture(Board.DRAWING).curves
    assert bench.drawing.grab().toImage() != before


def test_the_proposed_sweep_is_taken_by_enter_and_only_on_the_reference(
    window: MainWindow, in_action: Bench, qtbot: QtBot
) -> None:
    bench = in_action
    assert "the proposed sweep" in labels(bench)
    assert ("Enter", "as proposed") in window.prompt_line.prompt.keys
    plain = bench.reference.grab().toImage()
    qtbot.keyClick(bench.reference, Qt.Key.Key_Return)
    assert 5 <= len(bench.study.picture(Board.REFERENCE).curves[WHOLE]) <= 9
    assert WHOLE not in bench.study.picture(Board.DRAWING).curves
    assert "the proposed sweep" not in labels(bench)
    assert bench.reference.grab().toImage() != plain
    assert "on your drawing" in window.prompt_line.prompt.lead


def test_a_sweep_is_drawn_by_keys_alone_and_a_point_taken_back(
    in_action: Bench, qtbot: QtBot
) -> None:
    bench, board = in_action, in_action.reference
    shift = Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(board, Qt.Key.Key_D)
    assert board.tool is not None
    for step in range(6):
        for _ in range(6):
            qtbot.keyClick(board, Qt.Key.Key_Down, shift)
        qtbot.keyClick(board, Qt.Key.Key_Right, shift if step % 2 else Qt.KeyboardModifier(0))
        qtbot.keyClick(board, Qt.Key.Key_Return)
    qtbot.keyClick(board, Qt.Key.Key_Backspace)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert len(bench.study.picture(Board.REFERENCE).curves[WHOLE]) == 5
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Escape)
    assert bench.drawing.tool is None


def test_too_few_points_are_not_done_and_nine_are(in_action: Bench, qtbot: QtBot) -> None:
    bench, board = in_action, in_action.reference
    for i in range(4):
        qtbot.mouseClick(board, LEFT, pos=QPoint(60 + 9 * i, 40 + 45 * i))
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert board.tool is not None
    assert WHOLE not in bench.study.picture(Board.REFERENCE).curves
    for i in range(4, 9):
        qtbot.mouseClick(board, LEFT, pos=QPoint(60 + 9 * i, 40 + 45 * i))
    assert len(bench.study.picture(Board.REFERENCE).curves[WHOLE]) == 9


def test_the_two_edges_of_a_limb_are_drawn_one_after_the_other_on_both_pictures(
    in_action: Bench, qtbot: QtBot
) -> None:
    bench = in_action
    click_row(bench.column.list_of("action"), "the R leg's two edges", qtbot)
    for board in bench.boards:
        for x in (60, 110):
            assert board.tool is not None
            for i in range(5):
                qtbot.mouseClick(board, LEFT, pos=QPoint(x + (i * (5 - i)) // 2, 300 + 40 * i))
            qtbot.keyClick(board, Qt.Key.Key_Return)
    assert "R leg, edge to edge" in labels(bench)


def test_a_mark_that_is_not_shown_is_not_taken_in_hand(in_action: Bench, qtbot: QtBot) -> None:
    bench = in_action
    at = bench.drawing.at("navel")
    qtbot.mouseClick(bench.drawing, LEFT, pos=at.toPoint())
    assert bench.study.session.selected is None
    assert bench.drawing.tool is not None


def test_both_tapes_lead_through_the_same_passes_and_the_choice_is_kept(
    window: MainWindow, bench: Bench, demo_copy: Path, qtbot: QtBot, open_window: Opener
) -> None:
    keys = [one.key for one in bench.segments()]
    assert keys.index("edges") < keys.index("action")
    menus = [one.choice for one in bench.findChildren(Heading) if one.choice is not None]
    (choice,) = (one for one in menus if "tape:action" in dict(one.options))
    choice.take("tape:action")
    turned = [one.key for one in bench.segments()]
    assert sorted(turned) == sorted(keys)
    assert turned[1:7] == ["action", "plumb", "edges", "tilts", "heights", "widths"]
    view = bench.study.view.key
    assert house(window).settings.tape(view) == "action"
    study_id = bench.study.id
    again = open_window(demo_copy)
    house(again).open_study(study_id)
    settle(qtbot, again)
    assert [one.key for one in house(again).bench.segments()] == turned
    study, tape = house(again).bench.study, again.tape
    study.apply(prompting.enter_pass, turned[0])
    for key in turned:  # by keys from end to end
        assert study.current_pass == key
        qtbot.keyClick(house(again).bench, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    share = (tape.width() - 48) / len(turned)
    for at, key in reversed(list(enumerate(turned))):  # and back by the pointer
        qtbot.mouseClick(tape, LEFT, pos=QPoint(int(24 + (at + 0.5) * share), 20))
        assert study.current_pass == key


def test_action_first_begins_with_the_sweep_and_goes_on_to_the_marks(
    window: MainWindow, qtbot: QtBot
) -> None:
    house(window).settings.set_figures_begin("action")
    entries = house(window).shelf_state.entries
    entry = next(one for one in entries if one.title.startswith("Waiting for the tide"))
    house(window).open_study(entry.id)
    settle(qtbot, window)
    study = house(window).bench.study
    marks = {board: dict(study.picture(board).marks) for board in BOARDS}
    for board, found in marks.items():
        study.edits.set_marks(board, dict.fromkeys(found))
    house(window).open_study(entry.id)
    settle(qtbot, window)
    fresh = house(window).bench
    assert fresh.study.current_pass == "action"
    assert fresh.study.step is None  # a click begins the sweep, and sets no mark
    assert "One stroke" in window.prompt_line.prompt.lead
    for i, key in enumerate(ALONG):
        at = fresh.reference.viewport.to_board(marks["reference"][key].x, marks["reference"][key].y)
        qtbot.mouseClick(fresh.reference, LEFT, pos=at.toPoint())
        assert fresh.reference.tool is not None, i
    qtbot.keyClick(fresh.reference, Qt.Key.Key_Return)
    qtbot.keyClick(fresh.drawing, Qt.Key.Key_Escape)
    assert not fresh.study.picture(Board.REFERENCE).marks
    qtbot.keyClick(fresh.drawing, Qt.Key.Key_Return)  # on to the marks of the short set
    assert fresh.study.step is not None
    assert fresh.boards_first


def test_what_a_figure_begins_with_is_set_in_the_settings(window: MainWindow, bench: Bench) -> None:
    house(window).show_settings()
    slip = window.findChild(SettingsSlip)
    slip.figures.setCurrentIndex(slip.figures.findData("action"))
    slip.figures.activated.emit(slip.figures.currentIndex())
    assert [one.key for one in bench.segments()][1] == "action"
    assert house(window).settings.tape("figure-back") == "action"
    assert house(window).settings.tape("head-front") == "edges"
    slip.close()


def test_what_is_meant_further_is_chosen_on_a_slip(bench: Bench) -> None:
    bench.slips.push()
    slip = bench.findChild(PushSlip)
    slip.part.setCurrentIndex(slip.part.findData("scale:head"))
    slip.percent.setValue(120)
    slip.keep.click()
    assert bench.study.examination.pushes == {"scale:head": 1.2}
    # As it is seen is no push.
    bench.slips.push()
    slip = next(one for one in bench.findChildren(PushSlip) if one.isVisible())
    slip.part.setCurrentIndex(slip.part.findData("scale:head"))
    assert slip.percent.value() == 120
    slip.percent.setValue(100)
    slip.keep.click()
    assert bench.study.examination.pushes == {}


def test_before_a_mark_is_set_the_slip_says_that_nothing_can_be_pushed(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    """It was a fault of Bralto's own."""
    with Library.open(tmp_path / "library") as library:
        study_id = library.add(study_of({}, {}), {}, "2024-03-01T12:00:00Z")
    window = open_window(tmp_path / "library")
    house(window).open_study(study_id)
    settle(qtbot, window)
    bench = house(window).bench
    bench.slips.push()
    slip = bench.findChild(PushSlip)
    assert not slip.keep.isEnabled()
    assert not slip.part.isVisible()
    assert "too few" in " ".join(one.text() for one in slip.findChildren(QLabel))
    slip.reject()
