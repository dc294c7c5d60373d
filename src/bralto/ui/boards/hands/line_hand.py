"""Points of lines that are drawn already, taken in hand: a sweep's, a shape's, a shadow's."""

from __future__ import annotations

import math
from typing import NamedTuple

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from bralto.core.study.values import Point
from bralto.ui.boards.board import DrawnLines
from bralto.ui.boards.hands.gestures import SLOP
from bralto.ui.boards.hands.handled_board import HandledBoard
from bralto.ui.boards.overlays.sweep_path import swept
from bralto.ui.theme.tokens import LIGHT

__all__ = ["LineHand", "apart"]

_REACH = 9.0  # board px within which a press takes a point
_SHOWN = 90.0  # board px about the pointer within which points are shown
_ROUGHLY = 3.0  # a sheet that is shown straight on has another zoom from place to place
_RING = 4.5


class _Grip(NamedTuple):
    """One point of one line: ``name`` of a curve or shape, the number of a shadow."""

    name: str
    number: int


class LineHand:
    """Works on one board in passes whose overlay has ``lines``; places are board px.

    While a point is in hand the study stays as it is; what is let go is one edit.
    """

    def __init__(self, board: HandledBoard) -> None:
        self._board = board
        self._held: _Grip | None = None
        self._start, self._at = QPointF(), QPointF()
        self._moved = False

    @property
    def active(self) -> bool:
        """Whether a point is in hand; not any more where its line is taken back, or another pass
        shows other lines."""
        held = self._held
        if held is not None and held.number >= len(self._lines().get(held.name, ())):
            self._held = None
        return self._held is not None

    def press(self, at: QPointF) -> bool:
        """Take the point there in hand, if there is one."""
        self._held = self._nearest(at)
        self._start = self._at = at
        self._moved = False
        return self.active

    def nudge(self, by: QPointF) -> None:
        """The point goes on by so much, as keys move it."""
        self._at, self._moved = self._at + by, True
        self._board.update()

    def move(self, at: QPointF) -> None:
        """The point follows the pointer, once it has moved by more than a slip."""
        self._at = at
        self._moved = self._moved or apart(at, self._start) > SLOP
        self._board.update()

    def release(self) -> None:
        """Leave the point where it has come to."""
        if self.active and self._moved:
            assert self._held is not None
            self._keep(self._held)
        self._held = None
        self._board.update()

    def cancel(self) -> bool:
        """Put it back; False where none is in hand."""
        held, self._held = self._held, None
        self._board.update()
        return held is not None

    def paint(self, painter: QPainter) -> None:
        """The points near the pointer or the crosshair, and the line that is being changed."""
        board = self._board
        hand = board.hover
        if hand is None and board.candidate is not None:
            hand = self._shown((board.candidate.x(), board.candidate.y()))
        held = self._held if self.active else None
        hand = hand if held is None else self._at
        if hand is None or board.quiet or board.plain:
            return
        under = held or self._nearest(hand)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if held is not None and self._moved:
            places = [self._shown(place) for place in self._changed(held)]
            for wide, role in ((4.0, "veil"), (1.8, "red")):
                painter.setPen(QPen(LIGHT.colour(role), wide))
                if self._sort == DrawnLines.CURVES:
                    painter.drawPath(swept(places))
                else:
                    painter.drawPolygon(QPolygonF(places))
            self._rings(painter, [self._at], strong=True)
            return
        near = [
            (grip, place)
            for grip, place in self._grips(hand)
            if self._sort == DrawnLines.CURVES or apart(place, hand) < _SHOWN
        ]
        self._rings(painter, [place for grip, place in near if grip != under], strong=False)
        self._rings(painter, [place for grip, place in near if grip == under], strong=True)

    def _rings(self, painter: QPainter, places: list[QPointF], *, strong: bool) -> None:
        wide = _RING + 2.0 if strong else _RING
        for width, role in ((4.0, "veil"), (2.0 if strong else 1.4, "red" if strong else "ink")):
            painter.setPen(QPen(LIGHT.colour(role), width))
            for place in places:
                painter.drawEllipse(place, wide, wide)

    # The lines

    @property
    def _sort(self) -> DrawnLines | None:
        return self._board.overlay.lines

    def _lines(self) -> dict[str, tuple[Point, ...]]:
        """Lines whose points can be moved, image px."""
        study, board = self._board.study, self._board.board
        picture = study.picture(board)
        if self._sort == DrawnLines.CURVES:
            return dict(picture.curves)
        if self._sort == DrawnLines.SHAPES:
            return dict(picture.polygons)
        if self._sort == DrawnLines.SHADOWS and not study.session.values.get(board):
            return {str(i): ring for i, ring in enumerate(picture.shadows)}
        return {}

    def _grips(self, hand: QPointF) -> list[tuple[_Grip, QPointF]]:
        """All points of curves; of outlines, which may have thousands, those about the hand."""
        there, far = self._board.viewport.to_image(hand), math.inf
        if self._sort != DrawnLines.CURVES:
            far = _ROUGHLY * _SHOWN / self._board.viewport.zoom
        return [
            (_Grip(name, number), self._shown(place))
            for name, points in self._lines().items()
            for number, place in enumerate(points)
            if abs(place[0] - there.x()) < far and abs(place[1] - there.y()) < far
        ]

    def _nearest(self, at: QPointF) -> _Grip | None:
        found = min(self._grips(at), key=lambda one: apart(one[1], at), default=None)
        return found[0] if found is not None and apart(found[1], at) <= _REACH else None

    def _shown(self, place: Point) -> QPointF:
        return self._board.viewport.to_board(*place)

    def _changed(self, held: _Grip) -> tuple[Point, ...]:
        """The line of a point with the point where it is now."""
        points = list(self._lines()[held.name])
        there = self._board.viewport.to_image(self._at)
        points[held.number] = (there.x(), there.y())
        return tuple(points)

    def _keep(self, held: _Grip) -> None:
        board = self._board
        pictures, points = board.study.pictures, self._changed(held)
        if self._sort == DrawnLines.CURVES:
            pictures.set_curve(board.board, held.name, points)
        elif self._sort == DrawnLines.SHAPES:
            pictures.set_polygon(board.board, held.name, points)
        else:
            rings = list(board.study.picture(board.board).shadows)
            rings[int(held.name)] = points
            pictures.set_shadows(board.board, tuple(rings))


def apart(one: QPointF, two: QPointF) -> float:
    """How far one place lies from another."""
    return math.hypot(one.x() - two.x(), one.y() - two.y())
