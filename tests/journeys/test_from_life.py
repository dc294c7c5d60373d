"""A figure from life by keys alone: sighted, drawn, photographed, marked, and corrected."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.core.sightings.sitters import points_of
from tests.journeys.test_first_study import where
from tests.journeys.test_whole_study import crosshair_to, press, printed
from tests.puppet import landmarks
from tests.studies import POSE
from tests.ui.conftest import Opener, house, settle

from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.study.taken import Sort
from bralto.core.study.two_boards import Board
from bralto.core.views.shipped_views import view_named
from bralto.ui.arrivals.offer import Offer
from bralto.ui.bench.bench import Bench
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.sight.answer_board import AnswerBoard
from bralto.ui.window import MainWindow

__all__ = ["printed"]

KEY = Qt.Key
FRONT = view_named("figure-front")


def begin_by_keys(window: MainWindow, qtbot: QtBot) -> Bench:
    QTest.keyClick(window, KEY.Key_N, Qt.KeyboardModifier.ControlModifier)
    slip = window.findChild(NewStudy)
    assert slip is not None
    qtbot.keyClicks(slip.title, "Lamp trimmer, evening class")
    QTest.keyClick(slip.canon, KEY.Key_Down)
    assert "pencil and thumb" in slip.canon.currentText()
    QTest.keyClick(slip.title, KEY.Key_Return)
    qtbot.waitUntil(lambda: window.place == "Bench")
    settle(qtbot, window)
    window.activateWindow()  # no window manager gives the focus back after a slip
    qtbot.waitUntil(window.isActiveWindow)
    bench = house(window).bench
    assert bench is not None
    bench.take_keys()
    return bench


def sight_by_keys(board: AnswerBoard, value: float) -> None:
    """Answer what is asked, as near as the keys go."""
    one = board.asked
    assert one is not None
    if one.sort is Sort.LENGTH:
        QTest.keyClick(board, KEY(KEY.Key_0 + min(9, int(value))))
    else:
        QTest.keyClick(board, KEY.Key_Right)
    more, less = KEY.Key_Right, KEY.Key_Left
    if one.sort is Sort.TILT:
        more, less = less, more
    for _ in range(400):
        answer = board.answer
        assert answer is not None
        away = value - answer.value
        before = abs(away)
        QTest.keyClick(board, more if away > 0.0 else less)
        assert board.answer is not None
        if abs(value - board.answer.value) >= before:
            QTest.keyClick(board, less if away > 0.0 else more)
            return
    raise AssertionError(f"{one.measure}: the keys do not get to {value}")


def test_from_the_first_sighting_to_the_corrections_by_keys_alone(
    open_window: Opener,
    tmp_path: Path,
    picture_files: tuple[Path, Path],
    qtbot: QtBot,
    printed: Callable[[str], dict],
) -> None:
    window = open_window(tmp_path / "library")
    window.resize(1280, 800)
    bench = begin_by_keys(window, qtbot)
    study, room = bench.study, bench.room
    assert room is not None
    sitter = {key: np.asarray(at, dtype=float) for key, at in landmarks(POSE).items()}
    sitter = {key: at for key, at in sitter.items() if FRONT.landmark(key) is not None}
    sighter = Sighter(FRONT, points_of("figure-front", sitter))
    while len(study.sighted.kept.items) < 20:
        asked = study.now.questions[0].sighting
        true = sighter.on(asked)
        if true is None:
            press(window, KEY.Key_N)
            continue
        sight_by_keys(room.board, true.value)
        press(window, KEY.Key_Return)
    assert [one.said for one in study.sighted.kept.items] == [""] * 20
    assert not room.listed.suspects  # a steady arm contradicts itself nowhere
    # To the sheet and back: planned before a line is drawn.
    press(window, KEY.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert study.current_pass == "sheet"
    # The drawing is photographed, and pasted.
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(picture_files[1]))])
    QApplication.clipboard().setMimeData(data)
    QTest.keyClick(window, KEY.Key_V, Qt.KeyboardModifier.ControlModifier)
    settle(qtbot, window)
    offer = window.findChild(Offer)
    assert offer is not None
    settle(qtbot, window)
    QTest.keyClick(offer.name, KEY.Key_Return)
    settle(qtbot, window)
    sheet = house(window).arrivals.slip
    assert sheet is not None
    QTest.keyClick(sheet, KEY.Key_Escape)  # a scan needs no corners
    qtbot.waitUntil(lambda: not study.undrawn)
    settle(qtbot, window)
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    bench.take_keys()
    while study.step is not None and study.step.short:
        board, key = study.step.board, study.step.key
        assert board == Board.DRAWING
        crosshair_to(window, bench, QPointF(*where(board, key)))
        press(window, KEY.Key_Return)
        assert key in study.picture(board).marks
    qtbot.waitUntil(lambda: not study.busy)
    first = study.corrections[0]
    assert (first.move, first.part) == ("scale", "head")  # a quarter too large
    document = printed(study.id)
    assert [row["text"] for row in document["corrections"]] == [
        one.text for one in study.corrections
    ]
