"""One gesture is one change, told once all is consistent; an examination a frame at most."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.corrections.corrected import name_of
from bralto.core.errors import UserError
from bralto.core.examination import examine as examining
from bralto.core.examination.advice import Advice, Advised
from bralto.core.examination.examine import Examination
from bralto.core.examination.kept_advice import KeptAdvice
from bralto.core.measures.points import places_of
from bralto.core.study.two_boards import Board
from bralto.core.terms import School
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.keys.looking import mirror, upside_down
from bralto.ui.boards.board import point_on_board
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment

Told = list[tuple[Moment, Moment]]


@pytest.fixture
def bench(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> Bench:
    """The worked example."""
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    return house(window).bench


@pytest.fixture
def told(bench: Bench) -> Iterator[Told]:
    """Every change from here on."""
    found: Told = []

    def tell(before: Moment, after: Moment) -> None:
        found.append((before, after))

    bench.study.changed.connect(tell)
    yield found
    bench.study.changed.disconnect(tell)


@pytest.fixture
def examined(monkeypatch: pytest.MonkeyPatch) -> list[Examination]:
    """Every examination from here on."""
    from bralto.ui.session import shown

    found: list[Examination] = []
    whole = shown.examine

    def examine(*args: object, **kwargs: object) -> Examination:
        found.append(whole(*args, **kwargs))
        return found[-1]

    monkeypatch.setattr(shown, "examine", examine)
    return found


def test_a_click_that_sets_a_mark_is_one_change(
    bench: Bench, told: Told, examined: list[Examination], qtbot: QtBot
) -> None:
    study = bench.study
    navel = study.picture(Board.DRAWING).marks["navel"]
    study.edits.set_marks(Board.DRAWING, {"navel": None})
    study.apply(prompting.ask, Board.DRAWING, "navel")
    told.clear()
    examined.clear()
    at = bench.drawing.viewport.to_board(navel.x, navel.y).toPoint()
    for act in (qtbot.mouseMove, qtbot.mousePress, qtbot.mouseRelease):
        act(bench.drawing, *([] if act is qtbot.mouseMove else [Qt.MouseButton.LeftButton]), pos=at)
    marks = [one for one in told if one[1].marks_changed(one[0])]
    assert len(marks) == len(examined) == 1
    _, after = marks[0]
    # What was asked for is set, and what comes next is asked for already.
    assert "navel" in after.picture(Board.DRAWING).marks
    assert after.session.asked is None
    assert after.session.step is None or after.session.step.key != "navel"
    assert after.examination.drawn.picture is after.picture(Board.DRAWING)


@pytest.mark.parametrize("key", [Qt.Key.Key_N, Qt.Key.Key_H, Qt.Key.Key_O, Qt.Key.Key_K])
def test_a_key_is_one_change(bench: Bench, told: Told, qtbot: QtBot, key: Qt.Key) -> None:
    bench.study.edits.set_marks(Board.DRAWING, {"wrist_r": None})
    bench.study.apply(prompting.ask, Board.DRAWING, "wrist_r")
    told.clear()
    qtbot.keyClick(bench, key)
    assert len(told) == 1


def test_a_drag_is_examined_once_a_frame_at_most_and_kept_once(
    bench: Bench, told: Told, examined: list[Examination], qtbot: QtBot
) -> None:
    study, mark = bench.study, bench.study.picture(Board.DRAWING).marks["navel"]
    kept, steps = study.study, study.undo_stack.count()
    for i in range(10):
        study.edits.preview(Board.DRAWING, "navel", mark.x + 4.0 * i, mark.y)
    assert len(told) == 10  # every place is shown at once
    assert not examined
    assert study.study is kept  # nothing of it is in the document
    qtbot.waitUntil(lambda: len(examined) == 1)
    QTest.qWait(60)
    assert len(examined) == 1
    told.clear()
    study.edits.move(Board.DRAWING, "navel", mark.x + 40.0, mark.y, mark.spread)
    assert (len(told), len(examined), study.undo_stack.count()) == (1, 2, steps + 1)
    study.undo_stack.undo()
    assert len(told) == 2
    assert study.picture(Board.DRAWING).marks["navel"] == mark


def test_a_mark_let_go_where_it_was_last_shown_gets_its_corrections(
    bench: Bench, examined: list[Examination], qtbot: QtBot
) -> None:
    """The figures are those of the drag then, and measured once; the list is still to come."""
    study, mark = bench.study, bench.study.picture(Board.DRAWING).marks["navel"]
    study.apply(pointing.hold, study.corrections[0])
    before = study.corrections
    study.edits.preview(Board.DRAWING, "navel", mark.x + 45.0, mark.y)
    qtbot.waitUntil(lambda: not study.now.behind)
    study.edits.move(Board.DRAWING, "navel", mark.x + 45.0, mark.y, mark.spread)
    assert len(examined) == 1
    assert study.session.held is None  # of a list that is no longer in force
    assert study.busy
    qtbot.waitUntil(lambda: not study.busy)
    assert study.corrections != before


def test_a_drag_that_is_cancelled_leaves_nothing(bench: Bench) -> None:
    study = bench.study
    mark, found = study.picture(Board.DRAWING).marks["navel"], study.corrections
    study.edits.preview(Board.DRAWING, "navel", mark.x + 40.0, mark.y)
    study.edits.put_back()
    assert study.picture(Board.DRAWING).marks["navel"] == mark
    assert study.corrections == found
    assert not study.now.dragging


def test_undo_while_a_mark_is_in_hand_lets_go_of_it(bench: Bench) -> None:
    study, mark = bench.study, bench.study.picture(Board.DRAWING).marks["navel"]
    study.edits.set_marks(Board.DRAWING, {"navel": None})
    study.edits.set_mark(Board.DRAWING, "navel", mark)
    study.edits.preview(Board.DRAWING, "navel", mark.x + 30.0, mark.y)
    study.undo_stack.undo()
    assert not study.now.dragging
    assert "navel" not in study.picture(Board.DRAWING).marks
    study.edits.preview(Board.DRAWING, "navel", mark.x + 40.0, mark.y)  # the hand moves on
    assert not study.edits.move(Board.DRAWING, "navel", mark.x + 50.0, mark.y, 1.0)
    assert "navel" not in study.picture(Board.DRAWING).marks


@pytest.mark.usefixtures("told")
def test_a_search_that_fails_leaves_the_figures_and_says_so(
    bench: Bench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fail(_: Examination) -> None:
        raise UserError("no list this time")

    study, mark = bench.study, bench.study.picture(Board.DRAWING).marks["navel"]
    monkeypatch.setattr(Examination, "advise", fail)
    study.edits.move(Board.DRAWING, "navel", mark.x + 30.0, mark.y, 1.0)
    qtbot.waitUntil(lambda: not study.busy)
    assert study.corrections == ()
    assert bench.prompt().lead == "no list this time"
    assert study.assessment.readings
    monkeypatch.undo()
    study.edits.move(Board.DRAWING, "navel", mark.x, mark.y, 1.0)
    qtbot.waitUntil(lambda: not study.busy)
    assert study.corrections


def test_pointing_measures_nothing(bench: Bench, told: Told, examined: list[Examination]) -> None:
    bench.study.apply(pointing.point_at, "navel")
    bench.study.apply(pointing.point_at, "navel")
    (once,) = told
    assert once[1].pointing_only(once[0])
    assert not examined


def test_what_a_listener_changes_is_told_after_what_it_heard(bench: Bench) -> None:
    study, order = bench.study, []

    def first(_: Moment, after: Moment) -> None:
        if after.session.pointed == "navel":
            study.apply(pointing.point_at, "crown")

    def second(before: Moment, after: Moment) -> None:
        order.append((before.session.pointed, after.session.pointed))

    study.changed.connect(first)
    study.changed.connect(second)
    study.apply(pointing.point_at, "navel")
    assert order == [(None, "navel"), ("navel", "crown")]
    study.changed.disconnect(first)
    study.changed.disconnect(second)


def test_upside_down_the_sole_is_the_same_mark(bench: Bench) -> None:
    """The core's rule, in the picture's own frame: the lowest of the feet's marks as one stands."""
    study = bench.study
    for board in bench.boards:
        picture = study.picture(board.board)
        x, y = places_of(study.view, picture, study.now.ground.shared)["sole"]
        feet = next(point.marks for point in study.view.points if point.key == "sole")
        lowest = max(picture.marks[key].y for key in feet if key in study.now.ground.shared)
        assert y == pytest.approx(lowest, abs=0.05 * (lowest - picture.marks["crown"].y))
        for turn in (lambda _: None, upside_down, mirror):
            turn(bench)
            at = point_on_board(board, "sole")
            there: QPointF = board.viewport.to_board(x, y)
            assert (at.x(), at.y()) == pytest.approx((there.x(), there.y()), abs=1e-6)
        upside_down(bench)
        mirror(bench)


