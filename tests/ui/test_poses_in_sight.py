"""Poses that are no upright column, in the real window: all of them in sight. Of a figure that lies
the boards are wider than high, and its figures from the level and the plumb line stand in place of
the ladder."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot
from tests.studies import figure_marks, moved, study_of
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Study
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.window import MainWindow

LYING = moved(figure_marks(scale=300.0), 1.0, (3500.0, 0.0), clockwise=90.0)
"""The crown at the viewer's right, the right hand below."""

HEAD = float(np.hypot(LYING["crown"].x - LYING["chin"].x, LYING["crown"].y - LYING["chin"].y))


@pytest.fixture
def window(open_window: Opener, tmp_path: Path) -> MainWindow:
    return open_window(tmp_path / "library")


def opened(window: MainWindow, qtbot: QtBot, study: Study, key: str) -> Bench:
    house(window).open_study(house(window).library.add(study, {}, "2026-11-01T10:00:00Z"))
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    bench.study.apply(prompting.enter_pass, key)
    settle(qtbot, window)
    return bench


def drawn(**off: float) -> dict[str, Mark]:
    """The same marks, some of them so many heads further down."""
    lower = {key: replace(LYING[key], y=LYING[key].y + by * HEAD) for key, by in off.items()}
    return LYING | lower


def overlaps(one: QWidget, other: QWidget) -> bool:
    return one.isVisible() and other.isVisible() and one.geometry().intersects(other.geometry())


@pytest.mark.parametrize("size", [(800, 520), (1024, 700), (1280, 800), (1920, 1200)])
def test_its_boards_lie_one_above_the_other_with_all_of_it_in_sight(
    window: MainWindow, qtbot: QtBot, size: tuple[int, int]
) -> None:
    window.resize(*size)
    bench = opened(window, qtbot, study_of(LYING, drawn(knee_r=0.3)), "heights")
    settle(qtbot, window)
    upper, lower = bench.boards
    assert upper.geometry().bottom() < lower.geometry().top()
    assert upper.width() > 1.5 * upper.height()
    assert not bench.ladder.isVisible()
    # One scale, and the plumb line of one below that of the other.
    assert upper.at("pit_of_neck").x() == pytest.approx(lower.at("pit_of_neck").x(), abs=0.5)
    assert upper.at("heel_r").x() == pytest.approx(lower.at("heel_r").x(), abs=0.5)
    for board in bench.boards:
        places = [board.at(key) for key in LYING]
        assert all(0.0 < at.x() < board.width() for at in places)
        assert all(0.0 < at.y() < board.height() for at in places)
    parts = (*bench.boards, *bench.rails, bench.column.below)
    assert not [(a, b) for i, a in enumerate(parts) for b in parts[i + 1 :] if overlaps(a, b)]


def test_its_heights_are_listed_from_the_level_line(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, study_of(LYING, drawn(knee_r=0.3)), "heights")
    rows = {row.label: row for row in bench.column.list_of("heights").rows}
    knee = rows["knees"]  # the middle of both
    seen, there = (float(words.split()[0]) for words in (knee.right[1], knee.right[0]))
    sides = [-1.0 if "above" in words else 1.0 for words in (knee.right[1], knee.right[0])]
    assert sides[1] * there - sides[0] * seen == pytest.approx(0.15, abs=0.011)
    assert knee.way == "down"
    assert (rows["crown"].glyph, rows["navel"].glyph) == ("within", "within")
    # Beside them what a standing figure has too.
    assert "crotch in the whole length" in rows


def test_its_rails_hang_the_stations_too(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, study_of(LYING, LYING), "widths")
    heard = bench.rails[0].heard.rows
    by_name = {words.split(":")[0]: words for words in heard}
    away = (LYING["pit_of_neck"].x - LYING["navel"].x) / HEAD
    assert by_name["navel"] == f"navel: {away:.2f} to your left"
    labels = [row.label for row in bench.column.list_of("widths").rows]
    assert "navel from plumb" in labels


def test_before_a_line_is_drawn_it_fills_its_board_too(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, replace(study_of(LYING, LYING), states=()), "heights")
    xs = [bench.reference.at(key).x() for key in LYING]
    assert 0.5 < np.ptp(xs) / bench.reference.width() < 1.0


def test_drawn_from_imagination_it_lies_below_the_canon(window: MainWindow, qtbot: QtBot) -> None:
    """A canon stands, and shows whole; the drawing fills its board none the less."""
    imagined = replace(study_of(LYING, LYING), reference=None, canon="antique-eight-heads")
    bench = opened(window, qtbot, imagined, "heights")
    assert bench.reference.geometry().bottom() < bench.drawing.geometry().top()
    for board, keys in ((bench.reference, ("crown", "heel_r")), (bench.drawing, tuple(LYING))):
        places = [board.at(key) for key in keys]
        assert all(0.0 < at.x() < board.width() for at in places)
        assert all(0.0 < at.y() < board.height() for at in places)
    assert np.ptp([bench.drawing.at(key).x() for key in LYING]) > 0.5 * bench.drawing.width()


def test_boards_stand_side_by_side_until_it_is_known_to_lie(
    window: MainWindow, qtbot: QtBot
) -> None:
    """While the first marks are set nobody knows; the last of both ends turns the bench, and undo
    turns it back."""
    begun = {key: LYING[key] for key in ("crown", "chin", "pit_of_neck")}
    bench = opened(window, qtbot, study_of(begun, {}), "edges")
    side_by_side = bench.reference.geometry().right() < bench.drawing.geometry().left()
    bench.study.edits.set_mark(Board.REFERENCE, "heel_r", LYING["heel_r"])
    settle(qtbot, window)
    above = bench.reference.geometry().bottom() < bench.drawing.geometry().top()
    assert (side_by_side, above) == (True, True)
    assert bench.study.lies
    window.undo()
    settle(qtbot, window)
    assert not bench.study.lies
    assert bench.reference.geometry().right() < bench.drawing.geometry().left()


