"""Guessing first, the step-back clock with the time of each pass, and the settings."""

from __future__ import annotations

import os
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.core.session.guesses import GUESSED
from bralto.core.study.two_boards import Board
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.settings import SCALES, STEP_BACK_MIN, Settings
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


def stored(window: MainWindow, bench: Bench):
    return house(window).library.stored(bench.study.id).study


def test_no_figure_is_shown_until_the_eye_has_answered(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    qtbot.keyClick(bench.reference, Qt.Key.Key_G)
    slip = bench.column.guesses
    assert slip.isVisible()
    for part in (bench.ladder, *bench.rails, bench.moves, bench.off):
        assert not part.isVisible()
    assert bench.reference.plain
    assert bench.drawing.plain
    # The first is a number: dragged, then typed.
    QTest.mouseClick(slip.dial, LEFT, pos=QPoint(slip.dial.width() - 60, slip.dial.height() // 2))
    assert slip.number.value() == pytest.approx(slip.dial.value, abs=0.06)
    assert slip.number.value() > 8.0
    slip.number.setValue(7.0)
    assert slip.dial.value == 7.0
    slip.take.click()
    (guess,) = stored(window, bench).guesses
    assert (guess.measure, guess.value) == ("span.figure", 7.0)
    assert guess.at.endswith("Z")
    # The second is a choice.
    asked = slip.asked[1]
    slip.choices[1].click()
    assert stored(window, bench).extra["bench"]["answers"][GUESSED] == {asked.key: asked.options[1]}
    slip.skip.click()
    while slip.at < len(slip.asked):
        slip.skip.click()
    rows = {row.label: row for row in slip.rows.rows}
    whole = rows["whole height"]
    seen = bench.study.assessment.reading("span.figure").reference
    assert whole.right[1] == f"{7.0 - seen:+.1f}".replace("-", "−")
    assert rows[asked.text].glyph == ("yes" if asked.answer == asked.options[1] else "no")
    slip.leave.click()
    assert not slip.isVisible()
    assert bench.ladder.isVisible()
    assert not bench.reference.plain


def test_a_tilt_is_answered_by_the_arrow_keys_and_enter(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    qtbot.keyClick(bench.reference, Qt.Key.Key_G)
    slip = bench.column.guesses
    slip.skip.click()
    slip.skip.click()
    assert slip.asked[2].unit == "°"
    for _ in range(5):
        qtbot.keyClick(slip.dial, Qt.Key.Key_Up)
    qtbot.keyClick(slip.dial, Qt.Key.Key_Return)
    (guess,) = stored(window, bench).guesses
    assert guess.value == 5.0
    middle = QPoint(slip.dial.width() // 2, slip.dial.height() // 2)
    slip.skip.click()
    assert slip.asked[4].unit == "°"
    QTest.mouseClick(slip.dial, LEFT, pos=middle + QPoint(-40, 40))  # the left end down
    assert slip.dial.value == pytest.approx(45.0)
    qtbot.keyClick(slip, Qt.Key.Key_Escape)
    assert not bench.column.eye_first


def test_a_choice_is_answered_by_enter_and_leads_on_not_away(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.edits.remove(Board.DRAWING, "navel")  # so that Enter could lead to another pass
    bench.study.apply(prompting.enter_pass, "tilts")
    qtbot.keyClick(bench.reference, Qt.Key.Key_G)
    slip = bench.column.guesses
    slip.skip.click()
    slip.choices[1].setFocus()
    qtbot.keyClick(slip.choices[1], Qt.Key.Key_Return)
    assert slip.at == 2
    asked = slip.asked[1]
    assert stored(window, bench).extra["bench"]["answers"][GUESSED] == {asked.key: asked.options[1]}
    assert bench.study.current_pass == "tilts"
    assert bench.column.eye_first


def begin_alone(window: MainWindow, bench: Bench, qtbot: QtBot) -> Bench:
    """The same reference without a drawing, one mark short of the short set."""
    library: Library = house(window).library
    old = library.stored(bench.study.id)
    marks = {k: m for k, m in old.study.reference.marks.items() if k != "knee_l"}
    study = replace(old.study, reference=replace(old.study.reference, marks=marks), states=())
    new = library.add(study, {"": old.media[""]}, old.made)
    house(window).open_study(new)
    settle(qtbot, window)
    return house(window).bench


def test_the_eye_is_asked_by_itself_before_there_is_a_drawing_and_never_when_turned_off(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    assert not bench.column.eye_first  # there are figures already
    alone = begin_alone(window, bench, qtbot)
    assert alone.study.step.key == "knee_l"
    alone.study.edits.place(Board.REFERENCE, 400.0, 700.0, 1.0)
    assert alone.column.eye_first
    alone.column.guesses.never.click()
    assert not alone.column.eye_first
    again = begin_alone(window, bench, qtbot)
    again.study.edits.place(Board.REFERENCE, 400.0, 700.0, 1.0)
    assert not again.column.eye_first
    assert not Settings(house(window).library.root).guess_first


def test_too_few_marks_to_ask_about_are_said(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    for key in list(bench.study.picture(Board.REFERENCE).marks):
        bench.study.edits.remove(Board.REFERENCE, key)
    qtbot.keyClick(bench.reference, Qt.Key.Key_G)
    assert not bench.column.eye_first
    assert window.prompt_line.prompt.trouble


def test_after_seven_minutes_it_is_time_to_step_back_and_the_mirror_counts(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    assert STEP_BACK_MIN == 7
    window.strip.left_s = 1
    window.strip.tick()
    assert window.strip.left_s == 0
    assert "Step back" in window.prompt_line.prompt.lead
    assert ("M", "mirror") in window.prompt_line.prompt.keys
    qtbot.keyClick(bench.reference, Qt.Key.Key_M)
    assert bench.reference.viewport.mirrored
    assert window.strip.left_s == 7 * 60
    assert "Step back" not in window.prompt_line.prompt.lead
    window.strip.left_s = 1
    window.strip.tick()
    window.strip.tick()  # it is said once, and waits
    assert "Step back" in window.prompt_line.prompt.lead
    bench.study.apply(prompting.enter_pass, "tilts")  # who goes on is not held up
    assert "Step back" not in window.prompt_line.prompt.lead
    assert window.strip.left_s == 0
    bench.saying.rest()
    qtbot.keyClick(bench.reference, Qt.Key.Key_Escape)
    assert window.strip.left_s == 7 * 60


def test_the_time_in_each_pass_is_kept_and_shown(
    window: MainWindow, bench: Bench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.strip.clock.stop()  # the seconds of this test are its own
    monkeypatch.setattr(MainWindow, "isActiveWindow", lambda _: True)
    study = bench.study
    study.apply(prompting.enter_pass, "edges")
    for _ in range(90):
        window.strip.tick()
    study.apply(prompting.enter_pass, "tilts")
    for _ in range(40):
        window.strip.tick()
    study_id = study.id
    house(window).open_study(house(window).shelf_state.entries[1].id)  # leaving it keeps the rest
    seconds = house(window).library.stored(study_id).study.extra["bench"]["seconds"]
    # On a slow machine the window's own clock ticks before it is stopped, in the first pass.
    assert seconds.pop("heights", 0.0) <= 5.0
    assert seconds == {"edges": 90.0, "tilts": 40.0}
    house(window).open_study(study_id)
    settle(qtbot, window)
    house(window).bench.study.apply(prompting.enter_pass, "verdict")
    rows = {row.label: row for row in house(window).bench.column.list_of("verdict").rows}
    assert rows["Time"].detail == "2 min on this study"
    assert rows["Edges"].right == ("2 min",)
    window.go("Record")
    for _ in range(30):
        window.strip.tick()  # not the bench: not counted
    window.grab()
    kept = house(window).bench.study.notes.seconds
    assert {key: kept[key] for key in seconds} == seconds
    assert kept.get("heights", 0.0) <= 5.0


def test_settings_are_kept_and_hold_at_once(window: MainWindow, qtbot: QtBot) -> None:
    area = window.strip.spots["settings"]
    qtbot.mouseClick(window.strip, LEFT, pos=area.center().toPoint())
    slip = window.findChild(SettingsSlip)
    assert slip.isVisible()
    slip.minutes.setValue(12)
    assert window.strip.left_s == 12 * 60
    slip.guess.setChecked(False)
    slip.size_of_text.setCurrentIndex(SCALES.index(150))
    slip.size_of_text.activated.emit(SCALES.index(150))
    slip.minutes.setValue(0)
    assert window.strip.left_s == 0
    window.strip.tick()
    window.strip.grab()
    assert "Step back" not in window.prompt_line.prompt.lead  # never
    kept = Settings(house(window).library.root)
    assert (kept.step_back_min, kept.guess_first, kept.text_scale) == (0, False, 150)
    slip.accept()


def test_damaged_settings_count_as_none(tmp_path: Path) -> None:
    for words in ("[", "[1]", '{"text_scale": 1000, "step_back_min": "x", "guess_first": 3}'):
        (tmp_path / "settings.json").write_text(words)
        settings = Settings(tmp_path)
        found = (settings.text_scale, settings.step_back_min, settings.guess_first)
        assert found == (100, STEP_BACK_MIN, True)


def test_the_whole_window_grows_with_the_size_of_text() -> None:
    """Qt takes it from the environment once, so each size wants a process of its own."""
    words = (
        "from bralto.app import make_application;"
        "a = make_application(150);"
        "print(a.primaryScreen().devicePixelRatio())"
    )
    clean = {k: v for k, v in os.environ.items() if k != "QT_SCALE_FACTOR"}
    done = subprocess.run(
        [sys.executable, "-c", words], env=clean, capture_output=True, text=True, check=True
    )
    assert float(done.stdout) == pytest.approx(1.5)
