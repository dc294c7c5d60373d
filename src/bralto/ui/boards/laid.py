"""What can be laid over both pictures in any pass: the big forms, and a canon's stations."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen

from bralto.core.canons.figure import canon_stations
from bralto.core.canons.library import Canon
from bralto.core.constructions import Form, construct
from bralto.core.discover.points import figure_of
from bralto.core.frames import image_points
from bralto.core.results import NotMeasurable
from bralto.ui.boards.instruments import veiled
from bralto.ui.boards.points import Board
from bralto.ui.theme.paint import halo_text
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["draw_canon", "draw_forms"]

_OPEN = frozenset({"line"})


def draw_forms(painter: QPainter, board: Board) -> None:
    """Egg, block, ball and jaw, cylinders, centre line and envelope, as the marks have them."""
    picture = board.study.picture(board.board)
    figure = board.study.figure(board.board)
    if board.board == "reference" and board.study.imagined:
        figure = figure_of(board.study.view, picture)
    if isinstance(figure, NotMeasurable):
        return
    for form in construct(figure):
        places = image_points(picture, form.outline * figure.head.value)
        if not isinstance(places, NotMeasurable):
            at = [board.viewport.to_board(x, y) for x, y in places.tolist()]
            veiled(painter, at, _pen(form), closed=form.kind not in _OPEN)


def _pen(form: Form) -> QPen:
    if form.kind == "envelope":
        return QPen(LIGHT.colour("ink", 0.7), 1.0, Qt.PenStyle.DashLine)
    return QPen(LIGHT.colour("ink"), 1.5)


def draw_canon(painter: QPainter, board: Board, canon: Canon) -> None:
    """Level lines where an average has its stations, counted in this picture's own heads.

    Dashed and named with the canon's figure: a question to the drawing, no verdict.
    """
    view = board.study.view
    ends = [board.at(key) for key in view.head]
    if ends[0] is None or ends[1] is None:
        return
    away = ends[1] - ends[0]
    head = (away.x() ** 2 + away.y() ** 2) ** 0.5 / view.heads
    face = font(Size.FINE)
    pen = QPen(LIGHT.colour("ochre"), 1.2, Qt.PenStyle.DashLine)
    top = ends[0].y()
    for name, value in canon_stations(view, canon).items():
        y = top + head * value
        veiled(painter, [QPointF(0.0, y), QPointF(float(board.width()), y)], pen)
        words = f"{view.point_label(name)} {value:.3g}"
        ink, veil = LIGHT.colour("ochre"), LIGHT.colour("veil")
        halo_text(painter, QPointF(8.0, y - 4.0), words, face, ink, veil)