@pytest.mark.usefixtures("nothing_kept")
def test_a_study_is_on_the_bench_before_its_corrections_are_found(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    """The search takes as long as all else; what is said at the start stays when it has ended."""
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    bench = house(window).bench
    bench.saying.say("First, hold it in a mirror.")
    assert bench.study.busy
    assert bench.study.corrections == ()
    assert bench.off.rows() == ()  # nothing is told that the list would tell otherwise
    assert bench.titles.headings[3].accessibleName() == "Corrections being looked for"
    settle(qtbot, window)
    assert bench.study.corrections
    assert bench.moves.list.count() == len(bench.study.corrections)
    assert bench.titles.headings[3].accessibleName() == "Corrections the whole first"
    assert bench.prompt().lead == "First, hold it in a mirror."


@pytest.mark.usefixtures("nothing_kept")
def test_a_step_back_and_forth_searches_once(
    bench: Bench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    study, mark = bench.study, bench.study.picture(Board.DRAWING).marks["navel"]
    first = study.corrections
    study.edits.move(Board.DRAWING, "navel", mark.x + 45.0, mark.y, mark.spread)
    qtbot.waitUntil(lambda: not study.busy)
    second = study.corrections
    assert second != first
    monkeypatch.setattr(examining, "advise", pytest.fail)
    study.undo_stack.undo()
    assert not study.busy
    assert study.corrections == first
    study.undo_stack.redo()
    assert study.corrections == second


@pytest.mark.usefixtures("nothing_kept")
def test_no_search_holds_the_window(
    bench: Bench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Of the same pictures the list before stays meanwhile."""
    on: list[threading.Thread] = []
    search = examining.advise

    def advise(asked: Advised) -> Advice:
        on.append(threading.current_thread())
        return search(asked)

    monkeypatch.setattr(examining, "advise", advise)
    study = bench.study
    for change in (
        lambda: study.head.set_grade("exacting"),
        lambda: study.head.set_school(School.ENVELOPE),
        lambda: study.head.intend(("span.head",), 1.1),
    ):
        before = study.corrections
        change()
        assert study.busy
        assert study.corrections == before
        qtbot.waitUntil(lambda: not study.busy)
    assert len(on) == 3
    assert threading.main_thread() not in on


@pytest.mark.usefixtures("nothing_kept")
def test_of_another_state_no_list_is_shown_until_its_own_is_found(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Nor is anything told by the empty list: what was put right since is asked of the full one."""
    window = open_window(demo_copy)
    shelf = house(window).shelf_state
    house(window).open_study(next(one for one in shelf.entries if one.states > 1).id)
    settle(qtbot, window)
    bench, study = house(window).bench, house(window).bench.study
    last = study.session.state_name
    ticked = name_of(study.corrections[0])
    study.head.note(study.notes.tick("block-in", ticked))
    study.states.choose("block-in")
    settle(qtbot, window)
    monkeypatch.setattr(examining, "KEPT", KeptAdvice(64))
    study.states.choose(last)
    study.apply(prompting.enter_pass, "verdict")
    assert study.busy
    assert study.corrections == ()
    assert not [row for row in bench.column.list_of("verdict").rows if "Put right" in row.label]
    bench.drawing.setFocus()
    qtbot.keyClick(bench.drawing, Qt.Key.Key_C)  # what the key does needs the list at once
    assert study.corrections
    assert [row for row in bench.column.list_of("verdict").rows if "Put right" in row.label]
    settle(qtbot, window)
