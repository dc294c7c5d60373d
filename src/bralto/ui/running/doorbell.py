"""How a second start on a library raises the first window: it rings, and the window comes up."""

from __future__ import annotations

import socket

from PyQt6.QtCore import QObject, QSocketNotifier, pyqtSignal
from PyQt6.sip import voidptr

__all__ = ["Doorbell", "ring"]

_ANSWER = b"here"
_WAIT_S = 2.0


class Doorbell(QObject):
    """Listens at a library's address (`Lock.address`) until it is closed."""

    rung = pyqtSignal()

    def __init__(self, address: str, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._socket: socket.socket | None = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self._socket.setblocking(False)
        self._notifier: QSocketNotifier | None = None
        try:
            self._socket.bind(address)
            self._socket.listen(4)
        except OSError:  # no such sockets here: a second start says who holds the library
            self.close()
            return
        self._notifier = QSocketNotifier(
            voidptr(self._socket.fileno()), QSocketNotifier.Type.Read, self
        )
        self._notifier.activated.connect(self._answer)

    def _answer(self) -> None:
        if self._socket is None:
            return
        try:
            caller, _ = self._socket.accept()
        except OSError:
            return
        with caller:
            caller.setblocking(False)
            try:
                caller.send(_ANSWER)
            except OSError:
                return
        self.rung.emit()

    def close(self) -> None:
        """Listen no more."""
        if self._socket is not None:
            if self._notifier is not None:
                self._notifier.setEnabled(False)
            self._socket.close()
            self._socket = None


def ring(address: str) -> bool:
    """Ask the window at an address to come up; gives whether it answered."""
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as caller:
        caller.settimeout(_WAIT_S)
        try:
            caller.connect(address)
            return caller.recv(16) == _ANSWER
        except OSError:
            return False
