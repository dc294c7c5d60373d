"""The passes on the real bench: what each shows, by pointer and by keys."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
import pypdfium2
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.measures.shapes import ShapeReading
from bralto.core.page.page_extent import extent_of_marks
from bralto.core.page.page_plan import plan_sheet
from bralto.core.study.two_boards import Board
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.keys.looking import mirror, upside_down
from bralto.ui.boards.overlays import instruments
from bralto.ui.boards.overlays.instruments import draw_envelope, draw_weight
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import prompting
from bralto.ui.widgets.row_list import Row, Rows
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


def kept(window: MainWindow, bench: Bench):
    """The study as the library has it."""
    stored = house(window).library.stored(bench.study.id)
    assert stored is not None
    return stored.study


def click_row(rows: Rows, wanted: str, qtbot: QtBot) -> Row:
    """Click the row whose label or key begins so."""
    for i, row in enumerate(rows.rows):
        if row.label.startswith(wanted) or (row.key and row.key.startswith(wanted)):
            rows.list.scrollTo(rows.list.model().index(i, 0))
            at = rows.list.area(i).center().toPoint()
            qtbot.mouseClick(rows.list.viewport(), LEFT, pos=at)
            return row
    raise AssertionError(f"no row '{wanted}' among {[row.label for row in rows.rows]}")


PARTS = {
    "sheet": {"whole", "right"},
    "edges": {"ladder", "below", "rails"},
    "plumb": {"whole", "rails"},
    "heights": {"ladder", "below", "rails"},
    "widths": {"whole", "rails"},
    "tilts": {"whole"},
    "action": {"whole"},
    "shapes": {"whole"},
    "light": {"whole"},
    "verdict": {"whole"},
}


def test_each_pass_shows_its_own_instruments_and_the_tape_leads_to_it(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    share = (window.tape.width() - 48) / len(PARTS)
    for i, (key, parts) in enumerate(PARTS.items()):
        qtbot.mouseClick(window.tape, LEFT, pos=QPoint(int(24 + (i + 0.5) * share), 20))
        assert bench.study.current_pass == key
        shown = {
            "ladder": bench.ladder, "below": bench.column.below, "whole": bench.column.whole,
            "right": bench.column.right, "rails": bench.rails[0],
        }  # fmt: skip
        assert {name for name, part in shown.items() if part.isVisible()} == parts
        assert bench.drawing.isVisible() == ("right" not in parts)
        # Crown and sole stay at one height on both boards, whatever the pass leaves them.
        if bench.drawing.isVisible():
            assert bench.drawing.at("crown").y() == pytest.approx(bench.reference.at("crown").y())


def test_a_pass_asks_for_its_marks_and_says_what_is_worth_doing_next(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    study = bench.study
    study.apply(prompting.enter_pass, "widths")
    study.edits.remove(Board.DRAWING, "elbow_r")
    navel = study.picture(Board.REFERENCE).marks["navel"]
    study.edits.remove(Board.REFERENCE, "navel")
    assert study.step.key == "elbow_r"
    study.apply(prompting.enter_pass, "tilts")
    assert study.step is None or study.step.key in study.now.ground.pass_of("tilts").marks
    assert "Heights" in window.prompt_line.prompt.how
    qtbot.keyClick(bench.reference, Qt.Key.Key_Return)
    assert study.current_pass == "heights"
    assert (study.step.board, study.step.key) == (Board.REFERENCE, "navel")
    qtbot.keyClick(bench.reference, Qt.Key.Key_F)
    assert study.now.alone
    study.edits.place(Board.REFERENCE, navel.x, navel.y, 1.0)
    assert study.step is None  # nothing is asked for on the drawing


def test_margins_and_size_are_dragged_on_the_paper_and_kept(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.apply(prompting.enter_pass, "sheet")
    board = bench.column.right
    board.grab()
    corner, px = board.laid(board.paper())
    plan = board.paper().plan

    def at(x: float, y: float) -> QPoint:
        return QPoint(round(corner.x() + px * x), round(corner.y() + px * y))

    # The margin at the right, half way down, from 20 mm to 40 mm.
    start, end = at(plan.width - 20.0, plan.height / 2.0), at(plan.width - 40.0, plan.height / 2.0)
    QTest.mousePress(board, LEFT, pos=start)
    QTest.mouseMove(board, end)
    QTest.mouseRelease(board, LEFT, pos=end)
    assert kept(window, bench).extra["bench"]["plan"]["margin"] == pytest.approx(40.0, abs=1.0)
    smaller = board.paper().plan
    assert smaller.tall < plan.tall
    assert smaller.fits
    # The figure's foot, downwards: a larger head, until it leaves the margins and says so.
    corner, px = board.laid(board.paper())
    foot = smaller.top + smaller.tall
    bench.study.head.note_plan(replace(bench.study.head.plan_note, head_mm=smaller.head - 5.0))
    foot = board.paper().plan.top + board.paper().plan.tall
    middle = board.paper().plan.left + 5.0
    QTest.mousePress(board, LEFT, pos=at(middle, foot))
    QTest.mouseMove(board, at(middle, smaller.height + 20.0))
    QTest.mouseRelease(board, LEFT, pos=at(middle, smaller.height + 20.0))
    beyond = board.paper().plan
    assert beyond.head > smaller.head
    assert not beyond.fits
    assert "sole" in beyond.leaving
    labels = [row.label for row in bench.column.plan.rows.rows]
    assert "Too large for these margins" in labels
    assert any(label.startswith("Off the paper: crown") for label in labels)
    qtbot.keyClick(board, Qt.Key.Key_Down)
    assert board.paper().plan.head == pytest.approx(beyond.head - 1.0, abs=0.06)


def test_the_paper_is_chosen_and_its_figures_are_those_of_the_command(bench: Bench) -> None:
    bench.study.apply(prompting.enter_pass, "sheet")
    slip = bench.column.plan
    slip.paper.setCurrentText("300x400")
    slip.paper.lineEdit().editingFinished.emit()
    slip.margin.setValue(15.0)
    slip.lies.setCurrentIndex(2)
    slip.lies.activated.emit(2)
    extent = extent_of_marks(bench.study.view, bench.study.picture(Board.REFERENCE))
    wanted = plan_sheet(extent, (300.0, 400.0), 15.0, landscape=True)
    rows = {row.label: row.right for row in slip.rows.rows}
    assert rows["head"][0] == f"{wanted.head:.1f} mm"
    chin = next(one for one in wanted.stations if one.key == "chin")
    assert rows["chin"][1] == f"{chin.down:.0f}"
    slip.paper.setCurrentText("a napkin")
    slip.paper.lineEdit().editingFinished.emit()
    assert slip.paper.currentText() == "300x400"
    assert "napkin" in bench.prompt().lead


def test_the_sheet_is_saved_at_true_size(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "sheet.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    bench.study.apply(prompting.enter_pass, "sheet")
    bench.column.plan.save.click()
    document = pypdfium2.PdfDocument(path)
    width, height = document[0].get_size()  # pt, 72 an inch
    assert (width, height) == pytest.approx((297.0 / 25.4 * 72, 420.0 / 25.4 * 72), abs=0.6)
    words = document[0].get_textpage().get_text_range()
    assert "chin" in words
    # The bar to check the print by, at 10 px a mm: the longest dark run below the figure.
    pixels = document[0].render(scale=254 / 72, grayscale=True).to_numpy().squeeze()
    document.close()
    foot = pixels[int(pixels.shape[0] * 0.965) :] < 128
    run = max(int(row.sum()) for row in foot)
    assert run / 10.0 == pytest.approx(100.0, abs=0.6)
    assert str(path) in bench.prompt().lead
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "no/x.pdf"), ""))
    bench.column.plan.save.click()
    assert bench.prompt().trouble


def test_a_plumb_line_is_chosen_from_the_list_and_hangs_on_both_boards(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.apply(prompting.enter_pass, "plumb")
    assert bench.study.line == bench.study.examination.seen.lines[0]
    before = bench.reference.grab().toImage()
    click_row(bench.column.list_of("plumb"), "from the L elbow", qtbot)
    assert bench.study.line.anchor == "elbow_l"
    assert bench.reference.grab().toImage() != before
    assert kept(window, bench).extra["bench"]["line"] == list(bench.study.line.keys)
    labels = [row.label for row in bench.column.list_of("plumb").rows]
    assert any(label.startswith("Seen: ") for label in labels)  # the weight
    # By keys: the one above it.
    lines = bench.column.list_of("plumb")
    lines.setFocus()
    assert bench.study.line == bench.study.examination.seen.lines[1]  # the one that was clicked
    for key in (Qt.Key.Key_Up, Qt.Key.Key_Return):
        qtbot.keyClick(lines.list, key)
    assert bench.study.line == bench.study.examination.seen.lines[0]


def test_a_shape_is_drawn_with_the_pointer_on_both_boards_and_measured(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.apply(prompting.enter_pass, "shapes")
    click_row(bench.column.list_of("shapes"), "gap between the legs", qtbot)
    corners = ("crotch", "knee_r", "ankle_r", "ankle_l", "knee_l")
    for board in bench.boards:
        assert board.tool is not None  # the other board follows by itself
        for key in (*corners, corners[0]):
            qtbot.mouseClick(board, LEFT, pos=board.at(key).toPoint())
        assert board.tool is None
    (shape,) = bench.study.assessment.shapes
    assert isinstance(shape, ShapeReading)
    assert shape.overlap > 0.7
    polygons = kept(window, bench).states[-1].picture.polygons
    assert len(polygons["gap between the legs"]) == len(corners)
    row = next(r for r in bench.column.list_of("shapes").rows if r.label == "gap between the legs")
    assert row.glyph in {"within", "over", "cannot tell"}
    assert next(s for s in bench.segments() if s.key == "shapes").done
    bench.study.undo_stack.undo()
    assert "gap between the legs" not in bench.study.picture(Board.DRAWING).polygons


def test_a_shape_is_drawn_by_keys_alone(bench: Bench, qtbot: QtBot) -> None:
    bench.study.apply(prompting.enter_pass, "shapes")
    bench.reference.setFocus()
    qtbot.keyClick(bench.reference, Qt.Key.Key_D)
    board = bench.reference
    shift = Qt.KeyboardModifier.ShiftModifier
    assert board.tool.about == "shape 1"
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Left):
        for _ in range(6):
            qtbot.keyClick(board, key, shift)
        qtbot.keyClick(board, Qt.Key.Key_Return)
    qtbot.keyClick(board, Qt.Key.Key_Backspace)
    assert len(board.tool.corners) == 3
    qtbot.keyClick(board, Qt.Key.Key_Return)  # no further corner: closed
    first, second, third = bench.study.picture(Board.REFERENCE).polygons["shape 1"]
    zoom = board.viewport.zoom
    assert second[1] - first[1] == pytest.approx(30.0 / zoom, rel=1e-6)
    assert third[0] - second[0] == pytest.approx(-30.0 / zoom, rel=1e-6)
    assert bench.drawing.tool.about == "shape 1"
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Escape)
    assert bench.drawing.tool is None
    assert [row.glyph for row in bench.column.list_of("shapes").rows if row.label == "shape 1"] == [
        "no"
    ]


def test_the_gate_is_answered_by_a_click_and_taken_back(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.apply(prompting.enter_pass, "verdict")
    state = bench.study.session.state_name
    for wanted in ("yes", "partly", "no", None):
        click_row(bench.column.list_of("verdict"), "Was it checked on a plumb line", qtbot)
        answers = kept(window, bench).extra["bench"]["answers"][state]
        assert answers.get("plumb") == wanted
    click_row(bench.column.list_of("verdict"), "Were the gaps", qtbot)
    verdict = next(one for one in bench.segments() if one.key == "verdict")
    assert (verdict.filled, verdict.ticks) == (1, 5)


def test_a_study_begins_before_a_line_is_drawn(
    open_window: Opener, tmp_path: Path, picture_files: tuple[Path, Path], qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    house(window).begin_study([picture_files[0]])
    settle(qtbot, window)
    from bralto.ui.shelf.new_study import NewStudy

    slip = window.findChild(NewStudy)
    qtbot.waitUntil(lambda: slip.reference.clean is not None)
    qtbot.mouseClick(slip.start, LEFT)
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    study = bench.study
    assert study.undrawn
    assert "No drawing yet" in bench.drawing.message
    for key, y in (("crown", 40.0), ("heel_r", 360.0), ("chin", 80.0)):
        assert study.step.board == Board.REFERENCE
        study.apply(prompting.ask, Board.REFERENCE, key)
        at = bench.reference.viewport.to_board(150.0, y).toPoint()
        qtbot.mouseClick(bench.reference, LEFT, pos=at)
    assert set(study.picture(Board.REFERENCE).marks) == {"crown", "heel_r", "chin"}
    study.edits.place(Board.DRAWING, 10.0, 10.0, 1.0)
    assert not study.picture(Board.DRAWING).marks
    study.pictures.set_crop(Board.DRAWING, (0.0, 0.0, 5.0, 5.0))
    assert bench.prompt().trouble
    study.apply(prompting.enter_pass, "sheet")
    assert bench.column.right.paper().plan.head == pytest.approx(380.0 * 40.0 / 320.0, abs=1.5)
    window.grab()
    for one in study.now.ground.passes:
        study.apply(prompting.enter_pass, one.key)
        bench.grab()
    window.go("Shelf")
    house(window).shelf.grab()
    # Its photo comes later, and it is an ordinary study then.
    house(window).arrivals.add_state(study, picture_files[1], "first")
    qtbot.waitUntil(lambda: house(window).arrivals.slip is not None, timeout=60_000)
    settle(qtbot, window)
    house(window).arrivals.slip.state.use("none")
    house(window).arrivals.slip.keep.click()
    settle(qtbot, window)
    assert not study.undrawn
    assert study.step.board == Board.DRAWING


def test_rows_scroll_to_their_end_and_say_how_many_are_below(
    bench: Bench, qtbot: QtBot, window: MainWindow
) -> None:
    window.resize(1024, 700)
    bench.study.apply(prompting.enter_pass, "tilts")
    rows = bench.column.list_of("tilts")
    rows.grab()
    below, model = rows.list.below(), rows.list.model()
    assert 0 < below < len(rows.rows)
    assert rows.list.area(len(rows.rows) - below - 1).bottom() <= rows.height() - 18.0
    last = model.index(len(rows.rows) - 1, 0)
    rows.list.scrollTo(last)
    assert (rows.list.below(), rows.list.is_whole(last.row())) == (0, True)
    assert [model.index(i, 0).data() for i in range(model.rowCount())] == [
        row.spoken for row in rows.rows
    ]
    row = rows.rows[last.row()]
    at = rows.list.area(last.row()).center().toPoint()
    QTest.mouseMove(rows.list.viewport(), at)
    qtbot.waitUntil(lambda: bench.study.session.pointed in row.points)
    assert rows.list.toolTip() == row.spoken


def test_library_round_trip_of_notes(demo_copy: Path) -> None:
    with Library.open(demo_copy) as library:
        stored = library.studies()[0]
        changed = replace(stored.study, extra={"bench": {"line": ["chin"]}})
        library.edits.put_head(stored.id, stored.version, changed)
        assert library.find(stored.id).extra == {"bench": {"line": ["chin"]}}


def test_tab_leads_from_field_to_field_on_a_slip_and_to_the_other_board_beside_it(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    bench.study.apply(prompting.enter_pass, "sheet")
    slip = bench.column.plan
    slip.margin.setFocus()
    qtbot.keyClick(slip.margin, Qt.Key.Key_Tab)
    assert slip.head.hasFocus()
    bench.study.edits.remove(Board.DRAWING, "navel")
    bench.study.apply(prompting.enter_pass, "heights")
    bench.drawing.setFocus()
    assert bench.study.step.board == Board.DRAWING
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Tab)
    assert bench.study.step.board == Board.REFERENCE
    # From the boards to the list of a pass, on to the other lists, and back.
    bench.study.apply(prompting.enter_pass, "plumb")
    bench.reference.setFocus()
    qtbot.keyClick(bench.reference, Qt.Key.Key_F6)
    assert bench.column.list_of("plumb").hasFocus()
    qtbot.keyClick(bench.column.list_of("plumb").list, Qt.Key.Key_Down)
    qtbot.keyClick(bench.column.list_of("plumb").list, Qt.Key.Key_Space)
    assert bench.study.line == bench.study.examination.seen.lines[1]
    for part in (bench.column.list_of("plumb").list, bench.moves.list, bench.off.list):
        assert part.hasFocus()
        qtbot.keyClick(part, Qt.Key.Key_F6)
    assert bench.active_board().hasFocus()


def drag(bench: Bench, by: QPoint) -> None:
    """Drag the navel of the drawing, without letting go."""
    at = bench.drawing.at("navel").toPoint()
    QTest.mousePress(bench.drawing, LEFT, pos=at)
    for share in (0.5, 1.0):
        QTest.mouseMove(bench.drawing, at + QPoint(int(share * by.x()), int(share * by.y())))


def test_what_was_laid_over_between_two_drags_is_there_in_the_second(
    bench: Bench, qtbot: QtBot
) -> None:
    """While a mark of one board is dragged the other keeps what lies over it, but no longer."""
    bench.study.apply(prompting.enter_pass, "heights")
    bench.reference.hover = None
    drag(bench, QPoint(0, 12))
    qtbot.waitUntil(lambda: not bench.study.now.behind)
    bare = bench.reference.grab().toImage()
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Escape)
    assert not bench.study.now.dragging
    qtbot.keyClick(bench.drawing, Qt.Key.Key_K)
    bench.reference.grab()
    drag(bench, QPoint(0, 12))
    qtbot.waitUntil(lambda: not bench.study.now.behind)
    assert bench.reference.grab().toImage() != bare  # the big forms lie there
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Escape)


@pytest.mark.parametrize("turn", [mirror, upside_down])
def test_the_gravity_line_and_the_envelope_turn_with_the_picture(
    bench: Bench, turn: Callable[[Bench], None]
) -> None:
    """Mirrored or on its head, what lies over the picture lies at the same places of it."""
    board = bench.reference
    lines: list[list[QPointF]] = []
    for key, draw in (("plumb", draw_weight), ("edges", draw_envelope)):
        bench.study.apply(prompting.enter_pass, key)
        found = []
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(instruments, "veiled", lambda _p, at, *_, **__: lines.append(list(at)))
            for _ in range(2):
                image = QImage(board.size(), QImage.Format.Format_RGB32)
                painter = QPainter(image)
                draw(painter, board)
                painter.end()
                found.append([places_of(board, line) for line in lines])
                lines.clear()
                turn(bench)
        straight, turned = found
        assert len(straight) == len(turned) > 0
        for one, other in zip(straight, turned, strict=True):
            assert other == pytest.approx(one, abs=1)


def places_of(board: PictureBoard, line: list[QPointF]) -> np.ndarray:
    """Ends of what was drawn, px of the picture, in an order of their own."""
    places = [board.viewport.to_image(at) for at in line]
    return np.array(sorted((round(p.x()), round(p.y())) for p in places))


def test_two_counts_of_what_cannot_be_told_are_one(bench: Bench) -> None:
    bench.study.apply(prompting.enter_pass, "verdict")
    found = bench.study.assessment
    row = next(
        r for r in bench.column.list_of("verdict").rows if r.label.endswith("cannot be told")
    )
    assert row.label.startswith(f"{len(found.unsure())} of {len(found.told())} measures")
    assert {r.verdict for r in found.unsure()} == {"cannot tell"}
    assert {r.spec.id for r in found.unsure()} <= {r.spec.id for r in found.told()}


def test_a_canon_that_is_not_known_is_said_and_the_bench_stays(
    window: MainWindow, bench: Bench
) -> None:
    changed = replace(bench.study.study, reference=None, kind="imagined", canon="nine-heads")
    house(window).open_study(house(window).library.add(changed, {}, "2026-11-25T08:00:00Z"))
    assert "unknown canon 'nine-heads'" in window.prompt_line.prompt.lead
    assert house(window).bench is bench
