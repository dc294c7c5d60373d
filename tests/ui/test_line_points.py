"""Points of lines that are drawn, taken by the pointer: a sweep's, a shape's, a shadow's."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import settle
from tests.ui.test_passes import kept

from bralto.core.action.sweeps import WHOLE
from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import pointing, prompting
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton
LINE = ((300.0, 200.0), (340.0, 300.0), (310.0, 400.0), (330.0, 500.0), (300.0, 600.0))
OTHER = ((480.0, 690.0), (520.0, 690.0), (500.0, 730.0))
RING = ((250.0, 250.0), (400.0, 250.0), (400.0, 420.0), (250.0, 420.0))


def lines_in(bench: Bench, board: str, sort: str) -> tuple[tuple[float, float], ...]:
    picture = bench.study.picture(board)
    return {
        "action": picture.curves.get(WHOLE, ()),
        "shapes": picture.polygons.get("gap", ()),
        "light": picture.shadows[-1] if picture.shadows else (),
    }[sort]


@pytest.fixture(params=["action", "shapes", "light"])
def lined(
    request: pytest.FixtureRequest, bench: Bench, window: MainWindow, qtbot: QtBot
) -> tuple[Bench, str]:
    """The bench in a pass of lines, with one on the drawing."""
    pictures = bench.study.pictures
    if request.param == "action":
        pictures.set_curve(Board.DRAWING, WHOLE, LINE)
    elif request.param == "shapes":
        pictures.set_polygon(Board.DRAWING, "gap", RING)
    else:
        pictures.set_shadows(Board.DRAWING, (OTHER, RING))
    bench.study.apply(prompting.enter_pass, request.param)
    bench.study.apply(pointing.insist)
    settle(qtbot, window)
    return bench, request.param


def where(board: PictureBoard, place: tuple[float, float]) -> QPoint:
    return board.viewport.to_board(*place).toPoint()


def drag(board: PictureBoard, start: QPoint, by: QPoint, qtbot: QtBot) -> None:
    qtbot.mousePress(board, LEFT, pos=start)
    for share in (0.4, 1.0):
        qtbot.mouseMove(board, start + QPoint(round(share * by.x()), round(share * by.y())))


def test_a_point_is_dragged_as_one_edit_and_the_others_stay(
    lined: tuple[Bench, str], window: MainWindow, qtbot: QtBot
) -> None:
    bench, sort = lined
    board, before = bench.drawing, lines_in(bench, Board.DRAWING, sort)
    steps = bench.study.undo_stack.index()
    drag(board, where(board, before[1]), QPoint(24, 12), qtbot)
    assert lines_in(bench, Board.DRAWING, sort) == before  # in hand: the study is as it was
    qtbot.mouseRelease(board, LEFT, pos=where(board, before[1]) + QPoint(24, 12))
    after = lines_in(kept_bench(window, bench), Board.DRAWING, sort)
    moved = [i for i, (one, two) in enumerate(zip(before, after, strict=True)) if one != two]
    assert moved == [1]
    wanted = board.viewport.to_image(QPointF(where(board, before[1]) + QPoint(24, 12)))
    assert np.allclose(after[1], (wanted.x(), wanted.y()), atol=0.1)
    assert bench.study.undo_stack.index() == steps + 1
    bench.study.undo_stack.undo()
    assert lines_in(bench, Board.DRAWING, sort) == before


def kept_bench(window: MainWindow, bench: Bench) -> Bench:
    """The bench, once the library holds what it shows."""
    stored = kept(window, bench)
    drawn = stored.states[-1].picture
    assert drawn == bench.study.picture(Board.DRAWING)
    return bench


def test_a_slip_of_the_hand_and_escape_change_nothing(
    lined: tuple[Bench, str], qtbot: QtBot
) -> None:
    bench, sort = lined
    board, before = bench.drawing, lines_in(bench, Board.DRAWING, sort)
    steps = bench.study.undo_stack.index()
    there = where(board, before[1])
    drag(board, there, QPoint(2, 2), qtbot)
    qtbot.mouseRelease(board, LEFT, pos=there + QPoint(2, 2))
    drag(board, there, QPoint(40, 10), qtbot)
    qtbot.keyClick(board, Qt.Key.Key_Escape)
    qtbot.mouseRelease(board, LEFT, pos=there + QPoint(40, 10))
    assert lines_in(bench, Board.DRAWING, sort) == before
    assert bench.study.undo_stack.index() == steps


def test_points_show_near_the_pointer_and_beside_them_the_picture_is_dragged(
    lined: tuple[Bench, str], qtbot: QtBot
) -> None:
    bench, sort = lined
    board, before = bench.drawing, lines_in(bench, Board.DRAWING, sort)
    qtbot.mouseMove(board, where(board, before[0]) + QPoint(120, 60))
    away = board.grab().toImage()
    qtbot.mouseMove(board, where(board, before[0]))
    assert board.grab().toImage() != away
    lies = board.viewport.to_board(*before[0])
    beside = where(board, before[0]) + QPoint(40, 30)
    drag(board, beside, QPoint(30, 0), qtbot)
    qtbot.mouseRelease(board, LEFT, pos=beside + QPoint(30, 0))
    assert lines_in(bench, Board.DRAWING, sort) == before
    assert board.viewport.to_board(*before[0]).x() > lies.x() + 20  # it was dragged along


def test_a_point_is_moved_by_keys_alone(lined: tuple[Bench, str], qtbot: QtBot) -> None:
    bench, sort = lined
    board, before = bench.drawing, lines_in(bench, Board.DRAWING, sort)
    steps, shift = bench.study.undo_stack.index(), Qt.KeyboardModifier.ShiftModifier
    board.setFocus()
    board.hover, board.candidate = None, QPointF(*before[2])  # the arrows have come there
    plain = board.grab().toImage()
    qtbot.keyClick(board, Qt.Key.Key_Return)
    for _ in range(4):
        qtbot.keyClick(board, Qt.Key.Key_Right, shift)
    assert lines_in(bench, Board.DRAWING, sort) == before  # in hand
    assert board.grab().toImage() != plain
    qtbot.keyClick(board, Qt.Key.Key_Return)
    after = lines_in(bench, Board.DRAWING, sort)
    assert [i for i, one in enumerate(after) if one != before[i]] == [2]
    wide = 4 * 5.0 / board.viewport.zoom  # Shift moves by 5 px of the screen
    assert after[2][0] - before[2][0] == pytest.approx(wide, rel=0.1)
    assert bench.study.undo_stack.index() == steps + 1
    # Esc puts it back.
    board.candidate = QPointF(*after[1])
    qtbot.keyClick(board, Qt.Key.Key_Return)
    qtbot.keyClick(board, Qt.Key.Key_Down, shift)
    qtbot.keyClick(board, Qt.Key.Key_Escape)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert lines_in(bench, Board.DRAWING, sort) == after


def test_a_point_in_hand_is_let_go_with_its_line_or_its_pass(
    lined: tuple[Bench, str], qtbot: QtBot
) -> None:
    bench, sort = lined
    board, before = bench.drawing, lines_in(bench, Board.DRAWING, sort)
    there = where(board, before[1])
    drag(board, there, QPoint(30, 0), qtbot)
    assert board.lines.active
    bench.study.undo_stack.undo()  # the line itself was the last edit
    assert not board.lines.active
    qtbot.mouseRelease(board, LEFT, pos=there + QPoint(30, 0))
    assert lines_in(bench, Board.DRAWING, sort) == ()
    bench.study.undo_stack.redo()
    board.candidate = QPointF(*before[1])
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert board.lines.active
    bench.study.apply(prompting.enter_pass, "heights")
    assert not board.lines.active  # arrows move nothing that is out of sight
    qtbot.keyClick(board, Qt.Key.Key_Right)
    bench.study.apply(prompting.enter_pass, sort)
    assert lines_in(bench, Board.DRAWING, sort) == before
