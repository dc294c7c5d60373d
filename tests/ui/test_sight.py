"""The pass in which a figure is sighted from life."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, QRect, Qt
from PyQt6.QtGui import QColor, QImage, QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QMenu, QPushButton, QWidget
from pytestqt.qtbot import QtBot
from tests.core.sightings.sitters import (
    by_chance,
    by_the_tool,
    picture,
    places,
    points_of,
    posed,
    sighted,
)
from tests.ui.conftest import Opener, house, settle

from bralto.core.measures.points import picture_points
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.next_question import Next, own_question
from bralto.core.sightings.next_sighting import candidates
from bralto.core.sightings.sighting_words import asked
from bralto.core.study.anchored import placed
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.study.two_boards import Board
from bralto.core.study.values import State, Study
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.imaging.load import clean_picture
from bralto.store.instants import now_utc
from bralto.store.intake import add_state, add_study
from bralto.store.library import Library
from bralto.store.summaries import digest_document, read_digest
from bralto.ui.bench.bench import Bench
from bralto.ui.plan.plan_slip import plan_rows
from bralto.ui.session import answering, prompting
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.sight import doubted_soon, sight_room
from bralto.ui.sight.distance_slip import DistanceSlip
from bralto.ui.sight.other_questions import OtherQuestions
from bralto.ui.sight.own_sighting import OwnSighting
from bralto.ui.sight.painted import laid_out
from bralto.ui.sight.sight_prompt import sight_prompt
from bralto.ui.sight.sight_room import SightRoom
from bralto.ui.sight.true_size import CardSlip
from bralto.ui.widgets.heading import Heading
from bralto.ui.window import MainWindow

KEY = Qt.Key
FRONT = view_named("figure-front")


def begin(folder: Path, items: tuple[Sighting, ...] = (), view: str = "figure-front") -> str:
    with Library.open(folder) as library:
        study = Study("Rope coiler", view, None, sightings=Sightings(items))
        return add_study(library, study, None, None, now_utc())


def opened(open_window: Opener, folder: Path, study_id: str, qtbot: QtBot) -> MainWindow:
    window = open_window(folder)
    window.resize(1280, 800)
    house(window).open_study(study_id)
    settle(qtbot, window)
    return window


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    return tmp_path / "library"


@pytest.fixture
def window(open_window: Opener, folder: Path, qtbot: QtBot) -> MainWindow:
    return opened(open_window, folder, begin(folder), qtbot)


@pytest.fixture
def bench(window: MainWindow) -> Iterator[Bench]:
    found = house(window).bench
    assert found is not None
    return found


@pytest.fixture
def room(bench: Bench) -> SightRoom:
    assert bench.room is not None
    return bench.room


def now_asked(bench: Bench) -> Sighting:
    return bench.study.now.questions[0].sighting


def ask_for(bench: Bench, wanted: Callable[[Sighting], bool]) -> Sighting:
    """Put off what is asked until it is one that is wanted."""
    for _ in range(60):
        one = now_asked(bench)
        if wanted(one):
            return one
        bench.study.apply(answering.put_off, one.asks)
    raise AssertionError("nothing of that kind is ever asked")


def of_sort(sort: Sort) -> Callable[[Sighting], bool]:
    return lambda one: one.sort is sort


def read_in_mm(one: Sighting) -> bool:
    return one.in_mm


def click(widget: QWidget, at: QPointF) -> None:
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=at.toPoint())


def kept(bench: Bench) -> tuple[Sighting, ...]:
    return bench.study.sighted.kept.items


def test_it_begins_with_the_first_question_and_nothing_to_see(
    window: MainWindow, bench: Bench, room: SightRoom
) -> None:
    assert bench.study.current_pass == "sight"
    assert room.isVisible()
    assert not any(board.isVisible() for board in bench.boards)
    assert not bench.ladder.isVisible()
    assert [one.key for one in bench.segments()][:2] == ["sight", "sheet"]
    assert "arm stiff" in window.prompt_line.prompt.lead
    assert room.board.hasFocus()
    assert room.board.answer is None
    assert not room.slip.take.isEnabled()
    assert bench.study.step is None  # no mark is asked for before there is a drawing


def test_a_length_by_digits_parts_and_arrows(bench: Bench, room: SightRoom, qtbot: QtBot) -> None:
    asked_for = ask_for(bench, of_sort(Sort.LENGTH))
    qtbot.keyClick(room.board, KEY.Key_3)
    qtbot.keyClick(room.board, KEY.Key_Slash)  # a quarter more, a third, a half
    qtbot.keyClick(room.board, KEY.Key_Slash)
    assert room.board.answer is not None
    assert room.board.answer.value == pytest.approx(3 + 1 / 3)
    qtbot.keyClick(room.board, KEY.Key_Left)
    assert room.board.answer.value == pytest.approx(3 + 1 / 3 - 0.1)
    qtbot.keyClick(room.board, KEY.Key_Return)
    assert [one.asks for one in kept(bench)] == [asked_for.asks]
    assert kept(bench)[0].value == pytest.approx(3 + 1 / 3 - 0.1)
    assert kept(bench)[0].u == pytest.approx(0.03 * kept(bench)[0].value)
    assert now_asked(bench).asks != asked_for.asks
    assert room.board.answer is None


def test_the_stick_turns_by_hand_and_keys(bench: Bench, room: SightRoom, qtbot: QtBot) -> None:
    one = ask_for(bench, of_sort(Sort.TILT))
    across = one.points[0].endswith("_r") and one.points[1].endswith("_l")
    begins = 0.0 if across else -90.0
    qtbot.keyClick(room.board, KEY.Key_Left)  # to the left is counter-clockwise
    assert room.board.answer is not None
    assert room.board.answer.value == pytest.approx(begins + 1.0)
    qtbot.keyClick(room.board, KEY.Key_Down)
    assert room.board.answer.value == pytest.approx(begins - 14.0)
    middle = QPointF(room.board.rect().center())
    end = QPointF(60.0, -35.0) if across else QPointF(35.0, 60.0)
    click(room.board, middle + end)
    expected = float(np.degrees(np.arctan2(-end.y(), end.x())))
    assert room.board.answer.value == pytest.approx(expected, abs=2.0)
    click(room.board, middle - end)  # the other end of the same stick
    assert room.board.answer.value == pytest.approx(expected, abs=2.0)


def test_beside_the_plumb_line_by_a_tap(bench: Bench, room: SightRoom, qtbot: QtBot) -> None:
    ask_for(bench, of_sort(Sort.PLUMB))
    right = QPointF(room.board.rect().center()) + QPointF(60.0, -5.0)
    click(room.board, right)
    assert room.board.answer is not None
    assert 0.1 < room.board.answer.value < 3.0
    qtbot.mouseClick(room.slip.take, Qt.MouseButton.LeftButton)
    assert kept(bench)[0].sort is Sort.PLUMB


def test_what_is_typed_is_read_and_what_is_none_is_said(
    window: MainWindow, bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    ask_for(bench, of_sort(Sort.LENGTH))
    room.slip.typed.setText("a lot")
    qtbot.keyClick(room.slip.typed, KEY.Key_Return)
    assert window.prompt_line.prompt.trouble
    assert "2 1/3" in window.prompt_line.prompt.lead
    assert not kept(bench)
    room.slip.typed.setText("2 1/3")
    qtbot.keyClick(room.slip.typed, KEY.Key_Return)
    assert kept(bench)[0].value == pytest.approx(7 / 3)
    assert kept(bench)[0].said == "2 1/3"
    assert not window.prompt_line.prompt.trouble


def test_another_is_asked_by_n_and_one_of_the_three_by_a_click(
    bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    first = now_asked(bench).asks
    offered = bench.study.now.questions[2].sighting.asks
    qtbot.mouseClick(room.others.buttons[1], Qt.MouseButton.LeftButton)
    assert now_asked(bench).asks == offered
    qtbot.keyClick(room.board, KEY.Key_N)
    assert now_asked(bench).asks == first
    qtbot.keyClick(room.board, KEY.Key_N)
    assert now_asked(bench).asks not in {first, offered}


@pytest.mark.parametrize("view", ["figure-back", "head-front"])
def test_what_else_may_be_sighted_is_told_in_full(
    open_window: Opener, folder: Path, qtbot: QtBot, view: str
) -> None:
    """*R hip side to L hip si...* said nothing of what it was to be held against."""
    items = sighted(view, places(view), "span.figure") if view == "figure-back" else ()
    window = opened(open_window, folder, begin(folder, items, view), qtbot)
    others = house(window).bench.findChild(OtherQuestions)
    words = [" ".join(button.text().split("\n")) for button in others.buttons]
    assert any(one.endswith("?") for one in words)  # one of them is answered by yes or no
    for button, said in zip(others.buttons, words, strict=True):
        assert button.toolTip() in said
        assert button.height() >= button.sizeHint().height()


def test_sighting_twice_is_blind(bench: Bench, room: SightRoom, qtbot: QtBot) -> None:
    one = ask_for(bench, of_sort(Sort.LENGTH))
    qtbot.keyClick(room.board, KEY.Key_2)
    qtbot.keyClick(room.board, KEY.Key_Return)
    qtbot.keyClick(room.board, KEY.Key_R)
    assert now_asked(bench).asks == one.asks
    assert room.board.answer is None  # what was said before is not on the staff
    qtbot.keyClick(room.board, KEY.Key_3)
    qtbot.keyClick(room.board, KEY.Key_Return)
    assert [(s.asks, s.value) for s in kept(bench)] == [(one.asks, 2.0), (one.asks, 3.0)]


def test_each_answer_is_one_step_of_undo_and_is_kept(
    open_window: Opener, folder: Path, bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    told: list[object] = []
    bench.study.changed.connect(lambda *_: told.append(1))
    ask_for(bench, of_sort(Sort.LENGTH))
    told.clear()
    qtbot.keyClick(room.board, KEY.Key_2)
    qtbot.keyClick(room.board, KEY.Key_Return)
    assert len(told) == 1  # one gesture, one change
    qtbot.keyClick(room.board, KEY.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert kept(bench) == ()
    bench.study.undo_stack.redo()
    assert len(kept(bench)) == 1
    study_id = bench.study.id
    again = opened(open_window, folder, study_id, qtbot)
    found = house(again).bench
    assert found is not None
    assert [one.value for one in kept(found)] == [2.0]
    assert found.study.current_pass == "sight"


def test_one_is_taken_away_in_the_list(bench: Bench, room: SightRoom, qtbot: QtBot) -> None:
    for digit in (KEY.Key_2, KEY.Key_1):
        ask_for(bench, of_sort(Sort.LENGTH))
        qtbot.keyClick(room.board, digit)
        qtbot.keyClick(room.board, KEY.Key_Return)
    room.listed.list.setFocus()
    qtbot.keyClick(room.listed.list, KEY.Key_Down)
    qtbot.keyClick(room.listed.list, KEY.Key_Delete)
    assert [one.value for one in kept(bench)] == [2.0]
    bench.study.undo_stack.undo()
    assert [one.value for one in kept(bench)] == [2.0, 1.0]


def one_miscounted() -> tuple[Sighting, ...]:
    """Lengths that tell of each other, the second a head too long."""
    names = ("span.figure", "height.crotch", "span.crotch_to_knee", "span.knee_to_sole",
             "height.navel", "span.torso")  # fmt: skip
    items = list(sighted("figure-front", places("figure-front"), *names))
    items[1] = replace(items[1], value=items[1].value + 1.0)
    return tuple(items)


def test_a_contradiction_is_said_and_r_asks_for_it(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    items = one_miscounted()
    window = opened(open_window, folder, begin(folder, items), qtbot)
    bench = house(window).bench
    assert bench is not None
    assert bench.room is not None
    room = bench.room
    assert "cannot be" in room.listed.words.words or "does not fit" in room.listed.words.words
    assert room.listed.words.height() > 0
    assert 1 in room.listed.suspects
    qtbot.keyClick(room.board, KEY.Key_R)
    assert now_asked(bench).asks == items[room.listed.suspects[0]].asks


def test_a_schools_order_is_said_and_asked_in(bench: Bench, room: SightRoom) -> None:
    bench.study.apply(answering.choose_order, "heads")
    assert now_asked(bench).measure == "span.figure"
    assert room.slip.question.accessibleName().startswith("How many heads")
    bench.study.apply(answering.choose_order, "tilts")
    assert now_asked(bench).measure == "tilt.shoulders"


def pixels(image: QImage, colour: QColor, near: int = 40) -> int:
    """How many px are about that colour."""
    image = image.convertToFormat(QImage.Format.Format_RGB888)
    bits = image.constBits()
    assert bits is not None
    found = np.frombuffer(bits.asarray(image.sizeInBytes()), np.uint8)
    rows = found.reshape(image.height(), image.bytesPerLine())[:, : 3 * image.width()]
    rgb = rows.reshape(image.height(), image.width(), 3).astype(int)
    wanted = np.array([colour.red(), colour.green(), colour.blue()])
    return int((np.abs(rgb - wanted).max(axis=2) < near).sum())


def test_the_figure_shows_what_was_sighted_and_hides_what_is_asked(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    """Nothing that is expected is shown before the answer: the figure grows with the sightings, and
    a mark that is asked about is not on it."""
    ink = QColor("#292724")
    names = ("span.figure", "height.crotch", "tilt.shoulders", "span.shoulders", "tilt.torso")
    items = sighted("figure-front", places("figure-front"), *names)
    window = opened(open_window, folder, begin(folder, items[:1]), qtbot)
    first = house(window).bench
    assert first is not None
    assert first.room is not None
    little = pixels(first.room.figure.grab().toImage(), ink)
    first.study.sighted.take(items[1])
    for one in items[2:]:
        first.study.sighted.take(one)
    first.study.apply(answering.ask_again, items[0].asks)  # nothing hangs from crown and sole
    shown = first.room.figure.grab().toImage()
    assert pixels(shown, ink) > little + 100
    first.study.apply(answering.ask_again, items[3].asks)  # the shoulders are asked about
    hidden = first.room.figure.grab().toImage()
    line = QRect(0, round(0.17 * shown.height()), shown.width(), round(0.05 * shown.height()))
    there = pixels(shown.copy(line), ink)
    assert there > 100
    assert pixels(hidden.copy(line), ink) < 0.5 * there  # the pit of the neck stays


def with_drawing(folder: Path, study_id: str, drawn: State, file: Path) -> None:
    with Library.open(folder) as library:
        stored = library.stored(study_id)
        assert stored is not None
        add_state(library, study_id, stored.version, drawn, clean_picture(file))


@pytest.fixture
def drawn(
    open_window: Opener, folder: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> MainWindow:
    """A study from life with a drawing that is marked."""
    seen = places("figure-front")
    names = ("span.figure", "height.crotch", "height.navel", "span.shoulders", "tilt.shoulders",
             "tilt.hips", "span.thigh_r", "span.thigh_l", "span.shank_r")  # fmt: skip
    study_id = begin(folder, sighted("figure-front", seen, *names))
    wide = dict(seen)
    for key in ("shoulder_r", "shoulder_l", "deltoid_r", "deltoid_l"):
        wide[key] = seen[key] + [-0.25 if key.endswith("_r") else 0.25, 0.0]
    with_drawing(folder, study_id, State("first", picture(wide, 1.5)), picture_files[1])
    return opened(open_window, folder, study_id, qtbot)


def test_the_next_question_does_not_wait_for_what_is_doubted(
    open_window: Opener, folder: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    items = one_miscounted()
    window = opened(open_window, folder, begin(folder, items), qtbot)
    room = house(window).bench.room
    assert room is not None
    said = room.listed.words.words
    assert said
    may_go_on, threads = threading.Event(), []
    really = doubted_soon.doubted

    def slow(*given: object) -> object:
        threads.append(threading.current_thread())
        assert may_go_on.wait(30.0)
        return really(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(doubted_soon, "doubted", slow)
    study = house(window).bench.study
    before = now_asked(house(window).bench)
    study.sighted.take(replace(before, u=0.1))
    assert now_asked(house(window).bench).asks != before.asks
    assert room.listed.list.model().rowCount() == 7
    assert room.listed.words.words == said  # what was doubted before stands meanwhile
    study.sighted.remove(1)
    assert room.listed.words.words == ""  # but for a sighting that is not there any more
    may_go_on.set()
    settle(qtbot, window)
    assert room.listed.words.words == ""
    assert threads
    assert threading.main_thread() not in threads


def test_a_drawing_is_held_against_the_sightings(
    drawn: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench = house(drawn).bench
    assert bench is not None
    assert bench.room is not None
    qtbot.waitUntil(lambda: not bench.study.busy)
    found = [(one.move, one.part) for one in bench.study.corrections]
    assert ("widen", "shoulders") in found
    bench.study.apply(prompting.enter_pass, "heights")
    assert not bench.room.isVisible()
    assert all(board.isVisible() for board in bench.boards)
    bench.study.apply(prompting.enter_pass, "sight")
    assert bench.room.isVisible()
    # Away from it nothing of it is worked out: marks are set there, one after the other.
    filled: list[int] = []
    bench.study.apply(prompting.enter_pass, "heights")
    told = sight_room.told_so_far

    def counted(*given: object) -> object:
        filled.append(1)
        return told(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(sight_room, "told_so_far", counted)
    mark = bench.study.picture(Board.DRAWING).marks["shoulder_r"]
    for step in (1.0, 2.0, 3.0):
        bench.study.edits.move(Board.DRAWING, "shoulder_r", mark.x + step, mark.y, mark.spread)
    assert not filled
    bench.study.apply(prompting.enter_pass, "sight")
    assert len(filled) == 1
    held = {one.sighting.measure: one.verdict for one in bench.study.examination.held}
    assert held["span.shoulders"] == "over"
    assert held["span.figure"] in {"within", "cannot tell"}
    # A mark that was only implied cannot be dragged, and none is asked for on it.
    assert bench.study.edits.refusal(Board.REFERENCE)
    # Once there is a drawing nothing sends back to the model who has gone.
    following = bench.study.now.worth_next()
    assert following is None or following.key != "sight"
    assert bench.study.now.whereabouts == {}


def test_the_sheet_is_planned_from_what_was_sighted_alone(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    seen = places("figure-front")
    items = sighted("figure-front", seen, "height.crotch", "span.shoulders")
    window = opened(open_window, folder, begin(folder, items), qtbot)
    bench = house(window).bench
    assert bench is not None
    bench.study.apply(prompting.enter_pass, "sheet")
    said = bench.column.right.paper()
    assert isinstance(said, str)
    assert "sole" in said
    (whole,) = sighted("figure-front", seen, "span.figure")
    bench.study.sighted.take(whole)
    paper = bench.column.right.paper()
    assert not isinstance(paper, str)
    stations = {one.key for one in paper.plan.stations}
    assert {"crown", "crotch", "sole"} <= stations
    assert "wrist_l" not in stations  # it was not sighted
    # The figures beside the paper are the paper's.
    rows = bench.column.plan.rows.rows
    assert not any("wrist" in one.label for one in rows)
    assert [one.label for one in rows] == [one.label for one in plan_rows(paper.plan)]
    assert paper.plan.unit == "head"
    assert paper.plan.tall == pytest.approx(paper.plan.scale * whole.value, rel=0.03)


@pytest.mark.parametrize(("wide", "tall"), [(731, 457), (1024, 700), (1920, 1200)])
def test_it_fits_small_and_large_screens(
    window: MainWindow, room: SightRoom, wide: int, tall: int
) -> None:
    window.resize(wide, tall)
    QApplication.processEvents()
    inside = room.rect()
    for part in (
        room.slip.question,
        room.board,
        room.slip.take,
        room.slip.typed,
        *room.others.buttons,
        room.listed,
    ):
        if part.isVisible():
            area = part.rect().translated(part.mapTo(room, QPoint(0, 0)))
            assert inside.contains(area), (part, area, inside)
    assert room.board.height() >= 60


@pytest.mark.parametrize("key", ["figure-front", "figure-back", "head-front", "head-profile"])
def test_every_question_stands_whole_in_the_smallest_window(
    window: MainWindow, room: SightRoom, key: str
) -> None:
    window.resize(731, 457)  # 1280x800 at 175 %
    QApplication.processEvents()
    paper, view = room.slip.question, view_named(key)
    nothing_yet = imply(view, ())
    assert not isinstance(nothing_yet, NotMeasurable)
    for one in candidates(view, nothing_yet):
        words = asked(view, one)
        laid = laid_out(words.text, words.how, paper.width(), paper.height())
        assert laid.height <= paper.height(), words.text
        assert (" ".join(laid.lines), " ".join(laid.how)) == (words.text, words.how)


def test_a_screen_reader_hears_the_question_and_the_answer(
    bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    ask_for(bench, of_sort(Sort.LENGTH))
    assert room.slip.question.accessibleName().startswith("How many heads")
    assert room.board.accessibleName()
    qtbot.keyClick(room.board, KEY.Key_2)
    qtbot.keyClick(room.board, KEY.Key_Return)
    model = room.listed.list.model()
    assert model is not None
    assert "2" in str(model.index(0, 0).data())
    assert all(button.accessibleName() for button in room.findChildren(QPushButton, "other"))


def test_wheel_and_drag_answer_too(bench: Bench, room: SightRoom) -> None:
    ask_for(bench, of_sort(Sort.LENGTH))
    board = room.board
    for kind, buttons in (
        (QMouseEvent.Type.MouseButtonPress, Qt.MouseButton.LeftButton),
        (QMouseEvent.Type.MouseMove, Qt.MouseButton.LeftButton),
    ):
        x = (
            0.3 * board.width()
            if kind is QMouseEvent.Type.MouseButtonPress
            else 0.5 * board.width()
        )
        at = QPointF(x, board.height() / 2.0)
        event = QMouseEvent(kind, at, board.mapToGlobal(at), Qt.MouseButton.LeftButton, buttons,
                            Qt.KeyboardModifier.NoModifier)  # fmt: skip
        QApplication.sendEvent(board, event)
    assert board.answer is not None
    assert board.answer.value == pytest.approx(4.5, abs=0.1)


def test_a_head_is_sighted_too(open_window: Opener, folder: Path, qtbot: QtBot) -> None:
    window = opened(open_window, folder, begin(folder, view="head-front"), qtbot)
    bench = house(window).bench
    assert bench is not None
    marks = places("head-front", 1)
    sighter = Sighter(view_named("head-front"), points_of("head-front", marks))
    for _ in range(5):
        one = now_asked(bench)
        at = sighter.on(one)
        assert at is not None
        bench.study.sighted.take(replace(one, value=at.value))
    assert len(kept(bench)) == 5
    assert bench.room is not None
    said = [one.accessibleName() for one in bench.room.findChildren(Heading)]
    assert any("tells most of" in one for one in said)


def test_practice_before_a_known_sitter(window_of_demo: MainWindow, qtbot: QtBot) -> None:
    """The key tells afterwards how it was sighted, and only once it is asked for."""
    bench = house(window_of_demo).bench
    assert bench is not None
    assert bench.room is None
    before = bench.study.assessment.readings
    bench.work.menu(bench.reference).take("practise")
    settle(qtbot, window_of_demo)
    bench = house(window_of_demo).bench
    assert bench is not None
    room = bench.room
    assert room is not None
    assert room.seated is not None
    assert room.seated.isVisible()
    assert not room.figure.isVisible()
    assert bench.study.current_pass == "sight"
    assert not bench.study.from_life
    assert (
        pixels(room.seated.sitter.grab().toImage(), QColor("#C0A070"), 60) > 500
    )  # the wooden figure
    seen = bench.study.picture(Board.REFERENCE)
    truth = picture_points(bench.study.view, seen)
    assert not isinstance(truth, NotMeasurable)
    sighter = Sighter(bench.study.view, truth[1])
    for i in range(6):
        one = ask_for(bench, of_sort(Sort.LENGTH))
        at = sighter.on(one)
        assert at is not None
        bench.study.sighted.take(replace(one, value=at.value * (1.06 + 0.002 * i)))
    assert "K shows" in room.told.accessibleName()
    qtbot.keyClick(room.board, KEY.Key_K)
    assert "too long" in room.told.accessibleName()
    # In a low window it takes the place of other questions, as long as it is wanted.
    window_of_demo.resize(1024, 700)
    settle(qtbot, window_of_demo)
    assert room.told.isVisible()
    assert not room.others.isVisible()
    qtbot.keyClick(room.board, KEY.Key_K)
    assert room.others.isVisible()
    assert not room.told.isVisible()
    # Nothing is measured by what was only practised.
    assert bench.study.assessment.readings == before
    assert bench.study.examination.held == ()


@pytest.fixture
def window_of_demo(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    window = open_window(demo_copy)
    entry = next(one for one in house(window).shelf_state.entries if one.row.view == "figure-front")
    house(window).open_study(entry.id)
    settle(qtbot, window)
    return window


def test_what_was_sighted_twice_is_remembered(
    window: MainWindow, bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    """From six repeats on the learner's own arm is worth what it is, in the next study too."""
    study_id = bench.study.id
    one = ask_for(bench, of_sort(Sort.LENGTH))
    for digit in (KEY.Key_2, KEY.Key_3, KEY.Key_2, KEY.Key_3, KEY.Key_2, KEY.Key_3):
        bench.study.apply(answering.ask_again, one.asks) if kept(bench) else None
        qtbot.keyClick(room.board, digit)
        qtbot.keyClick(room.board, KEY.Key_Return)
    assert len({item.u for item in kept(bench) if item.value == 2.0}) == 1
    house(window).open_study(study_id)
    settle(qtbot, window)
    again = house(window).bench
    assert again is not None
    assert again.room is not None
    assert again.study.session.asking.arm["lengths"] > 5.0  # half a head where 0.08 is usual
    asked_now = ask_for(again, of_sort(Sort.LENGTH))
    assert asked_now is not None
    qtbot.keyClick(again.room.board, KEY.Key_2)
    assert again.room.board.answer is not None
    assert again.room.board.answer.u > 0.3


