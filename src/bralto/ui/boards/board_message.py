"""What a board says where it has no picture, beside the marks that lie there."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter

from bralto.ui.boards.board import PaintedBoard
from bralto.ui.theme.paint import rounded
from bralto.ui.theme.type import Size, font

__all__ = ["draw_message", "message_place"]

_EDGE, _PLATE, _MARK = 16.0, 6.0, 14.0
"""px: between words and the board's edge; of the plate about them; about a mark."""

_STEPS = 12
"""From the top of a board to its foot."""

_NARROW = 0.4, 0.3
"""Shares of a board's width beside a figure that stands in its middle."""

_WRAP = Qt.TextFlag.TextWordWrap.value


def message_place(board: PaintedBoard, words: str) -> tuple[QRectF, bool]:
    """Where the words lie, board px: over the whole width or along a side, wherever the fewest
    marks are; of places alike the uppermost. And whether no mark is there."""
    room = QRectF(0.0, 0.0, board.width(), board.height()).adjusted(_EDGE, _EDGE, -_EDGE, -_EDGE)
    sides = [
        QRectF(left, room.top(), share * room.width(), room.height())
        for share in _NARROW
        for left in (room.left(), room.right() - share * room.width())
    ]
    metrics = QFontMetricsF(font(Size.BODY))
    laid = [metrics.boundingRect(area, _WRAP, words) for area in (room, *sides)]
    places = [
        one.translated(0.0, step / _STEPS * (room.height() - one.height()))
        for step in range(_STEPS + 1)
        for one in laid
    ]
    placed = board.study.now.picture(board.board).placed()
    at = [mark for key in placed if (mark := board.at(key)) is not None]

    def hidden(place: QRectF) -> int:
        grown = place.adjusted(-_MARK, -_MARK, _MARK, _MARK)
        return sum(grown.contains(mark) for mark in at)

    place = min(places, key=hidden)
    return place, not hidden(place)


def draw_message(painter: QPainter, board: PaintedBoard, words: str, place: QRectF) -> None:
    """The words on a plate of their own: lines hang down over the whole board."""
    rounded(painter, place.adjusted(-_PLATE, -_PLATE, _PLATE, _PLATE), board.tokens.colour("slip"))
    painter.setFont(font(Size.BODY))
    painter.setPen(board.tokens.colour("ink2"))
    painter.drawText(place, _WRAP, words)
