"""A whole figure study by keys alone, one by mouse alone: both say what the command says."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.journeys.test_first_study import begin, click, where
from tests.ui.conftest import Opener, house, settle

from bralto.cli.main import run
from bralto.core.examination.assessment import Assessment
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import BOARDS, Board
from bralto.ui.bench.bench import Bench
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.window import MainWindow

NONE, SHIFT, CONTROL, ALT = (
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.AltModifier,
)
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def printed(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> Callable[[str], dict]:
    """What `bralto measure` prints of a study of the library in ``tmp_path``."""

    def measure(study_id: str) -> dict:
        monkeypatch.setenv("BRALTO_LIBRARY", str(tmp_path / "library"))
        with pytest.raises(SystemExit) as ended:
            run(["measure", study_id, "--format", "json"])
        assert not ended.value.code
        return json.loads(capsys.readouterr().out)

    return measure


def same_as_printed(found: Assessment, document: dict) -> None:
    """Every figure and every move, to the last digit that is printed."""
    assert len(document["measures"]) == len(found.readings)
    for row, reading in zip(document["measures"], found.readings, strict=True):
        assert row["id"] == reading.spec.id
        assert row["verdict"] == reading.verdict
        for name in ("reference", "drawing", "error", "u"):
            value = getattr(reading, name)
            assert row[name] == (None if value is None else pytest.approx(value, abs=1e-9))
    assert not isinstance(found.corrections, NotMeasurable)
    assert [row["text"] for row in document["corrections"]] == [c.text for c in found.corrections]
    assert not isinstance(found.short_miss, NotMeasurable)
    assert document["fit"]["short_set_miss"] == pytest.approx(found.short_miss.value)


def press(window: MainWindow, key: Qt.Key, modifier: Qt.KeyboardModifier = NONE) -> None:
    """A key where the focus is, as a keyboard has it."""
    target = QApplication.focusWidget()
    if target is None or target.window() is not window:
        target = house(window).bench.active_board() if house(window).bench is not None else window
    QTest.keyClick(target, key, modifier)


def crosshair_to(window: MainWindow, bench: Bench, wanted: QPointF) -> None:
    """Move the crosshair of the active board near a place of the picture, by arrows alone."""
    board = bench.active_board()
    now = board.viewport.to_board(board.start_of_keys().x(), board.start_of_keys().y())
    away = board.viewport.to_board(wanted.x(), wanted.y()) - now
    for distance, more, less in (
        (away.x(), Qt.Key.Key_Right, Qt.Key.Key_Left),
        (away.y(), Qt.Key.Key_Down, Qt.Key.Key_Up),
    ):
        key = more if distance > 0.0 else less
        big, small = divmod(round(2.0 * abs(distance)), 10)
        for _ in range(big):
            press(window, key, SHIFT)
        for _ in range(small):
            press(window, key)
    if abs(away.x()) < 0.25 and abs(away.y()) < 0.25:  # it has to be moved to be there at all
        press(window, Qt.Key.Key_Right)
        press(window, Qt.Key.Key_Left)


def begin_by_keys(window: MainWindow, qtbot: QtBot, files: tuple[Path, Path]) -> Bench:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path)) for path in files])
    QApplication.clipboard().setMimeData(data)
    QTest.keyClick(window, Qt.Key.Key_V, CONTROL)
    slip = window.findChild(NewStudy)
    assert slip is not None
    settle(qtbot, window)
    qtbot.keyClicks(slip.title, "Net mender")
    QTest.keyClick(slip.title, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.place == "Bench")
    settle(qtbot, window)
    sheet: QWidget | None = house(window).arrivals.slip
    assert sheet is not None
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    window.activateWindow()  # no window manager gives the focus back after a slip
    qtbot.waitUntil(window.isActiveWindow)
    assert house(window).bench is not None
    house(window).bench.active_board().setFocus()
    return house(window).bench


def test_a_whole_study_by_keys_alone(
    open_window: Opener,
    tmp_path: Path,
    picture_files: tuple[Path, Path],
    qtbot: QtBot,
    printed: Callable[[str], dict],
) -> None:
    window = open_window(tmp_path / "library")
    bench = begin_by_keys(window, qtbot, picture_files)
    study = bench.study
    while study.step is not None and study.step.short:
        board, key = study.step.board, study.step.key
        crosshair_to(window, bench, QPointF(*where(board, key)))
        press(window, Qt.Key.Key_Return)
        assert key in study.picture(board).marks
    for board in BOARDS:  # as near as half a screen px
        zoom = bench.boards[board == Board.DRAWING].viewport.zoom
        for key, mark in study.picture(board).marks.items():
            assert (mark.x, mark.y) == pytest.approx(where(board, key), abs=0.6 / zoom)
    # Through the passes to the verdict.
    press(window, Qt.Key.Key_Left, CONTROL)
    for _ in study.now.ground.passes:
        press(window, Qt.Key.Key_Right, CONTROL)
    assert study.current_pass == "verdict"
    qtbot.waitUntil(lambda: not study.busy)  # corrections follow once the hand rests
    assert "The head came out large" in [row.label for row in bench.column.list_of("verdict").rows]
    press(window, Qt.Key.Key_1)
    assert study.session.held is study.corrections[0]
    press(window, Qt.Key.Key_Return)
    assert study.intentions.is_put_right(study.corrections[0])
    press(window, Qt.Key.Key_Escape)
    assert study.session.held is None
    press(window, Qt.Key.Key_F6)
    gate = bench.column.list_of("verdict")
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Return):
        QTest.keyClick(gate.list, key)
    assert len(study.notes.answers["first"]) == 1
    QTest.keyClick(window, Qt.Key.Key_4, ALT)
    settle(qtbot, window)
    assert window.prompt_line.prompt.lead == "1 study on record:"
    document = printed(study.id)
    same_as_printed(study.assessment, document)
    assert document["corrections"][0]["part"] == "head"


def test_a_whole_study_by_mouse_alone(
    open_window: Opener,
    tmp_path: Path,
    picture_files: tuple[Path, Path],
    qtbot: QtBot,
    printed: Callable[[str], dict],
) -> None:
    window = open_window(tmp_path / "library")
    bench = begin(window, qtbot, picture_files)
    study = bench.study
    tape, share = window.tape, (window.tape.width() - 48) / len(study.now.ground.passes)

    def enter(key: str) -> None:
        at = [one.key for one in study.now.ground.passes].index(key)
        qtbot.mouseClick(tape, LEFT, pos=QPoint(int(24 + (at + 0.5) * share), 20))
        assert study.current_pass == key

    while study.step is not None and study.step.short:
        click(bench, qtbot)
    for key in ("edges", "heights", "widths", "tilts"):  # and all the other marks, pass by pass
        enter(key)
        while study.step is not None:
            assert study.step.key in study.now.ground.pass_of(key).marks
            click(bench, qtbot)
    assert set(study.picture(Board.DRAWING).marks) == set(study.view.placing)
    enter("shapes")
    rows = bench.column.list_of("shapes")
    rows.grab()
    at = next(i for i, row in enumerate(rows.rows) if row.label == "gap between the legs")
    qtbot.mouseClick(rows.list.viewport(), LEFT, pos=rows.list.area(at).center().toPoint())
    for board in bench.boards:
        for key in ("crotch", "ankle_r", "ankle_l", "crotch"):
            qtbot.mouseClick(board, LEFT, pos=board.at(key).toPoint())
    enter("verdict")
    qtbot.waitUntil(lambda: not study.busy)
    slip = bench.moves.slip_of(study.corrections[0]).center().toPoint()
    qtbot.mouseClick(bench.moves.list.viewport(), LEFT, pos=slip)
    assert study.intentions.is_put_right(study.corrections[0])
    enter("plumb")
    lines = bench.column.list_of("plumb")
    lines.grab()
    qtbot.mouseClick(lines.list.viewport(), LEFT, pos=lines.list.area(1).center().toPoint())
    document = printed(study.id)
    same_as_printed(study.assessment, document)
    assert document["corrections"][0]["part"] == "head"
    (shape,) = study.assessment.shapes
    assert shape.name == "gap between the legs"
    window.go("Record")  # the skill of shapes is on it from now on
    settle(qtbot, window)
    assert house(window).record.accuracy.charts["shapes"].isVisible()
    window.grab()
