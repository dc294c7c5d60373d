"""What is drawn over a picture: plumb, sighting lines, divisions, tilts, marks, loupe."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen

from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.terms import Visibility
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
from bralto.ui.boards.overlays.shaded import draw_shadows
from bralto.ui.boards.overlays.strokes import draw_masses, draw_sweeps
from bralto.ui.theme.paint import halo_text, mark_dot, rule, text, text_width, triangle
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = [
    "ACTION", "EDGES", "HEIGHTS", "LEVELS", "MAGNIFY", "PLAIN", "PLUMB", "SHAPES", "SHEET",
    "TILTS", "TONES", "WIDTHS", "Overlay", "direction_of", "draw_board", "loupe_focus",
]  # fmt: skip

INKS = LIGHT
"""Pictures are paper or photographs in any theme, so what lies over them keeps one set of inks."""

_LOUPE = 62.0  # radius, board px
MAGNIFY = 3.5
"""How many times nearer the loupe shows what the board shows."""

_VEIL = 0.75
"""Strength of the veil beside a line against the line's own: measured on a busy street and a dark
studio (test_real_photographs.py)."""

_FINGER = 24.0  # board px that a finger's tip hides
_DIM = 0.4


def draw_board(painter: QPainter, board: PaintedBoard) -> None:
    """Everything that lies over the picture, from the faintest to the mark in hand."""
    shown, repeating = board.overlay, board.study.session.repeating
    if repeating is not None and repeating.board == board.board:
        # Blind: nothing may tell where a mark was set before.
        _candidate(painter, board)
        _loupe(painter, board)
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
        _marks(painter, board)
    if board.board == Board.DRAWING:
        draw_goals(painter, board)
    if board.overview:
        draw_whereabouts(painter, board)
        draw_map(painter, board)
    _candidate(painter, board)
    _loupe(painter, board)


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
            pen = QPen(INKS.colour("ink", 0.5 if lit else 0.5 * _DIM), 1.0)
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
        pen = QPen(INKS.colour("ink", 0.75 if lit else 0.75 * _DIM), 1.0)
        _line(painter, at, QPointF(edge, at.y()), pen)


def _drops(painter: QPainter, board: PaintedBoard) -> None:
    """Plumb lines from the rail's marks down to the rail."""
    for key in board.study.rails:
        at = board.at(key)
        if at is None:
            continue
        lit = board.study.session.pointed in (None, key)
        pen = QPen(INKS.colour("ink", 0.5 if lit else 0.5 * _DIM), 1.0)
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


def direction_of(reading: Reading) -> str:
    """Which way a reading's triangle points: down is further down, right is more."""
    if reading.spec.kind == "height" or reading.spec.along == "plumb":
        return "down" if reading.more else "up"
    return "right" if reading.more else "left"


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


def _marks(painter: QPainter, board: PaintedBoard) -> None:
    study, tokens = board.study, INKS
    kind = board.overlay.sights
    marks = study.picture(board.board).marks
    ring, proposed = tokens.colour("veil"), study.now.asked_proposal
    for key, mark in marks.items():
        at = board.at(key)
        if at is None or mark.visibility == Visibility.ABSENT:
            continue
        if not study.now.in_sight(key) and (board.board, key) != proposed:
            continue
        told = board.board == Board.DRAWING and not board.overview  # a verdict would lead the hand
        reading = study.assessment.reading(f"{kind}.{key}") if told else None
        painter.setOpacity(1.0 if study.session.pointed in (None, key) else _DIM)
        if reading is not None and reading.verdict.off:
            triangle(painter, at, direction_of(reading), ring, 8.0)
            colour = tokens.colour(tokens.verdict(reading.verdict))
            triangle(painter, at, direction_of(reading), colour, 5.6)
        else:
            unsure = reading is not None and reading.verdict == Verdict.CANNOT_TELL
            colour = tokens.colour("ochre" if unsure else "ink")
            hollow = unsure or mark.visibility == Visibility.INFERRED
            mark_dot(painter, at, colour, ring=ring, hollow=hollow)
        painter.setOpacity(1.0)
        if key in (study.session.pointed, study.session.selected) or (board.board, key) == proposed:
            _emphasis(painter, board, key, at)


