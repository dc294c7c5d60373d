"""Sighting lines and the stick: what is taken on one board is carried to the other in heads."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, settle

from bralto.ui.bench.bench import Bench
from bralto.ui.boards.picture_board import PictureBoard


@pytest.fixture
def bench(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> Bench:
    window = open_window(demo_copy)
    window.open_study(window.shelf_state.entries[0].stored.id)
    settle(qtbot, window)
    return window.bench


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
    ends = [bench.sighting.on_board(bench.drawing, end) for end in bench.sighting.stick]
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
