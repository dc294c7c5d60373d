"""A learner's photos in the real window: the sheet, plumb, further states, marks carried over."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QGuiApplication, QImage
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.frames import sheet_homography, warp
from bralto.core.study.snapped import mark_covariance
from bralto.core.study.two_boards import Board
from bralto.imaging.tones.looks import LOOKS
from bralto.stand.phone_aim import PhoneShot
from bralto.stand.phone_camera import PhonePhoto, photograph
from bralto.ui.arrivals.offer import Offer
from bralto.ui.session import pointing, prompting
from bralto.ui.settings import Settings
from bralto.ui.sheet.sheet_slip import SheetSlip
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.window import MainWindow

SIZE = (297.0, 420.0)
LEFT = Qt.MouseButton.LeftButton


def photo_of_sheet(path: Path, around: float) -> PhonePhoto:
    paper = Image.new("RGB", (594, 840), (246, 243, 236))
    shot = PhoneShot(size=(600, 800), slant_deg=22, around_deg=around, table="cloth")
    photo = photograph(paper, SIZE, shot, seed=3)
    photo.image.save(path, quality=92)
    return photo


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    """The study of the demo whose drawing was photographed, on the bench."""
    window = open_window(demo_copy)
    entry = next(e for e in house(window).shelf_state.entries if e.states > 1)
    house(window).open_study(entry.id)
    settle(qtbot, window)
    return window


def slip_of(window: MainWindow, qtbot: QtBot) -> SheetSlip:
    qtbot.waitUntil(lambda: house(window).arrivals.slip is not None, timeout=60_000)
    settle(qtbot, window)
    assert house(window).arrivals.slip is not None
    return house(window).arrivals.slip


def offered(window: MainWindow) -> Offer:
    (offer,) = window.findChildren(Offer)
    return offer


def test_a_dropped_photo_becomes_the_next_state_with_its_marks_carried_over(
    window: MainWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    study = house(window).bench.study
    photo = photo_of_sheet(tmp_path / "later.jpg", -20.0)
    before = study.picture(Board.DRAWING)
    house(window).arrivals.take([tmp_path / "later.jpg"])
    offer = offered(window)
    offer.name.setText("evening")
    qtbot.mouseClick(offer.state, LEFT)
    assert "name of its own" in offer.fault.text()
    offer.name.setText("second evening")
    qtbot.mouseClick(offer.state, LEFT)
    slip = slip_of(window, qtbot)
    assert slip.state.status.startswith("Found")
    assert slip.state.size_mm == SIZE  # the paper that the learner used before
    found = np.array(slip.state.points)
    assert np.abs(found - photo.corners).max() < 2.0
    qtbot.mouseClick(slip.keep, LEFT)
    settle(qtbot, window)

    assert study.session.state_name == "second evening"
    after = study.picture(Board.DRAWING)
    assert set(after.marks) == set(before.marks)
    assert {mark.visibility for mark in after.marks.values()} == {"inferred"}
    # The chin lies where it lay on the paper.
    for_mm = [
        warp(sheet_homography(one.sheet), np.array([[one.marks["chin"].x, one.marks["chin"].y]]))
        for one in (before, after)
    ]
    assert for_mm[0][0] == pytest.approx(for_mm[1][0], abs=1e-6)
    left = len(study.now.proposals(Board.DRAWING))
    assert "there on the drawing?" in window.prompt_line.prompt.lead
    house(window).bench.drawing.setFocus()
    qtbot.keyClick(house(window).bench.drawing, Qt.Key.Key_Return)
    assert len(study.now.proposals(Board.DRAWING)) == left - 1
    study.undo_stack.undo()
    assert len(study.now.proposals(Board.DRAWING)) == left
    # An earlier state in the reference's place: what has changed since, on the same paper.
    study.states.compare_with("evening")
    settle(qtbot, window)
    assert study.picture(Board.REFERENCE).file == "drawing-evening.jpg"
    assert study.assessment.reading("span.figure").error == pytest.approx(0.0, abs=1e-6)
    study.states.compare_with("")
    # Another state can be looked at, and all of it is kept.
    study.states.choose("block-in")
    settle(qtbot, window)
    assert study.picture(Board.DRAWING).file == "drawing-block-in.jpg"
    kept = house(window).library.stored(study.id).study
    assert [state.name for state in kept.states] == ["block-in", "evening", "second evening"]
    assert kept.states[-1].picture.sheet.size_mm == SIZE


def test_a_corner_is_dragged_under_the_loupe_and_the_figures_follow(
    window: MainWindow, qtbot: QtBot
) -> None:
    study = house(window).bench.study
    before = study.assessment.reading("span.figure").drawing
    house(window).bench.wants.sheet.emit(Board.DRAWING)
    slip = slip_of(window, qtbot)
    board = slip.board
    start = board.at(2).toPoint()
    qtbot.mousePress(board, LEFT, pos=start)
    qtbot.mouseMove(board, start + QPoint(-6, -9))
    qtbot.mouseMove(board, start + QPoint(-12, -18))
    qtbot.mouseRelease(board, LEFT, pos=start + QPoint(-12, -18))
    moved = board.at(2)
    assert (moved.x(), moved.y()) == pytest.approx((start.x() - 12, start.y() - 18), abs=1.0)
    qtbot.keyClick(board, Qt.Key.Key_Left)
    assert board.at(2).x() == pytest.approx(moved.x() - 0.5, abs=0.01)
    assert slip.grab().width() == slip.width()
    qtbot.mouseClick(slip.keep, LEFT)
    after = study.assessment.reading("span.figure").drawing
    assert after != pytest.approx(before, abs=0.01)
    study.undo_stack.undo()
    assert study.assessment.reading("span.figure").drawing == pytest.approx(before)


def test_a_sheet_is_shown_by_hand_in_four_clicks_or_by_a_length(
    window: MainWindow, qtbot: QtBot
) -> None:
    house(window).bench.wants.sheet.emit(Board.DRAWING)
    slip = slip_of(window, qtbot)
    truth = np.array(slip.state.points)
    qtbot.mouseClick(slip.by_hand, LEFT)
    assert not slip.keep.isEnabled()
    assert slip.status.text() == "Click the top-left corner."
    for x, y in truth:
        at = slip.board.viewport.to_board(x, y).toPoint()
        qtbot.mouseClick(slip.board, LEFT, pos=at)
    assert slip.keep.isEnabled()
    assert np.abs(np.array(slip.state.points) - truth).max() < 2.0
    settle(qtbot, window)
    assert "drawn to the edges" in slip.status.text()
    assert np.abs(np.array(slip.state.points) - truth).max() < 0.5
    assert slip.paper.currentText().startswith("A3")
    slip.state.use("length")
    for x, y in (truth[0], truth[1]):
        slip.state.add(x, y, 1.0)
    slip.known.setValue(297.0)
    qtbot.mouseClick(slip.keep, LEFT)
    sheet = house(window).bench.study.picture(Board.DRAWING).sheet
    length = np.hypot(*(truth[1] - truth[0]))
    assert sheet.size_mm[0] == pytest.approx(1200 * 297.0 / length, rel=1e-6)
    house(window).bench.wants.sheet.emit(Board.DRAWING)
    slip = slip_of(window, qtbot)
    slip.state.use("none")
    qtbot.mouseClick(slip.keep, LEFT)
    assert house(window).bench.study.picture(Board.DRAWING).sheet is None


def test_a_size_given_by_figures_stays_whatever_paper_it_comes_to(
    window: MainWindow, qtbot: QtBot
) -> None:
    house(window).bench.wants.sheet.emit(Board.DRAWING)
    slip = slip_of(window, qtbot)
    last = slip.paper.count() - 1
    assert not slip.wide.isVisible()
    slip.paper.setCurrentIndex(last)
    slip.paper.activated.emit(last)  # begins at A3's own figures
    assert slip.paper.currentIndex() == last
    assert slip.wide.isVisible()
    slip.wide.setValue(300.0)
    slip.high.setValue(424.0)
    assert slip.state.size_mm == (300.0, 424.0)
    slip.paper.setCurrentIndex(0)
    slip.paper.activated.emit(0)
    assert not slip.wide.isVisible()
    slip.reject()


def drag(board: object, qtbot: QtBot, one: QPointF, two: QPointF) -> None:
    qtbot.mousePress(board, LEFT, pos=one.toPoint())
    qtbot.mouseMove(board, ((one + two) / 2.0).toPoint())
    qtbot.mouseMove(board, two.toPoint())
    qtbot.mouseRelease(board, LEFT, pos=two.toPoint())


def test_a_picture_is_stood_upright_by_a_line_and_cropped(window: MainWindow, qtbot: QtBot) -> None:
    bench, study = house(window).bench, house(window).bench.study
    board = bench.reference
    bench.work.take_tool(board, "plumb")
    assert window.prompt_line.prompt.lead == "Draw along something truly vertical:"
    drag(board, qtbot, QPointF(100.0, 300.0), QPointF(121.0, 100.0))
    assert study.picture(Board.REFERENCE).plumb_deg == pytest.approx(6.0, abs=0.3)
    assert "plumb now" in window.prompt_line.prompt.lead
    study.undo_stack.undo()
    assert study.picture(Board.REFERENCE).plumb_deg == 0.0
    bench.work.take_tool(board, "crop")
    marks = dict(study.picture(Board.REFERENCE).marks)
    drag(board, qtbot, QPointF(60.0, 40.0), QPointF(220.0, 360.0))
    crop = study.picture(Board.REFERENCE).crop
    assert crop[2] > 10.0
    assert dict(study.picture(Board.REFERENCE).marks) == marks
    assert board.viewport.frame is not None
    bench.work.take_tool(board, "level")
    qtbot.keyClick(board, Qt.Key.Key_Escape)
    assert board.tool is None


def test_looks_and_turns_change_what_is_seen_and_no_figure(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = house(window).bench
    before = bench.study.assessment
    plain = bench.drawing.grab().toImage()
    for key, look in ((Qt.Key.Key_Q, "squint"), (Qt.Key.Key_V, "two values"),
                      (Qt.Key.Key_V, "three values"), (Qt.Key.Key_E, "even light")):  # fmt: skip
        qtbot.keyClick(bench, key)
        settle(qtbot, window)
        assert bench.drawing.shown.look_name == look
        assert bench.drawing.grab().toImage() != plain
    qtbot.keyClick(bench, Qt.Key.Key_E)
    assert bench.drawing.shown.look_name == LOOKS[0]
    qtbot.keyClick(bench, Qt.Key.Key_U)
    assert {board.viewport.quarters for board in bench.boards} == {2}
    qtbot.keyClick(bench, Qt.Key.Key_U)
    qtbot.keyClick(bench, Qt.Key.Key_R)
    assert bench.active_board().viewport.quarters == 1
    assert bench.study.assessment is before


def test_a_held_mark_snaps_to_the_line_and_says_by_how_much(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench, study = house(window).bench, house(window).bench.study
    mark = study.picture(Board.DRAWING).marks["shoulder_r"]
    study.apply(pointing.select, "shoulder_r")
    bench.drawing.setFocus()
    qtbot.keyClick(bench, Qt.Key.Key_S)
    after = study.picture(Board.DRAWING).marks["shoulder_r"]
    assert window.prompt_line.prompt.lead.startswith("Snapped to the ")
    assert 0.0 < np.hypot(after.x - mark.x, after.y - mark.y) < 40.0
    # It is surer across the line now, until a hand moves it again.
    (cov,), (old,) = mark_covariance([after]), mark_covariance([mark])
    assert np.linalg.eigvalsh(cov) == pytest.approx([1.0 / 12.0, old[0, 0]])
    kept = house(window).library.stored(study.id).study.states[-1].picture.marks["shoulder_r"]
    assert kept == after
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Left)
    moved = study.picture(Board.DRAWING).marks["shoulder_r"]
    assert moved.x < after.x
    np.testing.assert_array_equal(mark_covariance([moved])[0], moved.spread**2 * np.eye(2))
    study.undo_stack.undo()
    assert study.picture(Board.DRAWING).marks["shoulder_r"] == after
    study.undo_stack.undo()
    assert study.picture(Board.DRAWING).marks["shoulder_r"] == mark


def test_blind_passes_measure_the_learners_own_spread(window: MainWindow, qtbot: QtBot) -> None:
    study, board = house(window).bench.study, house(window).bench.reference
    marks = study.picture(Board.REFERENCE).marks
    shown = board.grab().toImage()
    study.edits.begin_repeats(Board.REFERENCE)
    assert board.grab().toImage() != shown  # no mark tells where it was
    rng = np.random.default_rng(5)
    placed = 0
    while study.session.repeating is not None:
        key = study.session.repeating.asked
        # The board comes near: the hand wanders by 3 px of the picture, wherever it lies.
        off = rng.normal(0.0, 3.0, 2)
        place = board.viewport.to_board(marks[key].x + off[0], marks[key].y + off[1])
        qtbot.mouseClick(board, LEFT, pos=place.toPoint())
        placed += 1
    assert placed >= 30
    spread = study.session.own_spread
    assert spread.spread == pytest.approx(3.0, rel=0.35)
    marks = study.picture(Board.REFERENCE).marks
    assert marks["chin"].spread == pytest.approx(spread.spread / 3**0.5)
    study.edits.begin_repeats(Board.DRAWING)
    study.apply(prompting.end_repeats)
    assert study.session.repeating is None
    # It is the learner's own from here on: for this view, after a restart too.
    kept = house(window).settings.hand("figure-front")
    assert set(kept) == {"bony", "end", "soft"}
    head = math.dist(*((m.x, m.y) for m in (marks["crown"], marks["chin"])))
    for own, degrees in kept.values():
        assert own * head == pytest.approx(3.0, rel=0.45)
        assert degrees >= 8
    assert board.spread(key="navel") == pytest.approx(kept["soft"][0] * head, rel=0.02)
    assert Settings(house(window).library.root).hand("figure-front") == kept


def test_a_watched_folder_and_the_clipboard_bring_pictures_in(
    window: MainWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    folder = tmp_path / "phone"
    folder.mkdir()
    photo_of_sheet(folder / "old.jpg", 0.0)
    arrivals = house(window).arrivals
    arrivals.set_drop_folder(folder)
    assert Settings(house(window).library.root).drop_folder == folder
    with qtbot.waitSignal(arrivals.watch.arrived, timeout=60_000) as told:
        photo_of_sheet(folder / "new.jpg", 10.0)
        (folder / "note.txt").write_text("no picture")
    assert told.args[0].name == "new.jpg"
    offered(window).reject()
    qtbot.waitUntil(lambda: not window.findChildren(Offer))
    arrivals.set_drop_folder(tmp_path / "nowhere")
    assert "cannot be watched" in window.prompt_line.prompt.lead

    clipboard = QGuiApplication.clipboard()
    clipboard.setText("words")
    arrivals.paste()
    assert window.prompt_line.prompt.lead == "There is no picture on the clipboard."
    clipboard.setImage(QImage(str(folder / "new.jpg")))
    arrivals.paste()
    assert offered(window).path.name == "Pasted picture.png"
    offered(window).reject()


def test_slips_and_studies_may_be_closed_while_they_are_opening(
    window: MainWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    """The finder and the decoder go on; nothing is told to what is gone."""
    house(window).bench.wants.sheet.emit(Board.DRAWING)
    house(window).arrivals.slip.leave.click()
    photo_of_sheet(tmp_path / "a.jpg", 0.0)
    house(window).begin_study([tmp_path / "a.jpg", tmp_path / "a.jpg"])
    window.findChild(NewStudy).reject()
    ids = [entry.id for entry in house(window).shelf_state.entries]
    for study_id in ids[:4]:
        house(window).open_study(study_id)
    settle(qtbot, window)
    assert house(window).bench.study.id == ids[3]
