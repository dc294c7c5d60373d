"""Slow work off the GUI thread: a function of captured inputs, its result applied on it."""

from __future__ import annotations

import threading
import time
from collections import deque
from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6 import sip
from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.errors import UserError

__all__ = ["LONG_S", "OWN_FAULT", "Tasks"]

OWN_FAULT = (
    "Something went wrong inside Bralto; what you did before is kept. "
    "Settings has a report of it, which stays on this machine."
)

_AT_ONCE = 2
LONG_S = 8.0
"""A job that runs longer makes room for the next: it may wait for a folder that never answers."""

_LEAVE_S = 1.5
"""How long closing waits for jobs; what is not done then ends with the process."""


def _owner_of(act: Callable[..., Any]) -> QObject | None:
    """The object whose method is to be called."""
    while isinstance(act, partial):
        act = act.func
    owner = getattr(act, "__self__", None)
    return owner if isinstance(owner, QObject) else None


class _Job:
    def __init__(
        self,
        work: Callable[[], Any],
        done: Callable[[Any], None],
        failed: Callable[[str], None],
        *,
        needless: bool,
    ) -> None:
        self.work, self.done, self.failed, self.needless = work, done, failed, needless
        self.owner = _owner_of(done)
        self.begun = 0.0

    @property
    def orphaned(self) -> bool:
        """Whether what asked for it is gone."""
        return self.owner is not None and sip.isdeleted(self.owner)


class Tasks(QObject):
    """Runs jobs on threads that may be left behind; abandon them all with `close`."""

    faulted = pyqtSignal(object)
    """An exception that is no `UserError`: a fault of Bralto's own."""

    _ended = pyqtSignal(object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._waiting: deque[_Job] = deque()
        self._running: dict[_Job, threading.Thread] = {}
        self._closed = False
        self._ended.connect(self._apply)  # queued: it is emitted by another thread

    def run(
        self,
        work: Callable[[], Any],
        done: Callable[[Any], None],
        failed: Callable[[str], None],
        *,
        needless: bool = False,
    ) -> None:
        """Start ``work``; it must touch no widget and change nothing that it was given.

        ``needless`` is what only saves time later and asks nothing of the library: closing does not
        wait for it.

        Where ``done`` belongs to a widget that is gone by then, its result is dropped: closing what
        asked for it is how long work is called off.
        """
        self._waiting.append(_Job(work, done, failed, needless=needless))
        self._begin()

    def _begin(self) -> None:
        now = time.monotonic()
        fresh = sum(now - job.begun < LONG_S for job in self._running)
        while self._waiting and fresh < _AT_ONCE:
            job = self._waiting.popleft()
            job.begun = now
            # A daemon: a process does not wait for it to end.
            thread = threading.Thread(target=self._work, args=(job,), daemon=True)
            self._running[job] = thread
            thread.start()
            fresh += 1

    def _work(self, job: _Job) -> None:
        result: object
        try:
            result = job.work()
        except BaseException as error:
            result = _Failed(error)
        try:
            self._ended.emit(job, result)
        except RuntimeError:
            return  # the window is gone

    def _apply(self, job: _Job, result: object) -> None:
        self._running.pop(job, None)
        self._begin()
        if self._closed:
            return
        if not isinstance(result, _Failed):
            if not job.orphaned:
                job.done(result)
            return
        error = result.error
        if not isinstance(error, UserError):
            self.faulted.emit(error)
        if not job.orphaned:
            job.failed(str(error) if isinstance(error, UserError) else OWN_FAULT)

    def call_off(self, *owners: QObject) -> None:
        """Take back what these have asked for and no thread has begun yet."""
        self._waiting = deque(job for job in self._waiting if job.owner not in owners)

    @property
    def busy(self) -> bool:
        """Whether any job has not been applied yet."""
        return bool(self._waiting or self._running)

    def close(self) -> None:
        """Wait a moment for what runs; its results are dropped, and so is what waits for ever."""
        self._closed = True
        self._waiting.clear()
        until = time.monotonic() + _LEAVE_S
        for job, thread in self._running.items():
            if not job.needless:
                thread.join(max(0.0, until - time.monotonic()))


class _Failed:
    """What a job ended with in place of a result."""

    def __init__(self, error: BaseException) -> None:
        self.error = error
