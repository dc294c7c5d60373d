"""Light and shadow: shapes found off the GUI thread, mended by hand, and the place of focus."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, Any

import numpy as np
from PyQt6.QtCore import QObject, QPointF, Qt
from PyQt6.QtGui import QImage, QPolygonF

from bralto.core.arrays import Floats
from bralto.core.light.three_values import ThreeValues
from bralto.core.light.where import figure_area, figure_forms
from bralto.core.measures.shapes import area
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import MOST_SHAPES
from bralto.core.words.phrases import how_many, sentence
from bralto.ui.bench.passes.light_rows import (
    FIND,
    FOCUS_ROW,
    INSIST,
    OUTLINE_ROW,
    TAKE_AWAY,
    VALUES,
)
from bralto.ui.bench.work.picture_commands import PictureWork
from bralto.ui.boards.board_view import from_flat_px, in_flat_px
from bralto.ui.boards.hands.tools import ERASE, FOCUS, SHADOW, SHAPE
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.pixels import as_pixels
from bralto.ui.boards.viewport import Viewport
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import pointing

if TYPE_CHECKING:  # the module is slow to load
    from bralto.imaging.tones.shadows import Shadows, Values

__all__ = ["LightWork"]

_LEVEL = 0.02
"""By how much of black to white a key moves what counts as shadow."""


_Home = Callable[[Floats], Floats]
"""From px of the picture that was looked at (n, 2) to image px."""


def _home(view: Viewport, shrink: float, xy: Floats) -> Floats:
    return from_flat_px(view, xy / shrink)


def _found(
    source: QImage, inside: Floats, forms: list[Floats], paper: bool, *, level: float | None
) -> Shadows | NotMeasurable:
    from bralto.imaging.tones.shadows import find_shadows

    return find_shadows(as_pixels(source), inside, forms, paper=paper, level=level)


def _valued(
    source: QImage, inside: Floats, forms: list[Floats], paper: bool
) -> Values | NotMeasurable:
    from bralto.imaging.tones.shadows import find_values

    return find_values(as_pixels(source), inside, forms, paper=paper)


class LightWork(QObject):
    """Works on both boards; tools are taken through `PictureWork`."""

    def __init__(self, work: PictureWork, tasks: Tasks, parent: QObject) -> None:
        super().__init__(parent)
        self._work, self._study, self._tasks = work, work.study, tasks
        for board in work.boards:
            board.tools.outlined.connect(partial(self._on_outlined, board))
            board.tools.placed.connect(partial(self._on_placed, board))

    def release(self) -> None:
        """Call off what has not been found yet."""
        self._tasks.call_off(self)

    def chose(self, key: str) -> bool:
        """Do what a row of the pass asks for; False where it is none of them."""
        if key == INSIST:
            self._study.apply(pointing.insist)
        elif key.startswith(FIND):
            self.find(self._work.board(key.removeprefix(FIND)))
        elif key.startswith(OUTLINE_ROW):
            self._outline_on(self._work.board(key.removeprefix(OUTLINE_ROW)))
        elif key == FOCUS_ROW:
            self._work.take_tool(self._work.boards[int(self._study.imagined)], FOCUS)
        elif key == VALUES:
            self.turn_values()
        elif key.startswith(TAKE_AWAY):
            self._work.take_tool(self._work.board(key.removeprefix(TAKE_AWAY)), ERASE)
        else:
            return False
        return True

    def turn_values(self) -> None:
        """Look at both figures in three values, or in two again."""
        study = self._study
        if study.session.values:
            for board in self._work.boards:
                study.apply(pointing.see_values, board.board, None)
            return
        for board in self._work.boards:
            if study.has_picture(board.board):
                self._look_at(board, _valued, partial(self._take_values, board))

    def _take_values(self, board: PictureBoard, home: _Home, found: Values | NotMeasurable) -> None:
        if isinstance(found, NotMeasurable):
            self._study.apply(pointing.see_values, board.board, found)
            return
        dark, half = (
            tuple(_points(home(ring)) for ring in rings) for rings in (found.dark, found.half)
        )
        values = ThreeValues(found.shares, dark, half)
        self._study.apply(pointing.see_values, board.board, values)

    def find_next(self) -> bool:
        """Find shadows on the first board that has none; False where both have them."""
        study = self._study
        lacking = [
            board
            for board in self._work.boards
            if study.has_picture(board.board) and not study.picture(board.board).shadows
        ]
        if lacking:
            self.find(lacking[0])
        return bool(lacking)

    def shift_level(self, by: int) -> None:
        """More or less of the board that has the keys counts as shadow."""
        board = self._work.in_hand()
        tone = self._study.session.tones.get(board.board)
        if tone is None:
            self.find(board)
        else:
            self.find(board, min(max(tone[0] + by * _LEVEL, 0.02), 0.98))

    def find_below(self, name: str, level: float) -> None:
        """Find the shadows of a board below a tone, 0 to 1."""
        self.find(self._work.board(name), level)

    def find(self, board: PictureBoard, level: float | None = None, *, quiet: bool = False) -> None:
        """Find the shapes of shadow on a board, below a level or where its tones part best; what
        was found is said in the prompt line unless it is to be ``quiet``."""
        self._look_at(board, partial(_found, level=level), partial(self._take, board, quiet=quiet))

    def _look_at(
        self, board: PictureBoard, look: Callable[..., Any], take: Callable[..., None]
    ) -> None:
        """Look at a board's figure off the GUI thread.

        Args:
            look: takes the picture, the area about the figure and its forms, px of that picture,
                and whether it is paper. take: what was found; before it, what brings places of
                that picture, px, to image px.
        """
        study, source = self._study, board.shown.look_source()
        side, picture = study.examination.side(board.board), study.picture(board.board)
        figure = side.figure
        if source is None:
            self._work.trouble.emit("There is no picture yet.")
            return
        if isinstance(figure, NotMeasurable):
            self._work.trouble.emit(sentence(figure.reason))
            return
        inside = figure_area(picture, figure)
        if isinstance(inside, NotMeasurable):
            self._work.trouble.emit(sentence(inside.reason))
            return
        shrink = source.width() / picture.width
        view = board.viewport
        inside, *forms = (
            shrink * in_flat_px(view, one)
            for one in (inside, *figure_forms(picture, figure, side.forms))
        )
        paper = board.board == Board.DRAWING or picture.sheet is not None
        job = partial(look, source, inside, forms, paper)
        path = study.media_path(board.board)
        home = partial(_home, view, shrink)
        done = partial(self._hand_on, board, path, partial(take, home))
        self._tasks.run(job, done, self._work.trouble.emit)

    def _hand_on(
        self, board: PictureBoard, path: str | None, take: Callable[[Any], None], found: object
    ) -> None:
        """What was found, or why nothing was, unless another picture lies there by now."""
        if self._study.media_path(board.board) == path:
            take(found)

    def _take(
        self, board: PictureBoard, home: _Home, found: Shadows | NotMeasurable, *, quiet: bool
    ) -> None:
        study = self._study
        if isinstance(found, NotMeasurable):
            self._work.trouble.emit(sentence(found.reason))
            return
        rings = tuple(_points(home(ring)) for ring in found.rings)
        outline = None if found.outline is None else _points(home(found.outline))
        x, y = home(found.focus[None])[0].tolist()
        with study.gesture():
            study.pictures.set_shadows(board.board, rings, outline)
            study.apply(pointing.see_tone, board.board, (found.level, x, y))
        if quiet:
            return
        many = how_many(len(rings), "outline")
        self._work.told.emit(f"{many} of shadow, below {100.0 * found.level:.0f} %.")

    # By hand

    def outline_shadow(self) -> None:
        """Outline one more shadow on the board that has the keys; within another it is light."""
        self._outline_on(self._work.in_hand())

    def _outline_on(self, board: PictureBoard) -> None:
        if len(self._study.picture(board.board).shadows) >= MOST_SHAPES:
            self._work.trouble.emit(f"A picture has at most {MOST_SHAPES} outlines of shadow.")
            return
        self._work.take_tool(board, SHAPE, SHADOW)

    def _on_outlined(self, board: PictureBoard, name: str, corners: list[QPointF]) -> None:
        if name == SHADOW:
            ring = tuple((at.x(), at.y()) for at in corners)
            rings = (*self._study.picture(board.board).shadows, ring)
            self._study.pictures.set_shadows(board.board, rings)
            self._work.taken.emit()

    def _on_placed(self, board: PictureBoard, name: str, at: QPointF) -> None:
        if name == ERASE:
            self._take_away(board, at)
        elif name == FOCUS:
            self._study.head.note(
                replace(self._study.notes, focal=(round(at.x(), 1), round(at.y(), 1)))
            )
            self._work.taken.emit()

    def _take_away(self, board: PictureBoard, at: QPointF) -> None:
        """The smallest outline about a place goes."""
        rings = self._study.picture(board.board).shadows
        shapes = [QPolygonF([QPointF(x, y) for x, y in ring]) for ring in rings]
        about = [
            i for i, shape in enumerate(shapes) if shape.containsPoint(at, Qt.FillRule.OddEvenFill)
        ]
        if not about:
            self._work.trouble.emit("No outline lies about that place.")
            return
        areas = [area(np.array(rings[i])) for i in about]
        gone = about[int(np.argmin(areas))]
        kept = tuple(ring for i, ring in enumerate(rings) if i != gone)
        self._study.pictures.set_shadows(board.board, kept)
        self._work.taken.emit()


def _points(xy: Floats) -> tuple[tuple[float, float], ...]:
    return tuple((round(float(x), 2), round(float(y), 2)) for x, y in xy)
