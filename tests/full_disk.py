"""A disk without room, for files that are written by this process."""

from __future__ import annotations

import resource
import signal
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def disk_full_after(size: int) -> Iterator[None]:
    """No file grows beyond so many bytes, as on a disk that has no more."""
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    before = signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_FSIZE, (size, hard))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))
        signal.signal(signal.SIGXFSZ, before)
