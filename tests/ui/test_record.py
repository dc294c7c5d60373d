"""The record: what is counted, where skills go, habits, tries, the log, the year."""

from __future__ import annotations

import json
import sys
import threading
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from importlib.abc import MetaPathFinder
from pathlib import Path

import numpy as np
import pypdfium2
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QLabel, QMenu, QPushButton, QWidget
from pytestqt.qtbot import QtBot
from tests.studies import figure_marks, moved, study_of
from tests.ui.conftest import Opener, house, settle
from tests.ui.written import written_on

from bralto.core.longitudinal.selection import ALL, ASPECTS
from bralto.core.session.notes import notes_of, with_notes
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.core.views.shipped_views import view_named
from bralto.store.learners import add_learner
from bralto.store.library import Library
from bralto.store.record.tries import drawn_before, next_title, try_again
from bralto.ui.bench.bench import Bench
from bralto.ui.record.accuracy.emblems import draw_emblem
from bralto.ui.record.record_place import DRAWN, LOG, TODAY, TRIES, YEAR, Record
from bralto.ui.slips.learners_menu import LearnerSlip
from bralto.ui.slips.log_slip import LogSlip
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.heading import Heading
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def record(window: MainWindow, qtbot: QtBot) -> Record:
    """The record of the demo."""
    window.go("Record")
    settle(qtbot, window)
    return house(window).record


def go_to(record: Record, page: str, window: MainWindow, qtbot: QtBot) -> None:
    record.show_page(page)
    settle(qtbot, window)


def press(within: QWidget, words: str, qtbot: QtBot) -> None:
    """Click the button that says so."""
    (found,) = [one for one in within.findChildren(QPushButton) if one.text() == words]
    qtbot.mouseClick(found, LEFT)


def read(within: QWidget) -> str:
    """All that can be read on its labels and headings."""
    labels = [one.text() for one in within.findChildren(QLabel) if one.isVisible()]
    headings = [one.accessibleName() for one in within.findChildren(Heading) if one.isVisible()]
    return "\n".join([*labels, *headings])


def colours(widget: QWidget) -> int:
    """How many colours it is painted in; words alone, with smooth edges, make dozens."""
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    bits = image.constBits()
    assert bits is not None
    return len(np.unique(np.frombuffer(bits.asarray(image.sizeInBytes()), np.uint32)))


# Accuracy


def test_each_skill_has_its_figure_and_says_where_it_goes(record: Record) -> None:
    shown = {key for key, chart in record.accuracy.charts.items() if chart.isVisible()}
    assert shown == {"miss", "heights", "widths", "tilts", "plumb"}
    for key in shown:
        course = record.state.courses[key]
        assert len(course.points) == len(record.accuracy.charts[key].dots.studies) == 15
        assert len(record.accuracy.charts[key].trend) == 15
        said = record.accuracy.figures[key].accessibleName()
        assert said.split(":")[0]
        assert "over ten studies" in said or "no change" in said
    miss = record.accuracy.charts["miss"]
    assert miss.trend[0].value > miss.trend[-1].value  # the learner of the demo gets closer
    assert all(one.low <= one.value <= one.high for one in miss.trend)


