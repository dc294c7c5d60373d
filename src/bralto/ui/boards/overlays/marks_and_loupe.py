"""The marks on a board, the crosshair, and the loupe at what is being placed."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen

from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.two_boards import Board
from bralto.core.terms import Visibility
from bralto.ui.boards.board import PaintedBoard
from bralto.ui.theme.paint import halo_text, mark_dot, triangle
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = [
    "DIM",
    "INKS",
    "MAGNIFY",
    "direction_of",
    "draw_candidate",
    "draw_loupe",
    "draw_marks",
    "loupe_focus",
]

INKS = LIGHT
"""Pictures are paper or photographs in any theme, so what lies over them keeps one set of inks."""

_LOUPE = 62.0  # radius, board px

MAGNIFY = 3.5
"""How many times nearer the loupe shows what the board shows."""

_FINGER = 24.0  # board px that a finger's tip hides

DIM = 0.4


def direction_of(reading: Reading) -> str:
    """Which way a reading's triangle points: down is further down, right is more."""
    if reading.spec.kind == "height" or reading.spec.along == "plumb":
        return "down" if reading.more else "up"
    return "right" if reading.more else "left"


def draw_marks(painter: QPainter, board: PaintedBoard) -> None:
    """All marks of the picture, as the pass wants them."""
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
        painter.setOpacity(1.0 if study.session.pointed in (None, key) else DIM)
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


def draw_candidate(painter: QPainter, board: PaintedBoard) -> None:
    """The crosshair that the keys move."""
    if board.candidate is None:
        return
    at = board.viewport.to_board(board.candidate.x(), board.candidate.y())
    for width, role in ((3.0, "veil"), (1.2, "ink")):
        painter.setPen(QPen(INKS.colour(role), width))
        for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)):
            painter.drawLine(at + QPointF(4.0 * dx, 4.0 * dy), at + QPointF(13.0 * dx, 13.0 * dy))


def draw_loupe(painter: QPainter, board: PaintedBoard) -> None:
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
