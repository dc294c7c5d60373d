"""One round is one process: what it printed, whether it raised, hung, and how much it took."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

__all__ = ["HANG_S", "Round", "Tally", "run"]

HANG_S = 5.0
"""A process at work for longer hangs (its own time: a loaded machine is none of its business)."""
_WAITED_S = 20.0
"""One that waits for longer hangs too."""
_ENDED_S = 30.0


@dataclass
class Round:
    """How a process ended."""

    status: int
    out: str
    err: str
    seconds: float
    busy: float
    peak_mb: int

    @property
    def raised(self) -> bool:
        """Whether a traceback was seen, or it ended by a signal that nobody sent."""
        by_signal = self.status < 0 and self.status != -signal.SIGKILL
        return "Traceback" in self.err or by_signal or self.status == 70

    def json(self) -> Any:
        """Its last line of output as JSON."""
        return json.loads(self.out.strip().splitlines()[-1])


@dataclass
class Tally:
    """What happened in a scene."""

    rounds: int = 0
    lost: int = 0
    dead: int = 0
    raised: int = 0
    hung: int = 0
    peak_mb: int = 0
    notes: list[str] = field(default_factory=list)
    said: list[str] = field(default_factory=list)

    @property
    def bad(self) -> int:
        """Rounds that should not be."""
        return self.lost + self.dead + self.raised + self.hung

    def add(self, one: Round, what: str, hang_s: float = HANG_S) -> None:
        """Count a round: raised, hung, memory."""
        self.rounds += 1
        self.peak_mb = max(self.peak_mb, one.peak_mb)
        if one.raised:
            self.raised += 1
            last = one.err.strip().splitlines()[-1:] or [str(one.status)]
            self.notes.append(f"{what}: raised {last[0][:200]}")
        if one.busy > hang_s or one.seconds > _WAITED_S:
            self.hung += 1
            self.notes.append(f"{what}: at work {one.busy:.1f} s, took {one.seconds:.1f} s")
        if one.peak_mb > 1000:
            self.raised += 1
            self.notes.append(f"{what}: took {one.peak_mb} MB")

    def line(self, name: str, took: float) -> str:
        """For the terminal."""
        return (
            f"{name}: {self.rounds} rounds, lost {self.lost}, dead {self.dead}, tracebacks "
            f"{self.raised}, hung {self.hung}, {self.peak_mb} MB, {took:.0f} s"
        )


def run(
    code: str, *given: object, kill_after: float | None = None, env: dict[str, str] | None = None
) -> Round:
    """Run Python code in a process with these arguments; killed after a time where that is asked
    for, and ended after half a minute in any case."""
    begun = time.monotonic()
    with tempfile.TemporaryFile() as out, tempfile.TemporaryFile() as err:
        process = subprocess.Popen(
            [sys.executable, "-c", code, *map(str, given)],
            stdout=out,
            stderr=err,
            stdin=subprocess.DEVNULL,
            env={**os.environ, "QT_QPA_PLATFORM": "offscreen", **(env or {})},
        )
        until = begun + (_ENDED_S if kill_after is None else kill_after)
        peak, busy = 0, 0.0
        while process.poll() is None:
            if time.monotonic() > until:
                process.kill()
                process.wait()
                break
            peak = max(peak, _peak_mb(process.pid))
            busy = max(busy, _busy_s(process.pid))
            time.sleep(0.004)
        took = time.monotonic() - begun
        out.seek(0)
        err.seek(0)
        return Round(
            process.returncode,
            out.read().decode("utf-8", "replace"),
            err.read().decode("utf-8", "replace"),
            took,
            busy,
            peak,
        )


def _peak_mb(pid: int) -> int:
    """The most memory that a process had at once; what `wait4` says begins with its parent's."""
    try:
        status = Path(f"/proc/{pid}/status").read_text("utf-8")
    except OSError:
        return 0
    found = [line.split()[1] for line in status.splitlines() if line.startswith("VmHWM")]
    return int(found[0]) // 1024 if found else 0


def _busy_s(pid: int) -> float:
    """Processor time of all its threads so far, seconds; 0 once it has ended."""
    try:
        fields = Path(f"/proc/{pid}/stat").read_text("utf-8").rpartition(")")[2].split()
    except OSError:
        return 0.0
    # Counted from the state: utime and stime are fields 14 and 15 of proc(5).
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


def data(name: str) -> Path:
    """A file of the tests' data."""
    return Path(__file__).parents[2] / "tests/data" / name
