"""The ground on the real bench: the height of the eye named by a click, the box, taken back."""

from __future__ import annotations

from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import settle
from tests.ui.test_passes import click_row, kept

from bralto.core.action.ground import StandingGround
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import notes_of
from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.session import pointing, prompting
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def in_plumb(bench: Bench, window: MainWindow, qtbot: QtBot) -> Bench:
    bench.study.apply(prompting.lay_tape, "action")  # the weight stands first there
    bench.study.apply(prompting.enter_pass, "plumb")
    settle(qtbot, window)
    return bench


def labels(bench: Bench) -> list[str]:
    return [row.label for row in bench.column.list_of("plumb").rows]


def test_the_height_of_the_eye_is_named_by_a_click_kept_and_let_go(
    window: MainWindow, in_plumb: Bench, qtbot: QtBot
) -> None:
    bench, rows = in_plumb, in_plumb.column.list_of("plumb")
    click_row(rows, "the height of the eye on the reference", qtbot)
    assert bench.reference.tool is not None
    assert "height of the eye" in window.prompt_line.prompt.lead
    navel = bench.reference.at("navel")
    assert navel is not None
    plain = bench.reference.grab().toImage()
    qtbot.mouseClick(bench.reference, LEFT, pos=navel.toPoint())
    assert bench.reference.tool is None
    assert bench.reference.grab().toImage() != plain  # the horizon lies there
    assert set(notes_of(kept(window, bench)).horizon) == {""}
    seen, drawn = bench.study.grounds
    assert isinstance(seen, StandingGround)
    assert isinstance(drawn, StandingGround)
    assert (seen.eye.told_by, drawn.eye.told_by) == ("named", "reference")
    # The navel of a figure lies a little above its half, here of 7 to 8 heads.
    assert 3.9 < seen.eye.height.value < 5.2
    assert "toes apart, in depth" in labels(bench)
    click_row(rows, "the height of the eye on the reference", qtbot)
    assert not notes_of(kept(window, bench)).horizon


def test_the_box_is_shown_on_wish_on_both_boards(in_plumb: Bench, qtbot: QtBot) -> None:
    bench, rows = in_plumb, in_plumb.column.list_of("plumb")
    boards = (bench.reference, bench.drawing)
    chest = bench.reference.at("pit_of_neck")
    assert chest is not None
    click_row(rows, "the height of the eye on the reference", qtbot)
    qtbot.mouseClick(bench.reference, LEFT, pos=chest.toPoint())
    rows.setFocus()  # the keys are on no board then
    before = [board.grab().toImage() for board in boards]
    click_row(rows, "the box it stands in, in perspective", qtbot)
    after = [board.grab().toImage() for board in boards]
    assert all(one != two for one, two in zip(before, after, strict=True))
    assert next(row for row in rows.rows if row.label.startswith("the box")).held
    click_row(rows, "the box it stands in, in perspective", qtbot)
    assert [board.grab().toImage() for board in boards] == before


def test_the_box_dims_nothing_in_other_passes(in_plumb: Bench) -> None:
    bench, board = in_plumb, in_plumb.drawing
    bench.study.pictures.set_polygon(
        Board.DRAWING, "gap", ((250.0, 250.0), (400.0, 250.0), (300.0, 420.0))
    )
    bench.study.apply(prompting.enter_pass, "shapes")
    plain = board.grab().toImage()
    bench.study.apply(pointing.toggle_box)
    assert board.grab().toImage() == plain


def test_a_height_of_the_eye_is_of_one_state_of_the_drawing(in_plumb: Bench) -> None:
    study = in_plumb.study
    names = [state.name for state in study.study.states]
    assert study.session.picture_name(Board.DRAWING) == names[-1]
    study.head.note(replace(study.notes, horizon={names[-1]: (10.0, 10.0)}))
    _, own = study.grounds
    study.head.note(replace(study.notes, horizon={"some other state": (10.0, 10.0)}))
    _, other = study.grounds
    assert isinstance(own, StandingGround)
    assert own.eye.told_by == "named"
    assert isinstance(other, NotMeasurable) or other.eye.told_by != "named"


def test_escape_leaves_the_height_of_the_eye_unnamed(in_plumb: Bench, qtbot: QtBot) -> None:
    bench, rows = in_plumb, in_plumb.column.list_of("plumb")
    click_row(rows, "the height of the eye on the drawing", qtbot)
    assert bench.drawing.tool is not None
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Escape)
    assert bench.drawing.tool is None
    assert not bench.study.notes.horizon


def test_the_height_of_the_eye_is_named_by_keys_alone(in_plumb: Bench, qtbot: QtBot) -> None:
    bench, rows = in_plumb, in_plumb.column.list_of("plumb")
    rows.setFocus()
    for _ in range(len(rows.rows)):
        if rows.current == "horizon:reference":
            break
        qtbot.keyClick(rows.list, Qt.Key.Key_Down)
    qtbot.keyClick(rows.list, Qt.Key.Key_Return)
    board = bench.reference
    assert board.tool is not None
    board.setFocus()
    for _ in range(6):
        qtbot.keyClick(board, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert set(bench.study.notes.horizon) == {""}
    assert board.tool is None
