"""The marks of likeness on the bench: one region of the head at a time, once the whole stands."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle
from tests.ui.test_heads import SIZE, head_study, marks

from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, State, Study
from bralto.core.views.model import REGIONS
from bralto.core.views.shipped_views import view_named
from bralto.ui.bench.bench import Bench
from bralto.ui.session import pointing, prompting
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton
VIEW = view_named("head-front")
SHORT = {key for keys in VIEW.short for key in keys}


@pytest.fixture
def window(open_window: Opener, tmp_path: Path) -> MainWindow:
    return open_window(tmp_path / "library")


def opened(window: MainWindow, qtbot: QtBot, study: Study) -> Bench:
    house(window).open_study(house(window).library.add(study, {}, "2026-11-01T10:00:00Z"))
    settle(qtbot, window)
    assert house(window).bench is not None
    return house(window).bench


def portrait(keys: set[str]) -> Study:
    """A head of which only some marks are set, on both pictures."""
    given = {key: mark for key, mark in marks("head-front").items() if key in keys}
    seen = Picture("a.png", *SIZE, given, permission="rendered here")
    drawn = Picture("b.png", *SIZE, given, permission="my own drawing")
    return Study("A head", "head-front", seen, (State("first", drawn),))


def rows(bench: Bench) -> dict[str, tuple[str, bool]]:
    """Count and whether it is shown, by region."""
    return {
        row.label: (row.right[0], row.held)
        for row in bench.column.list_of("likeness").rows if row.key.startswith("region:")
    }  # fmt: skip


def press(bench: Bench, at: tuple[float, float]) -> str | None:
    """Click where a mark truly is; gives what was asked for."""
    step = bench.study.step
    assert step is not None
    board = bench.reference if step.board == Board.REFERENCE else bench.drawing
    QTest.mouseClick(board, LEFT, pos=board.viewport.to_board(*at).toPoint())
    return step.key


def test_regions_are_asked_for_one_after_the_other(window: MainWindow, qtbot: QtBot) -> None:
    lacking = {"lip_low", "bow_mid", "jaw_r"}
    all_keys = {mark.key for mark in VIEW.landmarks}
    bench = opened(window, qtbot, portrait(all_keys - lacking))
    bench.study.apply(prompting.enter_pass, "likeness")
    settle(qtbot, window)
    assert list(rows(bench)) == [one.capitalize() for one in REGIONS]
    assert rows(bench)["Mouth"] == ("5 of 7", True)
    # The boards stand at the mouth, nearer, and show its marks alone.
    assert bench.study.now.in_sight("mouth_corner_r")
    assert not bench.study.now.in_sight("lid_upper_r")
    true = marks("head-front")
    asked = []
    while (step := bench.study.step) is not None and len(asked) < 10:
        asked.append(press(bench, (true[step.key].x, true[step.key].y)))
    assert asked == ["bow_mid", "bow_mid", "lip_low", "lip_low", "jaw_r", "jaw_r"]
    assert all(
        count.split(" of ")[0] == count.split(" of ")[1] for count, _ in rows(bench).values()
    )
    # Set by the pointer as near as the zoom allows.
    drawn = bench.study.picture(Board.DRAWING).marks
    for key in lacking:
        assert (drawn[key].x, drawn[key].y) == pytest.approx((true[key].x, true[key].y), abs=1.5)


def test_the_boards_come_nearer_and_go_back(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, head_study("head-front"))
    bench.study.apply(prompting.enter_pass, "tilts")
    settle(qtbot, window)
    whole = bench.reference.viewport.zoom
    bench.study.apply(prompting.enter_pass, "likeness")
    bench.study.apply(prompting.choose_region, "eyes")
    settle(qtbot, window)
    zooms = [board.viewport.zoom for board in bench.boards]
    assert min(zooms) > 1.15 * whole
    for board in bench.boards:
        for key in VIEW.region("eyes"):
            assert board.rect().contains(board.at(key).toPoint()), key
    # A mark of another region lies beneath the pointer, and is not taken.
    for key, taken in (("nose_tip", None), ("pupil_r", "pupil_r")):
        QTest.mouseClick(bench.reference, LEFT, pos=bench.reference.at(key).toPoint())
        assert bench.study.session.selected == taken
    bench.study.apply(prompting.choose_region, "outline")
    settle(qtbot, window)
    assert bench.reference.viewport.zoom < min(zooms)
    for key in ("neck_base_r", "hair_top"):
        assert bench.reference.rect().contains(bench.reference.at(key).toPoint()), key


def test_marks_of_likeness_do_not_crowd_the_other_passes(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, head_study("head-front"))
    bench.study.apply(prompting.enter_pass, "widths")
    assert not bench.study.now.in_sight("lid_upper_r")
    assert bench.study.now.in_sight("eye_inner_r")
    bench.study.apply(pointing.point_at, "lid_upper_r")  # a figure of it in the list
    assert bench.study.now.in_sight("lid_upper_r")


def test_a_region_is_chosen_by_keys_and_shows_its_figures(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, head_study("head-front"))
    bench.study.apply(prompting.enter_pass, "likeness")
    settle(qtbot, window)
    person = bench.column.list_of("likeness")
    person.setFocus()
    for _ in range(REGIONS.index("mouth")):
        qtbot.keyClick(person.list, Qt.Key.Key_Down)
    qtbot.keyClick(person.list, Qt.Key.Key_Return)
    assert bench.study.session.regions.shown == "mouth"
    labels = [row.label for row in person.rows]
    assert "upper lip" in labels
    assert "R opening of the eye" not in labels
    bench.study.apply(prompting.choose_region, "eyes")
    assert "−0.00" not in [figure for row in person.rows for figure in row.right]
    assert "What makes this person" in labels or "Near the average in all that was asked" in labels


def test_one_region_can_be_put_off_and_taken_up_again(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, portrait(SHORT))
    bench.study.apply(prompting.enter_pass, "likeness")
    assert bench.study.session.regions.shown == "eyes"
    while bench.study.session.regions.shown == "eyes":
        bench.study.apply(prompting.skip)
    assert bench.study.session.regions.shown == "nose"
    bench.study.apply(prompting.choose_region, "eyes")
    assert bench.study.step is not None
    assert VIEW.landmark(bench.study.step.key).region == "eyes"  # type: ignore[union-attr]


def test_a_region_that_lacks_nothing_is_only_looked_at(window: MainWindow, qtbot: QtBot) -> None:
    """The prompt must not ask for a mark of another region, which is not in sight."""
    keys = {mark.key for mark in VIEW.landmarks} - {"jaw_r"}
    bench = opened(window, qtbot, portrait(keys))
    bench.study.apply(prompting.enter_pass, "likeness")
    assert bench.study.session.regions.shown == "outline"
    bench.study.apply(prompting.choose_region, "mouth")
    assert bench.study.step is None
    assert rows(bench)["Mouth"][1]
    bench.study.apply(prompting.choose_region, "outline")
    assert bench.study.step is not None
    assert bench.study.step.key == "jaw_r"


def test_without_marks_of_likeness_nothing_waits_for_them(window: MainWindow, qtbot: QtBot) -> None:
    """The short set makes a study complete; the likeness is an offer."""
    keys = {mark.key for mark in VIEW.landmarks if mark.step != "likeness"}
    bench = opened(window, qtbot, portrait(keys))
    worth = bench.study.now.worth_next()
    assert worth is not None
    assert worth.key == "verdict"


def test_front_and_profile_are_tied_on_the_bench(window: MainWindow, qtbot: QtBot) -> None:
    """The profile is chosen among the studies, its stations are compared and laid across."""
    library = house(window).library
    profile = head_study("head-profile")
    low = dict(profile.reference.marks)  # type: ignore[union-attr]
    low["ear_base"] = replace(low["ear_base"], y=low["ear_base"].y + 60.0)  # of a head of 500 px
    profile = replace(profile, reference=replace(profile.reference, marks=low), title="Tall")
    other = library.add(profile, {}, "2026-11-01T10:00:00Z")
    front = replace(head_study("head-front"), title="Another front")
    library.add(front, {}, "2026-11-01T10:00:00Z")
    bench = opened(window, qtbot, head_study("head-front"))
    bench.study.apply(prompting.enter_pass, "likeness")
    settle(qtbot, window)
    person = bench.column.list_of("likeness")
    offered = {row.label: row.key for row in person.rows if row.key.startswith("level:")}
    assert offered == {"Tall": f"level:{other}"}  # a second front is no other side
    before = window.grab().toImage()
    person.chosen.emit(offered["Tall"])
    settle(qtbot, window)
    rows = {row.label: row for row in person.rows}
    assert rows["base of the ear"].right[1].startswith("−")  # higher here than in the profile
    assert rows["base of the ear"].right[0] not in ("", rows["base of the ear"].right[1])
    assert window.grab().toImage() != before
    # It is kept, and let go by a click.
    assert library.find(bench.study.id).extra["bench"]["level_with"] == other  # type: ignore
    let_go = next(row for row in person.rows if row.key == "level:")
    person.chosen.emit(let_go.key)
    assert bench.study.tied.level_study is None
    bench.study.tied.level_with(other)
    # The other one is gone for good: nothing is held level, and nothing breaks.
    library.erase([other])
    house(window).open_study(bench.study.id)
    settle(qtbot, window)
    assert house(window).bench is not None
    house(window).bench.study.apply(prompting.enter_pass, "likeness")
    assert house(window).bench.study.notes.level_with == other
    assert house(window).bench.study.tied.level_study is None
    assert not window.grab().isNull()


def test_a_likeness_is_pushed_before_it_is_drawn_and_brought_back(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = opened(window, qtbot, head_study("head-front"))
    bench.study.apply(prompting.enter_pass, "likeness")
    settle(qtbot, window)
    person = bench.column.list_of("likeness")
    told = []
    for _ in range(5):
        row = next(row for row in person.rows if row.key == "push:")
        told.append(row.right[0])
        person.chosen.emit(row.key)
        settle(qtbot, window)
    assert told == ["× 1.00", "× 1.25", "× 1.50", "× 2.00", "× 1.00"]
    assert bench.study.study.intents
    # What is meant stands in the verdict, and is let go there.
    bench.study.apply(prompting.enter_pass, "verdict")
    settle(qtbot, window)
    assert "Meant so" in [row.label for row in bench.column.list_of("verdict").rows]


def test_a_head_begins_with_an_eye_where_that_is_set(window: MainWindow, qtbot: QtBot) -> None:
    house(window).show_settings()
    slip = window.findChild(SettingsSlip)
    assert slip is not None
    slip.heads.setCurrentIndex(slip.heads.findData("eye"))
    slip.heads.activated.emit(slip.heads.currentIndex())
    slip.accept()
    bench = opened(window, qtbot, portrait(set()))
    assert bench.study.step is not None
    assert bench.study.step.key == "eye_inner_r"
    assert window.prompt_line.prompt.lead.startswith("Mark the R inner corner of the eye")
    # Changed while a head is open it asks otherwise at once, and it is kept.
    house(window).show_settings()
    slip = window.findChildren(SettingsSlip)[-1]
    assert slip.heads.currentData() == "eye"
    slip.heads.setCurrentIndex(slip.heads.findData("outline"))
    slip.heads.activated.emit(slip.heads.currentIndex())
    slip.accept()
    assert bench.study.step.key == "crown"
    assert house(window).settings.head_order == "outline"