def _emphasis(painter: QPainter, board: PaintedBoard, key: str, at: QPointF) -> None:
    tokens = INKS
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(tokens.colour("veil"), 4.0))
    painter.drawEllipse(at, 9.0, 9.0)
    width = 2.2 if key == board.study.session.selected else 1.2
    painter.setPen(QPen(tokens.colour("ink"), width))
    painter.drawEllipse(at, 9.0, 9.0)
    label = board.study.view.point_label(key)
    face = font(Size.NOTE, bold=True)
    wide = 8.0 * len(label)
    x = at.x() + 14.0 if at.x() + 14.0 + wide < board.width() else at.x() - 14.0 - wide
    halo_text(
        painter, QPointF(x, at.y() - 9.0), label, face, tokens.colour("ink"), tokens.colour("veil")
    )


def _candidate(painter: QPainter, board: PaintedBoard) -> None:
    """The crosshair that the keys move."""
    if board.candidate is None:
        return
    at = board.viewport.to_board(board.candidate.x(), board.candidate.y())
    for width, role in ((3.0, "veil"), (1.2, "ink")):
        painter.setPen(QPen(INKS.colour(role), width))
        for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)):
            painter.drawLine(at + QPointF(4.0 * dx, 4.0 * dy), at + QPointF(13.0 * dx, 13.0 * dy))


def _loupe(painter: QPainter, board: PaintedBoard) -> None:
    """The picture magnified where a mark is about to be set or is being moved."""
    focus = loupe_focus(board)
    image = board.level_for(board.viewport.zoom * MAGNIFY)
    if focus is None or image is None:
        return
    away = _LOUPE + 26.0
    x = focus.x() - away if focus.x() > 2.0 * away else focus.x() + away
    y = focus.y() + away if focus.y() < board.height() - 2.0 * away else focus.y() - away
    if board.under_finger:  # a finger hides what it points at, and a hand what lies below
        x, y = focus.x(), focus.y() - away - _FINGER
        y = y if y > _LOUPE else focus.y() + away + _FINGER
    x = min(max(x, _LOUPE + 3.0), board.width() - _LOUPE - 3.0)
    centre = QPointF(x, y)
    circle = QPainterPath()
    circle.addEllipse(centre, _LOUPE, _LOUPE)
    painter.save()
    painter.setClipPath(circle)
    painter.fillPath(circle, INKS.colour("slip"))
    painter.translate(centre)
    painter.scale(MAGNIFY, MAGNIFY)
    painter.translate(-focus)
    painter.setTransform(board.viewport.transform(), combine=True)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    whole = QRectF(0, 0, board.viewport.width, board.viewport.height)
    # Only the part under the glass is drawn; the rest of a 24-megapixel picture is not touched.
    glass = painter.transform().inverted()[0].mapRect(circle.boundingRect()) & whole
    ratio = image.width() / board.viewport.width
    source = QRectF(glass.topLeft() * ratio, glass.size() * ratio)
    painter.drawImage(glass, image, source)
    painter.restore()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(INKS.colour("veil"), 4.0))
    painter.drawEllipse(centre, _LOUPE, _LOUPE)
    painter.setPen(QPen(INKS.colour("ink"), 1.6))
    painter.drawEllipse(centre, _LOUPE, _LOUPE)
    painter.setPen(QPen(INKS.colour("ink", 0.8), 1.0))
    for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)):
        painter.drawLine(
            centre + QPointF(6.0 * dx, 6.0 * dy),
            centre + QPointF((_LOUPE - 4.0) * dx, (_LOUPE - 4.0) * dy),
        )


def loupe_focus(board: PaintedBoard) -> QPointF | None:
    """What the loupe looks at, in board px: the mark in hand, the crosshair, the pointer."""
    if not board.loupe_on:
        return None
    if board.candidate is not None:
        return board.viewport.to_board(board.candidate.x(), board.candidate.y())
    if board.hover is None:
        return None
    step = board.study.step
    placing = step is not None and step.board == board.board
    return board.hover if placing or board.moving_mark else None
