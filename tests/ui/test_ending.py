"""Asked to end by the desktop or a terminal, the window closes as by hand and keeps what it keeps
then."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path

import pytest
from tests.ui.own_process import window_at_work

from bralto.core.session.notes import notes_of
from bralto.store.library import Library

_SESSION = window_at_work("""
    house.open_study(house.shelf_state.entries[0].id)
    house.bench.study.time.spend(77.0)
    house.begin_study([])  # a slip lies over the window
    print("ready", flush=True)
    until = time.monotonic() + 1.0
    while time.monotonic() < until:
        pass
    print("done to its end", flush=True)
""")


@contextmanager
def at_work(library: Path, before: Callable[[], object]) -> Iterator[subprocess.Popen[str]]:
    """A window in the middle of something; ``before`` is done in its process before it begins."""
    with subprocess.Popen(
        [sys.executable, "-c", _SESSION, str(library)],
        stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
        env={**os.environ, "PYTHONUNBUFFERED": "1"}, preexec_fn=before,
    ) as window:  # fmt: skip
        try:
            assert window.stdout is not None
            assert window.stdout.readline() == "ready\n"
            yield window
        finally:
            window.kill()


def heard(number: signal.Signals) -> Callable[[], object]:
    """Listened to as by what a terminal starts, whatever these tests were started with."""
    usual = signal.default_int_handler if number == signal.SIGINT else signal.SIG_DFL
    return partial(signal.signal, number, usual)


def seconds_kept(library: Path) -> float:
    with Library.open(library, what="a test") as opened:
        newest = max(opened.studies(), key=lambda one: one.made)
        return sum(notes_of(newest.study).seconds.values())


@pytest.mark.parametrize("number", [signal.SIGINT, signal.SIGTERM, signal.SIGHUP])
def test_asked_to_end_it_goes_on_to_the_end_of_what_it_does_and_closes(
    number: signal.Signals, demo_copy: Path
) -> None:
    before, begun = seconds_kept(demo_copy), time.monotonic()
    with at_work(demo_copy, heard(number)) as window:
        window.send_signal(number)
        lines, complaints = window.communicate(timeout=60)
    assert window.returncode == 0
    assert lines == "done to its end\n"
    assert "Traceback" not in complaints
    # Beside what was said the clock may have told a second or two of these, on a loaded machine.
    kept = seconds_kept(demo_copy) - before - 77.0
    assert -1e-6 < kept <= time.monotonic() - begun
    assert not list(demo_copy.glob("library.sqlite3-*"))  # the database was closed


def test_what_it_was_told_not_to_listen_to_it_does_not_hear(demo_copy: Path) -> None:
    """As under nohup, or behind an ampersand."""
    with at_work(demo_copy, partial(signal.signal, signal.SIGHUP, signal.SIG_IGN)) as window:
        window.send_signal(signal.SIGHUP)
        with pytest.raises(subprocess.TimeoutExpired):
            window.wait(timeout=4)
        window.send_signal(signal.SIGTERM)
        assert window.wait(timeout=60) == 0


_AT_ONCE = """
import os, signal, sys
sys.argv = ["bralto", *sys.argv[1:]]
signal.signal(signal.SIGINT, signal.default_int_handler)
where = sys.argv.pop(1)
def break_off(*_):
    os.kill(os.getpid(), signal.SIGINT)
class WhileLoading:
    def find_spec(self, name, *_):
        if name == "bralto.app":
            break_off()
if where == "loading":
    sys.meta_path.insert(0, WhileLoading())
else:
    from PyQt6.QtCore import QTimer
    from PyQt6.QtWidgets import QApplication
    plain = QApplication.exec
    def run(*_):
        QTimer.singleShot(0, break_off)  # before the window listens
        return plain()
    QApplication.exec = staticmethod(run)
from bralto.start import run as start
start()
"""


@pytest.mark.parametrize("where", ["loading", "first moment"])
def test_broken_off_at_once_it_ends_and_says_nothing(where: str, demo_copy: Path) -> None:
    """A trace of what was being loaded was printed; the window stood, part of it undone."""
    done = subprocess.run(
        [sys.executable, "-c", _AT_ONCE, where, "--library", str(demo_copy)],
        capture_output=True, text=True, check=False, timeout=60,
    )  # fmt: skip
    assert (done.returncode, done.stdout) == (130, "")
    assert "KeyboardInterrupt" not in done.stderr
