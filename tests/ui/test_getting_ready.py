"""While the shelf is looked at, what the first study needs is got ready."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.errors import UserError
from bralto.core.examination import examine as examining
from bralto.core.mannequin.body.skins import skin
from bralto.store.library import Library
from bralto.ui.house import House

pytestmark = pytest.mark.usefixtures("nothing_kept")


def got_ready(open_window: Opener, folder: Path, qtbot: QtBot) -> House:
    """A window that has got all ready."""
    at_work = house(open_window(folder))
    at_work.get_ready()
    settle(qtbot, at_work.window)
    return at_work


def test_the_newest_study_is_opened_with_its_corrections(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    at_work = got_ready(open_window, demo_copy, qtbot)
    monkeypatch.setattr(examining, "advise", pytest.fail)
    at_work.open_study(at_work.shelf_state.entries[0].id)
    assert not at_work.bench.study.busy
    assert at_work.bench.study.corrections


def test_the_newest_study_is_measured_once(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Also where it is opened again, and not where it was worked on meanwhile."""
    at_work = got_ready(open_window, demo_copy, qtbot)
    newest = at_work.shelf_state.entries[0].id
    with monkeypatch.context() as patched:
        patched.setattr(examining, "measured", pytest.fail)
        at_work.open_study(newest)
        known = at_work.bench.study.examination
        at_work.bench.study.time.spend(30.0)
        settle(qtbot, at_work.window)
        at_work.bench_place.clear()
        at_work.open_study(newest)
        assert at_work.bench.study.examination is known
        assert not at_work.bench.study.busy
    study = at_work.bench.study
    study.head.set_grade("exacting" if study.study.grade != "exacting" else "learning")
    changed = study.examination
    assert changed is not known
    at_work.bench_place.clear()
    at_work.open_study(newest)
    assert at_work.bench.study.examination is changed


def test_another_study_is_searched_as_ever(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    at_work = got_ready(open_window, demo_copy, qtbot)
    at_work.open_study(at_work.shelf_state.entries[2].id)
    assert at_work.bench.study.busy
    settle(qtbot, at_work.window)
    assert at_work.bench.study.corrections


@pytest.mark.parametrize(
    "fault", ["nothing there", "gone meanwhile", "unreadable", "a fault of our own"]
)
def test_what_cannot_be_looked_at_is_left(
    fault: str,
    open_window: Opener,
    demo_copy: Path,
    tmp_path: Path,
    qtbot: QtBot,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    def read(*_: object) -> None:
        if fault == "unreadable":
            raise UserError("the study cannot be read")
        if fault == "a fault of our own":
            raise ValueError

    at_work = house(open_window(tmp_path / "empty" if fault == "nothing there" else demo_copy))
    monkeypatch.setattr(Library, "stored", read)
    at_work.get_ready()
    settle(qtbot, at_work.window)
    assert at_work.window.trouble == ""


def test_a_study_that_is_open_already_is_left_alone(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    at_work = house(open_window(demo_copy))
    at_work.open_study(at_work.shelf_state.entries[0].id)
    settle(qtbot, at_work.window)
    monkeypatch.setattr(examining, "advise", pytest.fail)
    at_work.get_ready()
    settle(qtbot, at_work.window)


def test_the_model_stands_there_at_once(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    """What its skin is made of is worked out by then."""
    skin.cache_clear()
    at_work = got_ready(open_window, tmp_path / "empty", qtbot)
    before = skin.cache_info().misses
    assert before > 10
    at_work.window.go("Model")
    assert at_work.model.state.setting.subject == "figure"
    assert skin.cache_info().misses == before


_START = """
import json, sys
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
plain = QApplication.exec
loaded = lambda: "bralto.ui.model.model_place" in sys.modules
def run(*_):
    before = loaded()
    def look():
        if loaded():
            print(json.dumps([before, loaded()]))
            QApplication.quit()
    watch = QTimer()
    watch.timeout.connect(look)
    watch.start(20)
    return plain()
QApplication.exec = staticmethod(run)
from bralto.start import run as start
start()
"""


def test_the_command_gets_ready_once_the_shelf_stands(tmp_path: Path) -> None:
    with Library.open(tmp_path / "library"):
        pass
    env = {**os.environ, "XDG_STATE_HOME": str(tmp_path / "state")}
    done = subprocess.run(
        [sys.executable, "-c", _START, "--library", str(tmp_path / "library")],
        capture_output=True, text=True, timeout=120, check=True, env=env,
    )  # fmt: skip
    assert json.loads(done.stdout) == [False, True]
