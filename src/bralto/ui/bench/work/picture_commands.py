"""What is done with the pictures on the bench: opened, turned, looked at, straightened."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QImage

from bralto.core.marking.carry import plumb_from_line
from bralto.core.results import NotMeasurable
from bralto.core.study.bend_grid import BendGrid
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.words.phrases import sentence
from bralto.store.library import LATE
from bralto.ui.bench.bench_wants import BenchWants
from bralto.ui.bench.board_menu import board_menu
from bralto.ui.bench.tonal_looks import Looks
from bralto.ui.boards.board_view import bends_of
from bralto.ui.boards.hands.snapping import snap_in
from bralto.ui.boards.hands.tools import OF_THE_MENU, SHADOW, SHAPE
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.pyramid import load_preview, load_pyramid
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import pointing
from bralto.ui.session.moment import Moment
from bralto.ui.widgets.heading import Choice

__all__ = ["PictureWork"]

_GONE = "This study came without its picture; its marks are here."
_ON_ITS_WAY = "Its picture is not drawn yet; its marks are here."
_UNDRAWN = "No drawing yet: plan the sheet, draw, then drop its photo here."
_SNAP = 14.0  # board px within which a line is looked for

_Wanted = tuple[str | None, BendGrid | None]
"""Which picture lies on a board, and the bends that are taken out of it."""


class PictureWork(QObject):
    """Works on both boards; what it has to say goes out as signals."""

    told = pyqtSignal(str)
    trouble = pyqtSignal(str)
    looked = pyqtSignal()
    taken = pyqtSignal()
    sighted = pyqtSignal(object, str, QPointF, QPointF)
    straightened = pyqtSignal()
    own_point_wanted = pyqtSignal()

    def __init__(
        self,
        study: OpenStudy,
        boards: tuple[PictureBoard, PictureBoard],
        tasks: Tasks,
        wants: BenchWants,
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self.study, self.boards = study, boards
        self._tasks, self._wants = tasks, wants
        self.looks = (Looks(boards[0], tasks), Looks(boards[1], tasks))
        self._shown: dict[str, _Wanted] = {}
        for board in boards:
            board.tools.drawn.connect(partial(self._on_drawn, board))
            board.tools.outlined.connect(partial(self._on_outlined, board))

    def release(self) -> None:
        """Call off what has not been opened yet."""
        self._tasks.call_off(self, *self.looks)

    def _active(self) -> PictureBoard:
        return self.boards[BOARDS.index(self.study.session.board)]

    def open_pictures(self) -> None:
        """Open what is not shown yet, or not with the bends of its sheet as they are now: small
        and at once, then in full."""
        for board, looks in zip(self.boards, self.looks, strict=True):
            path = self.study.media_path(board.board)
            wanted = path, bends_of(self.study.picture(board.board))
            if board.board in self._shown and self._shown[board.board] == wanted:
                continue
            if board.board in self._shown:
                board.shown.empty()
                looks.forget()
            self._shown[board.board] = wanted
            if path is None:
                board.shown.say(self._why_none(board.board))
                continue
            show = partial(self._show_picture, board, wanted)
            fail = partial(self._show_fault, board, wanted)
            for load in (load_preview, load_pyramid):
                self._tasks.run(partial(load, Path(path), wanted[1]), show, fail)

    def _why_none(self, board: Board) -> str:
        """What stands there where a board has no picture."""
        study = self.study
        if study.imagined and board == Board.REFERENCE:
            return ""
        if study.undrawn and board == Board.DRAWING:
            return _UNDRAWN
        return _ON_ITS_WAY if LATE in study.study.extra else _GONE

    def _show_picture(
        self, board: PictureBoard, wanted: _Wanted, levels: tuple[QImage, ...]
    ) -> None:
        if self._shown.get(board.board) == wanted:  # another state may be on the board by now
            board.shown.take(levels)

    def _show_fault(self, board: PictureBoard, wanted: _Wanted, message: str) -> None:
        if self._shown.get(board.board) == wanted:
            board.shown.say(message)

    def follow(self, before: Moment, after: Moment) -> None:
        """Open what a change put on the boards; what was made of a picture depends on its sheet."""
        if after.boards_changed(before):
            self.open_pictures()
        elif after.pictures_changed(before):
            self.open_pictures()
            for looks in self.looks:
                looks.remake()

    def turn_looks(self, names: tuple[str, ...]) -> None:
        """The next of some ways to look at both pictures, then as they are again."""
        for looks in self.looks:
            looks.turn(names)
        self.looked.emit()

    def show_look(self, board: PictureBoard, name: str) -> None:
        """One way to look at one picture."""
        self.looks[self.boards.index(board)].show(name)
        self.looked.emit()

    def quarter(self) -> None:
        """The active board by a quarter turn."""
        board = self._active()
        board.look(board.viewport.quarter(board.size().toSizeF()))

    def upside_down(self) -> None:
        """Both boards on their heads, and back."""
        for board in self.boards:
            turned = board.viewport.quarter(board.size().toSizeF())
            board.look(turned.quarter(board.size().toSizeF()))
        if all(board.viewport.quarters == 0 for board in self.boards):
            self.straightened.emit()

    # Tools

    def take_tool(self, board: PictureBoard, name: str, about: str = "") -> None:
        """Draw a line, a frame or a shape on a board next; what another board holds is left."""
        for other in self.boards:
            other.tools.take(None)
        board.tools.take(name, about)
        board.setFocus(Qt.FocusReason.OtherFocusReason)
        self.taken.emit()

    def begin_shape(self, name: str) -> None:
        """Draw a shape where it is lacking; where both have it, on the active board anew."""
        study = self.study
        lacking = [b for b in self.boards if name not in study.picture(b.board).polygons]
        if study.now.alone:
            lacking = [self.boards[0]]
        study.apply(pointing.choose_shape, name)
        self.take_tool(lacking[0] if lacking else self.in_hand(), SHAPE, name)

    def _on_outlined(self, board: PictureBoard, name: str, corners: list[QPointF]) -> None:
        study = self.study
        if name == SHADOW:
            return  # see `LightWork`
        study.pictures.set_polygon(board.board, name, tuple((one.x(), one.y()) for one in corners))
        lacks = any(name not in study.picture(b.board).polygons for b in self.boards)
        if lacks and not study.now.alone and not study.undrawn:
            self.begin_shape(name)

    def _on_drawn(self, board: PictureBoard, name: str, one: QPointF, two: QPointF) -> None:
        if name not in OF_THE_MENU:
            self.sighted.emit(board, name, *(board.to_a_mark(end) for end in (one, two)))
            return
        study, which = self.study, board.board
        a, b = (one.x(), one.y()), (two.x(), two.y())
        if name == "crop":
            left, top = min(a[0], b[0]), min(a[1], b[1])
            study.pictures.set_crop(which, (left, top, abs(a[0] - b[0]), abs(a[1] - b[1])))
            return
        found = plumb_from_line(study.picture(which), a, b, level=name == "level")
        if isinstance(found, NotMeasurable):
            self.trouble.emit(sentence(found.reason))
            return
        study.pictures.set_plumb(which, found)
        self.told.emit(f"Turned by {abs(found):.1f}°: what you drew along is {name} now.")

    def snap(self) -> None:
        """Bring the held mark, or the one set last, to the line nearest to it."""
        board = self._active() if self.study.session.selected is None else self.in_hand()
        key = self.study.session.selected or self.study.edits.last_set(board.board)
        image = board.full_size
        if key not in self.study.picture(board.board).placed() or key is None or image is None:
            self.trouble.emit("Hold a mark first, then snap it.")
            return
        mark = self.study.picture(board.board).marks[key]
        flat = board.viewport.to_flat(mark.x, mark.y)
        found = snap_in(image, flat.x(), flat.y(), _SNAP / board.viewport.zoom)
        if isinstance(found, NotMeasurable):
            self.trouble.emit(sentence(found.reason))
            return
        there = board.viewport.from_flat(QPointF(found.x, found.y))
        self.study.edits.snap(board.board, key, there.x(), there.y(), found.across_deg)
        away = found.gain * board.viewport.zoom
        self.told.emit(
            f"Snapped to the {found.what}, {found.gain:.1f} px of the photo ({away:.1f} here)."
        )

    def board(self, name: str) -> PictureBoard:
        """The board of that name."""
        return next(one for one in self.boards if one.board == name)

    def in_hand(self) -> PictureBoard:
        """The board that has the keys, or else the one that the prompt is about."""
        focused = next((board for board in self.boards if board.hasFocus()), None)
        return focused or self._active()

    def _begin_practice(self) -> None:
        if self.study.head.begin_practice():
            self._wants.anew.emit()

    def menu(self, board: PictureBoard) -> Choice:
        """The menu over a board."""
        which = board.board
        acts: dict[str, Callable[[], None]] = {
            "new_state": self._wants.state.emit,
            "sheet": partial(self._wants.sheet.emit, which),
            "whole": partial(self.study.pictures.set_crop, which, None),
            "carry": self.study.edits.propose_from_reference,
            "own": self.own_point_wanted.emit,
            "practise": self._begin_practice,
            "repeat": partial(self.study.edits.begin_repeats, which),
            "permission": partial(self._wants.permission.emit, which),
        }
        acts |= {name: partial(self.take_tool, board, name) for name in OF_THE_MENU}
        look = self.looks[self.boards.index(board)].name
        return board_menu(self.study, which, look, acts, partial(self.show_look, board))
