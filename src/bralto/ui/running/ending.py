"""The process is asked to end, by the desktop or from a terminal: the window closes as by hand."""

from __future__ import annotations

import signal
import socket
from contextlib import suppress

from PyQt6.QtCore import QObject, QSocketNotifier, pyqtSignal

__all__ = ["Ending"]

_ASKING = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)
"""Ctrl+C, the end of a session, a terminal that closes."""


class Ending(QObject):
    """Left to Python, the first ends whatever is just being done in the middle, and the others the
    process: what is kept when a pass or the window is left would be lost."""

    asked = pyqtSignal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._here, self._there = socket.socketpair()
        watched = QSocketNotifier.Type.Read
        # PyQt's stubs know no plain number here.
        self._notifier = QSocketNotifier(self._here.fileno(), watched, self)  # type: ignore[call-overload]
        self._notifier.activated.connect(self._on_asked)

    def listen(self) -> None:
        """From now on; what whoever started Bralto has it not listen to is left so."""
        for end in (self._here, self._there):
            end.setblocking(False)
        signal.set_wakeup_fd(self._there.fileno(), warn_on_full_buffer=False)
        for one in _ASKING:
            if signal.getsignal(one) != signal.SIG_IGN:
                signal.signal(one, _go_on)

    def stop(self) -> None:
        """The window closes: there is nothing more to ask."""
        signal.set_wakeup_fd(-1)
        self._notifier.setEnabled(False)

    def _on_asked(self) -> None:
        with suppress(BlockingIOError):  # nothing came after all
            if set(self._here.recv(64)) & set(_ASKING):
                self.asked.emit()


def _go_on(_number: int, _frame: object) -> None:
    """What is being done is done to its end."""
