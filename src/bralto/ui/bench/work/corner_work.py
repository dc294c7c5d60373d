"""Corners of both pictures, found off the GUI thread where a view has few marks of its own."""

from __future__ import annotations

from functools import partial
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QObject

from bralto.core.study.two_boards import BOARDS
from bralto.core.study.values import Point
from bralto.core.views.pass_keys import PassKey
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import pointing

__all__ = ["CornerWork"]


def _find(path: Path) -> tuple[Point, ...]:
    from bralto.imaging.corners import find_corners  # the module is slow to load
    from bralto.imaging.decode import open_picture

    return tuple((x, y) for x, y in find_corners(np.asarray(open_picture(path))).tolist())


class CornerWork(QObject):
    """One study on the bench; a picture is looked at once."""

    def __init__(self, study: OpenStudy, tasks: Tasks, parent: QObject) -> None:
        super().__init__(parent)
        self._study, self._tasks = study, tasks
        self._begun: set[str] = set()
        study.changed.connect(self._look)
        self._look()

    def release(self) -> None:
        """Let go of the study; call off what has not been begun."""
        self._study.changed.disconnect(self._look)
        self._tasks.call_off(self)

    def _look(self) -> None:
        """Look at each picture whose corners are not known yet, once both have their edges and what
        was named is looked at."""
        study = self._study
        if study.current_pass != PassKey.WIDTHS or study.view.limbs:
            return
        if study.undrawn or study.imagined or not study.now.framed:
            return
        for board in BOARDS:
            name, path = study.now.media_of(board), study.media_path(board)
            if path is not None and name not in self._begun:
                self._begun.add(name)
                self._tasks.run(partial(_find, Path(path)), partial(self._take, name), self._failed)

    def _take(self, name: str, found: tuple[Point, ...]) -> None:
        self._study.apply(pointing.see_corners, name, found)

    def _failed(self, _message: str) -> None:
        """The picture cannot be read: its board says so where it is shown."""
