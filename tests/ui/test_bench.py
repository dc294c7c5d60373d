"""The bench's parts: geometry that must hold whatever the window's size."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations, pairwise
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Anchor, Picture
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.scales.ladder import TOP
from bralto.ui.bench.scales.rungs import stations
from bralto.ui.boards.board import point_on_board
from bralto.ui.boards.overlays.correction_arrows import goals
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment
from bralto.ui.window import MainWindow


@pytest.mark.parametrize("size", [(1024, 700), (1280, 800), (1920, 1200)])
def test_crowns_and_the_reference_sole_are_level_with_the_ladder(
    window: MainWindow, bench: Bench, size: tuple[int, int], qtbot: QtBot
) -> None:
    window.resize(*size)
    qtbot.wait(30)
    for board in bench.boards:
        assert board.at("crown").y() == pytest.approx(TOP, abs=0.5)
    sole = point_on_board(bench.reference, "sole")
    rung = next(one for one in stations(bench.study) if one.key == "sole")
    assert sole.y() == pytest.approx(bench.ladder.y_of(rung.reference), abs=0.5)
    assert bench.ladder.height() == bench.reference.height()
    assert 200 <= bench.ladder.width() <= 360
    assert bench.off.folded == (size[0] < 1100)


def test_the_school_in_force_decides_where_the_drawn_sole_lies(bench: Bench) -> None:
    by_head = point_on_board(bench.drawing, "sole").y()
    bench.study.head.set_school("envelope")
    level = point_on_board(bench.reference, "sole").y()
    assert point_on_board(bench.drawing, "sole").y() == pytest.approx(level, abs=0.5)
    assert abs(by_head - level) > 5
    assert bench.study.study.scale.school == "envelope"


def wheel(widget: object, at: QPointF, notches: int) -> None:
    event = QWheelEvent(
        at, widget.mapToGlobal(at), QPoint(), QPoint(0, 120 * notches), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(widget, event)


def test_boards_zoom_alone_or_together(bench: Bench, qtbot: QtBot) -> None:
    before = [board.viewport.zoom for board in bench.boards]
    wheel(bench.reference, QPointF(100, 100), 2)
    assert bench.reference.viewport.zoom == pytest.approx(before[0] * 1.44)
    assert bench.drawing.viewport.zoom == before[1]
    qtbot.keyClick(bench.reference, Qt.Key.Key_T)
    wheel(bench.reference, QPointF(100, 100), -1)
    assert bench.drawing.viewport.zoom == pytest.approx(before[1] / 1.2)
    qtbot.keyClick(bench.reference, Qt.Key.Key_0)
    assert [board.viewport.zoom for board in bench.boards] == pytest.approx(before)


def test_a_drag_on_the_empty_picture_pans(bench: Bench, qtbot: QtBot) -> None:
    board, before = bench.drawing, bench.drawing.viewport.shift
    qtbot.mousePress(board, Qt.MouseButton.LeftButton, pos=QPoint(20, 300))
    qtbot.mouseMove(board, QPoint(30, 310))
    qtbot.mouseMove(board, QPoint(50, 330))
    qtbot.mouseRelease(board, Qt.MouseButton.LeftButton, pos=QPoint(50, 330))
    assert board.viewport.shift == before + QPointF(30, 30)
    assert bench.study.undo_stack.count() == 0


def test_a_mirror_changes_no_figure(bench: Bench, qtbot: QtBot) -> None:
    figures = [r.error for r in bench.study.assessment.readings]
    left = bench.drawing.at("shoulder_r").x() < bench.drawing.at("shoulder_l").x()
    qtbot.keyClick(bench.drawing, Qt.Key.Key_M)
    assert (bench.drawing.at("shoulder_r").x() < bench.drawing.at("shoulder_l").x()) is not left
    assert [r.error for r in bench.study.assessment.readings] == figures


def test_pointing_at_a_slip_lights_up_its_mark(bench: Bench, qtbot: QtBot) -> None:
    qtbot.mouseMove(bench.off.list.viewport(), QPoint(60, 20))
    assert bench.study.session.pointed == bench.off.rows()[0].spec.points[1]
    qtbot.mouseMove(bench.reference, bench.reference.at("navel").toPoint())
    assert bench.study.session.pointed == "navel"


def test_the_list_is_worst_first_and_scrolls_to_its_end(bench: Bench) -> None:
    severities = [reading.severity for reading in bench.off.rows()]
    assert severities == sorted(severities, reverse=True)
    assert all(reading.verdict in {"over", "under"} for reading in bench.off.rows())
    for _ in range(len(severities) + 5):
        wheel(bench.off.list.viewport(), QPointF(60, 20), -1)
    bench.off.repaint()
    assert bench.off.list.row_at(QPointF(60, 20)) >= 0


class Paints(QObject):
    """Whether a place of a widget was painted."""

    def __init__(self, widget: QWidget, at: QPoint) -> None:
        super().__init__(widget)
        self.at, self.painted = at, False
        widget.installEventFilter(self)

    def eventFilter(self, _: QObject, event: QEvent) -> bool:  # noqa: N802 - Qt's own
        if event.type() == QEvent.Type.Paint and event.region().contains(self.at):
            self.painted = True
        return False


def test_how_many_errors_are_below_follows_the_list(bench: Bench, qtbot: QtBot) -> None:
    qtbot.wait(20)
    foot = Paints(bench.off, QPoint(20, bench.off.list.height() + 12))
    wheel(bench.off.list.viewport(), QPointF(60, 20), -1)
    qtbot.waitUntil(lambda: foot.painted, timeout=2000)


def test_every_pass_is_painted_without_a_word_from_qt(window: MainWindow, bench: Bench) -> None:
    """Unexpected Qt messages fail any test; this one paints everything in every pass."""
    for one in bench.study.view.passes:
        bench.study.apply(prompting.enter_pass, one.key)
        assert not window.grab().isNull()
        assert window.tape.current == one.key


def test_corrections_stand_above_what_is_off_and_are_held_by_pointer_or_number(
    bench: Bench, qtbot: QtBot
) -> None:
    found = bench.study.corrections
    assert found == bench.study.assessment.corrections
    assert bench.moves.isVisible()
    assert bench.moves.shown() == found[:3]
    first, area = found[0], bench.moves.slip_of(found[0])
    QTest.mouseMove(bench.moves.list.viewport(), area.center().toPoint())
    qtbot.waitUntil(lambda: bench.study.session.held is first)
    assert bench.moves.list.toolTip() == f"{first.text}\nClick once it is put right."
    assert bench.prompt().lead == f"{first.words}:"
    qtbot.keyClick(bench, Qt.Key.Key_2)
    assert bench.study.session.held is found[1]
    qtbot.keyClick(bench, Qt.Key.Key_2)
    assert bench.study.session.held is None


def test_in_a_narrow_window_the_corrections_fold_to_their_numbers(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    """The prompt has the words of the one that is pointed at; who hears the list hears all."""
    found, model = bench.study.corrections, bench.moves.list.model()
    said = [model.data(model.index(row, 0), Qt.ItemDataRole.AccessibleTextRole) for row in (0, 1)]
    wide = bench.moves.slip_of(found[0])
    window.resize(1024, 700)
    qtbot.waitUntil(lambda: bench.moves.width() < 100)
    slip = bench.moves.slip_of(found[0])
    assert (slip.width(), slip.height()) == (bench.moves.width(), 54.0)
    assert not bench.moves.list.isHidden()
    assert [
        model.data(model.index(row, 0), Qt.ItemDataRole.AccessibleTextRole) for row in (0, 1)
    ] == said
    QTest.mouseMove(bench.moves.list.viewport(), slip.center().toPoint())
    qtbot.waitUntil(lambda: bench.study.session.held is found[0])
    assert window.prompt_line.prompt.lead == f"{found[0].words}:"
    qtbot.mouseClick(
        bench.moves.list.viewport(), Qt.MouseButton.LeftButton, pos=slip.center().toPoint()
    )
    assert bench.study.intentions.is_put_right(found[0])
    left, reading = bench.off.list.area(0).center().toPoint(), bench.off.rows()[0]
    QTest.mouseMove(bench.off.list.viewport(), left)
    qtbot.waitUntil(lambda: bench.off.list.toolTip().startswith(f"{reading.spec.label}, "))
    window.resize(1280, 800)
    qtbot.waitUntil(lambda: bench.moves.slip_of(found[0]).width() == wide.width())


def test_corrections_wait_until_a_dragged_mark_is_let_go(bench: Bench, qtbot: QtBot) -> None:
    before = bench.study.corrections
    mark = bench.study.picture(Board.DRAWING).marks["navel"]
    measured = bench.study.assessment
    bench.study.edits.preview(Board.DRAWING, "navel", mark.x + 45.0, mark.y)
    qtbot.waitUntil(lambda: bench.study.assessment is not measured)
    assert bench.study.corrections is before
    assert isinstance(bench.study.assessment.corrections, NotMeasurable)  # not asked for
    listed = before
    moments: list[Moment] = []
    bench.study.changed.connect(lambda _, after: moments.append(after))
    bench.study.edits.move(Board.DRAWING, "navel", mark.x + 45.0, mark.y, 1.0)
    assert len(moments) == 1  # letting go is one change, and measures once
    assert bench.study.corrections is before  # the list stays until the hand rests
    assert bench.study.busy
    qtbot.waitUntil(lambda: not bench.study.busy)
    assert len(moments) == 2
    after = bench.study.corrections
    assert bench.moves.shown() == after[:3]
    assert after is not listed
    assert ("shift", "navel") in {(one.move, one.part) for one in after}
    bench.study.undo_stack.undo()
    qtbot.waitUntil(lambda: not bench.study.busy)
    assert bench.study.corrections == before


def test_a_held_correction_points_where_its_marks_would_go(bench: Bench) -> None:
    """Put where the arrows point, and measured again, that correction is gone from the list."""
    study = bench.study
    assert goals(bench.drawing) == []
    first = next(one for one in study.corrections if len(one.shifts) > 3)
    study.apply(pointing.hold, first)
    shown = goals(bench.drawing)
    assert len(shown) == len(first.shifts)
    longest = np.hypot(shown[0][1].x() - shown[0][0].x(), shown[0][1].y() - shown[0][0].y())
    mm = max(np.hypot(*shift) for shift in first.shifts.values())
    assert shown[0][2] == f"{mm:.0f} mm"
    px_per_mm = study.assessment.unit.drawing_px / study.assessment.unit.drawing_mm
    assert longest == pytest.approx(mm * px_per_mm * bench.drawing.viewport.zoom, rel=1e-6)
    board, marks = bench.drawing, study.picture(Board.DRAWING).marks
    ends = {(round(a.x(), 6), round(a.y(), 6)): b for a, b, _ in shown}
    moved = {}
    for key in first.shifts:
        at = board.at(key)
        end = ends[round(at.x(), 6), round(at.y(), 6)]
        place = board.viewport.to_image(end)
        moved[key] = replace(marks[key], x=place.x(), y=place.y())
    study.edits.set_marks(Board.DRAWING, moved)
    study.advice.search_now()
    assert all((one.move, one.part) != (first.move, first.part) for one in study.corrections)


@pytest.mark.parametrize("size", [(1024, 700), (1280, 800)])
def test_no_label_lies_on_another_with_forty_marks(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, size: tuple[int, int]
) -> None:
    """Nine places of the learner's own, all near the knees, beside the 31 of the view."""
    window = open_window(demo_copy)
    library, old = house(window).library, house(window).library.studies()[0]
    anchors = tuple(Anchor(f"place_{i}", f"place {i}") for i in range(9))
    seen, drawn = old.study.reference, old.study.states[-1]

    def crowded(picture: Picture) -> Picture:
        knee = picture.marks["knee_r"]
        more = {
            one.key: replace(knee, x=knee.x + 4.0 * i + 3.0, y=knee.y + 2.0 * i + 3.0)
            for i, one in enumerate(anchors)
        }
        return replace(picture, marks={**picture.marks, **more})

    study = replace(
        old.study,
        reference=crowded(seen),
        states=(replace(drawn, picture=crowded(drawn.picture)),),
        anchors=anchors,
    )
    media = {"": old.media[""], drawn.name: old.media[drawn.name]}
    house(window).open_study(library.add(study, media, old.made))
    settle(qtbot, window)
    window.resize(*size)
    bench = house(window).bench
    assert len(bench.study.picture(Board.DRAWING).marks) == 40
    for key in ("heights", "widths", "plumb"):
        bench.study.apply(prompting.enter_pass, key)
        qtbot.wait(20)
        window.grab()
        places = sorted(bench.ladder.labels.values())
        assert all(b - a >= 17.0 - 1e-6 for a, b in pairwise(places))
        for rail in bench.rails:
            named = [area for area, _ in rail.spots if area.width() > 20.0]
            for one, other in combinations(named, 2):
                lower = one.adjusted(1.0, 1.0, -9.0, -1.0)  # but for the air behind a name
                assert not lower.intersects(other.adjusted(1.0, 1.0, -9.0, -1.0))


def test_a_mark_that_only_the_other_board_has_is_not_snapped_here(bench: Bench) -> None:
    bench.study.edits.remove(Board.REFERENCE, "toe_r")
    bench.study.apply(pointing.select, "toe_r")
    bench.reference.setFocus()
    bench.work.snap()
    assert bench.saying.trouble == "Hold a mark first, then snap it."
    assert bench.off.list.row_at(QPointF(5.0, -3.0)) == -1  # above the list is no row
