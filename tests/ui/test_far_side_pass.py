"""A side view in the real window: the other leg and arm are an offer, marked by mouse."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from bench.bodies import bodies
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.window import MainWindow

SIZE = (900, 1200)
BODY = bodies("figure-side")[0].marks
MIDDLE = np.mean(list(BODY.values()), axis=0)


def at(key: str) -> tuple[float, float]:
    x, y = 130.0 * (BODY[key] - MIDDLE) * [1.0, -1.0]
    return 450.0 + float(x), 600.0 + float(y)


@pytest.fixture
def bench(
    open_window: Callable[[Path], MainWindow], tmp_path: Path, qtbot: QtBot
) -> tuple[MainWindow, Bench]:
    """A study with all marks but those of the far side."""
    window = open_window(tmp_path / "library")
    marks = {key: Mark(*at(key), spread=0.8) for key in BODY if not key.startswith("far_")}
    seen = Picture("a.png", *SIZE, marks, permission="rendered here")
    drawn = Picture("b.png", *SIZE, marks, permission="my own drawing")
    study = Study("A stride", "figure-side", seen, (State("first", drawn),))
    house(window).open_study(house(window).library.add(study, {}, "2026-11-01T10:00:00Z"))
    settle(qtbot, window)
    assert house(window).bench is not None
    return window, house(window).bench


def test_the_far_side_is_not_waited_for_but_asked_for_in_its_pass(
    bench: tuple[MainWindow, Bench], qtbot: QtBot
) -> None:
    window, open_bench = bench
    study = open_bench.study
    assert study.session.step is None  # all that is waited for is there
    study.apply(prompting.enter_pass, "far")
    settle(qtbot, window)
    for _ in range(12):  # six marks on either picture
        step = study.session.step
        assert step is not None
        assert step.key.startswith("far_")
        own = open_bench.boards[0 if step.board == Board.REFERENCE else 1]
        place = own.viewport.to_board(*at(step.key))
        QTest.mouseClick(own, Qt.MouseButton.LeftButton, pos=QPointF(place).toPoint())
        settle(qtbot, window)
    assert study.session.step is None
    for picture in (study.picture(Board.REFERENCE), study.picture(Board.DRAWING)):
        assert {key for key in BODY if key.startswith("far_")} <= set(picture.marks)
    labels = [row.label for row in open_bench.column.list_of("far").rows]
    assert "heel to heel, level" in labels
    assert "bend of the far knee" in labels
