"""A few rounds of everything that `make survive` does; it is done in full by hand."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[2]


def test_a_short_run_of_survive_loses_nothing_and_raises_nothing() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "bench.survive", "--short"],
        cwd=ROOT, capture_output=True, text=True, timeout=900, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stdout + done.stderr
    assert done.stdout.splitlines()[-1].endswith("rounds, 0 of them bad")
