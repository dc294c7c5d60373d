"""The action over a picture: its sweeps, the seen one beside the drawn, the masses they carry."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen

from bralto.core.action.bend_kept import Kept, as_meant
from bralto.core.action.sweep_pairs import Sweep
from bralto.core.action.sweeps import WHOLE, table_of
from bralto.core.arrays import Floats
from bralto.core.corrections.push import POSE
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.two_boards import Board
from bralto.ui.boards.board import PaintedBoard, point_on_board
from bralto.ui.boards.overlays.instruments import veil_of, veiled
from bralto.ui.boards.overlays.sweep_path import path_of, swept
from bralto.ui.theme.paint import halo_text, mark_dot
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["draw_masses", "draw_sweeps"]

_INKS = LIGHT
_WIDE, _THIN = 3.2, 1.8
_TOLD_PX = 4.0
"""Board px by which a mark must be meant elsewhere to be shown."""


def draw_sweeps(painter: QPainter, board: PaintedBoard) -> None:
    """Every curve of the picture; on the drawing the seen bend is dotted beside; on the reference
    what the marks propose is dashed, until it is taken or drawn."""
    study, found = board.study, board.study.examination
    lit = study.session.shape
    for name, sweep in found.side(board.board).sweeps.items():
        if isinstance(sweep, NotMeasurable):
            continue
        path = _path(board, sweep.curve.xy * sweep.unit)
        if path is not None:
            strong = 1.0 if lit in (None, name) else 0.4
            wide = _WIDE if name == WHOLE else _THIN
            _stroke(painter, path, QPen(_INKS.colour("ink", strong), wide))
    if board.board == Board.DRAWING:
        _seen_beside(painter, board)
        return
    if WHOLE not in study.picture(board.board).curves and not study.imagined:
        _proposed(painter, board)
    _meant(painter, board)


def _seen_beside(painter: QPainter, board: PaintedBoard) -> None:
    for pair in board.study.examination.sweeps:
        drawn = pair.drawn
        if not isinstance(pair.kept, Kept) or not isinstance(drawn, Sweep):
            continue
        path = _path(board, pair.kept.course * drawn.unit)
        if path is None:
            continue
        role = "red" if pair.kept.overdone else "blue" if pair.kept.straightened else "ink"
        pen = QPen(_INKS.colour(role), 2.0, Qt.PenStyle.DotLine)
        _stroke(painter, path, pen)
        if pair.name == WHOLE:
            words = "as seen" if pair.kept.meant == 1.0 else "as meant"
            _named(painter, path.pointAtPercent(0.5), words, role)


def _meant(painter: QPainter, board: PaintedBoard) -> None:
    """What is pushed, on the reference: the sweep as it is meant, and where marks are meant."""
    found = board.study.examination
    if not found.pushes:
        return
    for key, mark in found.meant.picture.marks.items():
        start, end = board.at(key), board.viewport.to_board(mark.x, mark.y)
        if start is None or (end - start).manhattanLength() < _TOLD_PX:
            continue
        veiled(painter, [start, end], QPen(_INKS.colour("ochre"), 1.6))
        mark_dot(painter, end, _INKS.colour("ochre"), ring=_INKS.colour("veil"), hollow=True)
    factor, seen = found.pushes.get(POSE, 1.0), found.seen.sweeps.get(WHOLE)
    if factor == 1.0 or not isinstance(seen, Sweep):
        return
    path = _path(board, as_meant(seen.curve, factor) * seen.unit)
    if path is not None:
        _stroke(painter, path, QPen(_INKS.colour("ochre"), 2.0, Qt.PenStyle.DotLine))
        _named(painter, path.pointAtPercent(0.5), "as meant", "ochre")


def _named(painter: QPainter, at: QPointF, words: str, role: str) -> None:
    """What a dotted sweep is, beside it."""
    ink, veil = _INKS.colour(role), _INKS.colour("veil", 0.85)
    halo_text(painter, at + QPointF(10.0, 0.0), words, font(Size.FINE, bold=True), ink, veil)


def _proposed(painter: QPainter, board: PaintedBoard) -> None:
    found = board.study.examination.side(board.board).proposed
    if isinstance(found, NotMeasurable):
        return
    places = [board.viewport.to_board(float(x), float(y)) for x, y in found]
    pen = QPen(_INKS.colour("ink", 0.85), 2.0, Qt.PenStyle.DashLine)
    _stroke(painter, swept(places), pen)


def _path(board: PaintedBoard, xy: Floats) -> QPainterPath | None:
    """Places (n, 2) of the picture's sight frame as a path on the board."""
    px = image_points(board.study.picture(board.board), xy)
    if isinstance(px, NotMeasurable):
        return None
    import numpy as np

    places = [board.viewport.to_board(float(x), float(y)) for x, y in px]
    return path_of(np.array([[at.x(), at.y()] for at in places]))


def _stroke(painter: QPainter, path: QPainterPath, pen: QPen) -> None:
    """A curve with a light veil beside it, so that it reads on any picture."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    for one in (veil_of(pen), pen):
        painter.setPen(one)
        painter.drawPath(path)


def draw_masses(painter: QPainter, board: PaintedBoard) -> None:
    """The lines of ribcage and pelvis; the side between them that is squeezed is drawn strong, the
    stretched one thin."""
    found = board.study.examination.side(board.board).masses
    table = table_of(board.study.view)
    if isinstance(found, NotMeasurable):
        return
    ribs, pelvis = (
        [at for key in line[:2] if (at := point_on_board(board, key)) is not None]
        for line in (table.ribs, table.pelvis)
    )
    if len(ribs) < 2 or len(pelvis) < 2:
        return
    ink = _INKS.colour("ink", 0.8)
    for line in (ribs, pelvis):
        veiled(painter, line, QPen(ink, 2.4))
    for side, (a, b) in enumerate(zip(ribs, pelvis, strict=True)):
        squeezed = (side == 0) == (found.sides.value < 1.0)
        pen = QPen(ink, 2.4 if squeezed else 1.0)
        veiled(painter, [a, b], pen)
