"""Marks set on boards that take the window: nothing in the hand's way, nothing moved under it."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Mark, Study
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.laid import gliding
from bralto.ui.boards.overlays.corner_map import draw_whereabouts, map_of
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import pointing, prompting
from bralto.ui.slips.name_slip import NameSlip
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.window import MainWindow

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier
Truth = dict[str, dict[str, Mark]]


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    opened = open_window(demo_copy)
    opened.resize(1280, 800)
    settle(qtbot, opened)
    return opened


@pytest.fixture
def truth(window: MainWindow, qtbot: QtBot) -> Truth:
    """A figure from the front on the bench, its marks taken away, and where they were."""
    entries = house(window).shelf_state.entries
    entry = next(one for one in entries if one.title.startswith("Waiting for the tide"))
    house(window).open_study(entry.id)
    study = house(window).bench.study
    found = {board: dict(study.picture(board).marks) for board in BOARDS}
    for board, marks in found.items():
        study.edits.set_marks(board, dict.fromkeys(marks))
    house(window).open_study(entry.id)  # begun anew: the prompt leads
    settle(qtbot, window)
    return found


@pytest.fixture
def bench(window: MainWindow, truth: Truth) -> Bench:
    assert truth
    return house(window).bench


@pytest.fixture(params=[True, False], ids=["gliding", "at once"])
def moving(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> bool:
    """Whether the desktop lets things move."""
    monkeypatch.setattr(gliding, "moves_freely", lambda: request.param)
    return bool(request.param)


def asked(bench: Bench, truth: Truth) -> tuple[PictureBoard, str]:
    step = bench.study.step
    keys = truth[step.board]
    return bench.active_board(), next(key for key in step.keys if key in keys)


def where(bench: Bench, truth: Truth) -> QPoint:
    board, key = asked(bench, truth)
    mark = truth[board.board][key]
    return board.viewport.to_board(mark.x, mark.y).toPoint()


def click(
    bench: Bench, qtbot: QtBot, truth: Truth, held: Qt.KeyboardModifier = NONE
) -> tuple[str, str]:
    """Set the mark that is asked for where it is, once the board has come to rest."""
    qtbot.waitUntil(lambda: not bench.gliding.under_way)
    board, key = asked(bench, truth)
    QTest.mouseMove(board, where(bench, truth) + QPoint(2, 2))  # the loupe comes with the pointer
    QTest.mouseMove(board, where(bench, truth))
    QTest.mouseClick(board, LEFT, held, where(bench, truth))
    return board.board, key


def set_some(bench: Bench, qtbot: QtBot, truth: Truth, upto: str) -> None:
    """Set marks until one is asked for on the reference."""
    while (bench.study.step.board, bench.study.step.key) != (Board.REFERENCE, upto):
        click(bench, qtbot, truth)
    qtbot.waitUntil(lambda: not bench.gliding.under_way)


def test_the_boards_take_the_window_while_the_short_set_is_marked(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    area = sum(board.width() * board.height() for board in bench.boards)
    assert area >= 2 / 3 * window.width() * window.height()
    assert not bench.ladder.isVisible()
    assert not bench.off.isVisible()
    assert [edge.isVisible() for edge in bench.titles.edges] == [True, True]
    assert bench.titles.edges[0].accessibleName() == "Heights: bring it back"
    while bench.study.step is not None and bench.study.step.short:
        click(bench, qtbot, truth)
    qtbot.keyClick(bench.column.judging, Qt.Key.Key_Escape)
    settle(qtbot, window)
    assert bench.off.isVisible()
    assert bench.column.whole.isVisible()
    assert not any(edge.isVisible() for edge in bench.titles.edges)
    crowns = [board.at("crown").y() for board in bench.boards]
    assert crowns[0] == pytest.approx(crowns[1], abs=0.5)  # fitted anew, level with the ladder


def test_one_key_or_the_edge_brings_ladder_and_list_back(bench: Bench, qtbot: QtBot) -> None:
    qtbot.keyClick(bench.reference, Qt.Key.Key_F3)
    assert bench.ladder.isVisible()
    assert bench.study.step.short  # and marks are asked for still
    qtbot.keyClick(bench.reference, Qt.Key.Key_F3)
    assert not bench.ladder.isVisible()
    QTest.mouseClick(bench.titles.edges[1], LEFT)
    assert bench.off.isVisible()


@pytest.mark.usefixtures("moving")
def test_nothing_moves_between_two_clicks_but_the_board_that_is_asked_about(
    bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    passes = set()
    while bench.study.step is not None and bench.study.step.short:
        qtbot.waitUntil(lambda: not bench.gliding.under_way)
        before = [board.viewport for board in bench.boards]
        passes.add(bench.study.current_pass)
        click(bench, qtbot, truth)
        step = bench.study.step
        if step is None or not step.short:
            break
        qtbot.waitUntil(lambda: not bench.gliding.under_way)
        for board, was in zip(bench.boards, before, strict=True):
            if board.board != step.board:
                assert board.viewport == was  # also where the pass has changed meanwhile
    assert len(passes) >= 3


@pytest.mark.usefixtures("moving")
def test_the_next_place_comes_so_near_that_a_tolerance_is_eight_px(
    bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "navel")
    board = bench.reference
    there, middle = where(bench, truth), board.rect().center()
    assert math.dist((there.x(), there.y()), (middle.x(), middle.y())) < 0.25 * board.height()
    head = math.dist(*((truth["reference"][key].x, truth["reference"][key].y)
                       for key in ("crown", "chin")))  # fmt: skip
    tolerance = bench.study.grade.head * head * board.viewport.zoom
    assert tolerance == pytest.approx(gliding.TOLERANCE_PX, rel=0.15)


def test_a_glide_takes_180_ms_and_a_hand_stops_it(
    bench: Bench, truth: Truth, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(gliding, "moves_freely", lambda: True)
    assert gliding.MS == 180
    set_some(bench, qtbot, truth, "pit_of_neck")
    start = bench.drawing.viewport
    click(bench, qtbot, truth)
    assert bench.gliding.under_way
    assert bench.study.step.board == Board.DRAWING
    qtbot.waitUntil(lambda: bench.drawing.viewport.zoom > 1.02 * start.zoom or
                    not bench.gliding.under_way)  # fmt: skip
    QTest.mousePress(bench.drawing, LEFT, NONE, QPoint(40, 300))
    held = bench.drawing.viewport
    qtbot.wait(250)
    assert bench.drawing.viewport == held
    QTest.mouseMove(bench.drawing, QPoint(60, 300))
    QTest.mouseRelease(bench.drawing, LEFT, NONE, QPoint(60, 300))


def test_shift_holds_the_board_where_it_is(
    bench: Bench, truth: Truth, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    set_some(bench, qtbot, truth, "navel")
    before = [board.viewport for board in bench.boards]
    monkeypatch.setattr(gliding.QApplication, "keyboardModifiers", lambda: SHIFT)
    click(bench, qtbot, truth, SHIFT)
    assert bench.study.step.board == Board.DRAWING
    qtbot.wait(250)
    assert [board.viewport for board in bench.boards] == before


def ring_on(board: PictureBoard) -> bool:
    """Whether a place to look at is drawn on a board."""
    image = QImage(board.size(), QImage.Format.Format_ARGB32)
    image.fill(Qt.GlobalColor.white)
    bare = image.copy()
    painter = QPainter(image)
    draw_whereabouts(painter, board)
    painter.end()
    return image != bare


def test_a_drawing_shows_no_place_and_its_middle_tells_nothing(
    bench: Bench, truth: Truth, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(gliding, "moves_freely", lambda: False)
    set_some(bench, qtbot, truth, "navel")
    study = bench.study
    assert study.now.whereabouts
    assert ring_on(bench.reference)
    study.apply(prompting.skip)
    study.apply(prompting.ask, Board.DRAWING, "navel")
    off = []
    while study.step is not None and study.step.short:
        qtbot.waitUntil(lambda: not bench.gliding.under_way)
        board, key = asked(bench, truth)
        if board.board == Board.DRAWING and study.now.whereabouts.get(key):
            found = study.now.whereabouts[key]
            at = board.viewport.to_board(found.x, found.y) - QPointF(board.rect().center())
            off.append((at.x(), at.y()))
            assert not ring_on(board)
        click(bench, qtbot, truth)
    assert len({(round(x), round(y)) for x, y in off}) > 5
    assert max(max(abs(x), abs(y)) for x, y in off) > 10


def test_the_whole_stays_in_sight_in_a_corner(bench: Bench, truth: Truth, qtbot: QtBot) -> None:
    board = bench.reference
    assert map_of(board) is None  # the board shows the whole
    set_some(bench, qtbot, truth, "navel")
    place, whole = map_of(board)
    for mark in truth["reference"].values():
        assert place.contains(whole.to_board(mark.x, mark.y))
    image, sky = board.grab().toImage(), place.center().toPoint()
    assert image.pixelColor(sky) != image.pixelColor(sky - QPoint(0, 140))
    # A click on the map looks there, and sets nothing.
    step, middle = bench.study.step, board.viewport.to_image(QPointF(board.rect().center()))
    head = whole.to_board(truth["reference"]["crown"].x, truth["reference"]["crown"].y)
    QTest.mouseClick(board, LEFT, NONE, head.toPoint())
    assert bench.study.step == step
    now = board.viewport.to_image(QPointF(board.rect().center()))
    assert now.y() < middle.y()
    assert now.y() == pytest.approx(truth["reference"]["crown"].y, abs=20)


def test_a_click_near_another_mark_sets_the_one_that_is_asked_for(
    bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "pit_of_neck")
    board = bench.reference
    chin = board.at("chin")
    QTest.mouseClick(board, LEFT, NONE, (chin + QPointF(0.0, 8.0)).toPoint())
    marks = bench.study.picture(Board.REFERENCE).marks
    assert "pit_of_neck" in marks
    assert board.at("chin") == chin
    assert bench.study.session.selected is None


def test_an_old_mark_is_moved_by_dragging_while_another_is_asked_for(
    bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "pit_of_neck")
    board = bench.reference
    chin = board.at("chin").toPoint()
    QTest.mousePress(board, LEFT, NONE, chin)
    for by in (5, 10, 20):
        QTest.mouseMove(board, chin + QPoint(by, 0))
    QTest.mouseRelease(board, LEFT, NONE, chin + QPoint(20, 0))
    assert board.at("chin").x() == pytest.approx(chin.x() + 20, abs=1.0)
    assert bench.study.step.key == "pit_of_neck"


def test_marks_in_one_spot_are_asked_about_in_the_prompt_line(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "pit_of_neck")
    board = bench.reference
    chin = board.at("chin").toPoint() + QPoint(1, 0)
    held = board.viewport
    QTest.mouseClick(board, LEFT, NONE, chin)
    prompt = window.prompt_line.prompt
    assert prompt.lead == "The chin is in that spot already:"
    assert prompt.keys[0] == ("Enter", "take it back")
    assert board.viewport == held  # what is asked about stays in sight
    qtbot.keyClick(board, Qt.Key.Key_Return)
    assert "pit_of_neck" not in bench.study.picture(Board.REFERENCE).marks
    assert bench.study.step.key == "pit_of_neck"
    assert window.prompt_line.prompt.lead == "Mark the pit of neck on the reference:"
    # Meant so: the prompt goes on.
    QTest.mouseClick(board, LEFT, NONE, chin)
    qtbot.keyClick(board, Qt.Key.Key_Escape)
    assert "pit_of_neck" in bench.study.picture(Board.REFERENCE).marks
    assert (bench.study.step.board, bench.study.step.key) == (Board.DRAWING, "pit_of_neck")


def test_the_wrong_side_of_a_pair_is_exchanged_by_one_key_and_undone_by_one(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "shoulder_r")
    board, study = bench.reference, bench.study
    other = truth["reference"]["shoulder_l"]
    QTest.mouseClick(board, LEFT, NONE, board.viewport.to_board(other.x, other.y).toPoint())
    assert window.prompt_line.prompt.lead == "That looks like the L shoulder:"
    # Whoever clicks again sets the same mark anew.
    assert study.step.key == "shoulder_r"
    qtbot.keyClick(board, Qt.Key.Key_Return)
    marks = study.picture(Board.REFERENCE).marks
    assert "shoulder_r" not in marks
    assert (marks["shoulder_l"].x, marks["shoulder_l"].y) == pytest.approx(
        (other.x, other.y), abs=2
    )
    window.undo()
    marks = study.picture(Board.REFERENCE).marks
    assert "shoulder_l" not in marks
    assert "shoulder_r" in marks
    assert window.prompt_line.prompt.lead.startswith(("That looks", "Mark the"))


def test_whoever_goes_on_on_the_other_board_has_answered(
    bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "pit_of_neck")
    board = bench.reference
    QTest.mouseClick(board, LEFT, NONE, board.at("chin").toPoint() + QPoint(1, 0))
    assert bench.study.now.question is not None
    mark = truth["drawing"]["pit_of_neck"]
    there = bench.drawing.viewport.to_board(mark.x, mark.y)
    QTest.mouseClick(bench.drawing, LEFT, NONE, there.toPoint())
    assert "pit_of_neck" in bench.study.picture(Board.DRAWING).marks
    assert bench.study.now.question is None


def test_under_the_loupe_a_mark_is_worth_more_and_hidden_three_times_less(
    bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    board = bench.reference
    QTest.mouseMove(board, where(bench, truth))
    QTest.mouseMove(board, where(bench, truth) + QPoint(1, 0))
    seen = board.spread()
    qtbot.keyClick(board, Qt.Key.Key_Z)
    assert board.spread() > 1.2 * seen
    qtbot.keyClick(board, Qt.Key.Key_Z)
    click(bench, qtbot, truth)
    marks = bench.study.picture(Board.REFERENCE).marks
    assert marks["crown"].spread == pytest.approx(seen)
    # It is asked for once more, from near; hidden, it stays hidden.
    assert bench.study.session.selected == "crown"
    qtbot.keyClick(board, Qt.Key.Key_H)
    qtbot.waitUntil(lambda: not bench.gliding.under_way)
    seen = board.spread()
    click(bench, qtbot, truth)
    mark = bench.study.picture(Board.REFERENCE).marks["crown"]
    assert mark.visibility == "inferred"
    assert mark.spread == pytest.approx(3.0 * seen, rel=0.01)
    bench.study.apply(prompting.ask, Board.REFERENCE, "crown")
    click(bench, qtbot, truth)
    assert bench.study.picture(Board.REFERENCE).marks["crown"].visibility == "inferred"


def test_what_is_set_on_a_whole_figure_is_asked_for_once_more_from_near(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    board, study = bench.reference, bench.study
    whole = board.viewport.zoom
    click(bench, qtbot, truth)
    first = study.picture(Board.REFERENCE).marks["crown"]
    assert (study.step.board, study.step.key) == (Board.REFERENCE, "crown")
    assert window.prompt_line.prompt.lead == "From near: is the crown of the reference there?"
    qtbot.waitUntil(lambda: not bench.gliding.under_way)
    assert board.viewport.zoom > 1.5 * whole
    # The arrows nudge it, Enter leaves it: it was seen from near.
    qtbot.keyClick(board, Qt.Key.Key_Right)
    qtbot.keyClick(board, Qt.Key.Key_Return)
    second = study.picture(Board.REFERENCE).marks["crown"]
    assert second.x == pytest.approx(first.x + 0.5 / board.viewport.zoom)
    assert second.spread < 0.75 * first.spread
    assert study.step.board == Board.DRAWING
    # With Shift it is set as it is, and nothing is asked again; nor where little depends on it.
    study.head.set_grade("learning")
    click(bench, qtbot, truth)
    assert (study.step.board, study.step.key) == (Board.REFERENCE, "heel_r")
    qtbot.waitUntil(lambda: not bench.gliding.under_way)
    assert board.viewport.zoom == pytest.approx(whole, rel=0.01)  # nothing tells where: the whole


def test_the_prompt_says_what_the_marks_can_tell(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "crotch")
    how = window.prompt_line.prompt.how
    assert "told from 0.0" in how
    assert how.endswith(" head on")
    limit = float(how.split("told from ")[1].split(" ")[0])
    assert 0.005 <= limit <= 0.04


def test_the_short_set_by_keys_alone(bench: Bench, truth: Truth, qtbot: QtBot) -> None:
    study = bench.study
    count = 0
    while study.step is not None and study.step.short:
        qtbot.waitUntil(lambda: not bench.gliding.under_way)
        board, key = asked(bench, truth)
        qtbot.keyClick(board, Qt.Key.Key_Return)
        assert board.candidate is not None
        assert key not in study.picture(board.board).marks  # looked at first, never set by itself
        goal = truth[board.board][key]
        for _ in range(2):
            there = board.viewport.to_board(goal.x, goal.y)
            now = board.viewport.to_board(board.candidate.x(), board.candidate.y())
            for way, keys in (
                (there.x() - now.x(), (Qt.Key.Key_Left, Qt.Key.Key_Right)),
                (there.y() - now.y(), (Qt.Key.Key_Up, Qt.Key.Key_Down)),
            ):
                for size, held in ((5.0, SHIFT), (0.5, NONE)):
                    steps = int(abs(way) / size)
                    for _ in range(steps):
                        qtbot.keyClick(board, keys[int(way > 0)], held)
                    way -= math.copysign(steps * size, way)
        qtbot.keyClick(board, Qt.Key.Key_Return)
        mark = study.picture(board.board).marks[key]
        assert math.dist((mark.x, mark.y), (goal.x, goal.y)) * board.viewport.zoom < 1.5
        count += 1
    assert count == 2 * len(study.view.short)
    qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_3)  # how close it is
    qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    assert study.notes.log["before"] == "3"
    assert bench.off.isVisible()


def test_verdicts_that_hang_on_a_mark_lead_back_to_it(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    while bench.study.step is not None and bench.study.step.short:
        click(bench, qtbot, truth)
    qtbot.keyClick(bench.column.judging, Qt.Key.Key_Escape)
    study = bench.study
    chin = study.picture(Board.DRAWING).marks["chin"]
    study.edits.move(Board.DRAWING, "chin", chin.x, chin.y, 12.0)
    study.advice.search_now()
    while study.step is not None:
        study.apply(prompting.skip)
    assert "verdicts hang on the chin of the drawing" in window.prompt_line.prompt.how
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Backspace)
    assert (study.step.board, study.step.key) == (Board.DRAWING, "chin")
    assert not bench.ladder.isVisible()  # near, to set it well
    click(bench, qtbot, truth)
    assert study.picture(Board.DRAWING).marks["chin"].spread < 3.0
    assert bench.off.isVisible()


def test_an_undrawn_study_gives_its_reference_the_whole_window(
    window: MainWindow, qtbot: QtBot
) -> None:
    home = house(window)
    old = home.library.stored(home.shelf_state.entries[0].id)
    reference = replace(old.study.reference, marks={})
    study = Study("Alone", "figure-front", reference, ())
    home.open_study(home.library.add(study, {"": old.media[""]}, old.made))
    settle(qtbot, window)
    bench = home.bench
    assert not bench.drawing.isVisible()
    assert bench.reference.width() > 0.85 * window.width()


def test_a_point_of_ones_own_is_set_on_both_boards_in_two_gestures(
    window: MainWindow, qtbot: QtBot
) -> None:
    home = house(window)
    home.open_study(home.shelf_state.entries[0].id)
    settle(qtbot, window)
    bench, study = home.bench, home.bench.study
    held = Qt.KeyboardModifier.ControlModifier
    count = study.undo_stack.count()
    QTest.mouseClick(bench.reference, LEFT, held, QPoint(60, 120))
    (anchor,) = study.study.anchors
    assert anchor.label == "point A"
    assert window.prompt_line.prompt.lead == "Mark point A on the drawing, too:"
    QTest.mouseClick(bench.drawing, LEFT, NONE, QPoint(70, 150))
    reading = study.assessment.reading(f"height.{anchor.key}")
    assert reading is not None  # it is measured like any landmark
    assert reading.error is not None
    # Named afterwards, kept, and undone step by step.
    study.apply(pointing.select, anchor.key)
    bench.drawing.setFocus()
    qtbot.keyClick(bench.drawing, Qt.Key.Key_P, held)
    slip = window.findChild(NameSlip)
    slip.name.setText("end of the staff")
    slip.keep.click()
    assert study.view.point_label(anchor.key) == "end of the staff"
    assert home.library.stored(study.id).study.anchors[0].label == "end of the staff"
    assert study.undo_stack.count() == count + 3
    for _ in range(3):
        window.undo()
    assert study.study.anchors == ()
    assert anchor.key not in study.picture(Board.REFERENCE).marks
    assert study.view.landmark(anchor.key) is None
    for _ in range(3):
        window.redo()
    assert study.view.point_label(anchor.key) == "end of the staff"
    assert anchor.key in study.picture(Board.DRAWING).marks
    # Forgotten, it is gone from both.
    study.apply(pointing.select, anchor.key)
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Delete)
    assert study.study.anchors == ()
    assert anchor.key not in study.picture(Board.DRAWING).marks


def test_two_trusted_marks_are_chosen_by_clicking_them(window: MainWindow, qtbot: QtBot) -> None:
    home = house(window)
    home.open_study(home.shelf_state.entries[0].id)
    settle(qtbot, window)
    bench, study = home.bench, home.bench.study
    study.apply(pointing.begin_trust)
    assert window.prompt_line.prompt.lead == "Click a mark that you trust:"
    before = dict(study.picture(Board.REFERENCE).marks)
    QTest.mouseClick(bench.reference, LEFT, NONE, bench.reference.at("pit_of_neck").toPoint())
    assert window.prompt_line.prompt.lead == "The pit of neck, and a second one:"
    QTest.mouseClick(bench.drawing, LEFT, NONE, QPoint(5, 5))  # beside every mark: nothing
    QTest.mouseClick(bench.drawing, LEFT, NONE, bench.drawing.at("crotch").toPoint())
    assert study.study.scale.school == "anchors"
    assert set(study.study.scale.marks) == {"pit_of_neck", "crotch"}
    assert study.session.trusted is None
    assert study.picture(Board.REFERENCE).marks == before
    spans = [
        math.dist(*((board.at(key).x(), board.at(key).y()) for key in ("pit_of_neck", "crotch")))
        for board in bench.boards
    ]
    assert spans[0] == pytest.approx(spans[1], rel=1e-6)  # and so they lie on the boards
    study.apply(pointing.begin_trust)
    bench.reference.setFocus()
    qtbot.keyClick(bench.reference, Qt.Key.Key_Escape)
    assert study.session.trusted is None


def test_a_mark_that_is_not_in_the_picture_is_said_by_one_key(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    study = bench.study
    while study.step.key not in {"heel_r", "heel_l"}:
        click(bench, qtbot, truth)
    assert ("Del", "not in it") in window.prompt_line.prompt.keys
    qtbot.keyClick(bench.reference, Qt.Key.Key_Delete)
    for board in BOARDS:
        marks = study.picture(board).marks
        assert marks["heel_r"].visibility == marks["heel_l"].visibility == "absent"
    assert window.prompt_line.prompt.lead == "The R heel is not in the picture."
    window.undo()  # one step, on both boards
    assert not any("heel_r" in study.picture(board).marks for board in BOARDS)
    qtbot.keyClick(bench.reference, Qt.Key.Key_Delete)
    assert study.step.key == "chin"
    while study.step is not None and study.step.short:
        if study.step.key in {"knee_r", "knee_l"}:
            qtbot.keyClick(bench.active_board(), Qt.Key.Key_Delete)
        else:
            click(bench, qtbot, truth)
    assert not isinstance(study.assessment.short_miss, NotMeasurable)
    study.time.keep()
    window.go("Shelf")
    settle(qtbot, window)
    entry = next(one for one in house(window).shelf_state.entries if one.id == study.id)
    qtbot.waitUntil(lambda: "cropped" in entry_of(window, entry.id).row.document)


def entry_of(window: MainWindow, study_id: str) -> object:
    return next(one for one in house(window).shelf_state.entries if one.id == study_id)


def test_of_two_of_which_either_would_do_the_other_side_is_one_key(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    study = bench.study
    while study.step.key not in {"heel_r", "heel_l"}:
        click(bench, qtbot, truth)
    click(bench, qtbot, truth)
    first = study.session.selected
    assert ("O", "it is the other side's") in window.prompt_line.prompt.keys
    mark = study.picture(Board.REFERENCE).marks[first]
    qtbot.keyClick(bench.reference, Qt.Key.Key_O)
    other = "heel_l" if first == "heel_r" else "heel_r"
    marks = study.picture(Board.REFERENCE).marks
    assert first not in marks
    assert (marks[other].x, marks[other].y) == (mark.x, mark.y)
    assert study.session.selected == other
    window.undo()
    assert first in study.picture(Board.REFERENCE).marks


def test_a_question_is_over_once_something_else_is_asked_for(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot
) -> None:
    set_some(bench, qtbot, truth, "pit_of_neck")
    board = bench.reference
    QTest.mouseClick(board, LEFT, NONE, board.at("chin").toPoint() + QPoint(1, 0))
    assert window.prompt_line.prompt.lead == "The chin is in that spot already:"
    qtbot.keyClick(board, Qt.Key.Key_N)
    assert bench.study.now.question is None
    assert window.prompt_line.prompt.lead.startswith("Mark the ")
    qtbot.keyClick(board, Qt.Key.Key_Return)  # no remedy of what was asked before
    assert "pit_of_neck" in bench.study.picture(Board.REFERENCE).marks


def test_whoever_came_near_by_hand_stays_there_while_nothing_tells_where(
    bench: Bench, truth: Truth, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(gliding, "moves_freely", lambda: False)
    board = bench.reference
    board.zoom(3.0, QPointF(board.rect().center()))
    near = board.viewport.zoom
    click(bench, qtbot, truth)
    assert bench.study.step.board == Board.DRAWING  # set from near: it is not asked for once more
    click(bench, qtbot, truth)
    click(bench, qtbot, truth)
    assert (bench.study.step.board, bench.study.step.key) == (Board.REFERENCE, "heel_r")
    assert board.viewport.zoom == near
    qtbot.keyClick(board, Qt.Key.Key_0)
    assert board.viewport.zoom < near


def test_both_boards_fit_a_small_screen(window: MainWindow, bench: Bench, qtbot: QtBot) -> None:
    """1280x800 at 175 %."""
    window.resize(731, 457)
    qtbot.wait(20)
    for board in bench.boards:
        right = board.mapTo(window, board.rect().topRight()).x()
        assert right <= window.width()
        assert board.width() >= 200


def test_boards_are_there_at_once_where_the_learner_wants_it_so(
    window: MainWindow, bench: Bench, truth: Truth, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(gliding, "moves_freely", lambda: True)
    slip = SettingsSlip(house(window).settings, house(window).faults.reports, window)
    slip.glides.click()
    slip.close()
    set_some(bench, qtbot, truth, "chin")
    click(bench, qtbot, truth)
    assert not bench.gliding.under_way
    board, key = asked(bench, truth)
    assert (board.board, key) == (Board.DRAWING, "chin")
    assert board.viewport.zoom > 1.2 * board.viewport.fitted(board.size().toSizeF()).zoom


def test_where_the_prompt_asks_for_no_mark_none_is_absent_and_no_board_comes_near(
    window: MainWindow, qtbot: QtBot
) -> None:
    home = house(window)
    home.open_study(home.shelf_state.entries[0].id)
    settle(qtbot, window)
    bench, study = home.bench, home.bench.study
    study.edits.remove(Board.REFERENCE, "navel")
    study.apply(prompting.enter_pass, "verdict")
    looks = [board.viewport for board in bench.boards]
    study.apply(prompting.ask, Board.REFERENCE, "navel")  # by a slip, say
    assert study.now.whereabouts
    qtbot.wait(250)
    assert [board.viewport for board in bench.boards] == looks
    qtbot.keyClick(bench.reference, Qt.Key.Key_Delete)
    assert "navel" not in study.picture(Board.REFERENCE).marks