def test_charts_are_told_apart_by_their_signs() -> None:
    pictures = []
    for skill in ("miss", "heights", "widths", "tilts", "plumb", "halves", "thirds", "shapes",
                  "seeing", "hand"):  # fmt: skip
        image = QImage(24, 24, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        ink, paper = LIGHT.colour("ink"), LIGHT.colour("sheet")
        draw_emblem(painter, skill, QPointF(12.0, 12.0), 5.0, ink, paper)
        painter.end()
        bits = image.constBits()
        assert bits is not None
        pictures.append(np.frombuffer(bits.asarray(24 * 24 * 4), np.uint8).astype(int))
    for i, one in enumerate(pictures):
        for other in pictures[:i]:
            assert np.abs(one - other).mean() > 1.0


def test_arrows_go_study_by_study_and_enter_opens_it(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    page = record.accuracy
    qtbot.waitUntil(page.habits.hasFocus)
    points = record.state.courses["miss"].points
    qtbot.keyClick(page.habits, Qt.Key.Key_Left)
    assert page.charts["tilts"].lit == points[-1].study
    qtbot.keyClick(page.habits, Qt.Key.Key_Left)
    assert {chart.lit for chart in page.charts.values()} == {points[-2].study}
    qtbot.keyClick(page.habits, Qt.Key.Key_Right)
    qtbot.keyClick(page.habits, Qt.Key.Key_Right)  # there is none after the last
    assert page.charts["miss"].lit == points[-1].study
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Return)
    assert window.place == "Bench"
    assert house(window).bench.study.id == points[-1].study


def test_a_sign_opens_its_study(record: Record, window: MainWindow, qtbot: QtBot) -> None:
    chart = record.accuracy.charts["heights"]
    dot = chart.dots.at(4)
    at = QPointF(dot.share * chart.width(), 30.0).toPoint()
    qtbot.mouseMove(chart, at)
    assert record.accuracy.charts["plumb"].lit == dot.study
    qtbot.mouseClick(chart, LEFT, pos=at)
    assert house(window).bench.study.id == dot.study


# What is counted


def test_every_choice_leaves_as_many_studies_as_it_says(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    state, before = record.state, dict(record.state.choices)
    assert before["subject"] == "figure"
    for aspect in ASPECTS:
        for value, _, many in state.columns.options_of(before, aspect):
            if many == 0:
                continue
            state.count_only(aspect.key, value)
            assert len(state.counted) == many
            state.count_only(aspect.key, before.get(aspect.key, ALL))
            state.count_only("subject", before["subject"])  # lets all later ones go
    assert state.choices == before
    settle(qtbot, window)


def test_schools_are_never_mixed(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    with Library.open(tmp_path / "library") as library:
        for day, school in enumerate(("head", "envelope", "head", "envelope", "head"), start=1):
            study = study_of(figure_marks(), figure_marks(), school=school)
            library.add(study, {}, f"2026-05-0{day}T18:20:00Z")
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    state = house(window).record.state
    assert (state.choices["school"], len(state.counted)) == ("head", 3)
    assert "head school" in house(window).record.strip.counted.text()
    state.count_only("school", "envelope")
    assert {one.facts.school for one in state.counted} == {"envelope"}
    settle(qtbot, window)


def test_the_menu_names_each_aspect_that_tells_studies_apart(record: Record, qtbot: QtBot) -> None:
    qtbot.mouseClick(record.strip.counted, LEFT)
    (menu,) = [one for one in record.findChildren(QMenu) if one.isVisible()]
    titles = [action.text().split(":")[0] for action in menu.actions()]
    assert "subject" in titles
    menu.close()


# Habits


def test_the_habits_of_the_demo_are_named_heads_first(record: Record) -> None:
    """The simulated learner makes heads 11 to 20 % big, legs short, and stands poses straight."""
    told = {one.trait.key: one for one in record.state.told.habits}
    assert told["head"].state == "habit"
    assert 0.10 < told["head"].value < 0.20
    assert told["tilts"].value < 1.0
    habits = record.accuracy.habits
    assert habits.habits[0].trait.key == "head"
    model = habits.model()
    said = model.index(0, 0).data(Qt.ItemDataRole.AccessibleTextRole)
    assert said.startswith("You make heads big: +")
    assert "First: hold the head" in read(record.accuracy.advice)


def test_pointing_at_a_habit_shows_what_follows_from_it(record: Record, qtbot: QtBot) -> None:
    page = record.accuracy
    row = next(i for i, one in enumerate(page.habits.habits) if one.trait.key == "tilts")
    qtbot.keyClick(page.habits, Qt.Key.Key_Home)
    for _ in range(row):
        qtbot.keyClick(page.habits, Qt.Key.Key_Down)
    assert page.advice.trait == "tilts"
    assert "You straighten tilts" in read(page.advice)


def test_what_is_worked_on_is_noted_said_and_put_first_on_the_bench(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    press(record.accuracy.advice, "Work on it", qtbot)
    settle(qtbot, window)
    ((_, kind, document),) = house(window).library.practice()
    assert kind == "focus"
    assert json.loads(document) == {"trait": "head", "group": "figure", "on": True}
    outcome = record.state.outcomes["head"]
    assert (outcome.studies, outcome.left) == (0, 6)
    assert "6 more studies tell" in read(record.accuracy.advice)
    house(window).open_study(record.state.counted[3].id)
    settle(qtbot, window)
    said = window.prompt_line.prompt
    assert "hold the head against the whole height" in f"{said.lead} {said.how}"
    window.go("Record")
    settle(qtbot, window)
    press(record.accuracy.advice, "Work on it no more", qtbot)
    settle(qtbot, window)
    assert record.state.outcomes == {}


def test_a_pose_that_trains_it_is_set_up(record: Record, window: MainWindow, qtbot: QtBot) -> None:
    press(record.accuracy.advice, "Set up the model", qtbot)
    settle(qtbot, window)
    assert window.place == "Model"
    assert house(window).model.state.pose_key == "at-rest"


def test_habits_are_drawn_twice_as_strong(record: Record, window: MainWindow, qtbot: QtBot) -> None:
    go_to(record, DRAWN, window, qtbot)
    qtbot.waitUntil(lambda: record.page(DRAWN).pictures is not None, timeout=60_000)
    found = record.page(DRAWN).pictures
    assert {"head", "tilts"} <= set(found.shown)

    def head(one: object) -> float:
        marks = one.marks
        body = marks["chin"] - marks["heel_l"]
        return (marks["chin"].y() - marks["crown"].y()) / abs(body.y())

    value = next(one.value for one in record.state.told.habits if one.trait.key == "head")
    legs = next(one.value for one in record.state.told.habits if one.trait.key == "legs")
    grown = head(found.drawn) / head(found.seen)
    # Half of what stands below the chin are legs, which are drawn short.
    assert grown == pytest.approx((1.0 + 2.0 * value) / (1.0 + 2.0 * 0.5 * legs), abs=0.05)
    assert colours(record.page(DRAWN)) > 200
    assert "You make heads big" in record.page(DRAWN).accessibleName()


def test_what_draws_them_is_not_loaded_by_the_window(
    record: Record, window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It takes half a second, for which nothing would answer."""
    loaded_by: list[threading.Thread] = []

    class Watch(MetaPathFinder):
        def find_spec(self, name: str, *_: object) -> None:
            if name == _DRAWS:
                loaded_by.append(threading.current_thread())

    monkeypatch.delitem(sys.modules, _DRAWS, raising=False)
    monkeypatch.setattr(sys, "meta_path", [Watch(), *sys.meta_path])
    go_to(record, DRAWN, window, qtbot)
    qtbot.waitUntil(lambda: record.page(DRAWN).pictures is not None, timeout=60_000)
    assert len(loaded_by) == 1
    assert loaded_by[0] is not threading.main_thread()


_DRAWS = "bralto.stand.model.habit_picture"


@pytest.mark.parametrize(
    ("view", "says"),
    [("", "no study has been measured yet"), ("hand", "the model shows no hands")],
)
def test_where_the_model_cannot_show_them_the_page_says_why(
    view: str, says: str, open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    with Library.open(tmp_path / "library") as library:
        if view:
            named = view_named(view).landmarks
            marks = {
                one.key: Mark(90.0 + 37.0 * i % 200.0, 50.0 + 20.0 * i)
                for i, one in enumerate(named)
            }
            library.add(study_of(marks, marks, view=view), {}, "2024-03-01T12:00:00Z")
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    go_to(record, DRAWN, window, qtbot)
    qtbot.waitUntil(lambda: says in record.page(DRAWN).accessibleName(), timeout=60_000)
    assert record.page(DRAWN).pictures is None


def test_the_heading_says_what_the_charts_hold(
    record: Record, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = record.accuracy
    assert "studies, where they go; below the dashes no mark can tell" in read(page)
    monkeypatch.setattr("bralto.ui.record.accuracy.chart.ROOM", 300.0)
    record.state.changed.emit()
    assert "the middle 80 % of studies" in read(page)
    first = record.state.counted[-1]
    page.light(first.id)
    assert first.title in read(page)
    assert "the middle 80 %" not in read(page)
    page.light("")
    assert "the middle 80 % of studies" in read(page)


# The same pose again


@pytest.mark.parametrize(
    ("title", "following"),
    [
        ("Rope coiler, first try", "Rope coiler, second try"),
        ("Rope coiler, tenth try", "Rope coiler, 11th try"),
        ("Rope coiler, 11th try", "Rope coiler, 12th try"),
        ("Rope coiler, 21st try", "Rope coiler, 22nd try"),
        ("Rope coiler", "Rope coiler, second try"),
        ("A, good try", "A, good try, second try"),
        ("", "Untitled study, second try"),
    ],
)
def test_the_next_try_is_named_after_the_one_before(title: str, following: str) -> None:
    assert next_title(title) == following


def test_try_again_begins_the_same_reference_without_a_drawing(
    window: MainWindow, qtbot: QtBot
) -> None:
    library = house(window).library
    first = house(window).shelf_state.entries[0]
    old = library.stored(first.id)
    window.go("Shelf")
    settle(qtbot, window)
    house(window).acts.selected = lambda: [first]
    house(window).acts.try_again()
    settle(qtbot, window)
    new = library.stored(house(window).bench.study.id)
    assert new.study.reference == old.study.reference
    assert new.media == {"": old.media[""]}
    assert new.study.states == ()
    root = notes_of(old.study).again_of  # it is a third try itself
    assert root
    assert root != first.id
    assert notes_of(new.study).again_of == root
    again = library.find(try_again(library, new.id, "2026-11-30T10:00:00Z"))
    assert notes_of(again).again_of == root  # of the first, not of the one before


def test_tries_stand_side_by_side_with_what_was_put_right(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    seen = figure_marks()
    low = moved(seen, 1.0, (0, 0))
    low["knee_r"] = Mark(low["knee_r"].x, low["knee_r"].y + 40.0)
    wide = moved(seen, 1.0, (0, 0))
    wide["shoulder_l"] = Mark(wide["shoulder_l"].x + 40.0, wide["shoulder_l"].y)
    with Library.open(tmp_path / "library") as library:
        first = library.add(study_of(seen, low), {}, "2026-05-01T18:20:00Z")
        for day, drawn in ((2, wide), (3, seen)):
            new = try_again(library, first, f"2026-05-0{day}T18:20:00Z")
            stored = library.stored(new)
            library.edits.add_state(new, stored.version, study_of(seen, drawn).states[0], None)
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    go_to(record, TRIES, window, qtbot)
    (series,) = record.page(TRIES).series
    assert series.note == "3 tries"
    found = record.page(TRIES).table.found
    first_step, second_step = found.steps
    right = {one.spec.id for one in first_step.put_right}
    came = {one.spec.id for one in first_step.came_in}
    assert "height.knees" in right
    assert "span.shoulders" in came
    assert "span.shoulders" in {one.spec.id for one in second_step.put_right}
    assert second_step.came_in == ()
    qtbot.keyClick(record.page(TRIES).list, Qt.Key.Key_Return)
    assert house(window).bench.study.id == series.drawings[-1][0]


def test_states_of_one_drawing_show_what_was_put_right(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    go_to(record, TRIES, window, qtbot)
    page = record.page(TRIES)
    assert [one.note for one in page.series].count("3 tries") == 3
    row = next(i for i, one in enumerate(page.series) if "2 states" in one.note)
    page.list.pointed.emit(row)
    settle(qtbot, window)
    found = page.table.found
    assert found.headings == ("block-in", "evening")
    assert found.summaries[1].miss.value < found.summaries[0].miss.value
    assert found.steps[0].put_right


def test_a_model_that_stands_as_before_is_the_same_pose_again(tmp_path: Path) -> None:
    setting = {"subject": "figure", "title": "At rest"}
    study = replace(study_of(figure_marks(), {}), extra={"model": {"setting": setting}})
    with Library.open(tmp_path / "library") as library:
        first = library.add(replace(study, title="At rest"), {}, "2026-05-01T18:20:00Z")
        assert drawn_before(library, "At rest", setting) == first
        assert drawn_before(library, "At rest", {**setting, "seconds": 30}) == ""
        assert drawn_before(library, "Walking", setting) == ""


# The log


def test_what_is_written_on_the_bench_is_found_in_the_log(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    study = bench.study.id
    qtbot.keyClick(bench, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    (slip,) = bench.findChildren(LogSlip)
    qtbot.keyClicks(slip.well, "The plumb line held")
    qtbot.keyClicks(slip.following, "shoulders first")
    qtbot.keyClicks(slip.materials, "grey paper, soft pencil")
    slip.after.setCurrentIndex(4)
    qtbot.mouseClick(slip.keep, LEFT)
    notes = bench.study.notes
    assert notes.log == {
        "well": "The plumb line held", "next": "shoulders first",
        "materials": "grey paper, soft pencil", "after": "4",
    }  # fmt: skip
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    go_to(record, LOG, window, qtbot)
    qtbot.keyClicks(record.page(LOG).words, "soft PLUMB")
    assert [entry.id for entry in record.page(LOG).studies.entries] == [study]
    assert "The plumb line held" in record.page(LOG).written.text()
    assert "4" in record.page(LOG).written.text()
    record.page(LOG).words.setText("nothing of the kind")
    assert record.page(LOG).studies.entries == ()


def log_slip(record: Record, row: int, qtbot: QtBot) -> LogSlip:
    """The slip on which the log of a study of the list is written, opened by keys and button."""
    page = record.page(LOG)
    qtbot.keyClick(page.studies, Qt.Key.Key_Home)
    for _ in range(row):
        qtbot.keyClick(page.studies, Qt.Key.Key_Down)
    qtbot.mouseClick(page.write, LEFT)
    (slip,) = page.findChildren(LogSlip)
    return slip


def test_the_log_is_written_in_the_record_too(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    go_to(record, LOG, window, qtbot)
    chosen = record.page(LOG).studies.entries[2].id
    slip = log_slip(record, 2, qtbot)
    qtbot.keyClicks(slip.following, "look at the feet")
    qtbot.mouseClick(slip.keep, LEFT)
    settle(qtbot, window)
    assert notes_of(house(window).library.find(chosen)).log == {"next": "look at the feet"}
    assert "look at the feet" in record.page(LOG).written.text()


def test_the_study_on_the_bench_goes_on_after_its_log_was_written_in_the_record(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    """Every edit of it was refused until it was opened again: it had been changed elsewhere."""
    said: list[str] = []
    bench.study.trouble.connect(said.append)
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    go_to(record, LOG, window, qtbot)
    assert record.page(LOG).studies.entries[0].id == bench.study.id
    slip = log_slip(record, 0, qtbot)
    qtbot.keyClicks(slip.well, "big before small")
    qtbot.mouseClick(slip.keep, LEFT)
    settle(qtbot, window)
    assert "big before small" in record.page(LOG).written.text()
    window.go("Bench")
    key, mark = next(iter(bench.study.picture(Board.DRAWING).marks.items()))
    bench.study.edits.move(Board.DRAWING, key, mark.x + 9.0, mark.y, 1.0)
    assert said == []
    kept = house(window).library.find(bench.study.id)
    assert kept == bench.study.study
    assert notes_of(kept).log == {"well": "big before small"}
    assert kept.states[-1].picture.marks[key].x == mark.x + 9.0


def test_a_month_is_printed_with_what_was_written(
    record: Record, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    library = house(window).library
    go_to(record, LOG, window, qtbot)
    entry = next(one for one in record.page(LOG).studies.entries if one.when.month == 10)
    stored = library.stored(entry.id)
    written = with_notes(stored.study, notes_of(stored.study).wrote("well", "the feet stood"))
    library.edits.put_head(entry.id, stored.version, written)
    house(window).shelf_state.refresh()
    settle(qtbot, window)
    path = tmp_path / "october.pdf"
    record.page(LOG).print_month(2026, 10, path)
    document = pypdfium2.PdfDocument(path)
    assert len(document) == 1
    assert document[0].get_size() == pytest.approx((595.3, 841.9), abs=1.0)  # A4 in points
    words = document[0].get_textpage().get_text_bounded()
    assert "October 2026" in words
    assert "8 studies" in words
    document.close()
    record.page(LOG).print_month(2026, 10, tmp_path / "nowhere" / "x.pdf")
    assert "cannot be written" in window.prompt_line.prompt.lead + window.prompt_line.prompt.how


# The year


def test_a_day_under_the_pointer_says_what_was_drawn(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    go_to(record, YEAR, window, qtbot)
    months = record.page(YEAR).months
    assert months.sums()[0] == 19
    area = months.area(10)
    at = QPointF(area.left() + 1.5 * area.width() / 31.0, area.center().y()).toPoint()
    qtbot.mouseMove(months, at)
    assert record.page(YEAR).heading.accessibleName().startswith("2026 2 October 2026: ")
    qtbot.mouseClick(months, LEFT, pos=at)
    assert window.place == "Bench"


# However many there are


@pytest.mark.parametrize("count", [0, 1, 3])
def test_few_studies_are_readable(
    count: int, open_window: Opener, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    with Library.open(tmp_path / "library") as library:
        for day in range(count):
            drawn = moved(figure_marks(), 1.0 + 0.1 * day, (0, 0))
            library.add(study_of(figure_marks(), drawn), {}, f"2024-02-2{7 + day}T18:20:00Z")
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    assert record.state.told.habits == ()
    said = record.accuracy.figures["miss"].accessibleName()
    assert ("not measured yet" in said) == (count == 0)
    for page in (DRAWN, TRIES, LOG, YEAR):
        go_to(record, page, window, qtbot)
        assert colours(record.page(page)) > 30
    written = {words for words, _ in written_on(record.page(TRIES), monkeypatch)}
    assert "Draw a pose again: Try again on the shelf" in written


def test_alike_studies_in_one_second_and_a_leap_day_are_right(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    """Forty alike; two in one second, one on 29 February, one of a clock set back to 1999."""
    days = ["2024-02-29T23:59:59Z", "2024-02-29T23:59:59Z", "1999-12-31T23:59:59+11:00"]
    start = datetime(2024, 3, 1, 12, tzinfo=UTC)
    days += [(start + timedelta(hours=30 * i)).isoformat() for i in range(37)]
    with Library.open(tmp_path / "library") as library:
        for day in days:
            library.add(study_of(figure_marks(), figure_marks()), {}, day)
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    assert len(record.state.counted) == 40
    points = record.state.courses["tilts"].points
    assert [one.when for one in points] == sorted(one.when for one in points)
    assert {one.state for one in record.state.told.habits} <= {"none", "open"}
    trend = record.state.courses["tilts"].trend
    assert (trend.slope, trend.told) == (0.0, False)
    go_to(record, YEAR, window, qtbot)
    assert record.page(YEAR).years == [2024, 1999]
    record.page(YEAR).choose_year("1999")
    assert record.page(YEAR).months.sums()[0] == 1
    assert len(record.accuracy.charts["miss"].dots.studies) == 40


# Today


def test_today_is_made_of_what_was_chosen(
    record: Record, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    go_to(record, TODAY, window, qtbot)
    page = record.page(TODAY)
    assert page.found.plan.minutes == 30
    assert [one.key for one in page.found.items][:2] == ["warm-up", "quick"]
    page.minutes.setValue(60)
    page.days[1].setChecked(True)
    assert page.found.plan.minutes == 60
    assert page.found.plan.weekdays == (0, 1, 2, 4)
    assert 50 <= sum(one.minutes for one in page.found.items) <= 60
    qtbot.keyClick(page.items, Qt.Key.Key_Home)
    qtbot.keyClick(page, Qt.Key.Key_D)
    assert page.found.done == {"warm-up"}
    page.tick(0)  # once is enough
    kinds = [kind for _, kind, _ in house(window).library.practice()]
    assert kinds.count("done") == 1
    page.write_calendar(tmp_path / "plan.ics")
    assert b"BYDAY=MO,TU,WE,FR" in (tmp_path / "plan.ics").read_bytes()
    page.write_calendar(tmp_path / "nowhere" / "plan.ics")
    assert "cannot be written" in window.prompt_line.prompt.lead + window.prompt_line.prompt.how


def test_what_is_begun_leads_to_where_it_is_done(
    record: Record, window: MainWindow, qtbot: QtBot
) -> None:
    go_to(record, TODAY, window, qtbot)
    items = record.page(TODAY).found.items
    row = next(i for i, one in enumerate(items) if one.key == "quick")
    qtbot.keyClick(record.page(TODAY).items, Qt.Key.Key_Home)
    for _ in range(row):
        qtbot.keyClick(record.page(TODAY).items, Qt.Key.Key_Down)
    qtbot.keyClick(record.page(TODAY).items, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert window.place == "Model"
    series = house(window).model.state.series
    assert len(series) == len(items[row].poses)
    assert {one.seconds for one in series} == {items[row].seconds}


# Learners


def test_two_clicks_lead_to_another_learners_library(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("BRALTO_LIBRARY", str(demo_copy))
    other = add_learner(demo_copy, "Runa", "Ole", "#3F6B3A")
    window = open_window(demo_copy)
    window.grab()
    spot = window.strip.spots["learners"].center().toPoint()
    qtbot.mouseClick(window.strip, LEFT, pos=spot)
    (menu,) = [one for one in window.findChildren(QMenu) if one.isVisible()]
    names = {action.text(): action for action in menu.actions() if action.text()}
    assert list(names) == ["Runa", "Ole", "Another learner …"]
    assert not names["Runa"].isEnabled()  # is here
    names["Ole"].trigger()
    menu.close()
    assert house(window).care.going_to == other.root


def test_a_second_learner_begins_with_an_empty_library(
    open_window: Opener, demo_copy: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("BRALTO_LIBRARY", str(demo_copy))
    slip = LearnerSlip(demo_copy, open_window(demo_copy))
    slip.own.setText("Runa")
    slip.begin.click()
    assert "wants a name" in slip.fault.text()
    slip.name.setText("Ole")
    slip.begin.click()
    assert slip.made.root.parent.parent == demo_copy.parent / "learners"
    window = open_window(slip.made.root)
    assert house(window).shelf_state.total == 0
    assert window.strip.learner == ("Ole", slip.made.colour)
