"""Pictures that are made when they are first seen: of demo studies that came as marks alone."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.errors import UserError
from bralto.store.library import Library
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.shelf_state import ShelfState

if TYPE_CHECKING:  # the shelf is painted without
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["LatePictures"]


class LatePictures(QObject):
    """Begins once all studies are listed and measured; one at a time, the newest first, but before
    all others the one on the bench, which gets them there."""

    changed = pyqtSignal()
    """Other studies' pictures are on their way."""

    def __init__(
        self,
        library: Library,
        shelf: ShelfState,
        tasks: Tasks,
        on_bench: Callable[[], OpenStudy | None],
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._library, self._shelf, self._tasks = library, shelf, tasks
        self._on_bench = on_bench
        self._waiting: list[str] | None = None
        """Ids of studies whose pictures are still made; None until the library was asked."""
        self._stopped = library.reading
        self._working = False
        shelf.measured.connect(self.go_on)

    @property
    def busy(self) -> bool:
        """Whether one is being made."""
        return self._working

    def expects(self, study_id: str) -> bool:
        """Whether pictures of a study are on their way."""
        return study_id in (self._waiting or ())

    def go_on(self) -> None:
        """Make the next, if there is one."""
        if self._stopped or self._working or self._waiting == []:
            return
        if self._waiting is None:
            self._working = True
            self._tasks.run(self._library.awaiting_media, self._on_asked, self._on_failed)
            return
        if self._shelf.busy:
            return
        self._working = True
        study = self._on_bench()
        one = study.id if study and study.id in self._waiting else self._waiting[0]
        work = partial(_draw, self._library, one, self._tasks.faulted.emit)
        self._tasks.run(work, partial(self._on_drawn, one), self._on_failed)

    def _on_asked(self, waiting: list[str]) -> None:
        self._working, self._waiting = False, waiting
        if waiting:
            self.changed.emit()
        self.go_on()

    def _on_drawn(self, one: str, made: bool) -> None:
        assert self._waiting is not None
        self._working = False
        self._waiting.remove(one)
        self.changed.emit()
        if made:
            study = self._on_bench()
            if study is not None and study.id == one:
                with suppress(UserError):  # its next edit will say what is wrong
                    study.document.look_for_pictures()
            self._shelf.refresh()
        self.go_on()

    def _on_failed(self, message: str) -> None:
        # The marks are there all the same.
        self._working, self._stopped, self._waiting = False, True, []
        self.changed.emit()

    def stop(self) -> None:
        """Begin no more; the window closes."""
        self._stopped = True


def _draw(library: Library, study: str, report: Callable[[Exception], None]) -> bool:
    """Off the GUI thread; gives whether there was an order that could be read. It is measured at
    once: its card would be bare until then."""
    from bralto.store.demo_library import draw_late  # the ray caster takes half a second to load
    from bralto.ui.shelf.measuring import measure_studies

    made = draw_late(library, study)
    if made:
        measure_studies(library, [study], report)
    return made
