"""What single passes lay over a picture: envelope, levels, the plumb line hung, weight, shapes."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from bralto.core.discover.envelope import EDGES
from bralto.core.measures.masses import FEET
from bralto.core.measures.own_frame import own_frames
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.two_boards import Board
from bralto.core.words.phrases import signed
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.theme.paint import halo_text, text_width, triangle
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = [
    "draw_envelope",
    "draw_levels",
    "draw_line",
    "draw_shapes",
    "draw_weight",
    "veil_of",
    "veiled",
]

_INKS = LIGHT

_CORNER = 5.5
"""Half the side of the square about a corner, board px."""

_LEVEL = 0.55
"""How far level lines reach to either side, parts of the head's height."""


def veil_of(pen: QPen) -> QPen:
    """What is drawn under a line so that it reads on any picture."""
    return QPen(_INKS.colour("veil", 0.8), pen.widthF() + 2.4)


def veiled(painter: QPainter, places: list[QPointF], pen: QPen, *, closed: bool = False) -> None:
    """Straight lines with a light veil beside them, so that they read on any picture."""
    shape = QPolygonF(places)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for one in (veil_of(pen), pen):
        painter.setPen(one)
        if closed:
            painter.drawPolygon(shape)
        else:
            painter.drawPolyline(shape)


def draw_envelope(painter: QPainter, board: PaintedBoard) -> None:
    """A box about the outermost marks, upright as the board shows them."""
    box = board.study.examination.side(board.board).envelope
    if box is None:
        return
    ends = {edge: board.at(box.marks[edge]) for edge in EDGES}
    places = [place for place in ends.values() if place is not None]
    if len(places) < len(EDGES):
        return
    # The outermost marks bound the box however the board is turned or mirrored.
    around = QPolygonF(places).boundingRect()
    corners = [around.topLeft(), around.topRight(), around.bottomRight(), around.bottomLeft()]
    pen = QPen(_INKS.colour("ink", 0.9), 1.4, Qt.PenStyle.DashLine)
    veiled(painter, corners, pen, closed=True)
    painter.setPen(QPen(_INKS.colour("ink"), 1.6))
    for place in places:
        painter.drawEllipse(place, 8.5, 8.5)


def draw_levels(painter: QPainter, board: PaintedBoard) -> None:
    """Where the same head from another side has its stations, as lines across this one; named where
    they are not level."""
    study = board.study
    figure = study.examination.side(board.board).figure
    if study.tied.level_study is None or isinstance(figure, NotMeasurable):
        return
    found = study.tied.ties(board.board)
    frames = own_frames(study.view, [figure.points])
    if isinstance(found, NotMeasurable):
        return
    tilt = 0.0 if frames is None else frames[0].radians
    down, across = np.array([np.sin(tilt), -np.cos(tilt)]), np.array([np.cos(tilt), np.sin(tilt)])
    rows = {key: i for i, key in enumerate(figure.marks.keys)}
    crown, chin = (figure.marks.xy[rows[key]] for key in study.view.edges)
    tall = float((chin - crown) @ down)
    aside = 0.5 * float((chin - crown) @ across)
    picture, face = study.picture(board.board), font(Size.FINE, bold=True)
    named = 0
    for tie in found:
        at = crown + tie.expected * tall * down
        ends = np.array([at + (aside + side * _LEVEL * tall) * across for side in (-1.0, 1.0)])
        px = image_points(picture, ends)
        if isinstance(px, NotMeasurable):
            return
        line = [board.viewport.to_board(x, y) for x, y in px.tolist()]
        off = tie.verdict.off
        pen = QPen(_INKS.colour("ink", 0.9 if off else 0.35), 1.4 if off else 1.0)
        pen.setStyle(Qt.PenStyle.DashLine)
        veiled(painter, line, pen)
        if off:
            # By turns at either end: two of them may lie near each other.
            left, right = sorted(line, key=QPointF.x)
            last = min(right.x(), board.width() - 4.0) - text_width(tie.label, face)
            place = QPointF(last, right.y()) if named % 2 else QPointF(max(left.x(), 4.0), left.y())
            place -= QPointF(0.0, 4.0)
            halo_text(painter, place, tie.label, face, _INKS.colour("ink"), _INKS.colour("veil"))
            named += 1


