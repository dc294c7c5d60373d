"""A learner's first study, from two files to a line in the record, with mouse and keys."""

from __future__ import annotations

import os
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QApplication, QLabel
from pytestqt.qtbot import QtBot
from tests.learner import Faults, draw_body
from tests.puppet import landmarks
from tests.studies import POSE
from tests.ui.conftest import Opener, house, settle

from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import BOARDS, Board
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.scales.rungs import stations
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.window import MainWindow


def drop(window: MainWindow, *files: Path) -> NewStudy:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path)) for path in files])
    copy, left, none = (
        Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    enter = QDragEnterEvent(QPoint(200, 200), copy, data, left, none)
    QApplication.sendEvent(window, enter)
    assert enter.isAccepted()
    QApplication.sendEvent(window, QDropEvent(QPointF(200, 200), copy, data, left, none))
    slip = window.findChild(NewStudy)
    assert slip is not None
    return slip


def begin(window: MainWindow, qtbot: QtBot, files: tuple[Path, Path]) -> Bench:
    slip = drop(window, *files)
    qtbot.keyClicks(slip.title, "Lamp trimmer")
    slip.view.setCurrentIndex(slip.view.findData("figure-front"))
    qtbot.mouseClick(slip.start, Qt.MouseButton.LeftButton)  # at once: it waits for the pictures
    qtbot.waitUntil(lambda: window.place == "Bench")
    settle(qtbot, window)
    assert house(window).arrivals.slip is not None
    house(window).arrivals.slip.leave.click()  # a scan needs no corners to be found
    assert house(window).bench is not None
    return house(window).bench


def where(board: str, key: str) -> tuple[float, float]:
    """Where a mark belongs on the 300 x 400 reference and the 600 x 800 drawing, head too big."""
    if board == "reference":
        x, y = landmarks(POSE)[key]
        return 150 + 45 * float(x), 380 - 45 * float(y)
    x, y = draw_body(POSE, Faults({"head": 1.25}), seed=1)[key]
    return 300 + 88 * float(x), 760 - 88 * float(y)


def click(bench: Bench, qtbot: QtBot, key: str | None = None) -> str:
    """Do what the prompt says with one click; gives the mark that was asked for."""
    step = bench.study.step
    board = bench.active_board()
    key = key or step.key
    at = board.viewport.to_board(*where(step.board, key))
    qtbot.mouseClick(board, Qt.MouseButton.LeftButton, pos=at.toPoint())
    return key


def test_two_dropped_files_become_a_study_with_errors_undone_kept_and_on_record(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    assert window.prompt_line.prompt.lead == "Drop two pictures here:"
    bench = begin(window, qtbot, picture_files)
    study = bench.study

    # The prompt leads through the marks, board by board.
    assert window.prompt_line.prompt.lead == "Mark the crown on the reference:"
    click(bench, qtbot)
    assert window.prompt_line.prompt.lead == "From near: is the crown of the reference there?"
    click(bench, qtbot)
    assert window.prompt_line.prompt.lead == "Mark the crown on the drawing:"
    click(bench, qtbot)
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Return)  # it lies well
    assert "heel that stands lower" in window.prompt_line.prompt.lead
    click(bench, qtbot)
    assert "heel_r" in study.picture(Board.REFERENCE).marks
    assert isinstance(study.assessment.unit, NotMeasurable)
    while study.step is not None and study.step.short:
        click(bench, qtbot)
    assert not isinstance(study.assessment.short_miss, NotMeasurable)

    # The own eye first, then the figures.
    assert window.prompt_line.prompt.lead == "How close is your drawing?"
    judging = house(window).bench.column.judging
    qtbot.keyClick(judging, Qt.Key.Key_2)
    qtbot.keyClick(judging, Qt.Key.Key_Return)
    assert study.notes.log == {"before": "2"}
    assert window.prompt_line.prompt.lead.startswith("To look closer,")

    # The big head shows on the ladder and in the list.
    rungs = {one.key: one for one in stations(study)}
    assert rungs["sole"].reference == pytest.approx(7.6, abs=0.3)
    assert rungs["sole"].drawing < rungs["sole"].reference - 1.0
    qtbot.waitUntil(lambda: not study.busy)  # they follow once the hand rests
    head = next(one for one in study.corrections if (one.move, one.part) == ("scale", "head"))
    assert "span.figure" in [reading.spec.id for reading in study.now.consequences(head)][:3]
    before = study.assessment.reading("height.crotch").error

    window.activateWindow()  # no window manager gives the focus back after the slip
    qtbot.waitUntil(window.isActiveWindow)

    # A mark is dragged: ladder and list follow; undo brings both back.
    crotch = bench.drawing.at("crotch").toPoint()
    qtbot.mousePress(bench.drawing, Qt.MouseButton.LeftButton, pos=crotch)
    qtbot.mouseMove(bench.drawing, crotch + QPoint(0, 20))
    qtbot.mouseMove(bench.drawing, crotch + QPoint(0, 40))
    qtbot.waitUntil(lambda: not study.now.behind)  # figures follow a frame behind
    moving = study.assessment.reading("height.crotch").error
    qtbot.mouseRelease(bench.drawing, Qt.MouseButton.LeftButton, pos=crotch + QPoint(0, 40))
    after = study.assessment.reading("height.crotch").error
    assert after == pytest.approx(moving)
    assert after > before + 0.2
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert study.assessment.reading("height.crotch").error == pytest.approx(before)
    qtbot.keyClick(
        window, Qt.Key.Key_Z,
        Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier,
    )  # fmt: skip
    assert study.assessment.reading("height.crotch").error == pytest.approx(after)

    # It is on the shelf and in the record without any saving, and after a restart.
    kept = study.study
    qtbot.keyClick(window, Qt.Key.Key_4, Qt.KeyboardModifier.AltModifier)
    assert window.place == "Record"
    settle(qtbot, window)
    assert window.prompt_line.prompt.lead == "1 study on record:"
    chart = house(window).record.accuracy.charts["miss"]
    assert chart.study_at(QPointF(chart.width() / 2, 5)) == study.id
    again = open_window(tmp_path / "library")
    entry = house(again).shelf_state.entries[0]
    assert entry.title == "Lamp trimmer"
    house(again).open_study(entry.id)
    settle(qtbot, again)
    back = house(again).bench.study.study  # closing the first window kept the time that was spent
    assert replace(back, extra={}) == replace(kept, extra={})
    assert again.prompt_line.prompt.lead.startswith("To look closer,")


def test_marks_are_set_and_nudged_by_keys_alone(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    bench = begin(open_window(tmp_path / "library"), qtbot, picture_files)
    study, board = bench.study, bench.reference
    start = board.viewport.to_board(board.start_of_keys().x(), board.start_of_keys().y())
    for _ in range(3):
        qtbot.keyClick(board, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(board, Qt.Key.Key_Right)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    crown = board.at("crown")
    assert (crown.x() - start.x(), crown.y() - start.y()) == pytest.approx((0.5, -15.0))
    assert study.step.board == Board.DRAWING
    # Tab asks for the same mark on the other board, N skips, Backspace goes back.
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Tab)
    assert (study.step.board, study.step.key) == (Board.REFERENCE, "crown")
    qtbot.keyClick(board, Qt.Key.Key_N)
    assert study.step.key == "heel_r"
    qtbot.keyClick(board, Qt.Key.Key_Backspace)
    assert (study.step.board, study.step.key) == (Board.REFERENCE, "crown")
    # A mark that is asked for again is in hand and is nudged; many nudges are one step of undo.
    assert study.session.selected == "crown"
    qtbot.waitUntil(lambda: not bench.gliding.under_way)
    crown = board.at("crown")
    for _ in range(4):
        qtbot.keyClick(board, Qt.Key.Key_Left)
    assert board.at("crown").x() == pytest.approx(crown.x() - 2.0)
    study.undo_stack.undo()
    assert board.at("crown").x() == pytest.approx(crown.x())
    qtbot.keyClick(board, Qt.Key.Key_Delete)
    assert "crown" not in study.picture(Board.REFERENCE).marks


def test_a_hidden_mark_is_kept_as_inferred(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    bench = begin(window, qtbot, picture_files)
    qtbot.keyClick(bench.reference, Qt.Key.Key_H)
    assert "believe" in window.prompt_line.prompt.how
    click(bench, qtbot)
    assert bench.study.picture(Board.REFERENCE).marks["crown"].visibility == "inferred"
    assert not bench.study.session.hidden_next


def test_a_mark_in_the_spot_of_another_or_outside_is_refused_in_place(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    study = begin(window, qtbot, picture_files).study
    for board in BOARDS:
        assert study.edits.place(board, 100.0, 50.0, 1.0) == "crown"
    assert study.edits.place(Board.REFERENCE, 100.0, 50.0, 1.0) is None
    assert window.prompt_line.prompt.trouble
    assert "The crown is in that very spot already" in window.prompt_line.prompt.lead
    assert study.edits.place(Board.REFERENCE, -5.0, 50.0, 1.0) is None
    assert "outside the picture" in window.prompt_line.prompt.lead
    assert set(study.picture(Board.REFERENCE).marks) == {"crown"}
    assert study.edits.place(Board.REFERENCE, 100.0, 350.0, 1.0) is not None
    assert not window.prompt_line.prompt.trouble


@pytest.mark.parametrize("fault", ["text", "cut", "tiny"])
def test_a_bad_picture_is_refused_on_the_slip_and_nothing_else_is_lost(
    fault: str, open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    good, bad = picture_files
    if fault == "text":
        bad.write_text("hello")
    elif fault == "cut":
        bad.write_bytes(bad.read_bytes()[:3000])
    else:
        from PIL import Image

        Image.new("RGB", (1, 1)).save(bad)
    window = open_window(tmp_path / "library")
    slip = drop(window, good, bad)
    settle(qtbot, window)
    assert slip.reference.path == good
    assert slip.drawing.path is None
    assert bad.name in slip.drawing.fault.text()
    qtbot.mouseClick(slip.start, Qt.MouseButton.LeftButton)
    assert slip.fault.text() == "Choose another drawing, or leave it out for now."
    assert slip.isVisible()
    qtbot.mouseClick(slip.drawing.leave_out, Qt.MouseButton.LeftButton)
    assert (slip.drawing.fault.text(), slip.drawing.leave_out.isVisible()) == ("", False)
    qtbot.mouseClick(slip.start, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.place == "Bench", timeout=60_000)
    settle(qtbot, window)
    assert house(window).bench.study.study.states == ()


def test_pictures_can_be_swapped_on_the_slip(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    slip = drop(window, *picture_files)
    settle(qtbot, window)
    slip.swap()
    assert (slip.drawing.path, slip.reference.path) == picture_files
    slip.reject()


def test_a_photo_whose_name_is_no_text_becomes_a_study(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    """Names out of old archives are in other letters than UTF-8: keeping one was a fault of our
    own, and the study was not begun."""
    odd = Path(os.fsdecode(os.fsencode(tmp_path) + b"/M\xf6we 1.png"))
    odd.write_bytes(picture_files[0].read_bytes())
    window = open_window(tmp_path / "library")
    slip = drop(window, odd, picture_files[1])
    settle(qtbot, window)
    qtbot.mouseClick(slip.start, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.place == "Bench", timeout=60_000)
    settle(qtbot, window)
    study = house(window).bench.study.study
    assert (study.title, study.reference.file) == ("M\ufffdwe 1", "M\ufffdwe 1.png")
    window.go("Shelf")
    settle(qtbot, window)
    assert "M\ufffdwe 1" in [one.title for one in house(window).shelf_state.entries]


def test_a_single_picture_is_swapped_to_the_other_side_and_left_out_again(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    """A drawing dropped by itself lies where the reference belongs. Swapped, it lay on both sides:
    a study of a picture against itself."""
    window = open_window(tmp_path / "library")
    slip = drop(window, picture_files[1])
    assert not slip.swapping.isEnabled()  # it is being opened
    settle(qtbot, window)
    assert not slip.canon.isEnabled()  # there is a reference
    qtbot.mouseClick(slip.swapping, Qt.MouseButton.LeftButton)
    assert (slip.reference.path, slip.drawing.path) == (None, picture_files[1])
    assert slip.canon.isEnabled()
    canons = [one for one in range(slip.canon.count()) if "imagined" in slip.canon.itemText(one)]
    slip.canon.setCurrentIndex(canons[0])
    words = slip.reference.findChild(QLabel).text()
    assert words == "none: the drawing is held against an average"
    qtbot.mouseClick(slip.drawing.leave_out, Qt.MouseButton.LeftButton)
    assert (slip.drawing.path, slip.swapping.isEnabled()) == (None, False)
    qtbot.mouseClick(slip.start, Qt.MouseButton.LeftButton)
    assert slip.fault.text().startswith("Choose the drawing first: it is what is held against")
    slip.canon.setCurrentIndex(0)
    assert slip.reference.findChild(QLabel).text() == "what you drew from"
    qtbot.mouseClick(slip.start, Qt.MouseButton.LeftButton)
    assert slip.fault.text() == "Choose the reference first; the drawing may come later."
    slip.reject()


def test_the_worked_example_opens_from_an_empty_shelf(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    house(window).shelf.example_wanted.emit()
    qtbot.waitUntil(lambda: window.place == "Bench", timeout=60_000)
    settle(qtbot, window)
    assert window.prompt_line.prompt.lead == "All marks are set:"
    assert len(house(window).bench.study.assessment.off()) > 3
    assert house(window).bench.moves.shown()


def test_a_picture_that_is_gone_is_said_on_its_board(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    with Library.open(demo_copy) as library:
        stored = library.studies()[0]
        library.media.path(stored.media[""]).unlink()
    window = open_window(demo_copy)
    house(window).open_study(stored.id)
    settle(qtbot, window)
    assert "is gone" in house(window).bench.reference.message
    assert house(window).bench.study.assessment.miss


def test_a_write_that_fails_is_said_in_the_prompt_and_the_mark_stays(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    from bralto.core.errors import UserError

    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    study = house(window).bench.study
    before = study.study

    def refuse(*_: object) -> None:
        raise UserError("the change was not kept (disk full); nothing before it is lost")

    monkeypatch.setattr(house(window).library.edits, "put_marks", refuse)
    study.edits.move(Board.DRAWING, "navel", 10.0, 10.0, 1.0)
    assert study.study == before
    assert "disk full" in window.prompt_line.prompt.lead


def test_places_by_keys_and_an_empty_bench_says_what_to_do(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    qtbot.keyClick(window, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    assert window.prompt_line.prompt.lead == "No study is on the bench:"
    qtbot.keyClick(window, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
    assert window.place == "Shelf"
    house(window).shelf.list.setCurrentIndex(house(window).shelf.list.model().index(1, 0))
    qtbot.keyClick(house(window).shelf.list, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert house(window).bench.study.id == house(window).shelf_state.entries[1].id
    assert window.strip.title == house(window).shelf_state.entries[1].title
