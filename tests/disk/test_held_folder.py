"""Folders of temporary files: nobody else's, gone in the end, those of the dead too."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.disk.held_folder import HeldFolder, clear_abandoned

_KILLED = """
import os, signal
from bralto.disk.held_folder import HeldFolder
kept = []
for kind in "passing", "demo":
    folder = HeldFolder(kind)
    (folder.path / "Pasted picture.png").write_bytes(b"of a person")
    print(folder.path, flush=True)
    kept.append(folder)
if {killed}:
    os.kill(os.getpid(), signal.SIGKILL)
"""


@pytest.fixture(autouse=True)
def place(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """Where temporary files go."""
    folder = tmp_path / "temporary"
    folder.mkdir()
    monkeypatch.setenv("TMPDIR", str(folder))
    return folder


def _long_ago(folder: Path) -> Path:
    then = time.time() - 3600.0
    os.utime(folder, (then, then))
    return folder


def _ran(*, killed: bool) -> list[Path]:
    done = subprocess.run(
        [sys.executable, "-c", _KILLED.format(killed=killed)],
        capture_output=True, text=True, check=not killed,
    )  # fmt: skip
    return [Path(line) for line in done.stdout.splitlines()]


def test_what_a_killed_process_left_is_cleared_away() -> None:
    """Pictures of people lay on for ever where the power went or the window was killed."""
    left = _ran(killed=True)
    assert len(left) == 2
    assert all((path / "Pasted picture.png").is_file() for path in left)
    for path in left:
        _long_ago(path)
    clear_abandoned()
    assert not any(path.exists() for path in left)


def test_a_process_that_ends_leaves_none() -> None:
    assert not any(path.exists() for path in _ran(killed=False))


def test_what_somebody_holds_stays_and_is_nobody_elses() -> None:
    held = HeldFolder()
    _long_ago(held.path)
    clear_abandoned()
    assert held.path.is_dir()
    assert held.path.stat().st_mode & 0o077 == 0
    held.remove()
    assert not held.path.exists()
    held.remove()  # again, as a window that closes after its objects does


def test_what_is_young_may_be_of_a_process_that_has_not_held_it_yet(place: Path) -> None:
    young = place / "bralto-passing-young"
    young.mkdir()
    clear_abandoned()
    assert young.is_dir()
    _long_ago(young)
    clear_abandoned()
    assert not young.exists()


def test_nothing_else_is_touched(place: Path, tmp_path: Path) -> None:
    own = tmp_path / "own"
    own.mkdir()
    (own / "photo.png").write_bytes(b"kept")
    (place / "bralto-passing-link").symlink_to(own)
    (place / "bralto-passing-file").write_bytes(b"kept")
    _long_ago(place / "bralto-passing-file")
    (place / "bralto-photos").mkdir()
    _long_ago(place / "bralto-photos")
    clear_abandoned()
    assert (own / "photo.png").read_bytes() == b"kept"
    assert sorted(path.name for path in place.iterdir()) == [
        "bralto-passing-file", "bralto-passing-link", "bralto-photos",
    ]  # fmt: skip


def test_where_folders_know_no_locks_nothing_is_taken_for_abandoned(
    place: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuse(*_: object) -> None:
        raise OSError(37, "No locks available")

    monkeypatch.setattr("bralto.disk.held_folder.fcntl.flock", refuse)
    with HeldFolder() as held:
        _long_ago(held)
        clear_abandoned()
        assert held.is_dir()
    assert list(place.iterdir()) == []


def test_without_a_place_it_says_so_and_takes_no_other(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """`tempfile` would take the folder in which the program was started."""
    monkeypatch.setenv("TMPDIR", str(tmp_path / "gone"))
    with pytest.raises(UserError, match=r"no place for temporary files in .*gone"):
        HeldFolder()
