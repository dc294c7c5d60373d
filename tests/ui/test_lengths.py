"""Lengths on screen in inches: fields that take fractions, words on slips."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.words.lengths import say_in
from bralto.ui.plan.plan_slip import PlanSlip
from bralto.ui.session import prompting
from bralto.ui.settings import Settings
from bralto.ui.widgets.length_spin import LengthSpin


@pytest.fixture(autouse=True)
def _mm_afterwards() -> Iterator[None]:
    yield
    say_in("mm")


def test_a_field_takes_inches_and_fractions_and_keeps_mm(qtbot: QtBot) -> None:
    say_in("sixteenths")
    spin = LengthSpin()
    qtbot.addWidget(spin)
    spin.setRange(5.0, 3000.0)
    spin.setValue(215.9)
    assert spin.text() == "8 1/2 in"
    line = spin.lineEdit()
    line.selectAll()
    qtbot.keyClicks(line, "11 3/4 in")
    qtbot.keyClick(line, Qt.Key.Key_Return)
    assert spin.value() == pytest.approx(11.75 * 25.4)
    for typed, mm in (("300 mm", 300.0), ("30 cm", 300.0), ("12 in", 304.8)):
        line.selectAll()
        qtbot.keyClicks(line, typed)
        qtbot.keyClick(line, Qt.Key.Key_Return)
        assert spin.value() == pytest.approx(mm)
    spin.setValue(11.75 * 25.4)
    line.selectAll()
    qtbot.keyClicks(line, "abc")  # is not taken
    qtbot.keyClick(line, Qt.Key.Key_Return)
    assert spin.value() == pytest.approx(11.75 * 25.4)


def test_a_study_speaks_in_inches_once_that_is_set(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    Settings(demo_copy).set_lengths("sixteenths")
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    study = house(window).bench.study
    study.advice.search_now()
    words = " ".join(f"{one.words} {one.doubt}" for one in study.corrections)
    assert " in" in words
    assert " mm" not in words
    assert all(one.mm is not None for one in study.corrections if one.unit == "head")  # as ever
    study.apply(prompting.enter_pass, "sheet")
    slip = window.findChild(PlanSlip)
    assert slip.margin.suffix() == " in"
    assert any("in from top" in repr(row) for row in slip.rows.rows)
