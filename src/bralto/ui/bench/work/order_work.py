"""The lines of the block-in, looked at off the GUI thread when the verdict is gone to."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtCore import QObject

from bralto.core.arrays import Floats
from bralto.core.discover.figures import figure_of
from bralto.core.examination.order_of_states import early_state
from bralto.core.light.where import figure_area
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import pointing

if TYPE_CHECKING:  # the module is slow to load
    from bralto.imaging.straightness import Straightness

__all__ = ["OrderWork"]


def _look(path: Path, inside: Floats) -> Straightness | NotMeasurable:
    from bralto.imaging.decode import open_picture
    from bralto.imaging.straightness import straight_lines

    return straight_lines(np.asarray(open_picture(path)), inside)


class OrderWork(QObject):
    """One study on the bench; a picture is looked at once while it stays the same."""

    def __init__(self, study: OpenStudy, tasks: Tasks, parent: QObject) -> None:
        super().__init__(parent)
        self._study, self._tasks = study, tasks
        self._seen: tuple[str, str] | None = None

    def release(self) -> None:
        """Call off what has not been begun."""
        self._tasks.call_off(self)

    def look(self) -> None:
        """Look at the lines of the state that is named after an early stage, if there is one."""
        study = self._study
        state = early_state(study.study)
        if state is None or self._seen == (state.name, state.picture.file):
            return
        path = study.document.media_path(state.name)
        if path is None:
            return
        self._seen = (state.name, state.picture.file)
        job = partial(_look, Path(path), self._inside(state.picture))
        self._tasks.run(job, partial(self._take, state.name), self._failed)

    def _inside(self, picture: Picture) -> Floats:
        """Where the drawing lies on its photo: about its marks, else its sheet, else all of it."""
        figure = figure_of(self._study.view, picture)
        if not isinstance(figure, NotMeasurable):
            area = figure_area(picture, figure)
            if not isinstance(area, NotMeasurable):
                return area
        if picture.sheet is not None:
            corners = np.array(picture.sheet.corners, dtype=np.float64)
            within: Floats = corners + _RIM * (corners.mean(axis=0) - corners)
            return within
        wide, high = picture.width, picture.height
        return np.array([[0.0, 0.0], [wide, 0.0], [wide, high], [0.0, high]])

    def _take(self, name: str, found: Straightness | NotMeasurable) -> None:
        if not isinstance(found, NotMeasurable):
            self._study.apply(pointing.see_lines, (name, found.share, found.u))

    def _failed(self, _message: str) -> None:
        """The picture cannot be read: its board says so where it is shown."""


_RIM = 0.04
"""Share of a sheet along its edge where its own edges would pass for lines."""
