"""Other ways to look at both boards: made off the GUI thread once, then switched at no cost."""

from __future__ import annotations

from functools import partial

import numpy as np
from PyQt6.QtCore import QObject
from PyQt6.QtGui import QImage

from bralto.imaging.tones.looks import LOOKS
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.pixels import as_image, as_pixels
from bralto.ui.boards.viewport import Viewport
from bralto.ui.running.tasks import Tasks

__all__ = ["Looks"]


def _made(source: QImage, name: str, view: Viewport) -> QImage:
    from bralto.imaging.tones.tone import look_at  # slow to load

    outline = None
    if view.frame is not None:  # what counts is the sheet, not the table it lies on
        shrink = source.width() / view.width
        outline = np.array(view.frame_corners()) * shrink
    return as_image(look_at(as_pixels(source), name, outline))


class Looks(QObject):
    """The looks of one board."""

    def __init__(self, board: PictureBoard, tasks: Tasks) -> None:
        super().__init__(board)
        self._board, self._tasks = board, tasks
        self._kept: dict[str, QImage] = {}
        self.name = LOOKS[0]

    def forget(self) -> None:
        """Another picture lies on the board."""
        self._kept.clear()
        self.name = LOOKS[0]

    def remake(self) -> None:
        """The sheet in the picture is another: what was made of it is stale."""
        self._kept.clear()
        self.show(self.name)

    def show(self, name: str) -> None:
        """Show the picture so; the first time it appears when it is made."""
        self.name = name
        if name == LOOKS[0]:
            self._board.shown.look_as(name, None)
        elif name in self._kept:
            self._board.shown.look_as(name, self._kept[name])
        else:
            source = self._board.shown.look_source()
            if source is not None:
                work = partial(_made, source, name, self._board.viewport)
                self._tasks.run(work, partial(self._take, name, source), self._board.shown.say)

    def _take(self, name: str, source: QImage, image: QImage) -> None:
        if source is not self._board.shown.look_source():
            return  # another picture lies there by now
        self._kept[name] = image
        if name == self.name:
            self._board.shown.look_as(name, image)

    def turn(self, names: tuple[str, ...]) -> None:
        """The next of some looks, then plain again."""
        at = names.index(self.name) + 1 if self.name in names else 0
        self.show(names[at] if at < len(names) else LOOKS[0])
