"""Slow work off the GUI thread: a function of captured inputs, its result applied on it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from bralto.core.errors import UserError

__all__ = ["Tasks"]


class _Signals(QObject):
    done = pyqtSignal(object)
    failed = pyqtSignal(str)


class _Job(QRunnable):
    def __init__(self, work: Callable[[], Any]) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.work = work
        self.signals = _Signals()

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
        """Start ``work``; it must touch no widget and change nothing that it was given."""
        job = _Job(work)
        self._jobs.add(job)

        def finish(act: Callable[[Any], None]) -> Callable[[Any], None]:
            def apply(value: Any) -> None:
                self._jobs.discard(job)
                if not self._closed:
                    act(value)

            return apply

        job.signals.done.connect(finish(done))
        job.signals.failed.connect(finish(failed))
        self._pool.start(job)

    @property
    def busy(self) -> bool:
        """Whether any job has not been applied yet."""
        return bool(self._jobs)

    def close(self) -> None:
        """Wait for what runs; its results are dropped."""
        self._closed = True
        self._pool.clear()
        self._pool.waitForDone()
