"""What can be laid over both pictures in any pass: the big forms, and a canon's stations."""

from __future__ import annotations

import math

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen, QPolygonF

from bralto.core.canons.figure import canon_stations
from bralto.core.canons.shipped_canons import Canon
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.two_boards import Board
from bralto.ui.boards.board import PaintedBoard, point_on_board
from bralto.ui.boards.overlays.instruments import veil_of, veiled
from bralto.ui.theme.paint import halo_text
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["draw_canon", "draw_forms", "draw_laid", "shows_canon"]

_OPEN = frozenset({"line"})


def draw_laid(painter: QPainter, board: PaintedBoard) -> None:
    """The big forms and the canon, as far as they are wished for."""
    if board.study.session.forms_on or shows_canon(board):
        draw_forms(painter, board)
    if board.study.session.canon is not None:
        draw_canon(painter, board, board.study.session.canon)


def shows_canon(board: PaintedBoard) -> bool:
    """Whether a canon stands on the board as a figure."""
    return board.board == Board.REFERENCE and board.study.imagined


def draw_forms(painter: QPainter, board: PaintedBoard) -> None:
    """Egg, block, cylinders, centre line and envelope, as the marks have them; a head as the school
    that was chosen builds it up."""
    picture = board.study.picture(board.board)
    examination, built = board.study.examination, board.study.session.built
    found = examination.side(board.board)
    figure = found.shape if shows_canon(board) else found.figure
    forms = examination.both.heads.forms(board.board, built) or found.forms
    if isinstance(figure, NotMeasurable) or not forms:
        return
    corners = np.concatenate([form.outline for form in forms]) * figure.head.value
    places = image_points(picture, corners)
    if isinstance(places, NotMeasurable):
        return
    at = [board.viewport.to_board(x, y) for x, y in places.tolist()]
    # One path for all that have one pen: each stroke of its own costs as much as all together.
    paths = {"envelope": QPainterPath(), "": QPainterPath()}
    first = 0
    for form in forms:
        last = first + len(form.outline)
        path = paths.get(form.kind, paths[""])
        path.addPolygon(QPolygonF(at[first:last]))
        if form.kind not in _OPEN:
            path.closeSubpath()
        first = last
    painter.setBrush(Qt.BrushStyle.NoBrush)
    pens = {
        "envelope": QPen(LIGHT.colour("ink", 0.7), 1.0, Qt.PenStyle.DashLine),
        "": QPen(LIGHT.colour("ink"), 1.5),
    }
    for kind, path in paths.items():
        for pen in (veil_of(pens[kind]), pens[kind]):
            painter.setPen(pen)
            painter.drawPath(path)


def _heights(board: PaintedBoard) -> tuple[tuple[str, float], ...]:
    """The marks of a head below its crown, in its own heads; of a figure none are wanted."""
    view, figure = board.study.view, board.study.examination.side(board.board).figure
    if isinstance(figure, NotMeasurable) or not view.axis:
        return ()
    rows = {spec.id: row for row, spec in enumerate(view.measures)}
    found = []
    for key in view.axis:
        row = rows.get(f"height.{key}")
        if row is not None and figure.table.ok[row]:
            found.append((key, float(figure.table.values[row]) / figure.head.value))
    return tuple(found)


_FIRST_ROW, _ROW, _ROWS = 14.0, 15.0, 3  # of labels beside plumb lines, board px


def draw_canon(painter: QPainter, board: PaintedBoard, canon: Canon) -> None:
    """Level lines, on a head square to its centre line, where an average has its stations, counted
    in this picture's own heads.

    Dashed and named with the canon's figure: a question to the drawing, no verdict.
    """
    view = board.study.view
    axis = _axis(board)
    if axis is None:
        return
    top, down = axis
    across = QPointF(-down.y(), down.x()) / max(math.hypot(down.x(), down.y()), 1e-9)
    across = across if across.x() >= 0.0 else -across
    reach = float(board.width() + board.height())
    face = font(Size.FINE)
    pen = QPen(LIGHT.colour("ochre"), 1.2, Qt.PenStyle.DashLine)
    for number, (name, value) in enumerate(canon_stations(view, canon, _heights(board)).items()):
        at = top + value * down
        veiled(painter, [at - reach * across, at + reach * across], pen)
        words = f"{view.point_label(name)} {value:.3g}"
        ink, veil = LIGHT.colour("ochre"), LIGHT.colour("veil")
        if board.study.lies:  # beside its line, which is plumb, a row lower each time
            row = _FIRST_ROW + _ROW * (number % _ROWS)
            halo_text(painter, QPointF(at.x() + 4.0, row), words, face, ink, veil)
            continue
        # Where the line comes in from the left.
        left = at.y() - (at.x() - 8.0) * across.y() / max(across.x(), 1e-9)
        halo_text(painter, QPointF(8.0, left - 4.0), words, face, ink, veil)


def _axis(board: PaintedBoard) -> tuple[QPointF, QPointF] | None:
    """Where the stations are counted from and one head down from there, board px: plumb on the
    board, of a figure that lies level towards its feet, of a head along its own centre line."""
    view, side = board.study.view, board.study.examination.side(board.board)
    ends = [board.at(key) for key in view.head]
    if ends[0] is None or ends[1] is None:
        return None
    away = ends[1] - ends[0]
    head = math.hypot(away.x(), away.y()) / view.heads
    if board.study.lies:
        feet = point_on_board(board, view.edges[1]) or ends[1]
        return ends[0], QPointF(math.copysign(head, feet.x() - ends[0].x()), 0.0)
    if not view.axis or isinstance(side.figure, NotMeasurable):
        return ends[0], QPointF(0.0, head)
    tilt, figure = math.radians(side.tilt_deg), side.figure
    crown = figure.points.xy[view.point_rows[view.head[0]]]
    lower = crown + figure.head.value * np.array([math.sin(tilt), -math.cos(tilt)])
    places = image_points(side.picture, np.array([lower]))
    if isinstance(places, NotMeasurable):
        return ends[0], QPointF(0.0, head)
    x, y = places[0].tolist()
    return ends[0], board.viewport.to_board(x, y) - ends[0]