def draw_line(painter: QPainter, board: PaintedBoard) -> None:
    """The plumb line that was chosen, the marks that cross it, and how far each strays."""
    line = board.study.line
    anchor = None if line is None else board.at(line.anchor)
    if line is None or anchor is None:
        return
    pen = QPen(_INKS.colour("ink"), 1.6)
    veiled(painter, [QPointF(anchor.x(), 0.0), QPointF(anchor.x(), float(board.height()))], pen)
    _bob(painter, QPointF(anchor.x(), min(board.height() - 20.0, _lowest(board, line.keys) + 14.0)))
    face = font(Size.FINE, bold=True)
    for one in board.study.examination.both.crossings(line):
        at = board.at(one.key)
        if at is None:
            continue
        off = board.board == Board.DRAWING and one.verdict.off
        role = _INKS.verdict(one.verdict) if board.board == Board.DRAWING else "ink"
        across = [QPointF(anchor.x(), at.y()), at]
        veiled(painter, across, QPen(_INKS.colour(role), 2.2 if off else 1.4))
        if off and one.drawn is not None:
            words = signed(one.drawn - one.seen, 2)
            ink, veil = _INKS.colour(role), _INKS.colour("veil", 0.85)
            halo_text(painter, at + QPointF(12.0, 5.0), words, face, ink, veil)


def _lowest(board: PaintedBoard, keys: tuple[str, ...]) -> float:
    return max((place.y() for key in keys if (place := board.at(key)) is not None), default=0.0)


def _bob(painter: QPainter, at: QPointF) -> None:
    painter.setPen(QPen(_INKS.colour("veil"), 1.0))
    painter.setBrush(_INKS.colour("ink"))
    corners = [(-4.0, -8.0), (4.0, -8.0), (5.0, 2.0), (0.0, 14.0), (-5.0, 2.0)]
    painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in corners]))


def draw_weight(painter: QPainter, board: PaintedBoard) -> None:
    """The gravity line from the centre of mass to the ground, and the base of support."""
    study = board.study
    found = study.examination.side(board.board)
    figure, balance = found.figure, found.balance
    if isinstance(figure, NotMeasurable) or isinstance(balance, NotMeasurable):
        return
    rows = {key: i for i, key in enumerate(figure.marks.keys)}
    feet = figure.heads[[rows[key] for key in FEET if key in rows]]
    plumb = rows.get(study.view.plumb)
    middle = balance.centre + (figure.heads[plumb] if plumb is not None else 0.0)
    ground, (left, right) = feet[:, 1].min(), (feet[:, 0].min(), feet[:, 0].max())
    # Through the picture's own frame: so it stands on its feet upside down and in a mirror too.
    in_heads = np.array([middle, [middle[0], ground], [left, ground], [right, ground]])
    px = image_points(study.picture(board.board), in_heads * figure.head.value)
    if isinstance(px, NotMeasurable):
        return
    centre, foot, *base = (board.viewport.to_board(x, y) for x, y in px.tolist())
    veiled(painter, base, QPen(_INKS.colour("ink"), 4.0))
    dotted = QPen(_INKS.colour("ink"), 1.6, Qt.PenStyle.DotLine)
    veiled(painter, [centre, foot], dotted)
    colour = _INKS.colour("ink" if balance.inside else "red")
    triangle(painter, foot, "down" if foot.y() >= centre.y() else "up", colour, 6.0)
    painter.setPen(QPen(_INKS.colour("ink"), 1.8))
    painter.setBrush(_INKS.colour("veil", 0.8))
    painter.drawEllipse(centre, 7.0, 7.0)
    painter.drawLine(centre - QPointF(7.0, 0.0), centre + QPointF(7.0, 0.0))
    painter.drawLine(centre - QPointF(0.0, 7.0), centre + QPointF(0.0, 7.0))


def draw_corners(painter: QPainter, board: PaintedBoard) -> None:
    """Corners that both pictures have: an open square each, for nothing is marked there."""
    found = board.study.now.corners
    for x, y in found.seen if board.board == Board.REFERENCE else found.drawn:
        at = board.viewport.to_board(x, y)
        box = QRectF(at.x() - _CORNER, at.y() - _CORNER, 2.0 * _CORNER, 2.0 * _CORNER)
        pen = QPen(_INKS.colour("ink"), 1.4)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for one in (veil_of(pen), pen):
            painter.setPen(one)
            painter.drawRect(box)


def draw_shapes(painter: QPainter, board: PaintedBoard) -> None:
    """The polygons of this picture; the one that is lit is filled like a silhouette."""
    study = board.study
    face = font(Size.FINE, bold=True)
    for name, corners in study.picture(board.board).polygons.items():
        places = [board.viewport.to_board(x, y) for x, y in corners]
        lit = study.session.shape in (None, name)
        fill = QColor(_INKS.colour("ink", 0.34 if study.session.shape == name else 0.16))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(fill if lit else _INKS.colour("ink", 0.06))
        painter.drawPolygon(QPolygonF(places))
        pen = QPen(_INKS.colour("ink", 1.0 if lit else 0.4), 1.8)
        veiled(painter, places, pen, closed=True)
        if study.session.shape == name:
            at = QPolygonF(places).boundingRect().center()
            wide = text_width(name, face) / 2.0
            ink, veil = _INKS.colour("ink"), _INKS.colour("veil")
            halo_text(painter, at - QPointF(wide, 0.0), name, face, ink, veil)
