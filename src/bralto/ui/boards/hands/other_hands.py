"""Pen and fingers on a board: the pen as a fine pointer, the finger with the loupe above it."""

from __future__ import annotations

import math

from PyQt6.QtCore import QEvent, QPointF
from PyQt6.QtGui import QEventPoint, QMouseEvent, QTabletEvent, QTouchEvent

from bralto.ui.boards.hands.handled_board import HandledBoard
from bralto.ui.boards.hands.pointer_placing import PointerHand

__all__ = ["Fingers", "as_mouse"]

_AS_MOUSE = {
    QEvent.Type.TabletPress: QEvent.Type.MouseButtonPress,
    QEvent.Type.TabletMove: QEvent.Type.MouseMove,
    QEvent.Type.TabletRelease: QEvent.Type.MouseButtonRelease,
}


def as_mouse(event: QTabletEvent) -> QMouseEvent | None:
    """What a pen does, as a pointer that knows parts of a px."""
    kind = _AS_MOUSE.get(event.type())
    if kind is None:
        return None
    return QMouseEvent(
        kind, event.position(), event.globalPosition(), event.button(), event.buttons(),
        event.modifiers(),
    )  # fmt: skip


class Fingers:
    """One finger aims and sets when it is lifted, or drags what lies under it; two zoom and pan.

    The loupe stands above the finger, which hides what it points at.
    """

    def __init__(self, board: HandledBoard, hand: PointerHand) -> None:
        self._board, self._hand = board, hand
        self._aims = self._several = False
        self._pinched: tuple[QPointF, float] | None = None

    def take(self, event: QTouchEvent) -> None:
        """One step of it."""
        points, kind = event.points(), event.type()
        if kind == QEvent.Type.TouchCancel:
            self._leave()
        elif len(points) > 1:
            self._pinch(points)
        elif points and not self._several:
            self._one(kind, self._at(points[0]))
        if kind in {QEvent.Type.TouchEnd, QEvent.Type.TouchCancel}:
            self._several, self._pinched = False, None

    def _at(self, point: QEventPoint) -> QPointF:
        return self._board.mapFromGlobal(point.globalPosition())

    def _one(self, kind: QEvent.Type, at: QPointF) -> None:
        board, hand = self._board, self._hand
        if kind == QEvent.Type.TouchBegin:
            board.take_hold()
            board.under_finger = True
            self._aims = hand.press(at)
        if self._aims or hand.key is not None:
            board.aim(at)
        if kind == QEvent.Type.TouchUpdate and not self._aims:
            hand.move(at)
        elif kind == QEvent.Type.TouchEnd:
            if self._aims:
                hand.set_at(at)  # wherever the finger has come while it aimed
            else:
                hand.release(at)
            self._leave()

    def _pinch(self, points: list[QEventPoint]) -> None:
        """What lies between two fingers stays between them."""
        board = self._board
        if not self._several:
            self._leave()
            self._several = True
        one, two = self._at(points[0]), self._at(points[1])
        middle, apart = (one + two) / 2.0, math.hypot((one - two).x(), (one - two).y())
        if self._pinched is not None:
            before, was = self._pinched
            board.pan(middle - before)
            board.zoom(max(apart, 1.0) / max(was, 1.0), middle)
        self._pinched = middle, apart

    def _leave(self) -> None:
        self._hand.cancel()
        self._board.under_finger = self._aims = False
        self._board.aim(None)
