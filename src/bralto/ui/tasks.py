"""Slow work off the GUI thread: a function of captured inputs, its result applied on it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6 import sip
from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from bralto.core.errors import UserError

__all__ = ["Tasks"]


class _Signals(QObject):
    done = pyqtSignal(object)
    failed = pyqtSignal(str)


def _owner_of(act: Callable[..., Any]) -> QObject | None:
    """The object whose method is to be called."""
    while isinstance(act, partial):
        act = act.func
    owner = getattr(act, "__self__", None)
    return owner if isinstance(owner, QObject) else None


class _Job(QRunnable):
    def __init__(self, work: Callable[[], Any], owner: QObject | None) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.work, self.owner = work, owner
        self.signals = _Signals()

    @property
    def orphaned(self) -> bool:
        """Whether what asked for it is gone."""
        return self.owner is not None and sip.isdeleted(self.owner)

    def run(self) -> None:
        try:
            result = self.work()
        except UserError as error:
            self.signals.failed.emit(str(error))
        else:
            self.signals.done.emit(result)


class Tasks(QObject):
    """Runs jobs on a small pool; finish or abandon them all with `close`."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._jobs: set[_Job] = set()
        self._closed = False

    def run(
        self,
        work: Callable[[], Any],
        done: Callable[[Any], None],
        failed: Callable[[str], None],
    ) -> None:
        """Start ``work``; it must touch no widget and change nothing that it was given.

        Where ``done`` belongs to a widget that is gone by then, its result is dropped: closing what
        asked for it is how long work is called off.
        """
        job = _Job(work, _owner_of(done))
        self._jobs.add(job)

        def finish(act: Callable[[Any], None]) -> Callable[[Any], None]:
            def apply(value: Any) -> None:
                self._jobs.discard(job)
                if not self._closed and not job.orphaned:
                    act(value)

            return apply

        job.signals.done.connect(finish(done))
        job.signals.failed.connect(finish(failed))
        self._pool.start(job)

    def call_off(self, *owners: QObject) -> None:
        """Take back what these have asked for and no thread has begun yet."""
        for job in list(self._jobs):
            if job.owner in owners and self._pool.tryTake(job):
                self._jobs.discard(job)

    @property
    def busy(self) -> bool:
        """Whether any job has not been applied yet."""
        return bool(self._jobs)

    def close(self) -> None:
        """Wait for what runs; its results are dropped."""
        self._closed = True
        self._pool.clear()
        self._pool.waitForDone()
