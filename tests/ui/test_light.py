"""Light and shadow on the real bench: found, mended by pointer, held together, told, undone."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import settle
from tests.ui.test_passes import click_row, kept

from bralto.core.light.shadows_held import LightReading
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import OUTLINE
from bralto.imaging.tones import shadows
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import pointing, prompting
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


def labels(bench: Bench) -> list[str]:
    return [row.label for row in bench.column.list_of("light").rows]


@pytest.fixture
def in_light(bench: Bench, window: MainWindow, qtbot: QtBot) -> Bench:
    bench.study.apply(prompting.enter_pass, "light")
    bench.study.apply(pointing.insist)
    settle(qtbot, window)
    return bench


def outline_by_hand(board: PictureBoard, centre: QPoint, half: int, qtbot: QtBot) -> None:
    corners = [(-half, -half), (half, -half), (half, half), (-half, half), (-half, -half)]
    for x, y in corners:
        qtbot.mouseClick(board, LEFT, pos=centre + QPoint(x, y))


def test_the_light_waits_for_the_proportions_until_the_learner_insists(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.apply(prompting.enter_pass, "light")
    settle(qtbot, window)
    assert bench.study.corrections  # the demo has something to put right
    assert "Proportions first" in window.prompt_line.prompt.lead
    assert labels(bench)[0] == "No shading before the proportions hold"
    click_row(bench.column.list_of("light"), "Look at the light all the same", qtbot)
    assert "shadows of the reference" in labels(bench)
    assert "Two shapes on the reference" in window.prompt_line.prompt.lead


def test_enter_finds_shadows_and_the_figures_outline_as_one_step(
    window: MainWindow, in_light: Bench, qtbot: QtBot
) -> None:
    bench = in_light
    plain = bench.reference.grab().toImage()
    qtbot.keyClick(bench.reference, Qt.Key.Key_Return)
    settle(qtbot, window)
    picture = kept(window, bench).reference
    assert picture.shadows
    assert len(picture.polygons[OUTLINE]) > 20
    assert bench.reference.grab().toImage() != plain
    assert " of shadow, below " in window.prompt_line.prompt.lead
    level = bench.study.session.tones["reference"][0]
    bench.reference.setFocus()
    qtbot.keyClick(bench.reference, Qt.Key.Key_BracketRight)
    settle(qtbot, window)
    assert bench.study.session.tones["reference"][0] == pytest.approx(level + 0.02)
    bench.study.undo_stack.undo()
    bench.study.undo_stack.undo()
    assert not bench.study.picture(Board.REFERENCE).shadows
    assert OUTLINE not in bench.study.picture(Board.REFERENCE).polygons


def test_shadows_by_hand_on_both_pictures_are_held_together(
    window: MainWindow, in_light: Bench, qtbot: QtBot
) -> None:
    bench = in_light
    rows = bench.column.list_of("light")
    for board, words in ((bench.reference, "reference"), (bench.drawing, "drawing")):
        click_row(rows, f"outline one by hand on the {words}", qtbot)
        assert board.tool is not None
        at = board.at("navel").toPoint()
        outline_by_hand(board, at + QPoint(0, 0 if board is bench.reference else 6), 30, qtbot)
        assert board.tool is None
    found = bench.study.examination.both.light
    assert isinstance(found, LightReading)
    assert 0.3 < found.overlap.value < 0.95
    assert "dark on dark" in labels(bench)
    assert next(one for one in bench.segments() if one.key == "light").done
    with_patches = bench.drawing.grab().toImage()
    click_row(rows, "take one away on the drawing", qtbot)
    qtbot.mouseClick(bench.drawing, LEFT, pos=bench.drawing.at("navel").toPoint())
    assert not bench.study.picture(Board.DRAWING).shadows
    assert bench.drawing.grab().toImage() != with_patches
    click_row(rows, "take one away on the reference", qtbot)
    qtbot.mouseClick(bench.reference, LEFT, pos=QPoint(8, 8))
    assert bench.study.picture(Board.REFERENCE).shadows
    assert "No outline" in window.prompt_line.prompt.lead


def test_a_shadow_is_outlined_by_keys_alone(in_light: Bench, qtbot: QtBot) -> None:
    board, shift = in_light.reference, Qt.KeyboardModifier.ShiftModifier
    board.setFocus()
    qtbot.keyClick(board, Qt.Key.Key_D)
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Down, Qt.Key.Key_Left):
        for _ in range(5):
            qtbot.keyClick(board, key, shift)
        qtbot.keyClick(board, Qt.Key.Key_Return)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    (ring,) = in_light.study.picture(Board.REFERENCE).shadows
    assert len(ring) == 3


def test_the_place_of_focus_is_named_by_a_click_and_kept(
    window: MainWindow, in_light: Bench, qtbot: QtBot
) -> None:
    bench = in_light
    click_row(bench.column.list_of("light"), "Name the place of focus", qtbot)
    chin = bench.reference.at("chin")
    qtbot.mouseClick(bench.reference, LEFT, pos=chin.toPoint())
    x, y = bench.study.notes.focal
    mark = bench.study.picture(Board.REFERENCE).marks["chin"]
    assert np.hypot(x - mark.x, y - mark.y) * bench.reference.viewport.zoom < 2.0
    assert "The place that you named" in labels(bench)
    qtbot.keyClick(bench.reference, Qt.Key.Key_Return)
    settle(qtbot, window)
    row = next(r for r in bench.column.list_of("light").rows if "contrast, the ref" in r.label)
    assert row.right[0] == "there" or row.right[0].endswith("heads off")


def test_a_picture_without_light_and_shadow_says_so_and_nothing_is_kept(
    window: MainWindow, in_light: Bench, qtbot: QtBot
) -> None:
    bench = in_light
    bench.light.find(bench.drawing, 0.02)  # nothing is so dark
    settle(qtbot, window)
    assert "no shapes of shadow" in window.prompt_line.prompt.lead
    assert not bench.study.picture(Board.DRAWING).shadows


def test_three_values_are_looked_at_on_wish_and_change_nothing_that_is_kept(
    window: MainWindow, in_light: Bench, qtbot: QtBot
) -> None:
    bench, rows = in_light, in_light.column.list_of("light")
    before = [board.grab().toImage() for board in bench.boards]
    steps = bench.study.undo_stack.index()
    click_row(rows, "look at it in three values", qtbot)
    settle(qtbot, window)
    assert set(bench.study.session.values) == {Board.REFERENCE, Board.DRAWING}
    for found in bench.study.session.values.values():
        assert sum(found.shares) == pytest.approx(1.0)
    told = {row.label: row for row in rows.rows}
    assert all(told[name].right[0].endswith("%") for name in ("dark", "half-tone", "light"))
    after = [board.grab().toImage() for board in bench.boards]
    assert all(one != two for one, two in zip(before, after, strict=True))
    assert bench.study.undo_stack.index() == steps
    click_row(rows, "look at it in three values", qtbot)
    assert not bench.study.session.values
    assert "half-tone" not in labels(bench)


def test_sliders_say_how_dark_counts_as_shadow_and_each_is_one_step_of_undo(
    window: MainWindow, in_light: Bench, qtbot: QtBot
) -> None:
    bench, levels = in_light, in_light.column.levels
    assert not levels.isVisible()  # before anything was found there is nothing to move
    qtbot.keyClick(bench.reference, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert levels.isVisible()
    slider, found = levels.sliders["reference"], bench.study.session.tones["reference"][0]
    assert slider.value() == round(100.0 * found)
    assert not levels.sliders["drawing"].isEnabled()
    steps = bench.study.undo_stack.index()
    slider.setFocus()
    for _ in range(6):
        qtbot.keyClick(slider, Qt.Key.Key_Right)
    qtbot.waitUntil(lambda: bench.study.session.tones["reference"][0] > found + 0.04)
    assert bench.study.undo_stack.index() == steps + 1
    assert bench.study.session.tones["reference"][0] == pytest.approx(
        round(100.0 * found) / 100.0 + 0.06
    )
    before = bench.study.picture(Board.REFERENCE).shadows
    bench.study.undo_stack.undo()
    assert bench.study.picture(Board.REFERENCE).shadows != before


def test_a_drawing_without_tones_says_so_beside_the_values_of_the_reference(
    window: MainWindow, in_light: Bench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    seen = shadows.find_values

    def of_photos_alone(*given: Any, paper: bool, **other: Any) -> Any:
        return NotMeasurable("no tones") if paper else seen(*given, paper=paper, **other)

    monkeypatch.setattr(shadows, "find_values", of_photos_alone)
    rows = in_light.column.list_of("light")
    click_row(rows, "look at it in three values", qtbot)
    settle(qtbot, window)
    told = {row.label: row for row in rows.rows}
    assert told["The drawing has none"].detail == "No tones."
    assert told["dark"].right[1].endswith("%")
    click_row(rows, "look at it in three values", qtbot)
    assert "The drawing has none" not in {row.label for row in rows.rows}
