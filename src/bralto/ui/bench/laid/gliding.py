"""While marks are set: a board glides to where the mark that is asked for is looked for."""

from __future__ import annotations

import math
import zlib
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import QEasingCurve, QObject, QPointF, QSizeF, Qt, QVariantAnimation
from PyQt6.QtWidgets import QApplication

from bralto.core.marking.whereabouts import Whereabouts
from bralto.core.study.two_boards import Board
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.viewport import Viewport
from bralto.ui.session.moment import Moment
from bralto.ui.settings import Settings

__all__ = ["MS", "TOLERANCE_PX", "Gliding", "moves_freely", "nearer"]

MS = 180
"""How long a board glides."""

TOLERANCE_PX = 8.0
"""Board px that the grade's tolerance takes once a board has come near."""

_UNIT_TIMES = 2.0
"""How many times nearer crown and chin of a figure come: all its heights are counted in them."""

_DOUBT, _SHARE = 2.0, 0.45
"""So many standard deviations of the doubt stay within this share of the board, to each side."""

_COARSEST = 3.0
"""Board px that a px of the picture takes at most."""

_BARE = 0.12
"""Share of a board's height that may lie beside the picture."""

_ASIDE = 0.2
"""Heads by which a drawing's place is put beside the middle, either way and always the same for a
mark: where the middle of the board lies must not tell where the mark should be."""


class Gliding(QObject):
    """Moves the boards; what is looked at is theirs."""

    def __init__(
        self,
        boards: tuple[PictureBoard, PictureBoard],
        settings: Settings,
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self._settings = settings
        self._boards, self._study = boards, boards[0].study
        self._animation = QVariantAnimation(self)
        self._animation.setStartValue(0.0)
        self._animation.setEndValue(1.0)
        self._animation.setEasingCurve(QEasingCurve.Type.InOutQuad)
        self._animation.valueChanged.connect(self._on_step)
        self._way: tuple[PictureBoard, Viewport, Viewport] | None = None
        self._zooms: dict[str, float] = {}  # nearer than by itself, as the learner chose it
        for board in boards:
            board.grasped.connect(self.stop)
            board.zoomed.connect(partial(self._on_zoomed, board))

    @property
    def under_way(self) -> bool:
        """Whether a board is moving."""
        return self._animation.state() == QVariantAnimation.State.Running

    def stop(self) -> None:
        """Stay where it is: a hand took hold, or something else is looked at."""
        self._animation.stop()

    def forget(self) -> None:
        """The whole is looked at again: zooms that were chosen by hand count no more."""
        self.stop()
        self._zooms.clear()

    def follow(self, before: Moment, after: Moment) -> None:
        """After a change: glide where another mark is asked for, unless Shift holds the board."""
        was, now = before.session, after.session
        same = now.step == was.step and now.asked == was.asked
        if now.step is None or same or after.question is not None:
            return
        if not QApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.go()

    def go(self, *, at_once: bool = False) -> None:
        """To where the mark that is asked for is looked for."""
        step, places = self._study.step, self._study.now.whereabouts
        if step is None:
            return
        board = next(one for one in self._boards if one.board == step.board)
        if not board.isVisible() or board.viewport.width <= 0:
            return
        found = places.get(step.key)
        if found is None and board.board in self._zooms:
            return  # the learner has come near by hand
        if found is None:  # nothing tells where: the whole
            whole = board.viewport.fitted(board.size().toSizeF())
            self._glide(board, whole, at_once=at_once)
            return
        view, chosen = self._study.view, self._zooms.get(board.board, 0.0)
        times = _UNIT_TIMES if step.key in view.head and view.size == "figure" else 1.0
        end = nearer(board, found, self._study.grade.head / times, chosen)
        lies = step.key in self._study.picture(board.board).placed()
        if board.board == Board.DRAWING and not lies:
            by = _aside(f"{self._study.id}{step.key}") * found.head_px * end.zoom * _ASIDE
            end = end.panned(by)
        end = end.panned(_into(end, board.size().toSizeF()))
        self._glide(board, end, at_once=at_once)

    def _glide(self, board: PictureBoard, end: Viewport, *, at_once: bool) -> None:
        self.stop()
        if at_once or not (self._settings.glides and moves_freely()):
            board.look(end)
            return
        self._way = board, board.viewport, end
        self._animation.setDuration(MS)
        self._animation.start()

    def _on_step(self, share: float) -> None:
        if self._way is None:
            return
        board, start, end = self._way
        board.look_on_the_way(between(board, start, end, share), last=share >= 1.0)

    def _on_zoomed(self, board: PictureBoard, _factor: float, _about: QPointF) -> None:
        self._zooms[board.board] = board.viewport.zoom


def nearer(
    board: PictureBoard, found: Whereabouts, tolerance: float, chosen: float = 0.0
) -> Viewport:
    """A board with a place in its middle: so near that a tolerance (heads) takes `TOLERANCE_PX`, as
    long as the doubt of the place stays on the board, and no farther than the whole picture.

    Args:
        chosen: a zoom that the learner chose; it counts where it is nearer.
    """
    middle = QPointF(board.width() / 2.0, board.height() / 2.0)
    wanted = max(TOLERANCE_PX / (tolerance * found.head_px), chosen)
    in_sight = _SHARE * min(board.width(), board.height()) / (_DOUBT * found.reach)
    whole = board.viewport.fitted(board.size().toSizeF()).zoom
    zoom = max(min(wanted, in_sight, _COARSEST), whole)
    # A photo that is shown flat is nearer in one corner than in another.
    flat = replace(board.viewport, zoom=1.0)
    there = flat.to_board(found.x, found.y)
    beside = flat.to_board(found.x + 1.0, found.y)
    zoom /= max(math.hypot(beside.x() - there.x(), beside.y() - there.y()), 1e-6)
    return board.viewport.aligned(QPointF(found.x, found.y), middle, max(zoom, whole))


def _into(look: Viewport, board: QSizeF) -> QPointF:
    """By how much to shift a look so that no more than `_BARE` of a board lies beside a picture
    that is larger than it."""
    edge, air = look.outline().boundingRect(), _BARE * board.height()
    across = _within(edge.left(), edge.right(), board.width(), air)
    return QPointF(across, _within(edge.top(), edge.bottom(), board.height(), air))


def _within(low: float, high: float, room: float, air: float) -> float:
    if high - low < room:
        return 0.0
    return min(0.0, air - low) + max(0.0, room - air - high)


def between(board: PictureBoard, start: Viewport, end: Viewport, share: float) -> Viewport:
    """On the way from one look to another: what both see at one place of the board stays there."""
    zoom = start.zoom * (end.zoom / start.zoom) ** share
    middle = QPointF(board.width() / 2.0, board.height() / 2.0)
    one, two = start.to_image(middle), end.to_image(middle)
    if abs(end.zoom / start.zoom - 1.0) > 1e-6:
        share = (1.0 / zoom - 1.0 / start.zoom) / (1.0 / end.zoom - 1.0 / start.zoom)
    return end.aligned(one + (two - one) * share, middle, zoom)


def moves_freely() -> bool:
    """Whether the desktop lets things move on screen."""
    return QApplication.isEffectEnabled(Qt.UIEffect.UI_General)


def _aside(name: str) -> QPointF:
    """From -1 to 1 across and down, by chance and always the same for a name."""
    seed = zlib.crc32(name.encode())
    return QPointF((seed & 0xFFFF) / 32767.5 - 1.0, (seed >> 16) / 32767.5 - 1.0)
