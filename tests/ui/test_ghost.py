"""The drawing laid over the reference: heads equally long, one place on the other, no flicker."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPointF, Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, settle

from bralto.ui.bench.bench import Bench
from bralto.ui.boards.ghost import BLINK_MS, WAYS
from bralto.ui.boards.points import point_on_board


@pytest.fixture
def bench(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> Bench:
    """The worked example, zoomed in on one board only."""
    window = open_window(demo_copy)
    window.open_study(window.shelf_state.entries[0].stored.id)
    settle(qtbot, window)
    window.bench.reference.zoom(1.7)
    return window.bench


@pytest.mark.parametrize("school", ["head", "envelope", "best-fit"])
def test_it_lies_as_the_school_in_force_has_it(bench: Bench, school: str) -> None:
    bench.study.set_school(school)
    bench.reference.zoom(1.7)
    between = bench.ghost.between()

    def over(key: str) -> QPointF:
        there = point_on_board(bench.drawing, key)
        return between.map(there) - point_on_board(bench.reference, key)

    crown, sole = over("crown"), over("sole")
    head = bench.study.assessment.unit.reference_px * bench.reference.viewport.zoom
    if school == "best-fit":
        # On the mean of all marks nothing is left over.
        marks = sorted(bench.study.on_both)
        left = sum((over(key) for key in marks), QPointF()) / len(marks)
        assert (left.x(), left.y()) == pytest.approx((0.0, 0.0), abs=1e-6)
        return
    assert (crown.x(), crown.y()) == pytest.approx((0.0, 0.0), abs=1e-6)
    # Where its sole comes out is what the measure of the whole height says.
    error = bench.study.assessment.reading("height.sole").error
    assert sole.y() / head == pytest.approx(error, abs=0.01)


def test_each_way_is_seen_and_comes_off_again(bench: Bench, qtbot: QtBot) -> None:
    board = bench.reference
    bare = board.grab().toImage()
    seen = []
    for key, way in zip((Qt.Key.Key_Space, Qt.Key.Key_B, Qt.Key.Key_W), WAYS, strict=True):
        qtbot.keyClick(bench, key)
        assert bench.ghost.way == way
        assert "rawing" in bench.prompt().lead
        seen.append(board.grab().toImage())
    assert all(one != bare for one in seen)
    assert seen[0] != seen[1] != seen[2]
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert bench.ghost.way is None
    assert board.grab().toImage() == bare


def test_blinking_stays_far_below_three_flashes_a_second(bench: Bench, qtbot: QtBot) -> None:
    """WCAG 2.2, 2.3.1: no more than three flashes in a second."""
    assert 1000.0 / (2 * BLINK_MS) < 1.0
    bench.ghost.take("blink")
    shown = bench.reference.grab().toImage()
    qtbot.waitUntil(lambda: bench.reference.grab().toImage() != shown, timeout=3 * BLINK_MS)
    bench.ghost.take(None)