def test_a_sheet_is_planned_for_it_with_its_stations_from_left_to_right(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = opened(window, qtbot, study_of(LYING, LYING), "sheet")
    assert bench.reference.geometry().right() < bench.column.right.geometry().left()
    paper = bench.column.right.paper()
    assert not isinstance(paper, str)
    plan = paper.plan
    along = [plan.along(one) for one in plan.stations]
    assert plan.lies
    assert plan.width > plan.height
    assert along == sorted(along)
    assert plan.stations[-1].key == "crown"  # it lies with its head at the right
    # From the paper's left edge, as its own length has it: the figure keeps to the margins.
    whole = np.ptp([mark.x for mark in LYING.values()]) / HEAD
    reach = along[-1] - along[0]
    assert reach == pytest.approx(plan.head * whole, rel=0.05)
    # The egg of its head lies between crown and chin, as high on the paper as both of them.
    down = {one.key: one.down for one in plan.stations}
    ends = [place.y() for place in paper.forms[0]]
    assert 0.5 * (min(ends) + max(ends)) == pytest.approx(down["crown"], abs=0.1 * plan.head)


def test_keys_go_through_its_passes(window: MainWindow, qtbot: QtBot) -> None:
    """From pass to pass by keys: every one is laid out, with the boards in sight."""
    bench = opened(window, qtbot, study_of(LYING, LYING), "edges")
    seen = []
    for _ in range(4):
        qtbot.keyClick(bench.active_board(), Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
        settle(qtbot, window)
        seen.append(bench.study.current_pass)
        assert bench.reference.isVisible()
        assert bench.reference.geometry().bottom() < bench.drawing.geometry().top()
    assert len(set(seen)) == 4


@pytest.mark.parametrize("size", [(1024, 700), (1280, 800)])
@pytest.mark.parametrize("reach", [(0.3, -2.0), (4.0, -0.2), (-0.5, -1.0)])
def test_arms_above_the_crown_or_far_aside_are_in_sight(
    window: MainWindow, qtbot: QtBot, size: tuple[int, int], reach: tuple[float, float]
) -> None:
    """The right arm's end so many heads aside of the crown and below it; crowns stay level with
    the ladder, whose heads are counted from there."""
    window.resize(*size)
    standing = figure_marks(scale=100.0)
    crown, ends = standing["crown"], {"elbow_r": 60.0, "wrist_r": 90.0, "fingertip_r": 100.0}
    marks = standing | {
        key: replace(
            crown, x=crown.x - 100.0 * share * reach[0], y=crown.y + 100.0 * share * reach[1]
        )
        for key, share in ends.items()
    }
    marks = moved(marks, 1.0, (600.0, 400.0))
    bench = opened(window, qtbot, study_of(marks, marks), "heights")
    for board in bench.boards:
        places = [board.at(key) for key in marks]
        assert all(0.0 <= at.x() <= board.width() for at in places)
        assert all(0.0 <= at.y() <= board.height() for at in places)
        assert board.at("crown").y() == pytest.approx(bench.ladder.y_of(0.0), abs=0.5)
    head = bench.reference.at("chin").y() - bench.reference.at("crown").y()
    assert bench.ladder.px_per_head() == pytest.approx(head, rel=0.02)


def test_what_is_said_of_a_standing_figure_is_not_said_of_it(
    window: MainWindow, qtbot: QtBot
) -> None:
    """No hand hangs low, and no leg reaches away from the torso."""
    low = drawn(fingertip_r=0.4, fingertip_l=0.4, wrist_r=0.4, wrist_l=0.4, crotch=0.3)
    hip = LYING["hip_point_r"].x
    longer = {
        key: replace(mark, x=hip + 1.15 * (mark.x - hip))
        for key, mark in low.items()
        if key.startswith(("knee", "ankle", "heel", "toe"))
    }
    bench = opened(window, qtbot, study_of(LYING, low | longer), "verdict")
    said = " ".join(row.label for row in bench.column.list_of("verdict").rows)
    assert not [word for word in ("hangs low", "begin too low", "came out long") if word in said]
    assert any(one.part == "legs" for one in bench.study.corrections)


def test_an_average_stands_along_it(window: MainWindow, qtbot: QtBot) -> None:
    """The lines of a canon are plumb, a head apart from the crown towards the feet."""
    bench = opened(window, qtbot, study_of(LYING, LYING), "edges")
    board = bench.reference
    plain = board.grab().toImage()
    bench.work.menu(board).take("canon:eight-heads")
    settle(qtbot, window)
    there = board.grab().toImage()
    crown, chin = board.at("crown"), board.at("chin")
    head = float(np.hypot(crown.x() - chin.x(), crown.y() - chin.y()))

    def changed(x: float) -> int:
        rows = range(60, board.height() - 30)
        return sum(plain.pixelColor(round(x), y) != there.pixelColor(round(x), y) for y in rows)

    beside = crown.x() - 1.5 * head  # between two stations: chin and nipples
    assert max(changed(crown.x() - 4.0 * head + by) for by in (-1.0, 0.0, 1.0)) > 30
    assert changed(beside) == 0
