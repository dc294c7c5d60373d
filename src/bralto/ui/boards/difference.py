"""Where two outlines differ: the drawing's laid over the reference's."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen, QPolygonF, QTransform

from bralto.core.discover.constructions import convex_hull
from bralto.core.study.values import OUTLINE
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.theme.tokens import LIGHT

__all__ = ["draw_difference", "outline_of"]


def outline_of(board: PictureBoard, *, by_hull: bool) -> QPainterPath:
    """A picture's outline, board px."""
    picture = board.study.picture(board.board)
    if by_hull:
        places = [
            at for key in sorted(board.study.now.ground.shared) if (at := board.at(key)) is not None
        ]
        hull = convex_hull(np.array([[p.x(), p.y()] for p in places]).reshape(-1, 2))
        shape = QPolygonF([QPointF(x, y) for x, y in hull.tolist()])
    else:
        shape = QPolygonF([board.viewport.to_board(x, y) for x, y in picture.polygons[OUTLINE]])
    path = QPainterPath()
    path.addPolygon(shape)
    path.closeSubpath()
    return path


def draw_difference(
    painter: QPainter, reference: PictureBoard, drawing: PictureBoard, between: QTransform
) -> None:
    """Red where the drawing reaches beyond the reference, blue where it falls short of it."""
    pictures = [board.study.picture(board.board) for board in (reference, drawing)]
    by_hull = any(OUTLINE not in picture.polygons for picture in pictures)
    seen = outline_of(reference, by_hull=by_hull)
    drawn = between.map(outline_of(drawing, by_hull=by_hull))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.fillPath(drawn - seen, LIGHT.colour("red", 0.45))
    painter.fillPath(seen - drawn, LIGHT.colour("blue", 0.45))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for path, style in ((seen, Qt.PenStyle.SolidLine), (drawn, Qt.PenStyle.DashLine)):
        for width, role in ((3.4, "veil"), (1.6, "ink")):
            painter.setPen(QPen(LIGHT.colour(role), width, style))
            painter.drawPath(path)
