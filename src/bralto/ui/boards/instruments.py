"""What single passes lay over a picture: envelope, the plumb line hung, the weight, shapes."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from bralto.core.discover.balance import read_balance
from bralto.core.discover.crossing import crossings
from bralto.core.discover.envelope import EDGES, envelope_of
from bralto.core.measures.masses import FEET
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import GRADES
from bralto.core.wording import signed
from bralto.ui.boards.points import Board
from bralto.ui.theme.paint import halo_text, triangle
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["draw_envelope", "draw_line", "draw_shapes", "draw_weight", "veiled"]

_INKS = LIGHT


def veiled(painter: QPainter, places: list[QPointF], pen: QPen, *, closed: bool = False) -> None:
    """Straight lines with a light veil beside them, so that they read on any picture."""
    shape = QPolygonF(places)
    beside = QPen(_INKS.colour("veil", 0.6), pen.widthF() + 2.4)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for one in (beside, pen):
        painter.setPen(one)
        if closed:
            painter.drawPolygon(shape)
        else:
            painter.drawPolyline(shape)


def draw_envelope(painter: QPainter, board: Board) -> None:
    """A box about the outermost marks, upright as the board shows them."""
    figure = board.study.figure(board.board)
    box = None if isinstance(figure, NotMeasurable) else envelope_of(figure)
    if box is None:
        return
    ends = {edge: board.at(box.marks[edge]) for edge in EDGES}
    if any(place is None for place in ends.values()):
        return
    top, bottom, left, right = (ends[edge] or QPointF() for edge in EDGES)
    corners = QRectF(QPointF(left.x(), top.y()), QPointF(right.x(), bottom.y())).normalized()
    pen = QPen(_INKS.colour("ink", 0.9), 1.4, Qt.PenStyle.DashLine)
    around = [corners.topLeft(), corners.topRight(), corners.bottomRight(), corners.bottomLeft()]
    veiled(painter, around, pen, closed=True)
    for place in ends.values():
        if place is not None:
            painter.setPen(QPen(_INKS.colour("ink"), 1.6))
            painter.drawEllipse(place, 8.5, 8.5)


def draw_line(painter: QPainter, board: Board) -> None:
    """The plumb line that was chosen, the marks that cross it, and how far each strays."""
    study, line = board.study, board.study.line
    seen = study.figure("reference")
    anchor = None if line is None else board.at(line.anchor)
    if line is None or anchor is None or isinstance(seen, NotMeasurable):
        return
    pen = QPen(_INKS.colour("ink"), 1.6)
    veiled(painter, [QPointF(anchor.x(), 0.0), QPointF(anchor.x(), float(board.height()))], pen)
    _bob(painter, QPointF(anchor.x(), min(board.height() - 20.0, _lowest(board, line.keys) + 14.0)))
    face = font(Size.FINE, bold=True)
    for one in crossings(line, seen, study.figure("drawing"), GRADES[study.study.grade]):
        at = board.at(one.key)
        if at is None:
            continue
        off = board.board == "drawing" and one.verdict in {"over", "under"}
        role = _INKS.verdict(one.verdict) if board.board == "drawing" else "ink"
        across = [QPointF(anchor.x(), at.y()), at]
        veiled(painter, across, QPen(_INKS.colour(role), 2.2 if off else 1.4))
        if off and one.drawn is not None:
            words = signed(one.drawn - one.seen, 2)
            ink, veil = _INKS.colour(role), _INKS.colour("veil", 0.85)
            halo_text(painter, at + QPointF(12.0, 5.0), words, face, ink, veil)


def _lowest(board: Board, keys: tuple[str, ...]) -> float:
    return max((place.y() for key in keys if (place := board.at(key)) is not None), default=0.0)


def _bob(painter: QPainter, at: QPointF) -> None:
    painter.setPen(QPen(_INKS.colour("veil"), 1.0))
    painter.setBrush(_INKS.colour("ink"))
    corners = [(-4.0, -8.0), (4.0, -8.0), (5.0, 2.0), (0.0, 14.0), (-5.0, 2.0)]
    painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in corners]))


def draw_weight(painter: QPainter, board: Board) -> None:
    """The gravity line from the centre of mass to the ground, and the base of support."""
    study = board.study
    figure = study.figure(board.board)
    if isinstance(figure, NotMeasurable):
        return
    balance = read_balance(figure, GRADES[study.study.grade])
    if isinstance(balance, NotMeasurable):
        return
    feet = [(key, place) for key in FEET if (place := board.at(key)) is not None]
    origin = board.at(study.view.plumb)
    head = _head_on_board(board)
    if len(feet) < 2 or origin is None or head is None:
        return
    way = -1.0 if board.viewport.mirrored else 1.0
    x, y = (float(v) for v in balance.centre)
    centre = origin + QPointF(way * head * x, -head * y)
    ground = max(place.y() for _, place in feet) + 8.0
    xs = [place.x() for _, place in feet]
    base = [QPointF(min(xs), ground), QPointF(max(xs), ground)]
    veiled(painter, base, QPen(_INKS.colour("ink"), 4.0))
    dotted = QPen(_INKS.colour("ink"), 1.6, Qt.PenStyle.DotLine)
    veiled(painter, [centre, QPointF(centre.x(), ground)], dotted)
    colour = _INKS.colour("ink" if balance.inside else "red")
    triangle(painter, QPointF(centre.x(), ground - 2.0), "down", colour, 6.0)
    painter.setPen(QPen(_INKS.colour("ink"), 1.8))
    painter.setBrush(_INKS.colour("veil", 0.8))
    painter.drawEllipse(centre, 7.0, 7.0)
    painter.drawLine(centre - QPointF(7.0, 0.0), centre + QPointF(7.0, 0.0))
    painter.drawLine(centre - QPointF(0.0, 7.0), centre + QPointF(0.0, 7.0))


def _head_on_board(board: Board) -> float | None:
    """Board px a head of the board's own picture."""
    ends = [board.at(key) for key in board.study.view.head]
    if ends[0] is None or ends[1] is None:
        return None
    away = ends[0] - ends[1]
    return float(np.hypot(away.x(), away.y())) / board.study.view.heads


def draw_shapes(painter: QPainter, board: Board) -> None:
    """The polygons of this picture; the one that is lit is filled like a silhouette."""
    study = board.study
    face = font(Size.FINE, bold=True)
    for name, corners in study.picture(board.board).polygons.items():
        places = [board.viewport.to_board(x, y) for x, y in corners]
        lit = study.shape in (None, name)
        fill = QColor(_INKS.colour("ink", 0.34 if study.shape == name else 0.16))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(fill if lit else _INKS.colour("ink", 0.06))
        painter.drawPolygon(QPolygonF(places))
        pen = QPen(_INKS.colour("ink", 1.0 if lit else 0.4), 1.8)
        veiled(painter, places, pen, closed=True)
        if study.shape == name:
            at = QPolygonF(places).boundingRect().center()
            wide = 3.3 * len(name)
            ink, veil = _INKS.colour("ink"), _INKS.colour("veil")
            halo_text(painter, at - QPointF(wide, 0.0), name, face, ink, veil)
