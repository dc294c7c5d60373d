"""What is drawn over a picture: plumb, sighting lines, divisions, tilts, marks, loupe."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen

from bralto.core.measures.readings import Reading
from bralto.core.study.two_boards import Board
from bralto.ui.boards.board import DrawnLines, Overlay, PaintedBoard, point_on_board
from bralto.ui.boards.overlays.box_on_ground import draw_ground
from bralto.ui.boards.overlays.corner_map import draw_map, draw_whereabouts
from bralto.ui.boards.overlays.correction_arrows import draw_goals
from bralto.ui.boards.overlays.forms_and_canons import shows_canon
from bralto.ui.boards.overlays.implied_figure import draw_sighted, shows_sighted
from bralto.ui.boards.overlays.instruments import (
    draw_corners,
    draw_envelope,
    draw_levels,
    draw_line,
    draw_shapes,
    draw_weight,
    veil_of,
)
from bralto.ui.boards.overlays.marks_and_loupe import (
    DIM,
    INKS,
    draw_candidate,
    draw_loupe,
    draw_marks,
)
from bralto.ui.boards.overlays.shaded import draw_shadows
from bralto.ui.boards.overlays.strokes import draw_masses, draw_sweeps
from bralto.ui.theme.paint import rule, text, text_width
from bralto.ui.theme.type import Size, font

__all__ = [
    "ACTION", "EDGES", "HEIGHTS", "LEVELS", "PLAIN", "PLUMB", "SHAPES", "SHEET", "TILTS", "TONES",
    "WIDTHS", "Overlay", "draw_board",
]  # fmt: skip


_VEIL = 0.75
"""Strength of the veil beside a line against the line's own: measured on a busy street and a dark
studio (test_real_photographs.py)."""


def draw_board(painter: QPainter, board: PaintedBoard) -> None:
    """Everything that lies over the picture, from the faintest to the mark in hand."""
    shown, repeating = board.overlay, board.study.session.repeating
    if repeating is not None and repeating.board == board.board:
        # Blind: nothing may tell where a mark was set before.
        draw_candidate(painter, board)
        draw_loupe(painter, board)
        return
    if board.plain:
        return
    if board.quiet:
        _plumb(painter, board)
        return  # two pictures are being compared: nothing lies between them and the eye
    if shows_sighted(board):
        draw_sighted(painter, board)
        return  # nothing on it was marked, and nothing can be sighted at
    if not board.overview:  # lines through marks would only lead the hand
        for draw in shown.draw:
            draw(painter, board)
    if board.study.session.forms_on or board.study.session.canon is not None or shows_canon(board):
        board.paint_laid_over(painter)
    if shown.marks:
        draw_marks(painter, board)
    if board.board == Board.DRAWING:
        draw_goals(painter, board)
    if board.overview:
        draw_whereabouts(painter, board)
        draw_map(painter, board)
    draw_candidate(painter, board)
    draw_loupe(painter, board)


def _line(painter: QPainter, a: QPointF, b: QPointF, pen: QPen) -> None:
    """A line with a light veil beside it, so that it reads on dark and busy pictures."""
    veil = _VEIL * pen.color().alphaF()
    rule(painter, a, b, QPen(INKS.colour("veil", veil), pen.widthF() + 2.0))
    rule(painter, a, b, pen)


def _plumb(painter: QPainter, board: PaintedBoard) -> None:
    at = board.at(board.study.view.plumb)
    if at is None:
        return
    pen = QPen(INKS.colour("ink", 0.75), 1.0)
    _line(painter, QPointF(at.x(), 0.0), QPointF(at.x(), board.height()), pen)


def _level(painter: QPainter, board: PaintedBoard) -> None:
    """Of a figure that lies, the level line that its heights are counted from, and how far each
    station lies below or above it."""
    study = board.study
    at = board.at(study.view.plumb)
    if at is None or not study.lies:
        return
    pen = QPen(INKS.colour("ink", 0.75), 1.0)
    _line(painter, QPointF(0.0, at.y()), QPointF(board.width(), at.y()), pen)
    for key in study.view.stations:
        there = point_on_board(board, key)
        if there is not None:
            lit = study.session.pointed in (None, key)
            pen = QPen(INKS.colour("ink", 0.5 if lit else 0.5 * DIM), 1.0)
            pen.setStyle(Qt.PenStyle.DotLine)
            _line(painter, there, QPointF(there.x(), at.y()), pen)


def _divisions(painter: QPainter, board: PaintedBoard) -> None:
    """Halves and thirds of the envelope on the outer edge."""
    if board.study.examination.side(board.board).lies:
        _divisions_along(painter, board)
        return
    top, bottom = (point_on_board(board, key) for key in board.study.view.edges)
    if top is None or bottom is None:
        return
    outer = board.board == Board.REFERENCE
    x = 12.0 if outer else board.width() - 12.0
    inward = 7.0 if outer else -7.0
    pen = QPen(INKS.colour("ink", 0.85), 1.2)
    _line(painter, QPointF(x, top.y()), QPointF(x, bottom.y()), pen)
    for share, words in _SHARES:
        y = top.y() + share * (bottom.y() - top.y())
        _line(painter, QPointF(x, y), QPointF(x + inward, y), pen)
        if words:
            _share(painter, x + 11.0 if outer else x - 27.0, y + 5.0, words)


def _divisions_along(painter: QPainter, board: PaintedBoard) -> None:
    """Halves and thirds of a figure that lies, from its left end to its right, along the lower
    edge."""
    picture = board.study.picture(board.board)
    xs = [at.x() for key in picture.placed() if (at := board.at(key)) is not None]
    if len(xs) < 2:
        return
    left, right, y = min(xs), max(xs), board.height() - 10.0
    pen = QPen(INKS.colour("ink", 0.85), 1.2)
    _line(painter, QPointF(left, y), QPointF(right, y), pen)
    for share, words in _SHARES:
        x = left + share * (right - left)
        _line(painter, QPointF(x, y), QPointF(x, y - 7.0), pen)
        if words:
            _share(painter, x - 8.0, y - 11.0, words)


_SHARES = ((0.0, ""), (1 / 3, "1/3"), (0.5, "1/2"), (2 / 3, "2/3"), (1.0, ""))


def _share(painter: QPainter, left: float, baseline: float, words: str) -> None:
    """A fraction on a plate of its own, for so small a figure drowns in a halo."""
    face = font(Size.FINE, fractions=True)
    plate = QRectF(left - 2.0, baseline - 14.0, text_width(words, face) + 4.0, 18.0)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(INKS.colour("veil", 0.85))
    painter.drawRoundedRect(plate, 3.0, 3.0)
    text(painter, left, baseline, words, face, INKS.colour("ink"))


def _sighting(painter: QPainter, board: PaintedBoard) -> None:
    """Level lines from the stations' marks to the edge where the ladder stands."""
    if board.study.lies:
        return
    view = board.study.view
    edge = board.width() if board.board == Board.REFERENCE else 0.0
    for key in view.stations:
        at = point_on_board(board, key)
        if at is None or not 0.0 <= at.y() <= board.height():
            continue
        lit = board.study.session.pointed in (None, key)
        pen = QPen(INKS.colour("ink", 0.75 if lit else 0.75 * DIM), 1.0)
        _line(painter, at, QPointF(edge, at.y()), pen)


