"""Looks after the library while the window is open: its folder, its soundness, a second start."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QDialog, QWidget

from bralto.disk.reports import Reports
from bralto.store.library import Library
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.shelf_state import ShelfState

if TYPE_CHECKING:
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["Care"]


class Care(QObject):
    """Asks the window to say things, to come up, and to close for another library to be opened."""

    said = pyqtSignal(str)
    refused = pyqtSignal(str)
    apart = pyqtSignal(str, str)
    """What holds for the whole library, with the words of a button that leads to its backups."""
    rung = pyqtSignal()
    leaving = pyqtSignal()
    """The window is to close; `going_to` says which library is opened then."""

    def __init__(
        self,
        library: Library,
        tasks: Tasks,
        state: ShelfState,
        reports: Reports,
        on_bench: Callable[[], OpenStudy | None],
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._library, self._tasks, self._state = library, tasks, state
        self._reports, self._on_bench, self._window = reports, on_bench, window
        self.going_to: Path | None = None
        self._asked = self._asked_at_last = False
        self._release: Callable[[], None] = lambda: None
        state.damaged.connect(self.protect)

    def begin(self) -> None:
        """Say what is to be said of the library as it was opened."""
        if self._state.torn:
            self.protect()
        elif self._library.reading:
            self.apart.emit("This library is looked at for reading only.", "")

    # Its folder

    def look_after_the_folder(self) -> None:
        """Say once that the library's folder is gone, and offer another place for it."""
        if not self._asked and not self._library.in_place:
            self._asked = True
            QTimer.singleShot(0, self.show_gone)

    def may_close(self) -> bool:
        """Whether nothing is lost by closing. Where the folder is gone it is asked once more."""
        if self.going_to is not None or self._library.in_place or self._asked_at_last:
            return True
        self._asked_at_last = True
        self.show_gone()
        return False

    def show_gone(self) -> None:
        """Another place for what is in memory."""
        from bralto.ui.library.gone import GoneSlip

        slip = GoneSlip(self._library, self._on_bench(), self._window)
        slip.moved.connect(self.go_on_in)
        self._open(slip)

    def go_on_in(self, root: Path) -> None:
        """Close the window, and open that library."""
        self.going_to = root
        self.leaving.emit()

    # Its soundness

    def show_library(self) -> None:
        """Where the library lies, how large it is, its backups."""
        from bralto.ui.library.library_slip import LibrarySlip

        slip = LibrarySlip(self._library, self._tasks, self._window)
        slip.reopen.connect(self.go_on_in)
        self._open(slip)

    def keep_house(self) -> None:
        """A backup where one is due, the bin emptied, strays swept, and what windows that were
        killed left among the temporary files: off the GUI thread."""
        from bralto.disk.held_folder import clear_abandoned

        self._tasks.run(clear_abandoned, lambda _: None, self.refused.emit)
        if self._library.reading or not self._library.in_place:
            return
        from bralto.store.housekeeping import keep_house

        work = partial(keep_house, self._library.root, self._library)
        self._tasks.run(work, self._on_house, self.refused.emit)

    def _on_house(self, sound: bool) -> None:
        self._state.refresh()
        if not sound:
            self.protect()

    def protect(self) -> None:
        """Part of the library is damaged: only read from now on, and offer the newest backup."""
        self._library.protect()
        from bralto.store.care.backups import backups

        there = [one for one in backups(self._library.root) if one.kind != "replaced"]
        words = "Part of this library is damaged. What can be read is shown; nothing is changed."
        offer = f"Backup of {there[0].words} …" if there else "Library and backups …"
        self.apart.emit(words, offer)

    # Reports, and a second start

    def look_at_reports(self) -> None:
        """Faults of an earlier run can be read, and a crash of this one is written down."""
        if self._reports.text():
            self.said.emit("Something went wrong in an earlier run: Settings has a report of it.")
        self._reports.watch_for_crashes()

    def listen(self) -> None:
        """A second start on the same library raises this window."""
        if self._library.address is not None:
            from bralto.ui.running.doorbell import Doorbell

            doorbell = Doorbell(self._library.address, self)
            doorbell.rung.connect(self.rung)
            self._release = doorbell.close

    def release(self) -> None:
        """Listen no more: the window closes."""
        self._release()

    @staticmethod
    def _open(slip: QDialog) -> None:
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.open()
