"""How long work takes, and how that is shown."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

import numpy as np

__all__ = ["p95", "shown", "times"]


def times(work: Callable[[], object], repeats: int) -> list[float]:
    """Milliseconds of each repeat, after three that do not count."""
    for _ in range(3):
        work()
    out = []
    for _ in range(repeats):
        start = time.perf_counter()
        work()
        out.append(1e3 * (time.perf_counter() - start))
    return out


def p95(values: list[float]) -> float:
    return float(np.percentile(values, 95))


def shown(values: list[float]) -> str:
    """The least is what the code needs; the rest is also the machine's other work."""
    return f"{statistics.median(values):.1f} ms (least {min(values):.1f}, p95 {p95(values):.1f})"
