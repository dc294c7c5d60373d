"""Sighting on both boards at once: plumb and level through the pointer, sticks, dividers.

What is taken on one picture is carried to the other in heads from the crown, as one carries a
pencil from the model to the paper.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import partial

from PyQt6.QtCore import QObject, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPen

from bralto.core.measures.kinds import fold_degrees
from bralto.core.words.phrases import plain
from bralto.ui.boards.board import point_on_board
from bralto.ui.boards.board_view import head_px
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.theme.layer import Layer
from bralto.ui.theme.paint import halo_text, text, text_width
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font

__all__ = ["DIVISIONS", "Held", "Sighting"]

DIVISIONS = ("", "halves", "thirds", "heads")
"""What is marked on a stick: nothing, its halves, its thirds, or heads from its first end on."""

_SHORTEST = 6.0  # board px
_TICK = 7.0
_MOST_STEPS = 60
_SHARES = {"halves": ((0.5, "1/2"),), "thirds": ((1 / 3, "1/3"), (2 / 3, "2/3"))}


@dataclass(frozen=True, slots=True)
class Held:
    """A line held out: both ends in heads from the crown, x right and y down as the boards are,
    and the board that it was taken on."""

    one: QPointF
    two: QPointF
    taken_on: PictureBoard

    @property
    def tilt(self) -> float:
        """Degrees against level, counter-clockwise, of a line without ends."""
        away = self.two - self.one
        return fold_degrees(math.degrees(math.atan2(-away.y(), away.x())))

    @property
    def length(self) -> float:
        """Heads."""
        away = self.two - self.one
        return math.hypot(away.x(), away.y())


class Sighting(QObject):
    """What is held out over both boards."""

    changed = pyqtSignal()
    steps_wanted = pyqtSignal(object)

    def __init__(self, boards: tuple[PictureBoard, PictureBoard], parent: QObject) -> None:
        super().__init__(parent)
        self._boards = boards
        self.lines: frozenset[str] = frozenset()
        self.pointer: QPointF | None = None
        self.stick: Held | None = None
        self.second: Held | None = None
        self.divided = DIVISIONS[0]
        self.dividers: Held | None = None
        self.steps: Held | None = None
        self._layers = {board: Layer(board) for board in boards}
        for board in boards:
            board.above = partial(self.paint, board)
            board.hovered.connect(partial(self._point, board))

    def toggle(self, line: str) -> None:
        """``plumb`` or ``level`` through the pointer, on or off."""
        self.lines = self.lines ^ {line}
        self._repaint()

    def hold_out(self, board: PictureBoard, name: str, one: QPointF, two: QPointF) -> None:
        """Take what a tool drew between two places of a board's picture (image px)."""
        ends = [self._in_heads(board, board.viewport.to_board(p.x(), p.y())) for p in (one, two)]
        if ends[0] is None or ends[1] is None:
            return
        held = Held(ends[0], ends[1], board)
        if name == "second stick" and self.stick is not None:
            self.second = held
        elif name == "dividers":
            self.dividers, self.steps = held, None
            self.steps_wanted.emit(board)
        elif name == "steps":
            self.steps = held
        else:
            self.stick, self.second = held, None
        self._repaint()

    def divide(self) -> None:
        """Mark halves, thirds or heads on the stick, or none."""
        self.divided = DIVISIONS[(DIVISIONS.index(self.divided) + 1) % len(DIVISIONS)]
        self._repaint()

    def put_away(self) -> None:
        """No lines, no sticks and no dividers."""
        self.lines = frozenset()
        self.stick = self.second = self.dividers = self.steps = None
        self._repaint()

    @property
    def out(self) -> bool:
        """Whether anything is held out."""
        return bool(self.lines) or self.stick is not None or self.dividers is not None

    def words(self) -> str:
        """The stick's direction against level and its length; the angle between two sticks; how
        often the dividers' length goes into what they were stepped along."""
        said, unit = [], self._boards[0].study.view.unit
        if self.stick is not None:
            said.append(_of_stick(self.stick, unit))
        if self.stick is not None and self.second is not None:
            between = abs(fold_degrees(self.second.tilt - self.stick.tilt))
            said.append(f"{between:.0f}° between both")
        if self.dividers is not None:
            said.append(self._stepped())
        return " · ".join(said)

    def _stepped(self) -> str:
        assert self.dividers is not None
        if self.steps is None or self.dividers.length <= 0.0:
            return f"{self.dividers.length:.2f} {self._boards[0].study.view.unit}s in the dividers"
        return f"{self.steps.length / self.dividers.length:.2f} steps"

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
        """Over everything else on a board; what is held stays painted while nothing moves it."""
        frame = self._frame(board)
        held = (self.stick, self.second, self.dividers, self.steps)
        if frame is not None and any(held):
            place = (frame[0].x(), frame[0].y(), frame[1])
            key = (place, held, self.divided)
            layer = self._layers[board].pixmap(key, partial(self._paint_held, board))
            painter.drawPixmap(0, 0, layer)
        self._pointer_lines(board, painter)

    def _paint_held(self, board: PictureBoard, painter: QPainter) -> None:
        named = {
            "stick": (self.stick, self.stick and _of_stick(self.stick, board.study.view.unit)),
            "second": (self.second, self.words().split(" · ")[-1] if self.second else ""),
            "dividers": (self.dividers if self.steps is None else None, self.words()),
            "steps": (self.steps, self.words().split(" · ")[-1]),
        }
        for name, (held, words) in named.items():
            if held is not None:
                self._held(board, painter, held, words or "", name)

    def _pointer_lines(self, board: PictureBoard, painter: QPainter) -> None:
        at = self.on_board(board, self.pointer) if self.lines and self.pointer else None
        if at is None or self.pointer is None:
            return
        ends = {
            "plumb": (QPointF(at.x(), 0.0), QPointF(at.x(), float(board.height()))),
            "level": (QPointF(0.0, at.y()), QPointF(float(board.width()), at.y())),
        }
        for line in sorted(self.lines):
            _line(painter, *ends[line], dotted=False)
        if "level" in self.lines:
            down = f"{plain(self.pointer.y(), 2)} {board.study.view.unit}s down"
            # Other words at every move: a slip behind them costs a tenth of a halo about them.
            face = font(Size.FINE, bold=True)
            slip = QRectF(4.0, at.y() - 20.0, text_width(down, face) + 8.0, 18.0)
            painter.fillRect(slip, LIGHT.colour("veil", 0.85))
            text(painter, 8.0, at.y() - 6.0, down, face, LIGHT.colour("ink"))

    def _held(
        self, board: PictureBoard, painter: QPainter, held: Held, words: str, name: str
    ) -> None:
        a, b = self.on_board(board, held.one), self.on_board(board, held.two)
        if a is None or b is None or (b - a).manhattanLength() <= _SHORTEST:
            return
        _line(painter, a, b, dotted=board is not held.taken_on)
        for share, label in self.marks_on(held, name):
            at, across = a + share * (b - a), _across(a, b)
            _line(painter, at - across, at + across, dotted=False)
            if label:
                _words(painter, at + 1.8 * across + QPointF(-4.0, 5.0), label)
        _words(painter, (a + b) / 2.0 + QPointF(9.0, -6.0), words)

    def marks_on(self, held: Held, name: str) -> list[tuple[float, str]]:
        """Shares of a line that are marked, each with its label."""
        if name == "steps" and self.dividers is not None and self.dividers.length > 0.0:
            step = self.dividers.length / held.length
            count = min(int(1.0 / step + 1e-9), _MOST_STEPS)
            return [(i * step, str(i)) for i in range(1, count + 1)]
        if name != "stick":
            return []
        if self.divided == "heads":
            count = min(int(held.length + 1e-9), _MOST_STEPS)
            return [(0.0, "0"), *((i / held.length, str(i)) for i in range(1, count + 1))]
        return list(_SHARES.get(self.divided, ()))


def _of_stick(held: Held, unit: str) -> str:
    return f"{plain(held.tilt, 0)}° · {held.length:.2f} {unit}s"


def _across(a: QPointF, b: QPointF) -> QPointF:
    """Half a tick, square to a line."""
    away = b - a
    return _TICK / math.hypot(away.x(), away.y()) * QPointF(-away.y(), away.x())


def _words(painter: QPainter, at: QPointF, words: str) -> None:
    face = font(Size.FINE, bold=True)
    halo_text(painter, at, words, face, LIGHT.colour("ink"), LIGHT.colour("veil"))


def _line(painter: QPainter, a: QPointF, b: QPointF, *, dotted: bool) -> None:
    """Red chalk over a light veil: it reads on paper and on a dark photo; carried over, dotted."""
    painter.setPen(QPen(LIGHT.colour("veil", 0.7), 3.6))
    painter.drawLine(a, b)
    pen = QPen(LIGHT.colour("red"), 1.6)
    if dotted:
        pen.setStyle(Qt.PenStyle.DashLine)
    painter.setPen(pen)
    painter.drawLine(a, b)
