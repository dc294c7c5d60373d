"""Fixtures that every kind of test shares."""

from __future__ import annotations

import fcntl
import os
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from itertools import count
from pathlib import Path
from types import FrameType

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # as the application has it (`start`)
os.environ["TZ"] = "UTC"  # days are the clock's own: those of the tests are the same everywhere

import hypothesis
import numpy as np
import pytest
from PIL import Image
from pytestqt.qtbot import QtBot

from bralto.core.examination import examine as examining
from bralto.core.examination.kept_advice import KeptAdvice
from bralto.store.demo_library import fill_with_demo
from bralto.store.library import Library

# A loaded machine takes longer over an example than any limit that finds a fault.
hypothesis.settings.register_profile("any machine", deadline=None)
hypothesis.settings.load_profile("any machine")

time.tzset()


_number = count()


@pytest.fixture(autouse=True)
def _own_state(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> None:
    """Reports of faults go where no learner's are; to a folder of each test's own, which is not
    made ahead: most tests write none."""
    folder = tmp_path_factory.getbasetemp() / f"state-of-test-{next(_number)}"
    monkeypatch.setenv("XDG_STATE_HOME", str(folder))


_ENDLESS_S = 1200.0
"""The longest test took 38 s of it on a machine with three processes on two cores."""


@pytest.fixture(autouse=True)
def _comes_to_an_end() -> Iterator[None]:
    """Fails a test that goes on and on, such as one that clicks until a study is marked. Over and
    over: what is raised where Qt calls is only kept by pytest-qt, and does not end a loop."""

    def stop(_number: int, _frame: FrameType | None) -> None:
        pytest.fail(f"this test does not come to an end within {_ENDLESS_S:.0f} s")

    before = signal.signal(signal.SIGALRM, stop)
    signal.setitimer(signal.ITIMER_REAL, _ENDLESS_S, 1.0)
    yield
    signal.setitimer(signal.ITIMER_REAL, 0.0)
    signal.signal(signal.SIGALRM, before)


@pytest.fixture
def zone(monkeypatch: pytest.MonkeyPatch) -> Iterator[Callable[[str], None]]:
    """Puts the clock of this machine elsewhere, by a zone as POSIX.1-2017, 8.3 writes it: not every
    machine has the names of all."""

    def set_zone(rule: str) -> None:
        monkeypatch.setenv("TZ", rule)
        time.tzset()

    yield set_zone
    monkeypatch.undo()
    time.tzset()


@pytest.fixture(scope="session")
def demo_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A demo library that no test may change."""
    own = tmp_path_factory.getbasetemp()
    # The processes of one run have one: who comes first draws it, the others wait.
    shared = own.parent if os.environ.get("PYTEST_XDIST_WORKER") else own
    folder, lock = shared / "demo" / "library", shared / "demo.lock"
    with lock.open("w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        if not folder.exists():
            made = shared / "demo-in-the-making"
            fill_with_demo(made / "library", seed=1)
            # As the first look at its shelf leaves it: no window measures and lays all of it anew.
            looked = [sys.executable, "-m", "bench.looked_at", str(made / "library")]
            subprocess.run(looked, check=True, timeout=600, cwd=Path(__file__).parents[1])
            made.rename(folder.parent)
    return folder


class _Waiting(QtBot):
    """Waits by a clock that only runs on. pytest-qt's own asks the clock on the wall: where that is
    set on by a minute meanwhile, nothing is left of a minute."""

    def waitUntil(  # noqa: N802
        self, callback: Callable[[], bool | None], *, timeout: int = 5000
    ) -> None:
        until = time.monotonic() + timeout / 1000.0
        while not self._is_so(callback, last=time.monotonic() > until):
            self.wait(10)

    @staticmethod
    def _is_so(callback: Callable[[], bool | None], *, last: bool) -> bool:
        """Whether it is: a callback gives that, or asserts it and gives None."""
        try:
            found = callback()
        except AssertionError:
            if last:
                raise
            return False
        if last and found is False:
            raise TimeoutError("what was waited for did not come")
        return found is None or found


@pytest.fixture
def qtbot(request: pytest.FixtureRequest) -> QtBot:
    """Hands for the window."""
    request.getfixturevalue("qapp")
    return _Waiting(request)


@pytest.fixture
def demo_copy(demo_folder: Path, tmp_path: Path) -> Path:
    """A demo library of the test's own."""
    return Path(shutil.copytree(demo_folder, tmp_path / "library"))


@pytest.fixture
def nothing_kept(monkeypatch: pytest.MonkeyPatch) -> None:
    """No corrections that another test, or this one before, has found."""
    monkeypatch.setattr(examining, "KEPT", KeptAdvice(64))


@pytest.fixture
def library(tmp_path: Path) -> Iterator[Library]:
    """An empty library."""
    with Library.open(tmp_path / "library") as opened:
        yield opened


@pytest.fixture
def picture_files(tmp_path: Path) -> tuple[Path, Path]:
    """A reference and a drawing as files: grey noise, 300 x 400 and 600 x 800."""
    rng = np.random.default_rng(3)
    paths = (tmp_path / "reference.png", tmp_path / "drawing.jpg")
    for path, size in zip(paths, ((400, 300), (800, 600)), strict=True):
        Image.fromarray(rng.integers(90, 200, (*size, 3), dtype=np.uint8)).save(path)
    return paths
