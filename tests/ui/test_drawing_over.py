"""The drawing laid over the reference: heads equally long, one place on the other, no flicker."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.board import point_on_board
from bralto.ui.boards.difference import OUTLINE, outline_of
from bralto.ui.boards.drawing_over import BLINK_MS, RATES_MS, VEILS, WAYS


@pytest.fixture
def bench(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> Bench:
    """The worked example, zoomed in on one board only."""
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    house(window).bench.reference.zoom(1.7)
    return house(window).bench


@pytest.mark.parametrize("school", ["head", "envelope", "best-fit"])
def test_it_lies_as_the_school_in_force_has_it(bench: Bench, school: str) -> None:
    bench.study.head.set_school(school)
    bench.reference.zoom(1.7)
    between = bench.drawing_over.between()

    def over(key: str) -> QPointF:
        there = point_on_board(bench.drawing, key)
        return between.map(there) - point_on_board(bench.reference, key)

    crown, sole = over("crown"), over("sole")
    head = bench.study.assessment.unit.reference_px * bench.reference.viewport.zoom
    if school == "best-fit":
        # Every mark misses by what the fit itself leaves over (y up), in the reference's heads.
        fit, head = bench.study.assessment.fit, bench.study.assessment.unit.reference_px
        marks = [key for key in bench.study.view.placing if key in bench.study.now.ground.shared]
        shared = [
            m.key for m in bench.study.view.landmarks if m.key in bench.study.now.ground.shared
        ]
        for key in marks:
            left = fit.residuals[shared.index(key)] / fit.scale
            px = bench.reference.viewport.zoom
            assert (over(key).x(), over(key).y()) == pytest.approx(
                (px * left[0], -px * left[1]), abs=0.001 * head * px
            )
        return
    assert (crown.x(), crown.y()) == pytest.approx((0.0, 0.0), abs=1e-6)
    # Where its sole comes out is what the measure of the whole height says.
    error = bench.study.assessment.reading("height.sole").error
    assert sole.y() / head == pytest.approx(error, abs=0.01)


def test_each_way_is_seen_and_comes_off_again(bench: Bench, qtbot: QtBot) -> None:
    board = bench.reference
    bare = board.grab().toImage()
    seen = []
    keys = (Qt.Key.Key_Space, Qt.Key.Key_B, Qt.Key.Key_W, Qt.Key.Key_Y)
    leads = (
        "Your drawing over",
        "Drawing and reference",
        "Your drawing to the",
        "Where the outlines",
    )
    for key, way, lead in zip(keys, WAYS, leads, strict=True):
        qtbot.keyClick(bench, key)
        assert bench.drawing_over.way == way
        assert bench.prompt().lead.startswith(lead)
        seen.append(board.grab().toImage())
    assert all(one != bare for one in seen)
    assert seen[0] != seen[1] != seen[2] != seen[3]
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert bench.drawing_over.way is None
    assert board.grab().toImage() == bare


def test_blinking_stays_far_below_three_flashes_a_second(bench: Bench, qtbot: QtBot) -> None:
    """WCAG 2.2, 2.3.1: no more than three flashes in a second."""
    assert 1000.0 / (2 * BLINK_MS) < 1.0
    bench.drawing_over.take("blink")
    shown = bench.reference.grab().toImage()
    qtbot.waitUntil(lambda: bench.reference.grab().toImage() != shown, timeout=3 * BLINK_MS)
    bench.drawing_over.take(None)


def test_thickness_and_rate_are_chosen_and_never_flicker(bench: Bench, qtbot: QtBot) -> None:
    """Even the fastest rate stays below the three flashes a second of WCAG 2.2, 2.3.1."""
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    thick = bench.reference.grab().toImage()
    for _ in range(len(VEILS)):
        qtbot.keyClick(bench, Qt.Key.Key_BracketLeft)
    assert bench.drawing_over.veil == VEILS[0]
    assert "20 %" in bench.prompt().how
    assert bench.reference.grab().toImage() != thick
    qtbot.keyClick(bench, Qt.Key.Key_B)
    for _ in range(2 * len(RATES_MS)):
        qtbot.keyClick(bench, Qt.Key.Key_BracketRight)
    assert bench.drawing_over.clock.interval() == min(RATES_MS)
    assert 1000.0 / (2 * min(RATES_MS)) < 3.0 / 2.0
    assert "troubles your eyes" in bench.prompt().how
    for _ in range(2 * len(RATES_MS)):
        qtbot.keyClick(bench, Qt.Key.Key_BracketLeft)
    assert bench.drawing_over.clock.interval() == max(RATES_MS)
    bench.drawing_over.take(None)


def test_the_outlines_differ_where_the_drawing_reaches_beyond(bench: Bench, qtbot: QtBot) -> None:
    """By the drawn outline where both have it: twice as large, it is red all round."""
    study = bench.study
    for board, grown in ((Board.REFERENCE, 1.0), (Board.DRAWING, 2.0)):
        mark = study.picture(board).marks["crown"]
        chin = study.picture(board).marks["chin"]
        head = chin.y - mark.y
        x, y = mark.x, mark.y  # the places that lie on each other: the crown
        corners = tuple(
            (x + grown * head * dx, y + grown * head * dy)
            for dx, dy in ((-0.5, -0.5), (0.5, -0.5), (0.5, 0.5), (-0.5, 0.5))
        )
        study.pictures.set_polygon(board, OUTLINE, corners)
    bench.align()
    crown = bench.reference.at("crown").toPoint()
    px = bench.ladder.px_per_head(bench.reference.height())
    place = crown + QPoint(round(0.6 * px), round(0.3 * px))  # beyond one, within the other
    before = bench.reference.grab().toImage().pixelColor(place)
    qtbot.keyClick(bench, Qt.Key.Key_Y)
    after = bench.reference.grab().toImage().pixelColor(place)
    assert after.red() - after.blue() > before.red() - before.blue() + 20
    inside = crown + QPoint(round(0.2 * px), round(0.2 * px))
    path = outline_of(bench.reference, by_hull=False)
    assert path.contains(QPointF(inside))
    assert not path.contains(QPointF(place))
    assert outline_of(bench.drawing, by_hull=True).boundingRect().height() > 3.0 * px
