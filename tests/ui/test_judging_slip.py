"""Judge it first: the learner's own rating, before any figure of the drawing is shown."""

from __future__ import annotations

from dataclasses import replace

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.core.session.notes import notes_of
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.settings import Settings
from bralto.ui.window import MainWindow

LAST = "knee_l"


def one_mark_short(
    window: MainWindow, bench: Bench, qtbot: QtBot, *, rated: str = ""
) -> tuple[Bench, Mark]:
    """The same study with one mark of the drawing's short set still to be set, and that mark."""
    library: Library = house(window).library
    old = library.stored(bench.study.id)
    (state,) = old.study.states
    marks = dict(state.picture.marks)
    last = marks.pop(LAST)
    study = replace(
        old.study, states=(replace(state, picture=replace(state.picture, marks=marks)),)
    )
    if rated:
        study = replace(study, extra={"bench": {"log": {"before": rated}}})
    house(window).open_study(library.add(study, old.media, old.made))
    settle(qtbot, window)
    return house(window).bench, last


def log_of(window: MainWindow, bench: Bench) -> dict[str, str]:
    return dict(notes_of(house(window).library.stored(bench.study.id).study).log)


def test_the_learner_judges_the_drawing_before_any_figure_of_it_is_shown(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench, last = one_mark_short(window, bench, qtbot)
    slip = bench.column.judging
    assert not slip.isVisible()
    bench.study.edits.set_mark(Board.DRAWING, LAST, last)
    assert slip.isVisible()
    for part in (bench.ladder, *bench.rails, bench.moves, bench.off):
        assert not part.isVisible()
    assert bench.drawing.plain
    assert slip.ratings.checkedId() < 0  # none is proposed
    assert "close" in window.prompt_line.prompt.lead
    qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_4)
    slip.written["well"].setPlainText("the sweep")
    assert log_of(window, bench) == {}  # nothing is kept before it is left
    qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    assert not slip.isVisible()
    assert bench.off.isVisible()
    assert not bench.drawing.plain
    assert log_of(window, bench) == {"before": "4", "well": "the sweep"}


def test_a_judgement_may_be_left_once_and_for_all_and_then_nothing_is_kept(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench, last = one_mark_short(window, bench, qtbot)
    bench.study.edits.set_mark(Board.DRAWING, LAST, last)
    qtbot.keyClick(bench.column.judging, Qt.Key.Key_Escape)
    assert not bench.column.judging.isVisible()
    assert bench.off.isVisible()
    assert log_of(window, bench) == {}
    # Once: a mark that is set again asks nothing.
    bench.study.edits.remove(Board.DRAWING, LAST)
    bench.study.edits.set_mark(Board.DRAWING, LAST, last)
    assert not bench.column.judging.isVisible()


def test_a_mark_taken_back_takes_the_question_back(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench, last = one_mark_short(window, bench, qtbot)
    bench.study.edits.set_mark(Board.DRAWING, LAST, last)
    assert bench.column.judging.isVisible()
    bench.study.undo_stack.undo()
    assert not bench.column.judging.isVisible()
    assert bench.study.step is not None


def test_what_may_be_wrong_with_the_last_mark_is_asked_before_the_judgement(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench, last = one_mark_short(window, bench, qtbot)
    other = bench.study.picture(Board.DRAWING).marks["knee_r"]
    bench.study.edits.place(Board.DRAWING, other.x + 2.0, other.y + 1.0, last.spread)
    assert bench.study.now.question is not None
    assert not bench.column.judging.isVisible()
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Escape)  # it is so
    assert bench.column.judging.isVisible()


def test_nobody_is_asked_who_was_rated_before_or_turned_it_off_or_has_seen_the_figures(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    # The study of the fixture is complete: its figures were shown at once.
    assert bench.column.eye_first is None
    rated, last = one_mark_short(window, bench, qtbot, rated="2")
    rated.study.edits.set_mark(Board.DRAWING, LAST, last)
    assert rated.column.eye_first is None
    again, last = one_mark_short(window, bench, qtbot)
    again.study.edits.set_mark(Board.DRAWING, LAST, last)
    again.column.judging.never.click()
    assert again.column.eye_first is None
    assert not Settings(house(window).library.root).guess_first
    off, last = one_mark_short(window, bench, qtbot)
    off.study.edits.set_mark(Board.DRAWING, LAST, last)
    assert off.column.eye_first is None


@pytest.mark.parametrize("way", ["tape", "shelf", "undo"])
def test_what_was_said_is_kept_whichever_way_the_slip_is_left(
    window: MainWindow, bench: Bench, qtbot: QtBot, way: str
) -> None:
    bench, last = one_mark_short(window, bench, qtbot)
    bench.study.edits.set_mark(Board.DRAWING, LAST, last)
    slip = bench.column.judging
    qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_2)
    slip.written["next"].setPlainText("the far knee")
    if way == "tape":
        bench.study.apply(prompting.enter_pass, "verdict")
    elif way == "shelf":
        window.go("Shelf")
        house(window).bench_place.leave([bench.study.id])
    else:
        bench.study.undo_stack.undo()
    assert not slip.isVisible()
    assert log_of(window, bench) == {"before": "2", "next": "the far knee"}