@pytest.mark.parametrize("seed", range(3))
def test_keys_by_chance_leave_a_whole_study(
    open_window: Opener, folder: Path, qtbot: QtBot, seed: int
) -> None:
    """Whatever is pressed: what the window has is what the library keeps, step by step back too."""
    study_id = begin(folder)
    window = opened(open_window, folder, study_id, qtbot)
    bench = house(window).bench
    assert bench is not None
    assert bench.room is not None
    rng = np.random.default_rng(seed)
    named = "Return N R K Left Right Up Down Slash Y A O Escape 0 1 2 3 4 5 6 7 8 9"
    keys = [KEY[f"Key_{name}"] for name in named.split()]
    for _ in range(120):
        key = keys[int(rng.integers(len(keys)))]
        held = Qt.KeyboardModifier.NoModifier
        if rng.random() < 0.08:
            key, held = KEY.Key_Z, Qt.KeyboardModifier.ControlModifier
        elif rng.random() < 0.05:
            way = str(rng.choice(["heads", "tilts", "halves", "telling"]))
            bench.study.apply(answering.choose_order, way)
        qtbot.keyClick(bench.room.board, key, held)
    stored = house(window).library.stored(study_id)
    assert stored is not None
    assert stored.study.sightings == bench.study.sighted.kept
    many, steps = len(kept(bench)), bench.study.undo_stack.index()
    for _ in range(steps):
        bench.study.undo_stack.undo()
    assert kept(bench) == ()
    for _ in range(steps):
        bench.study.undo_stack.redo()
    assert len(kept(bench)) == many


