"""A photo of a curled sheet in the real window: what is shown lies where its figures say.

The picture is a white photo with soft dots at places that are known; the marks are on the dots.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.core.test_curled import SHEET
from tests.imaging.test_straightened import HIGH, WIDE, dots, dots_of, dotted
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.curled import FLAT
from bralto.core.study.frames import on_flat_sheet, sheet_homography
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.imaging.load import clean_picture
from bralto.store.instants import now_utc
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.board_view import from_flat_px, in_flat_px
from bralto.ui.boards.pixels import as_pixels
from bralto.ui.session import pointing
from bralto.ui.window import MainWindow

KEYS = ("crown", "shoulder_r", "knee_r", "heel_r", "ankle_r", "navel")

LINE = (int(dots()[2][0]) + 40, int(dots()[2][1]))
"""Left end and upper edge of a level line in the photo, 60 px long and 2 px high."""


@pytest.fixture
def window(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> MainWindow:
    """A study of two photos of a sheet that curls up by 20 px, on the bench."""
    picture = dotted()[:, :, :3].copy()
    left, upper = LINE
    picture[upper : upper + 2, left : left + 60] = 0
    Image.fromarray(picture).save(tmp_path / "dots.png")
    marks = {key: Mark(x, y, "seen", 1.0) for key, (x, y) in zip(KEYS, dots(), strict=True)}
    drawn = Picture("dots.png", WIDE, HIGH, marks, sheet=SHEET)
    study = Study("Dots", "figure-front", drawn, (State("first", drawn),))
    with Library.open(tmp_path / "dots") as library:
        media = library.media.put(clean_picture(tmp_path / "dots.png"))
        library.add(study, {"": media, "first": media}, now_utc())
    window = open_window(tmp_path / "dots")
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    return window


@pytest.fixture
def bench(window: MainWindow) -> Bench:
    bench = house(window).bench
    bench.drawing.quiet = True
    return bench


def away(bench: Bench) -> float:
    """How far dots are painted from where marks on them are shown, at most, board px."""
    board = bench.drawing
    shown = np.array([[at.x(), at.y()] for key in KEYS if (at := board.at(key)) is not None])
    picture = as_pixels(board.grab().toImage())
    inside = np.array([0 < x < board.width() and 0 < y < board.height() for x, y in shown])
    assert inside.sum() >= 4
    found = dots_of(picture, shown[inside], 0.5)
    return float(np.abs(found - shown[inside]).max())


def test_marks_are_shown_on_what_they_were_set_on(bench: Bench) -> None:
    bench.drawing.fit()
    assert bench.drawing.viewport.bends is not None
    assert away(bench) < 0.6
    bench.drawing.look(bench.drawing.viewport.mirror(bench.drawing.width()))
    assert away(bench) < 0.6


def test_another_sheet_is_straightened_anew_and_undo_brings_the_first_back(
    bench: Bench, window: MainWindow, qtbot: QtBot
) -> None:
    study, board = bench.study, bench.drawing
    first = board.shown.look_source()
    study.pictures.set_sheet(Board.DRAWING, replace(SHEET, bends=FLAT))
    settle(qtbot, window)
    assert board.viewport.bends is None
    assert board.shown.look_source() != first
    board.quiet = True
    board.fit()
    assert away(bench) < 0.6  # as it was taken, and so are the marks
    study.undo_stack.undo()
    settle(qtbot, window)
    assert board.shown.look_source() == first
    board.fit()
    assert away(bench) < 0.6


def test_a_click_sets_a_mark_where_the_photo_has_it(bench: Bench, qtbot: QtBot) -> None:
    """Half a board px is as near as a click can come."""
    study, board = bench.study, bench.drawing
    study.edits.remove(Board.DRAWING, "heel_r")
    assert study.step is not None
    assert study.step.key == "heel_r"
    board.fit()
    x, y = dots()[3]
    qtbot.mouseClick(board, Qt.MouseButton.LeftButton, pos=board.viewport.to_board(x, y).toPoint())
    mark = study.picture(Board.DRAWING).marks["heel_r"]
    assert np.hypot(mark.x - x, mark.y - y) < 0.75 / board.viewport.zoom
    back = board.viewport.to_image(board.viewport.to_board(x, y))
    assert (back.x(), back.y()) == pytest.approx((x, y), abs=1e-5)


def test_snapping_looks_in_what_is_shown_and_says_it_in_px_of_the_photo(
    bench: Bench, qtbot: QtBot
) -> None:
    """The line curls by more than the reach of a mistake: 8 px."""
    study, board = bench.study, bench.reference
    x, y = LINE[0] + 30.0, LINE[1] + 1.0
    flat = board.viewport.to_flat(x, y)
    assert np.hypot(flat.x() - x, flat.y() - y) > 8.0
    study.edits.move(Board.REFERENCE, "heel_r", x, y - 3.0, 1.0)
    study.apply(pointing.select, "heel_r")
    board.setFocus()
    qtbot.keyClick(bench, Qt.Key.Key_S)
    after = study.picture(Board.REFERENCE).marks["heel_r"]
    assert after.y == pytest.approx(y, abs=0.4)
    assert after.x == pytest.approx(x, abs=1.0)


def test_flat_px_of_many_places_are_those_of_the_figures(bench: Bench) -> None:
    homography = sheet_homography(SHEET)
    assert isinstance(homography, np.ndarray)
    view, wanted = bench.drawing.viewport, on_flat_sheet(SHEET, homography, dots())[0]
    np.testing.assert_allclose(in_flat_px(view, dots()), wanted, atol=0.02)
    np.testing.assert_allclose(from_flat_px(view, wanted), dots(), atol=0.02)
    level = replace(view, bends=None)
    assert in_flat_px(level, wanted) is wanted
    assert from_flat_px(level, wanted) is wanted
