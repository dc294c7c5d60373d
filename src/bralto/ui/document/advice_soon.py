"""When corrections are searched for: once the hand rests, on another thread."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from bralto.core.examination.assessment import Assessment
from bralto.core.examination.examine import Examination
from bralto.ui.running.tasks import Tasks

__all__ = ["AdviceSoon"]

_SEARCH_MS = 100
"""Time after the last edit at which corrections are searched for."""


class AdviceSoon(QObject):
    """Has an examination advised without holding up the hand that sets marks.

    ``advised`` is emitted once an examination has its list, also where the search failed: its
    figures stand without a list then, and ``trouble`` says why.
    """

    advised = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(
        self, tasks: Tasks, current: Callable[[], Examination], parent: QObject | None = None
    ) -> None:
        """``current`` gives the examination of what lies on the boards when it is asked."""
        super().__init__(parent)
        self._tasks, self._current = tasks, current
        self._wanted: Examination | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._search)

    def want(self, found: Examination, *, hand_rests: bool = False) -> None:
        """Search once the hand rests, or at once where it does already; the wish for another
        examination puts that off."""
        if found is not self._wanted:
            self._wanted = found
            self._soon.start(0 if hand_rests else _SEARCH_MS)

    def search_now(self) -> None:
        """Search at once: what is done next depends on it."""
        self._soon.stop()
        found = self._current()
        if not found.is_advised:
            self._take(found, found.advise())

    def stop(self) -> None:
        """Search no more."""
        self._soon.stop()

    def _search(self) -> None:
        found = self._current()
        if not found.is_advised:
            self._tasks.call_off(self)  # what was asked before and has not begun is out of date
            done, failed = partial(self._take, found), partial(self._go_without, found)
            self._tasks.run(found.advise, done, failed)

    def _take(self, found: Examination, advised: Assessment) -> None:
        found.take_advice(advised)
        self.advised.emit()

    def _go_without(self, found: Examination, message: str) -> None:
        self._take(found, found.assessment)
        self.trouble.emit(message)
