"""Doubts on the bench: said above the corrections, settled by a button, undone; what follows."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QSize, Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def bench(window: MainWindow) -> Bench:
    """The newest demo study, whose drawing is a scan, with all its marks."""
    assert house(window).bench is not None
    house(window).bench.study.apply(prompting.enter_pass, "heights")
    assert not house(window).bench.doubts.isVisible()
    return house(window).bench


def exchange(bench: Bench, *stems: str) -> None:
    marks = bench.study.picture(Board.DRAWING).marks
    bench.study.edits.set_marks(
        Board.DRAWING,
        {
            f"{stem}_{side}": marks[f"{stem}_{'l' if side == 'r' else 'r'}"]
            for stem in stems
            for side in "rl"
        },
    )
    bench.study.advice.search_now()


def all_stems(bench: Bench) -> list[str]:
    return [key[:-2] for key in bench.study.picture(Board.DRAWING).marks if key.endswith("_r")]


def test_a_pair_exchanged_is_said_and_put_back_by_its_button(bench: Bench, qtbot: QtBot) -> None:
    before, sound = bench.study.picture(Board.DRAWING).marks, bench.study.corrections
    exchange(bench, "knee")
    assert bench.doubts.isVisible()
    (button,) = bench.doubts.buttons
    assert button.text() == "Exchange them"
    assert "right knee stands where the left belongs" in bench.doubts.accessibleDescription()
    assert bench.moves.isVisible()  # what the knees do not touch is still told
    qtbot.mouseClick(button, LEFT)
    assert bench.study.picture(Board.DRAWING).marks == before
    assert bench.study.corrections == sound
    assert not bench.doubts.isVisible()
    assert bench.prompt().lead == "Exchange them: done."
    bench.study.undo_stack.undo()
    bench.study.advice.search_now()
    assert bench.doubts.isVisible()


def test_with_all_sides_exchanged_nothing_else_is_told(bench: Bench, qtbot: QtBot) -> None:
    exchange(bench, *all_stems(bench))
    assert bench.study.now.in_doubt
    assert not bench.moves.isVisible()
    assert bench.off.rows() == ()
    (button,) = bench.doubts.buttons
    qtbot.mouseClick(button, LEFT)
    assert not bench.study.now.in_doubt
    assert bench.moves.isVisible()


def test_a_picture_taken_in_a_mirror_is_mirrored_with_its_marks_and_back(
    bench: Bench, window: MainWindow, qtbot: QtBot
) -> None:
    study = bench.study
    study.pictures.set_sheet(Board.DRAWING, None)  # with one its corners could run the other way
    path, marks = study.media_path(Board.DRAWING), study.picture(Board.DRAWING).marks
    width = study.picture(Board.DRAWING).width
    study.pictures.set_polygon(Board.DRAWING, "gap", ((10.0, 10.0), (60.0, 12.0), (30.0, 50.0)))
    study.pictures.set_crop(Board.DRAWING, (20.0, 5.0, 300.0, 400.0))
    flipped = {key: replace(one, x=width - one.x) for key, one in marks.items()}
    study.edits.set_marks(Board.DRAWING, flipped)
    bench.study.advice.search_now()
    assert [one.kind for one in study.assessment.doubts] == ["mirrored"]
    (button,) = bench.doubts.buttons
    assert button.text() == "Mirror the picture"
    qtbot.mouseClick(button, LEFT)
    settle(qtbot, window)
    assert not study.now.in_doubt
    for key, one in study.picture(Board.DRAWING).marks.items():
        assert one.x == pytest.approx(marks[key].x), key
    assert study.picture(Board.DRAWING).polygons["gap"][0] == (width - 10.0, 10.0)
    assert study.picture(Board.DRAWING).crop == (width - 320.0, 5.0, 300.0, 400.0)
    now = study.media_path(Board.DRAWING)
    assert now is not None
    assert now != path
    with Image.open(str(path)) as before, Image.open(now) as after:
        was = np.asarray(before.convert("RGB"), float)
        apart = np.abs(was[:, ::-1] - np.asarray(after.convert("RGB"), float))
    assert apart.mean() < 1.0  # but for what JPEG takes away
    stored = house(window).library.stored(study.id)
    assert stored.media["evening"] in now
    assert stored.study.states[-1].picture.marks["crown"].x == pytest.approx(marks["crown"].x)
    study.undo_stack.undo()
    settle(qtbot, window)
    assert study.media_path(Board.DRAWING) == path
    assert study.picture(Board.DRAWING).marks == flipped
    assert study.now.in_doubt
    study.undo_stack.redo()
    assert study.media_path(Board.DRAWING) == now
    window.close()


def test_a_wild_mark_is_looked_at_again(bench: Bench, qtbot: QtBot) -> None:
    mark = bench.study.picture(Board.DRAWING).marks["navel"]
    unit = bench.study.assessment.unit
    bench.study.edits.move(Board.DRAWING, "navel", mark.x + 1.2 * unit.drawing_px, mark.y, 1.0)
    bench.study.advice.search_now()
    (button,) = bench.doubts.buttons
    assert button.text() == "Look at navel again"
    qtbot.mouseClick(button, LEFT)
    assert bench.study.step is not None
    assert (bench.study.step.board, bench.study.step.key) == (Board.DRAWING, "navel")


def test_in_a_narrow_window_the_prompt_asks_and_enter_settles(
    bench: Bench, window: MainWindow, qtbot: QtBot
) -> None:
    exchange(bench, *all_stems(bench))
    window.resize(QSize(1024, 700))
    settle(qtbot, window)
    assert not bench.doubts.isVisible()
    prompt = bench.prompt()
    assert prompt.lead == "On the drawing right and left are exchanged at every mark."
    assert prompt.keys == (("Enter", "Exchange them all"),)
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Return)
    assert not bench.study.now.in_doubt


def test_in_a_narrow_window_a_doubt_that_wants_a_look_leaves_enter_alone(
    bench: Bench, window: MainWindow, qtbot: QtBot
) -> None:
    mark, unit = bench.study.picture(Board.DRAWING).marks["navel"], bench.study.assessment.unit
    bench.study.edits.move(Board.DRAWING, "navel", mark.x + 1.2 * unit.drawing_px, mark.y, 1.0)
    bench.study.advice.search_now()
    window.resize(QSize(1024, 700))
    settle(qtbot, window)
    assert bench.study.assessment.doubts
    assert bench.prompt().lead == "All marks are set:"


def test_what_follows_from_a_correction_is_folded_under_it(bench: Bench, qtbot: QtBot) -> None:
    study = bench.study
    one = next(c for c in study.corrections if study.now.consequences(c))
    left_over = bench.off.rows()
    assert set(left_over).isdisjoint(study.now.consequences(one))
    every = [r for c in study.corrections for r in study.now.consequences(c)] + list(left_over)
    assert sorted(r.spec.id for r in every) == sorted(r.spec.id for r in study.assessment.off())
    foot = bench.moves.foot_of(one).center().toPoint()
    qtbot.mouseClick(bench.moves.list.viewport(), LEFT, pos=foot)
    assert bench.off.rows() == study.now.consequences(one)
    assert not study.intentions.is_put_right(one)
    qtbot.mouseClick(bench.moves.list.viewport(), LEFT, pos=foot)
    assert bench.off.rows() == left_over


def test_a_setting_puts_the_greatest_first(bench: Bench, window: MainWindow) -> None:
    study = bench.study
    mark, unit = study.picture(Board.DRAWING).marks["navel"], study.assessment.unit
    study.edits.move(Board.DRAWING, "navel", mark.x + 0.4 * unit.drawing_px, mark.y, 1.0)
    bench.study.advice.search_now()
    listed = study.corrections
    assert len(listed) > 1
    house(window).show_settings()
    slip = next(one for one in window.findChildren(SettingsSlip) if one.isVisible())
    slip.greatest.click()
    assert [one.share for one in study.corrections] == sorted(
        (one.share for one in listed), reverse=True
    )
    assert house(window).settings.greatest_first
    slip.greatest.click()
    assert study.corrections == listed
    slip.accept()
