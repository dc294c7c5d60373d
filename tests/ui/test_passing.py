"""Files on their way lie where no other user can look, and are gone when Bralto is closed."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import time
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle
from tests.ui.own_process import window_at_work

from bralto.core.errors import UserError
from bralto.ui.arrivals.passing import PassingFolder
from bralto.ui.window import MainWindow

_SESSION = window_at_work("""
    QApplication.clipboard().setImage(QImage(300, 300, QImage.Format.Format_RGB32))
    house.arrivals.paste()
    (entry, *_) = house.shelf_state.entries
    house.shelf.acts.bundles([entry])
    folder = os.environ["TMPDIR"]
    print(sorted(name for _, _, names in os.walk(folder) for name in names), flush=True)
    for slip in house.window.findChildren(QDialog):
        slip.reject()
    house.window.close()
""")


def test_what_was_pasted_and_dragged_out_is_gone_when_the_window_was_closed(
    demo_copy: Path, tmp_path: Path
) -> None:
    """Pictures of people lay on in the folder for temporary files, until the machine was started
    again."""
    passing = tmp_path / "passing"
    passing.mkdir()
    done = subprocess.run(
        [sys.executable, "-c", _SESSION, str(demo_copy)],
        capture_output=True, text=True, check=True, env={**os.environ, "TMPDIR": str(passing)},
    )  # fmt: skip
    assert "'Pasted picture.png'" in done.stdout
    assert ".bralto'" in done.stdout
    assert list(passing.iterdir()) == []


@pytest.mark.usefixtures("qapp")
def test_a_folder_is_nobody_elses_and_gone_with_what_wanted_it() -> None:
    one, other = PassingFolder(), PassingFolder()
    path = one.path()
    assert path.stat().st_mode & 0o077 == 0
    assert path == one.path() != other.path()
    shutil.rmtree(path)  # a machine clears away what lay there for days
    assert one.path().is_dir()
    path = one.path()
    del one
    assert not path.exists()


def test_without_an_application_it_is_a_folder_all_the_same(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr("bralto.ui.arrivals.passing.QCoreApplication.instance", lambda: None)
    assert PassingFolder().path().is_dir()


@pytest.mark.usefixtures("qapp")
def test_where_there_is_no_place_it_says_so(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("TMPDIR", str(tmp_path / "gone"))
    with pytest.raises(UserError, match="no place for temporary files"):
        PassingFolder().path()


def test_the_next_window_clears_away_what_one_that_was_killed_left(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    left = tmp_path / "bralto-passing-killed"
    left.mkdir()
    (left / "Pasted picture.png").write_bytes(b"of a person")
    then = time.time() - 3600.0
    os.utime(left, (then, then))
    house(window).care.keep_house()
    settle(qtbot, window)
    assert not left.exists()
