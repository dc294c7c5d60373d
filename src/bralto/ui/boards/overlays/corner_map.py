"""A board that is near: the whole picture in a corner, and whereabouts the next mark may be."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QPainter, QPen

from bralto.core.study.two_boards import Board
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.viewport import Viewport
from bralto.ui.theme.tokens import LIGHT

__all__ = ["draw_map", "draw_whereabouts", "map_of"]

_HIGH, _WIDE, _MARGIN = 128.0, 128.0, 10.0
"""Largest size of the map and its distance from the board's corner, board px."""

_NEAR = 1.15
"""Times the zoom of the whole from which on a board is near."""

_SD, _LEAST = 2.0, 13.0
"""Standard deviations that the whereabouts take in, and board px at least."""

_DOT = 1.6


def map_of(board: PaintedBoard) -> tuple[QRectF, Viewport] | None:
    """Where the map lies on a board, and how the whole picture lies there; None while the board
    itself shows the whole."""
    if not board.overview or board.width() < 3 * _WIDE:
        return None
    whole = board.viewport.fitted(QSizeF(_WIDE, _HIGH))
    size = whole.outline().boundingRect().size()
    full = board.viewport.fitted(QSizeF(board.width(), board.height()))
    if board.viewport.zoom < _NEAR * full.zoom:
        return None
    left = _MARGIN
    if board.board == Board.DRAWING:  # in the outer corners: the hand goes between the boards
        left = board.width() - _MARGIN - size.width()
    place = QRectF(QPointF(left, board.height() - _MARGIN - size.height()), size)
    shift = place.center() - QPointF(_WIDE / 2.0, _HIGH / 2.0)
    return place, whole.panned(shift)


def draw_map(painter: QPainter, board: PaintedBoard) -> None:
    """The whole picture, its marks, and a frame about what the board shows."""
    found = map_of(board)
    if found is None:
        return
    place, whole = found
    image = board.level_for(whole.zoom)
    painter.save()
    painter.setPen(QPen(LIGHT.colour("veil"), 3.0))
    painter.setBrush(LIGHT.colour("slip"))
    painter.drawRect(place)
    painter.setClipRect(place)
    if image is not None:
        paint_laid(painter, whole, image, smooth=True)
    painter.setPen(Qt.PenStyle.NoPen)
    picture = board.study.picture(board.board)
    for role, size in (("veil", _DOT + 1.0), ("ink", _DOT)):
        painter.setBrush(LIGHT.colour(role))
        for key in picture.placed():
            mark = picture.marks[key]
            painter.drawEllipse(whole.to_board(mark.x, mark.y), size, size)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    corners = (QPointF(0.0, 0.0), QPointF(board.width(), board.height()))
    ends = [whole.to_board(at.x(), at.y()) for at in map(board.viewport.to_image, corners)]
    frame = QRectF(*ends).normalized()
    for role, wide in (("veil", 3.0), ("ink", 1.4)):
        painter.setPen(QPen(LIGHT.colour(role), wide))
        painter.drawRect(frame)
    painter.setClipping(False)
    painter.setPen(QPen(LIGHT.colour("ink"), 1.0))
    painter.drawRect(place)
    painter.restore()


def draw_whereabouts(painter: QPainter, board: PaintedBoard) -> None:
    """On the reference: about where the next mark is looked for. Never on a drawing: what is shown
    there would pull the hand to where the mark should be."""
    step, picture = board.study.step, board.study.picture(Board.REFERENCE)
    if step is not None and picture.placed().intersection(step.keys):
        return  # it is asked for again, and shown where it lies
    if step is None or board.board != Board.REFERENCE or step.board != Board.REFERENCE:
        return
    for found in board.study.now.whereabouts.values():
        sizes, axes = np.linalg.eigh(found.cov)
        reach = _SD * np.sqrt(np.maximum(sizes, 0.0))
        ring = QRectF(-reach[1], -reach[0], 2.0 * reach[1], 2.0 * reach[0])
        painter.save()
        painter.setTransform(board.viewport.transform(), combine=True)
        painter.translate(board.viewport.to_flat(found.x, found.y))
        painter.rotate(float(np.degrees(np.arctan2(axes[1, 1], axes[0, 1]))))
        least = _LEAST / board.viewport.zoom
        if min(ring.width(), ring.height()) < 2.0 * least:
            across, down = max(least, reach[1]), max(least, reach[0])
            ring = QRectF(-across, -down, 2.0 * across, 2.0 * down)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for role, wide, style in (
            ("veil", 3.0, Qt.PenStyle.SolidLine), ("ink", 1.0, Qt.PenStyle.DashLine),
        ):  # fmt: skip
            pen = QPen(LIGHT.colour(role, 0.7), wide, style)
            pen.setCosmetic(True)
            painter.setPen(pen)
            painter.drawEllipse(ring)
        painter.restore()
