"""Sighting on both boards at once: plumb and level through the pointer, and a stick held out.

What is taken on one picture is carried to the other in heads from the crown, as one carries a
pencil from the model to the paper.
"""

from __future__ import annotations

import math
from functools import partial

from PyQt6.QtCore import QObject, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPen

from bralto.ui.boards.flat import head_px
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.points import point_on_board
from bralto.ui.theme.paint import halo_text
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["Sighting"]

_SHORTEST = 6.0  # board px


class Sighting(QObject):
    """Its own state is in heads from the crown, x right and y down as the boards are."""

    changed = pyqtSignal()

    def __init__(self, boards: tuple[PictureBoard, PictureBoard], parent: QObject) -> None:
        super().__init__(parent)
        self._boards = boards
        self.lines: frozenset[str] = frozenset()
        self.pointer: QPointF | None = None
        self.stick: tuple[QPointF, QPointF] | None = None
        self._from: PictureBoard | None = None
        for board in boards:
            board.above = partial(self.paint, board)
            board.hovered.connect(partial(self._point, board))

    def toggle(self, line: str) -> None:
        """``plumb`` or ``level`` through the pointer, on or off."""
        self.lines = self.lines ^ {line}
        self._repaint()

    def hold_out(self, board: PictureBoard, _name: str, one: QPointF, two: QPointF) -> None:
        """Take a stick between two places of a board's picture (image px)."""
        ends = [self._in_heads(board, board.viewport.to_board(p.x(), p.y())) for p in (one, two)]
        if ends[0] is not None and ends[1] is not None:
            self.stick, self._from = (ends[0], ends[1]), board
        self._repaint()

    def put_away(self) -> None:
        """No lines and no stick."""
        self.lines, self.stick, self._from = frozenset(), None, None
        self._repaint()

    @property
    def out(self) -> bool:
        """Whether anything is held out."""
        return bool(self.lines) or self.stick is not None

    def words(self) -> str:
        """The stick's direction against level and its length."""
        if self.stick is None:
            return ""
        dx, dy = self.stick[1].x() - self.stick[0].x(), self.stick[0].y() - self.stick[1].y()
        tilt = math.degrees(math.atan2(dy, dx))
        tilt = tilt - 180.0 if tilt > 90.0 else tilt + 180.0 if tilt <= -90.0 else tilt
        unit = self._boards[0].study.view.unit
        return f"{tilt:.0f}° · {math.hypot(dx, dy):.2f} {unit}s".replace("-", "−")

    # Between boards and heads

    def _frame(self, board: PictureBoard) -> tuple[QPointF, float] | None:
        """Where the crown lies on a board, and board px a head; None before there is a unit."""
        study = board.study
        px = head_px(study.assessment, study.picture(board.board), board.board)
        crown = point_on_board(board, study.view.edges[0])
        return None if px is None or crown is None else (crown, px * board.viewport.zoom)

    def _in_heads(self, board: PictureBoard, at: QPointF) -> QPointF | None:
        frame = self._frame(board)
        return None if frame is None else (at - frame[0]) / frame[1]

    def on_board(self, board: PictureBoard, heads: QPointF) -> QPointF | None:
        """Where a place in heads from the crown lies on a board."""
        frame = self._frame(board)
        return None if frame is None else frame[0] + frame[1] * heads

    def _point(self, board: PictureBoard, at: QPointF | None) -> None:
        if self.lines:
            self.pointer = None if at is None else self._in_heads(board, at)
            self._repaint()

    def _repaint(self) -> None:
        for board in self._boards:
            board.update()
        self.changed.emit()

    # Painting

    def paint(self, board: PictureBoard, painter: QPainter) -> None:
        """Over everything else on a board."""
        face = font(Size.FINE, bold=True)
        ink, veil = LIGHT.colour("ink"), LIGHT.colour("veil")
        at = self.on_board(board, self.pointer) if self.lines and self.pointer else None
        if at is not None and self.pointer is not None:
            ends = {
                "plumb": (QPointF(at.x(), 0.0), QPointF(at.x(), float(board.height()))),
                "level": (QPointF(0.0, at.y()), QPointF(float(board.width()), at.y())),
            }
            for line in sorted(self.lines):
                _line(painter, *ends[line], dotted=False)
            if "level" in self.lines:
                down = f"{self.pointer.y():.2f} {board.study.view.unit}s down".replace("-", "−")
                halo_text(painter, QPointF(8.0, at.y() - 6.0), down, face, ink, veil)
        ends_of_stick = [self.on_board(board, end) for end in self.stick or ()]
        if len(ends_of_stick) == 2:
            a, b = ends_of_stick
            if a is not None and b is not None and (b - a).manhattanLength() > _SHORTEST:
                _line(painter, a, b, dotted=board is not self._from)
                halo_text(
                    painter, (a + b) / 2.0 + QPointF(9.0, -6.0), self.words(), face, ink, veil
                )


def _line(painter: QPainter, a: QPointF, b: QPointF, *, dotted: bool) -> None:
    """Red chalk over a light veil: it reads on paper and on a dark photo; carried over, dotted."""
    painter.setPen(QPen(LIGHT.colour("veil", 0.7), 3.6))
    painter.drawLine(a, b)
    pen = QPen(LIGHT.colour("red"), 1.6)
    if dotted:
        pen.setStyle(Qt.PenStyle.DashLine)
    painter.setPen(pen)
    painter.drawLine(a, b)
