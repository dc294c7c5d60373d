"""Pictures that are made when they are first seen: of demo studies that came as marks alone."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QObject

from bralto.store.library import Library
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.tasks import Tasks

__all__ = ["LatePictures"]


class LatePictures(QObject):
    """Begins once all studies are listed and measured; the newest first, one at a time."""

    def __init__(
        self, library: Library, shelf: ShelfState, tasks: Tasks, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._library, self._shelf, self._tasks = library, shelf, tasks
        self._waiting: Sequence[str] | None = None
        """Ids of studies that lack a picture; None until the library was asked."""
        self._stopped = library.reading
        self._working = False
        shelf.measured.connect(self.go_on)

    @property
    def busy(self) -> bool:
        """Whether one is being made."""
        return self._working

    def go_on(self) -> None:
        """Make the next, if there is one."""
        none_left = self._waiting is not None and not self._waiting
        if self._stopped or self._working or self._shelf.busy or none_left:
            return
        self._working = True
        work = partial(_draw_next, self._library, self._waiting)
        self._tasks.run(work, self._on_drawn, self._on_failed)

    def _on_drawn(self, left: Sequence[str] | None) -> None:
        self._working, self._waiting = False, left or ()
        if left is not None:
            self._shelf.refresh()  # it is measured again, and `measured` leads to the next

    def _on_failed(self, message: str) -> None:
        self._working, self._stopped = False, True  # the marks are there all the same

    def stop(self) -> None:
        """Begin no more; the window closes."""
        self._stopped = True


def _draw_next(library: Library, waiting: Sequence[str] | None) -> Sequence[str] | None:
    """Off the GUI thread: draw the first that has an order to draw it; gives those after it, or
    None where there was none to draw."""
    left = library.lacking_media() if waiting is None else waiting
    if not left:
        return None
    # The ray caster takes half a second to load.
    from bralto.store.demo_library import draw_late

    for at, study in enumerate(left):
        if draw_late(library, study):
            return left[at + 1 :]
    return None
