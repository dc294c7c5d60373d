"""Where a view's points, derived ones too, lie on a board."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from typing import NamedTuple, Protocol

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QImage, QPainter

from bralto.core.study.two_boards import Board
from bralto.ui.boards.viewport import Viewport
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.theme.tokens import Tokens

__all__ = ["DrawnLines", "Overlay", "PaintedBoard", "point_on_board"]


class DrawnLines(StrEnum):
    """Lines of a picture whose points can be taken in hand."""

    CURVES = "curves"
    SHAPES = "shapes"
    SHADOWS = "shadows"


class Overlay(NamedTuple):
    """What lies over both pictures in a pass.

    Attributes:
        draw: its instruments, the faintest first.
        sights: kind of the measures whose verdicts the drawing's marks show, or "".
        marks: whether the marks are shown.
        lines: which lines of the picture can be taken by their points (`hands.line_hand`), if any.
    """

    draw: tuple[Callable[[QPainter, PaintedBoard], None], ...]
    sights: str = ""
    marks: bool = True
    lines: DrawnLines | None = None


class PaintedBoard(Protocol):
    """What a drawer may ask of a board; drawers only read."""

    study: OpenStudy
    board: Board
    viewport: Viewport
    tokens: Tokens
    candidate: QPointF | None
    hover: QPointF | None
    loupe_on: bool
    overview: bool
    under_finger: bool
    quiet: bool
    plain: bool
    overlay: Overlay

    @property
    def moving_mark(self) -> bool:
        """Whether a mark is in hand."""

    def width(self) -> int:
        """Board px."""

    def height(self) -> int:
        """Board px."""

    def level_for(self, zoom: float) -> QImage | None:
        """The picture at about that zoom."""

    def paint_laid_over(self, painter: QPainter) -> None:
        """The big forms and the canon; painted anew only where they are others."""

    def at(self, key: str) -> QPointF | None:
        """Where a mark lies, or None."""


def point_on_board(board: PaintedBoard, key: str) -> QPointF | None:
    """A landmark or a derived point in board px, or None where a mark is missing; which mark a
    point is made of is decided in the picture's own frame, however the board is turned."""
    ground = board.study.now.ground
    places = ground.places_seen if board.board == Board.REFERENCE else ground.places_drawn
    place = places.get(key)
    return None if place is None else board.viewport.to_board(*place)
