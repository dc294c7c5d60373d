"""A pen and fingers on the boards."""

from __future__ import annotations

import math
from functools import cache

import pytest
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import (
    QEventPoint,
    QInputDevice,
    QPointingDevice,
    QPointingDeviceUniqueId,
    QTabletEvent,
    QTouchEvent,
)
from PyQt6.QtWidgets import QApplication

from bralto.core.study.two_boards import Board
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.overlays.marks_and_loupe import loupe_focus
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import prompting

NONE = Qt.KeyboardModifier.NoModifier
BEGIN, UPDATE = QEvent.Type.TouchBegin, QEvent.Type.TouchUpdate
END, CANCEL = QEvent.Type.TouchEnd, QEvent.Type.TouchCancel


@cache
def device(kind: QInputDevice.DeviceType, pointer: QPointingDevice.PointerType) -> QPointingDevice:
    return QPointingDevice(
        "simulated", 7, kind, pointer, QInputDevice.Capability.Position, 10, 1, "",
        QPointingDeviceUniqueId(),
    )  # fmt: skip


SCREEN = QInputDevice.DeviceType.TouchScreen, QPointingDevice.PointerType.Finger
STYLUS = QInputDevice.DeviceType.Stylus, QPointingDevice.PointerType.Pen


def touch(board: PictureBoard, kind: QEvent.Type, *places: QPointF) -> None:
    state = {
        BEGIN: QEventPoint.State.Pressed, UPDATE: QEventPoint.State.Updated,
        END: QEventPoint.State.Released, CANCEL: QEventPoint.State.Released,
    }[kind]  # fmt: skip
    points = [QEventPoint(i, state, at, board.mapToGlobal(at)) for i, at in enumerate(places)]
    QApplication.sendEvent(board, QTouchEvent(kind, device(*SCREEN), NONE, points))


@pytest.fixture
def asked(bench: Bench) -> Bench:
    """The navel of the reference is asked for, and nothing else lies near it."""
    bench.study.edits.remove(Board.REFERENCE, "navel")
    bench.study.apply(prompting.ask, Board.REFERENCE, "navel")
    board = bench.reference
    board.look(board.viewport.zoomed(1.3, QPointF(board.width() / 2, board.height() / 2)))
    return bench


def free_place(board: PictureBoard) -> QPointF:
    """A place of the board that is far from every mark."""
    marks = [board.at(key) for key in board.study.picture(board.board).placed()]
    spots = [QPointF(x, y) for x in range(40, board.width() - 40, 12) for y in range(120, 420, 12)]
    return max(spots, key=lambda at: min(math.hypot((m - at).x(), (m - at).y()) for m in marks))


def test_a_finger_aims_under_a_loupe_above_it_and_sets_where_it_is_lifted(asked: Bench) -> None:
    board = asked.reference
    there = free_place(board)
    touch(board, BEGIN, there + QPointF(12.0, 3.0))
    assert board.under_finger
    assert loupe_focus(board) == there + QPointF(12.0, 3.0)
    clear = board.grab().toImage()
    touch(board, UPDATE, there)
    assert loupe_focus(board) == there
    assert board.grab().toImage() != clear  # the loupe follows
    assert "navel" not in asked.study.picture(Board.REFERENCE).marks
    touch(board, END, there)
    mark = asked.study.picture(Board.REFERENCE).marks["navel"]
    place = board.viewport.to_image(there)
    assert (mark.x, mark.y) == pytest.approx((place.x(), place.y()))
    assert not board.under_finger
    assert loupe_focus(board) is None


def test_a_finger_on_a_mark_drags_it(bench: Bench) -> None:
    board = bench.reference
    start = board.at("chin")
    touch(board, BEGIN, start)
    for by in (6.0, 12.0, 20.0):
        touch(board, UPDATE, start + QPointF(by, 0.0))
    touch(board, END, start + QPointF(20.0, 0.0))
    assert board.at("chin").x() == pytest.approx(start.x() + 20.0)
    assert bench.study.session.in_hand is None


# Qt's own gestures look for the screen's window under touches that came from no screen.
@pytest.mark.qt_log_ignore("QGestureManager::deliverEvents")
def test_two_fingers_zoom_and_pan_and_set_nothing(asked: Bench) -> None:
    board = asked.reference
    before, marks = board.viewport, dict(asked.study.picture(Board.REFERENCE).marks)
    one, two = QPointF(100.0, 200.0), QPointF(160.0, 280.0)
    middle = board.viewport.to_image((one + two) / 2.0)
    touch(board, BEGIN, one)
    touch(board, UPDATE, one, two)
    away = (two - one) / 2.0
    aside = QPointF(10.0, 5.0)
    touch(board, UPDATE, one - away + aside, two + away + aside)
    touch(board, END, one - away + aside)
    assert board.viewport.zoom == pytest.approx(2.0 * before.zoom)
    now = board.viewport.to_board(middle.x(), middle.y())
    wanted = (one + two) / 2.0 + aside
    assert (now.x(), now.y()) == pytest.approx((wanted.x(), wanted.y()))
    assert asked.study.picture(Board.REFERENCE).marks == marks
    assert not board.under_finger


def test_a_touch_that_is_taken_away_sets_and_moves_nothing(asked: Bench) -> None:
    board, marks = asked.reference, dict(asked.study.picture(Board.REFERENCE).marks)
    touch(board, BEGIN, free_place(board))
    touch(board, CANCEL, free_place(board))
    start = board.at("chin")
    touch(board, BEGIN, start)
    touch(board, UPDATE, start + QPointF(30.0, 0.0))
    touch(board, CANCEL, start + QPointF(30.0, 0.0))
    assert asked.study.picture(Board.REFERENCE).marks == marks
    assert asked.study.session.in_hand is None


def pen(board: PictureBoard, kind: QEvent.Type, at: QPointF, *, down: bool) -> None:
    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    changed = none if kind == QEvent.Type.TabletMove else left
    event = QTabletEvent(
        kind, device(*STYLUS), at, board.mapToGlobal(at), 0.5, 0.0, 0.0, 0.0, 0.0, 0.0, NONE,
        changed, left if down else none,
    )  # fmt: skip
    QApplication.sendEvent(board, event)


def test_a_pen_sets_a_mark_between_two_px_and_its_loupe_follows(asked: Bench) -> None:
    board = asked.reference
    there = free_place(board) + QPointF(0.37, 0.81)
    pen(board, QEvent.Type.TabletMove, there, down=False)
    assert loupe_focus(board) == there
    pen(board, QEvent.Type.TabletPress, there, down=True)
    pen(board, QEvent.Type.TabletRelease, there, down=False)
    mark = asked.study.picture(Board.REFERENCE).marks["navel"]
    place = board.viewport.to_image(there)
    assert (mark.x, mark.y) == pytest.approx((place.x(), place.y()))
    # And drags.
    start = board.at("navel")
    pen(board, QEvent.Type.TabletPress, start, down=True)
    pen(board, QEvent.Type.TabletMove, start + QPointF(9.5, 0.0), down=True)
    pen(board, QEvent.Type.TabletRelease, start + QPointF(9.5, 0.0), down=False)
    assert board.at("navel").x() == pytest.approx(start.x() + 9.5)
