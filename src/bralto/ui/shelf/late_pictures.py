"""Pictures that are made when they are first seen: of demo studies that came as marks alone."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject

from bralto.store.library import Library
from bralto.ui.shelf.shelf_state import Entry, ShelfState
from bralto.ui.tasks import Tasks

__all__ = ["LatePictures"]


class LatePictures(QObject):
    """Begins once all studies are listed and measured; the newest first, one at a time."""

    def __init__(
        self, library: Library, shelf: ShelfState, tasks: Tasks, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._library, self._shelf, self._tasks = library, shelf, tasks
        self._done: set[str] = set()
        self._stopped = library.reading
        self._working = ""
        shelf.measured.connect(self.go_on)

    @property
    def busy(self) -> bool:
        """Whether one is being made, or waits to be."""
        return bool(self._working)

    def go_on(self) -> None:
        """Make the next, if there is one."""
        if self._stopped or self._working or self._shelf.busy:
            return
        found = None
        for entry in self._shelf.everything:
            if entry.id not in self._done and entry.in_force:
                self._done.add(entry.id)  # whatever it is, it is looked at once
                if _lacks(entry):
                    found = entry
                    break
        if found is None:
            return
        self._working = found.id
        self._tasks.run(partial(_draw, self._library, found.id), self._on_drawn, self._on_failed)

    def _on_drawn(self, drawn: bool) -> None:
        self._working = ""
        if drawn:
            self._shelf.refresh()  # it is measured again, and `measured` leads to the next
        else:
            self.go_on()

    def _on_failed(self, message: str) -> None:
        self._working, self._stopped = "", True  # the marks are there all the same

    def stop(self) -> None:
        """Begin no more; the window closes."""
        self._stopped = True


def _lacks(entry: Entry) -> bool:
    digest = entry.digest
    if digest is None or digest.facts.source != "model" or digest.drawing is None:
        return False
    shown = digest.reference, digest.drawing
    return entry.row.binned is None and any(one is not None and one.media is None for one in shown)


def _draw(library: Library, study_id: str) -> bool:
    """Off the GUI thread."""
    # The ray caster takes half a second to load.
    from bralto.store.demo_library import draw_late

    return draw_late(library, study_id)
