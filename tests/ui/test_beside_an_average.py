"""The reference beside an average: how this model departs from it, before a line is drawn."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.canons.compare import against_canon
from bralto.core.canons.shipped_canons import canon_named
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Study
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.window import MainWindow


@pytest.fixture
def window(open_window: Opener, demo_copy: Path) -> MainWindow:
    return open_window(demo_copy)


def undrawn(window: MainWindow, qtbot: QtBot) -> Bench:
    """The reference alone."""
    old = house(window).library.stored(house(window).shelf_state.entries[0].id)
    study = Study("Alone", "figure-front", old.study.reference, ())
    house(window).open_study(house(window).library.add(study, {"": old.media[""]}, old.made))
    settle(qtbot, window)
    assert house(window).bench is not None
    return house(window).bench


def test_this_model_is_told_beside_the_average_that_is_chosen(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = undrawn(window, qtbot)
    study = bench.study
    study.apply(prompting.enter_pass, "heights")
    menu = bench.work.menu(bench.reference)
    assert "canon:seven-and-a-half-heads" in [key for key, _ in menu.options]
    menu.take("canon:seven-and-a-half-heads")
    window.grab()
    rows = bench.column.below.rows
    assert rows[0].title
    assert (rows[0].label, rows[0].right) == ("This model", ("seen", "average"))
    canon = canon_named("seven-and-a-half-heads")
    held = against_canon(study.view, canon, study.picture(Board.REFERENCE), study.grade)
    crotch = next(r for r in held if r.spec.id == "height.crotch")
    row = next(row for row in rows if row.label == "crotch")
    assert row.right == (f"{crotch.drawing:.2f}", "3.75")
    menu.take("canon:")
    assert not bench.column.below.rows or not bench.column.below.rows[0].title


def test_the_key_goes_through_the_schools_and_back_to_none(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = undrawn(window, qtbot)
    study = bench.study
    shown = []
    for _ in range(6):
        qtbot.keyClick(bench, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
        window.grab()
        shown.append(study.session.canon.key if study.session.canon else None)
    assert None in shown
    assert {"eight-heads", "seven-and-a-half-by-twos"} <= set(shown)
    assert not any(key and key.startswith("child") for key in shown)
