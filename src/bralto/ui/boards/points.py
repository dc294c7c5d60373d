"""Where a view's points, derived ones too, lie on a board."""

from __future__ import annotations

from typing import Protocol

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QImage, QPainter

from bralto.ui.boards.viewport import Viewport
from bralto.ui.state.open_study import OpenStudy

__all__ = ["Board", "point_on_board"]


class Board(Protocol):
    """What a drawer may ask of a board; drawers only read."""

    study: OpenStudy
    board: str
    viewport: Viewport
    candidate: QPointF | None
    hover: QPointF | None
    loupe_on: bool
    quiet: bool
    plain: bool

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


def point_on_board(board: Board, key: str) -> QPointF | None:
    """A landmark or a derived point in board px, or None where a mark is missing.

    Follows `core.measures.points`: a lowest point is chosen among the marks that both boards have.
    """
    point = next((p for p in board.study.view.points if p.key == key), None)
    if point is None:
        return board.at(key)
    both = board.study.on_both
    wanted = [k for k in point.marks if k in both] if point.rule == "lowest" else point.marks
    places = [place for k in wanted if (place := board.at(k)) is not None]
    if not places or (point.rule == "mean" and len(places) < len(point.marks)):
        return None
    if point.rule == "lowest":
        return max(places, key=lambda place: place.y())
    total = QPointF(sum(p.x() for p in places), sum(p.y() for p in places))
    return total / len(places)
