"""Drawings from imagination: a canon stands on the left board as a measured figure."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.canons.compare import against_canon
from bralto.core.canons.figure import HEAD_PX, canon_averages, canon_picture, canon_stations
from bralto.core.canons.shipped_canons import Canon, canon_keys, canon_named, canons_of
from bralto.core.examination.assessment import assess
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton
CANONS = [
    (canon_named(key), view)
    for key in canon_keys()
    if key != "child"
    for view in canon_named(key).views
]


@pytest.mark.parametrize(("canon", "of"), CANONS, ids=lambda one: getattr(one, "key", one))
def test_a_canon_measured_as_a_figure_is_the_canon(canon: Canon, of: str) -> None:
    """Every height and fraction comes out of the marks as the canon has it."""
    view = view_named(of)
    picture = canon_picture(view, canon)
    found = against_canon(view, canon, picture, GRADES["exacting"])
    assert not isinstance(found, NotMeasurable)
    own = [k for k in canon_averages(view, canon) if k.startswith(("height.", "fraction."))]
    checked = 0
    for reading in found:
        if reading.spec.id in own and reading.error is not None:
            assert reading.error == pytest.approx(0.0, abs=1e-9), reading.spec.id
            checked += 1
    assert checked or len(canon_stations(view, canon)) <= 2  # of crown and chin alone


def test_stations_of_fractions_are_found_from_their_ends() -> None:
    """In the face of thirds the brow lies a third of the way from hairline to chin."""
    view, canon = view_named("head-front"), canon_named("face-thirds")
    stations = canon_stations(view, canon)
    assert stations["chin"] == view.heads
    said = canon.values("head-front")
    for spec in (view.measure(key) for key in said):
        if spec is not None and spec.kind == "fraction" and set(spec.points) <= set(stations):
            upper, at, lower = (stations[key] for key in spec.points)
            assert (at - upper) / (lower - upper) == pytest.approx(said[spec.id].middle)
    assert {one.key for key in view_keys() for one in canons_of(key)} >= {
        "eight-heads", "seven-and-a-half-heads",
    }  # fmt: skip


@pytest.fixture
def window(open_window: Opener, demo_copy: Path) -> MainWindow:
    return open_window(demo_copy)


def imagined(window: MainWindow, qtbot: QtBot, *, marked: bool) -> Bench:
    library = house(window).library
    old = library.stored(house(window).shelf_state.entries[0].id)
    state = old.study.states[-1]
    if not marked:
        state = replace(state, picture=replace(state.picture, marks={}))
    study = Study(
        "From imagination", "figure-front", None, (state,), kind="imagined",
        canon="seven-and-a-half-heads",
    )  # fmt: skip
    new = library.add(study, {state.name: old.media[state.name]}, old.made)
    house(window).open_study(new)
    settle(qtbot, window)
    assert house(window).bench is not None
    return house(window).bench


def reading(bench: Bench, key: str) -> Reading:
    found = bench.study.assessment.reading(key)
    assert found is not None
    return found


def test_the_canon_stands_level_with_the_ladder_and_can_be_exchanged(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = imagined(window, qtbot, marked=True)
    study = bench.study
    study.apply(prompting.enter_pass, "heights")
    for key, heads in (("chin", 1.0), ("navel", 3.0), ("crotch", 3.75), ("heel_r", 7.5)):
        assert bench.reference.at(key).y() == pytest.approx(bench.ladder.y_of(heads), abs=0.6)
    assert reading(bench, "height.crotch").reference == 3.75
    assert study.assessment.readings == assess(study.study).readings  # as the command has it
    study.head.set_canon("eight-heads")
    assert reading(bench, "height.crotch").reference == 4.0
    assert bench.reference.at("crotch").y() == pytest.approx(bench.ladder.y_of(4.0), abs=0.6)
    assert house(window).library.find(study.id).canon == "eight-heads"
    for one in study.now.ground.passes:
        study.apply(prompting.enter_pass, one.key)
        window.grab()
    assert bench.off.rows()
    for key in (Qt.Key.Key_Space, Qt.Key.Key_Y, Qt.Key.Key_Escape, Qt.Key.Key_C, Qt.Key.Key_K):
        qtbot.keyClick(bench, key)
        window.grab()


def test_the_canon_cannot_be_dragged_nudged_taken_away_or_carried_over(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = imagined(window, qtbot, marked=True)
    study, board = bench.study, bench.reference
    study.apply(prompting.enter_pass, "heights")
    before = study.picture(Board.REFERENCE)
    at = board.at("navel").toPoint()
    QTest.mousePress(board, LEFT, pos=at)
    QTest.mouseMove(board, at + QPoint(0, 20))
    QTest.mouseMove(board, at + QPoint(0, 40))
    QTest.mouseRelease(board, LEFT, pos=at + QPoint(0, 40))
    assert window.prompt_line.prompt.trouble
    qtbot.mouseClick(board, LEFT, pos=at)
    qtbot.keyClick(board, Qt.Key.Key_Down)
    qtbot.keyClick(board, Qt.Key.Key_Delete)
    study.edits.propose_from_reference()
    assert "canon" in window.prompt_line.prompt.lead
    assert study.picture(Board.REFERENCE) is before
    assert study.study.reference is None
    assert not study.undo_stack.canUndo()


def test_marks_are_asked_for_on_the_drawing_alone(window: MainWindow, qtbot: QtBot) -> None:
    bench = imagined(window, qtbot, marked=False)
    study = bench.study
    assert (study.step.board, study.step.key) == (Board.DRAWING, "crown")
    assert "other board" not in [word for _, word in window.prompt_line.prompt.keys]
    qtbot.mouseClick(bench.reference, LEFT, pos=bench.reference.rect().center())
    study.pictures.set_crop(Board.REFERENCE, (0.0, 0.0, 9.0, 9.0))
    assert window.prompt_line.prompt.trouble
    for key, y in (("crown", 200.0), ("heel_r", 950.0), ("chin", 300.0)):
        assert study.step.board == Board.DRAWING
        study.apply(prompting.ask, Board.DRAWING, key)
        study.edits.place(Board.DRAWING, 400.0, y, 0.2)
    assert reading(bench, "height.sole").drawing == pytest.approx(7.5, abs=0.01)
    assert reading(bench, "height.sole").verdict == "within"
    progress = {one.of.key: one for one in study.now.progress()}
    assert progress["edges"].done == 3


def test_an_imagined_study_is_begun_on_the_slip(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    house(window).begin_study([])
    slip = window.findChild(NewStudy)
    slip.drawing.take(picture_files[1])
    settle(qtbot, window)
    slip.start.click()
    assert "reference first" in slip.fault.text()
    at = slip.canon.findData("eight-heads")
    assert at > 0
    slip.canon.setCurrentIndex(at)
    slip.start.click()
    settle(qtbot, window)
    study = house(window).bench.study
    assert study.imagined
    assert (study.study.kind, study.study.canon) == ("imagined", "eight-heads")
    head = canon_picture(study.view, canon_named("eight-heads"))
    assert head.marks["chin"].y - head.marks["crown"].y == pytest.approx(HEAD_PX)
    window.go("Shelf")
    settle(qtbot, window)
    house(window).shelf.grab()
    window.go("Record")
    window.grab()
