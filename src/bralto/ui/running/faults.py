"""Faults of Bralto's own while the window is open: kept, said once, and the window stands."""

from __future__ import annotations

import os
import sys
import threading
from types import TracebackType
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.errors import BROKEN_OFF
from bralto.disk.reports import Reports
from bralto.ui.running.tasks import OWN_FAULT

__all__ = ["Faults"]


class Faults(QObject):
    """Without this an exception in a slot ends the process (PyQt6, Unhandled Python Exceptions)."""

    said = pyqtSignal(str)
    _met = pyqtSignal(object, str)

    def __init__(self, reports: Reports, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.reports = reports
        self._told = False
        self._met.connect(self._keep)

    def install(self) -> None:
        """Take what nobody else catches, in any thread."""
        sys.excepthook = self._on_exception
        threading.excepthook = self._on_thread

    def keep(self, error: BaseException) -> None:
        """Keep a report of a fault in a job; says it the first time."""
        self._met.emit(error, "in a job")

    def _on_exception(
        self, kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            os._exit(BROKEN_OFF)  # before `Ending` listens there is nothing to keep
        self._met.emit(error, "in the window")

    def _on_thread(self, said: Any) -> None:
        if said.exc_value is not None:
            self._met.emit(said.exc_value, "in a thread")

    def _keep(self, error: BaseException, where: str) -> None:
        self.reports.keep(error, where)
        if not self._told:
            self._told = True
            self.said.emit(OWN_FAULT)
