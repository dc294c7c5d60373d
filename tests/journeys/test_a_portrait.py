"""A portrait from two dropped files: the cast in a dark, busy photo, drawn with its eyes high."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.journeys.test_first_study import drop
from tests.journeys.test_whole_study import crosshair_to, press
from tests.ui.conftest import Opener, house, settle

from bralto.core.mannequin.setting import set_up
from bralto.core.study.values import Mark
from bralto.stand.model.example import simulated
from bralto.stand.model.pencil_view import Page
from bralto.stand.model.portrait import HEAD_LEARNERS
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton
Places = dict[str, dict[str, Mark]]


@pytest.fixture(scope="module")
def portrait(tmp_path_factory: pytest.TempPathFactory) -> tuple[tuple[Path, Path], Places]:
    """Two files, and where every mark truly is on them, by board."""
    setting = set_up("head", "broad")
    light = replace(setting.look, aside_deg=75.0, above_deg=35.0)  # raking
    made = simulated(
        replace(setting, look=light, hair=True), {}, HEAD_LEARNERS["eyes-high"],
        size=(480, 640), page=Page(px_mm=4 / 3, fill=0.72),
    )  # fmt: skip
    folder = tmp_path_factory.mktemp("portrait")
    dark = np.asarray(made.pictures["model.png"]).astype(float) * 0.35
    y, x = np.mgrid[: dark.shape[0], : dark.shape[1]]
    dark += 25.0 * (np.sin(x / 5.0) * np.cos(y / 9.0))[..., None]  # a wall paper over all of it
    paths = folder / "sitter.png", folder / "drawing.png"
    Image.fromarray(np.clip(dark, 0, 255).astype(np.uint8)).save(paths[0])
    made.pictures["drawing.png"].save(paths[1])
    assert made.study.reference is not None
    return paths, {
        "reference": dict(made.study.reference.marks),
        "drawing": dict(made.study.states[0].picture.marks),
    }


def begin(window: MainWindow, qtbot: QtBot, files: tuple[Path, Path]) -> Bench:
    slip = drop(window, *files)
    qtbot.keyClicks(slip.title, "A sitter")
    slip.view.setCurrentIndex(slip.view.findData("head-front"))
    qtbot.mouseClick(slip.start, LEFT)
    qtbot.waitUntil(lambda: window.place == "Bench")
    settle(qtbot, window)
    assert house(window).arrivals.slip is not None
    house(window).arrivals.slip.leave.click()
    window.activateWindow()  # no window manager gives the focus back after a slip
    qtbot.waitUntil(window.isActiveWindow)
    assert house(window).bench is not None
    house(window).bench.active_board().setFocus()
    return house(window).bench


def by_mouse(_window: MainWindow, bench: Bench, at: QPointF) -> None:
    board = bench.active_board()
    QTest.mouseClick(board, LEFT, pos=board.viewport.to_board(at.x(), at.y()).toPoint())


def by_keys(window: MainWindow, bench: Bench, at: QPointF) -> None:
    crosshair_to(window, bench, at)
    press(window, Qt.Key.Key_Return)


@pytest.mark.parametrize("hand", [by_mouse, by_keys])
def test_a_portrait_is_measured_from_two_files(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, hand: object,
    portrait: tuple[tuple[Path, Path], Places],
) -> None:  # fmt: skip
    files, places = portrait
    window = open_window(tmp_path / "library")
    bench = begin(window, qtbot, files)
    study = bench.study
    asked = []
    while study.step is not None and study.step.short:
        board, key = study.step.board, study.step.key
        true = places[board][key]
        hand(window, bench, QPointF(true.x, true.y))  # type: ignore[operator]
        assert key in study.picture(board).marks, window.prompt_line.prompt.lead
        asked.append(key)
    assert len(asked) == 28  # the short set, on both
    assert asked[:2] == ["crown", "crown"]
    study.advice.search_now()
    first = study.corrections[0]
    assert (first.move, first.part) == ("shift", "eye_band")
    assert first.words.startswith("Move the eyes and brows")
    # Then a region: the mouth, its marks from nearer.
    study.apply(prompting.enter_pass, "likeness")
    study.apply(prompting.choose_region, "mouth")
    settle(qtbot, window)
    while study.step is not None and study.session.regions.shown == "mouth":
        board, key = study.step.board, study.step.key
        bench.active_board().setFocus()
        true = places[board][key]
        hand(window, bench, QPointF(true.x, true.y))  # type: ignore[operator]
        assert key in study.picture(board).marks, key
    lips = study.assessment.reading("span.lip_upper")
    assert lips.verdict in {"within", "cannot tell"}
    assert (study.corrections[0].move, study.corrections[0].part) == ("shift", "eye_band")
    # It is kept, and on record.
    again = house(open_window(tmp_path / "library")).library.find(study.id)
    assert again is not None
    assert again.reference == study.study.reference
    assert again.states == study.study.states