def test_thumb_marks_on_a_pencil_of_true_size(
    window: MainWindow, bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    """M asks for a bank card once, then for the head in mm, then for all that a pencil is as long
    as; a tap is a thumb mark."""
    qtbot.keyClick(room, KEY.Key_M)
    slip = room.findChild(CardSlip)
    assert slip is not None
    slip.slider.setValue(450)
    assert slip.card.outline.width() == pytest.approx(4.5 * 85.60)  # ISO/IEC 7810 ID-1
    assert slip.card.outline.height() == pytest.approx(4.5 * 53.98)
    slip.slider.setValue(700)  # a fine screen: the card stands upright, so that its edges show
    assert slip.card.outline.width() == pytest.approx(7.0 * 53.98)
    slip.slider.setValue(400)
    qtbot.keyClick(slip, KEY.Key_Right)
    qtbot.keyClick(slip, KEY.Key_Left)
    next(one for one in slip.findChildren(QPushButton) if one.isDefault()).click()
    assert house(window).settings.px_per_mm == pytest.approx(4.0)
    asked_now = now_asked(bench)
    assert asked_now.in_mm
    assert asked_now.points == FRONT.head
    assert "mm" in room.slip.question.accessibleName()
    click(room.board, QPointF(16.0 + 30.0 * 4.0, room.board.height() / 2.0))
    assert room.board.answer is not None
    assert room.board.answer.value == pytest.approx(30.0, abs=0.5)
    qtbot.keyClick(room.board, KEY.Key_Return)
    # The whole is longer than a pencil, and is counted in heads still.
    assert now_asked(bench).measure == "span.figure"
    bench.study.sighted.take(replace(now_asked(bench), value=7.5, u=0.2))
    ask_for(bench, read_in_mm)
    click(room.board, QPointF(16.0 + 50.0 * 4.0, room.board.height() / 2.0))
    qtbot.keyClick(room.board, KEY.Key_Right)  # half a mm
    qtbot.keyClick(room.board, KEY.Key_Return)
    assert kept(bench)[-1].in_mm
    assert kept(bench)[-1].value == pytest.approx(50.5, abs=0.5)
    found = imply(FRONT, kept(bench))
    assert not isinstance(found, NotMeasurable)
    assert found.mm_per_head == pytest.approx(30.0, abs=1.0)
    # What no thumb takes is put off, as it is in heads.
    mm = ask_for(bench, read_in_mm)
    bench.study.apply(answering.put_off, mm.asks)
    left = [o.sighting for o in bench.study.now.questions]
    assert all((o.sort, o.points) != (mm.sort, mm.points) for o in left)
    qtbot.keyClick(room, KEY.Key_M)
    assert not any(o.sighting.in_mm for o in bench.study.now.questions)


def test_what_is_longer_is_answered_by_one_key(bench: Bench, room: SightRoom, qtbot: QtBot) -> None:
    """Beside what can be measured a question is offered that one look answers; the three answers
    are as large as a hand."""
    offered = [one.sighting.sort for one in bench.study.now.questions]
    assert offered[-1].is_answer
    assert len(set(offered)) >= 3  # a length, a tilt, a plumb: what comes to hand
    qtbot.mouseClick(room.others.buttons[2], Qt.MouseButton.LeftButton)
    asked_now = now_asked(bench)
    assert asked_now.sort.is_answer
    assert room.slip.question.accessibleName().startswith("Is ")
    qtbot.keyClick(room.board, KEY.Key_A)
    assert room.board.answer is not None
    assert room.board.answer.value == 0.0
    click(room.board, QPointF(20.0, 40.0))  # on the first
    assert room.board.answer.value == 1.0
    qtbot.keyClick(room.board, KEY.Key_O)
    qtbot.keyClick(room.board, KEY.Key_Return)
    assert [(one.asks, one.value) for one in kept(bench)] == [(asked_now.asks, -1.0)]
    assert kept(bench)[0].u > 0.0
    assert all(one.sighting.asks != asked_now.asks for one in bench.study.now.questions)


def choose(box: QComboBox, data: object) -> None:
    box.setCurrentIndex(next(i for i in range(box.count()) if box.itemData(i) == data))


def test_a_sighting_of_ones_own_is_asked_answered_and_kept(
    bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    qtbot.keyClick(room.board, Qt.Key.Key_O)
    slip = room.findChild(OwnSighting)
    assert slip is not None
    choose(slip.first, "shoulder_l")
    choose(slip.second, "shoulder_l")
    assert not slip.keep.isEnabled()  # from a mark to itself
    assert "from one mark to another" in slip.why.text()
    choose(slip.second, "elbow_l")
    choose(slip.of_first, "knee_l")
    choose(slip.of_second, "heel_l")
    assert slip.keep.isEnabled()
    qtbot.mouseClick(slip.keep, Qt.MouseButton.LeftButton)
    one = now_asked(bench)
    assert (one.sort, one.points, one.of) == (
        Sort.LENGTH, ("shoulder_l", "elbow_l"), ("knee_l", "heel_l"),
    )  # fmt: skip
    room.slip.typed.setText("2/3")
    qtbot.keyClick(room.slip.typed, Qt.Key.Key_Return)
    taken = bench.study.sighted.kept.items[-1]
    assert taken.asks == one.asks
    assert taken.value == pytest.approx(2 / 3)
    assert now_asked(bench).asks != one.asks  # and it goes on by itself
    # One may also leave it; what is asked stays.
    asked = now_asked(bench)
    qtbot.mouseClick(room.others.own, Qt.MouseButton.LeftButton)
    second = next(slip for slip in room.findChildren(OwnSighting) if slip.isVisible())
    choose(second.sort, Sort.TILT)
    assert not second.of_first.isVisible()
    qtbot.mouseClick(second.leave, Qt.MouseButton.LeftButton)
    assert now_asked(bench) == asked


def mm(points: tuple[str, ...], value: float) -> Sighting:
    return Sighting(Sort.LENGTH, points, value, 0.03 * value, in_mm=True)


def distances(room: SightRoom) -> DistanceSlip:
    return next(slip for slip in room.findChildren(DistanceSlip) if slip.isVisible())


def test_where_lengths_are_read_off_makes_sight_size_and_is_asked_by_a_key(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    """At 650 mm from the eye, the paper at 1,300: all is twice as large on it."""
    window = opened(
        open_window, folder, begin(folder, (mm(FRONT.head, 50.0), mm(("crotch", "sole"), 180.0))),
        qtbot,
    )  # fmt: skip
    bench = house(window).bench
    room = bench.room
    assert room is not None
    assert room.distances.isHidden()
    qtbot.keyClick(room, KEY.Key_D)
    assert room.findChildren(DistanceSlip) == []
    bench.study.apply(answering.toggle_mm)
    assert room.distances.isVisible()
    assert ("D", "distances") in sight_prompt(bench.study).keys
    qtbot.keyClick(room, KEY.Key_D)
    slip = distances(room)
    assert slip.eye.value() == 650.0
    assert slip.earlier.isHidden()
    assert slip.plane.isHidden()
    slip.sight_size.setChecked(True)
    slip.plane.setValue(1300.0)
    assert "What is 10 mm on the pencil is 20.0 mm on the paper." in slip.tells.text()
    assert "A head is 10" in slip.tells.text()
    qtbot.mouseClick(slip.keep, Qt.MouseButton.LeftButton)
    kept = bench.study.sighted.kept
    assert (kept.eye_mm, kept.plane_mm) == (650.0, 1300.0)
    assert [one.value for one in kept.items] == [50.0, 180.0]
    again = house(window).library.stored(bench.study.id).study.sightings
    assert again is not None
    assert (again.eye_mm, again.plane_mm) == (650.0, 1300.0)
    bench.study.undo_stack.undo()
    assert bench.study.sighted.kept.eye_mm is None


def test_a_learner_who_moved_carries_the_lengths_over(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    items = (mm(FRONT.head, 50.0), mm(("crotch", "sole"), 180.0), mm(FRONT.head, 40.0))
    window = opened(open_window, folder, begin(folder, items), qtbot)
    bench = house(window).bench
    room, study = bench.room, bench.study
    assert room is not None
    study.apply(answering.toggle_mm)
    assert "The head was 50 mm" in room.listed.words.accessibleName()
    qtbot.mouseClick(room.distances, Qt.MouseButton.LeftButton)
    slip = distances(room)
    assert slip.earlier.currentText() == "carry them over to the head of 40 mm"
    qtbot.mouseClick(slip.keep, Qt.MouseButton.LeftButton)
    assert [one.value for one in study.sighted.kept.items] == [40.0, 144.0, 40.0]
    assert "The head was" not in room.listed.words.accessibleName()
    # Farther from the eye by half: the same, half as long again.
    room.ask_distances()
    slip = distances(room)
    assert slip.earlier.isHidden()
    slip.eye.setValue(975.0)
    assert slip.earlier.currentText() == "were read off at 650 mm: carry them over"
    slip.accept()
    assert [one.value for one in study.sighted.kept.items] == pytest.approx([60.0, 216.0, 60.0])
    # It was said wrong: the lengths stay.
    room.ask_distances()
    slip = distances(room)
    slip.eye.setValue(700.0)
    slip.earlier.setCurrentIndex(1)
    assert slip.earlier.currentText() == "were read off there too"
    slip.accept()
    kept = study.sighted.kept
    assert kept.eye_mm == 700.0
    assert [one.value for one in kept.items] == pytest.approx([60.0, 216.0, 60.0])


def test_a_length_of_ones_own_is_taken_in_mm_too(bench: Bench) -> None:
    study = bench.study
    study.sighted.take(mm(FRONT.head, 40.0))
    found = own_question(FRONT, (), Sort.LENGTH, ("shoulder_r", "shoulder_l"))
    assert isinstance(found, Next)
    study.apply(answering.ask_own, found)
    assert not study.now.questions[0].sighting.in_mm
    study.apply(answering.toggle_mm)
    study.apply(answering.ask_own, found)
    one = study.now.questions[0].sighting
    assert one.in_mm
    assert one.points == ("shoulder_r", "shoulder_l")
    against = own_question(FRONT, (), Sort.LENGTH, ("shoulder_r", "shoulder_l"), ("crotch", "sole"))
    assert isinstance(against, Next)
    study.apply(answering.ask_own, against)
    assert not study.now.questions[0].sighting.in_mm


def test_its_card_shows_what_was_sighted_until_there_is_a_drawing(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    study_id = begin(folder)
    window = open_window(folder)
    shelf = house(window).shelf_state

    def entry() -> Entry:
        return next(one for one in shelf.entries if one.id == study_id)

    assert entry().digest is not None
    assert (entry().digest.sketch, entry().why) == ((), "nothing sighted yet")
    cards = house(window).shelf.list

    def upper() -> QImage:
        """The card above its words."""
        area = cards.visualRect(cards.model().index(0, 0))
        area.setHeight(200)
        return cards.viewport().grab(area).toImage()

    blank = upper()
    house(window).open_study(study_id)
    settle(qtbot, window)
    edits = house(window).bench.study.sighted
    for one in sighted("figure-front", places("figure-front"), "span.shoulders", "tilt.shoulders"):
        edits.take(one)
    window.go("Shelf")
    qtbot.waitUntil(lambda: entry().why == "2 sightings, no drawing yet", timeout=60_000)
    settle(qtbot, window)
    assert any(len(stroke) == 2 for stroke in entry().digest.sketch)
    cards.clearSelection()
    cards.clearFocus()
    assert upper() != blank
    kept = read_digest(digest_document(entry().digest))
    assert kept == entry().digest
    wild = digest_document(entry().digest._replace(sketch=(((0.0, float("inf")),),)))
    assert read_digest(wild) is None


# How the model is placed


def menu_of(room: SightRoom) -> QMenu:
    """The menu that is open."""
    return next(one for one in room.findChildren(QMenu) if one.isVisible())


def test_how_the_model_is_placed_is_said_by_a_key_and_undone(
    bench: Bench, room: SightRoom, qtbot: QtBot
) -> None:
    assert sight_prompt(bench.study).how == "first say how the model is placed"
    assert ("P", "the model stands") in sight_prompt(bench.study).keys
    first = now_asked(bench)
    assert (first.sort, first.along) == (Sort.LENGTH, "plumb")
    qtbot.keyClick(room.board, KEY.Key_P)
    menu = menu_of(room)
    words = [one.text() for one in menu.actions()]
    assert words[0] == "The model stands"
    assert len(words) == 4
    menu.actions()[words.index("The model lies, head right")].trigger()
    assert bench.study.sighted.kept.stance is Stance.LYING_RIGHT
    assert bench.study.view.lies
    assert (now_asked(bench).sort, now_asked(bench).along) == (Sort.LENGTH, "level")
    bench.study.undo_stack.undo()
    assert bench.study.sighted.kept.stance is Stance.STANDING
    assert now_asked(bench) == first
    bench.study.undo_stack.redo()
    assert bench.study.view.lies
    assert "stands" not in dict(sight_prompt(bench.study).keys).get("P", "")


def test_who_forgot_to_say_it_is_asked_and_nothing_is_doubted(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    view = view_named("figure-front")
    items = by_chance(view, posed("kneeling"), 12, seed=0)
    window = opened(open_window, folder, begin(folder, items), qtbot)
    bench = house(window).bench
    assert bench is not None
    assert bench.room is not None
    listed = bench.room.listed
    assert listed.doubts.likelier is Stance.SEATED
    assert listed.suspects == ()
    assert "sits or kneels far better than one that stands" in listed.words.accessibleName()
    bench.study.sighted.place(Stance.SEATED)
    settle(qtbot, window)
    assert listed.doubts.likelier is None
    assert "far better" not in listed.words.accessibleName()
    assert len(kept(bench)) == 12


def test_one_that_lies_is_counted_across_and_fits_a_narrow_window(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    """Where the figure has no room, its place is the question's and its choice is the list's."""
    view = placed(view_named("figure-front"), Stance.LYING_RIGHT)
    items = by_the_tool(view, posed("lying-side"), 16)
    with Library.open(folder) as library:
        study = Study("Reclining", view.key, None, sightings=Sightings(items, stance=view.stance))
        study_id = add_study(library, study, None, None, now_utc())
    window = opened(open_window, folder, study_id, qtbot)
    bench = house(window).bench
    assert bench is not None
    room = bench.room
    assert room is not None
    wide = room.figure.grab().toImage()
    marks = [
        (x, y) for x in range(wide.width()) for y in range(wide.height())
        if wide.pixelColor(x, y).lightness() < 90
    ]  # fmt: skip
    assert min(y for _, y in marks) < 24  # heads are counted along the upper edge
    assert max(x for x, _ in marks) - min(x for x, _ in marks) > 0.6 * wide.width()
    titles = {one.accessibleName(): one for one in room.findChildren(Heading)}
    choices = [name.split()[0] for name, one in titles.items() if one.choice is not None]
    assert sorted(choices) == ["Next", "The"]
    window.resize(840, 640)
    settle(qtbot, window)
    left = room.slip.question.mapTo(room, QPoint(0, 0)).x()
    assert left < 60
    names = [one for one in room.findChildren(Heading) if one.isVisible() and one.choice]
    assert [one.choice.words for one in names if one.choice][-1] == "lies, head right"


def test_practice_knows_how_its_sitter_is_placed(
    open_window: Opener, folder: Path, qtbot: QtBot
) -> None:
    """Its marks show it: nothing is to be said."""
    with Library.open(folder) as library:
        study = Study("Practice", "figure-front", picture(posed("lying-side"), 1.0))
        study_id = library.add(study, {}, now_utc())
    window = opened(open_window, folder, study_id, qtbot)
    bench = house(window).bench
    assert bench is not None
    plain = bench.study.view
    assert bench.study.head.begin_practice()
    assert bench.study.sighted.kept.stance is Stance.LYING_RIGHT
    assert bench.study.sighted.view.lies
    assert bench.study.view is plain  # what is measured is measured as before