def _drops(painter: QPainter, board: PaintedBoard) -> None:
    """Plumb lines from the rail's marks down to the rail."""
    for key in board.study.rails:
        at = board.at(key)
        if at is None:
            continue
        lit = board.study.session.pointed in (None, key)
        pen = QPen(INKS.colour("ink", 0.5 if lit else 0.5 * DIM), 1.0)
        pen.setStyle(Qt.PenStyle.DotLine)
        _line(painter, at, QPointF(at.x(), board.height()), pen)


def _tilts(painter: QPainter, board: PaintedBoard) -> None:
    """The lines whose tilt is measured; on the drawing the seen direction is dotted beside, unless
    a mark is being dragged and the error still follows it."""
    lines: dict[str, list[QLineF]] = {}
    drawn, dragging = board.board == Board.DRAWING, board.study.now.dragging
    for reading in board.study.assessment.readings:
        if reading.spec.kind != "tilt":
            continue
        a, b = (point_on_board(board, key) for key in reading.spec.points)
        if a is None or b is None:
            continue
        role = INKS.verdict(reading.verdict) if drawn else "ink"
        lines.setdefault(role, []).append(QLineF(a, b))
        if drawn and reading.error is not None and role != "ink" and not dragging:
            _seen_direction(painter, board, reading, a, b)
    # At once for each colour: that costs half of what line by line does.
    for role, found in lines.items():
        pen = QPen(INKS.colour(role), 2.2)
        for one in (veil_of(pen), pen):
            painter.setPen(one)
            painter.drawLines(*found)


def _seen_direction(
    painter: QPainter, board: PaintedBoard, reading: Reading, a: QPointF, b: QPointF
) -> None:
    middle = (a + b) / 2.0
    painter.save()
    painter.translate(middle)
    turn = reading.error or 0.0
    painter.rotate(-turn if board.viewport.mirrored else turn)
    painter.translate(-middle)
    pen = QPen(INKS.colour("ink"), 1.2)
    pen.setStyle(Qt.PenStyle.DotLine)
    _line(painter, a, b, pen)
    painter.restore()


PLAIN = Overlay((_plumb,))
SHEET = Overlay((draw_envelope,))
EDGES = Overlay((_plumb, draw_envelope, _sighting), "height")
PLUMB = Overlay((draw_ground, draw_weight, draw_line))
HEIGHTS = Overlay((_plumb, _level, _divisions, _sighting), "height")
WIDTHS = Overlay((_plumb, _drops, draw_corners), "offset")
TILTS = Overlay((_tilts,))
LEVELS = Overlay((draw_levels,))
# One stroke is looked at, not points; shapes are seen without names.
ACTION = Overlay((draw_masses, draw_sweeps), marks=False, lines=DrawnLines.CURVES)
TONES = Overlay((draw_shadows,), marks=False, lines=DrawnLines.SHADOWS)
SHAPES = Overlay((draw_shapes,), marks=False, lines=DrawnLines.SHAPES)
