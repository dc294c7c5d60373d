"""Damaged studies, folders that go away, faults of our own: each said, and the window stands."""

from __future__ import annotations

import os
import shutil
import sqlite3
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QPushButton, QWidget
from pytestqt.qtbot import QtBot
from tests.journeys.test_photos import photo_of_sheet
from tests.ui.conftest import Opener, house, refusing, settle

from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.disk.reports import Reports
from bralto.store.care.backups import keep_backup
from bralto.store.failures import Failure, LibraryError, failure
from bralto.store.library import Library
from bralto.store.study_edits import StudyEdits
from bralto.ui.arrivals.offer import Offer
from bralto.ui.library.gone import GoneSlip
from bralto.ui.library.library_slip import LibrarySlip
from bralto.ui.library.no_library import NoLibrary
from bralto.ui.running.doorbell import Doorbell, ring
from bralto.ui.running.tasks import OWN_FAULT
from bralto.ui.session import prompting
from bralto.ui.slips.report_slip import ReportSlip
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


def now() -> object:
    from datetime import UTC, datetime

    return datetime.now(UTC)


def words(widget: QWidget) -> str:
    return " ".join(label.text() for label in widget.findChildren(QLabel))


def hurt(folder: Path, *statements: str) -> None:
    """Change rows as no Bralto would."""
    connection = sqlite3.connect(folder / "library.sqlite3")
    for one in statements:
        connection.execute(one)
    connection.commit()
    connection.close()


# What can be read is shown


@pytest.mark.parametrize("where", ["UTC0", "<+14>-14", "<-12>12"])
def test_a_day_that_no_clock_shows_is_no_day_and_the_window_stands(
    where: str,
    zone: Callable[[str], None],
    open_window: Opener,
    demo_copy: Path,
    qtbot: QtBot,
) -> None:
    """The years 1 and 9999 were beyond what the axis of time could be drawn for: no window at all
    for one such row."""
    zone(where)
    days = ("0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "9999-12-31T23:59:59-12:00", "soon")
    wrong = "UPDATE study SET made = '{}' WHERE id = '{}'"
    with Library.open(demo_copy) as library:
        ids = [row.id for row in library.rows()]
    hurt(demo_copy, *(wrong.format(*one) for one in zip(days, ids[:4], strict=True)))
    window = open_window(demo_copy)
    settle(qtbot, window)
    entries = {entry.id: entry for entry in house(window).shelf.state.entries}
    assert len(entries) == len(ids)
    assert [entries[one].dated for one in ids] == [False] * 4 + [True] * (len(ids) - 4)
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    assert not {one.id for one in record.state.counted} & set(ids[:4])
    assert record.state.counted
    house(window).open_study(ids[1])
    settle(qtbot, window)
    assert window.place == "Bench"


def test_a_study_that_cannot_be_read_is_a_card_that_says_so_and_the_others_open(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    with Library.open(demo_copy) as library:
        ids = [row.id for row in library.rows()]
    hurt(
        demo_copy,
        f"UPDATE study SET extra = '{{' WHERE id = '{ids[0]}'",
        f"UPDATE study SET made = 'yesterday' WHERE id = '{ids[1]}'",
    )
    window = open_window(demo_copy)
    # What is kept of it is sound, until it is opened or measured.
    assert house(window).shelf_state.entry(ids[0]).summary is not None
    house(window).open_study(ids[0])
    settle(qtbot, window)
    assert "cannot be read" in house(window).shelf_state.entry(ids[0]).why
    hurt(demo_copy, f"DELETE FROM summary WHERE study_id = '{ids[0]}'")
    window = open_window(demo_copy)
    bad = house(window).shelf_state.entry(ids[0])
    assert "cannot be read" in bad.why
    assert not house(window).shelf_state.entry(ids[1]).dated
    assert (
        house(window).shelf_state.entries[0].id == ids[1]
    )  # a word stands before the days' figures
    assert window.grab().width() == window.width()
    house(window).open_study(ids[0])
    assert window.prompt_line.prompt.trouble
    assert "what is said of it" in window.prompt_line.prompt.lead
    window.go("Record")
    settle(qtbot, window)
    assert window.grab().width() == window.width()
    house(window).open_study(ids[1])
    settle(qtbot, window)
    assert house(window).bench.study.id == ids[1]


def test_a_view_that_is_not_known_here_is_said_on_the_card_and_no_report_is_kept(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    """A newer Bralto may have more views; it was told as a fault of Bralto's own."""
    with Library.open(demo_copy) as library:
        newest = library.rows()[0].id
    hurt(
        demo_copy,
        f"UPDATE study SET view = 'figure-above', version = version + 1 WHERE id = '{newest}'",
    )
    window = open_window(demo_copy)
    settle(qtbot, window)
    entry = house(window).shelf_state.entry(newest)
    assert "its view 'figure-above' is not known here" in entry.why
    assert "use one of" not in entry.why
    assert house(window).faults.reports.text() == ""
    house(window).open_study(newest)
    settle(qtbot, window)
    assert window.prompt_line.prompt.trouble
    assert "is not known here" in window.prompt_line.prompt.lead
    assert window.place == "Shelf"


def test_a_damaged_database_is_only_read_and_its_backup_is_offered(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    with Library.open(demo_copy) as library:
        keep_backup(demo_copy, now(), asked=True)
        count = library.count()
    path = demo_copy / "library.sqlite3"
    data = bytearray(path.read_bytes())
    connection = sqlite3.connect(path)
    (page,) = connection.execute(
        "SELECT rootpage FROM sqlite_master WHERE name = 'study'"
    ).fetchone()
    connection.close()
    data[(page - 1) * 4096 : page * 4096] = bytes(4096)
    path.write_bytes(bytes(data))
    window = open_window(demo_copy)
    assert house(window).library.reading
    assert "Part of this library is damaged" in words(house(window).shelf)
    qtbot.mouseClick(house(window).shelf.apart.findChild(QPushButton), LEFT)
    slip = window.findChild(LibrarySlip)
    slip.list.setCurrentRow(0)
    qtbot.mouseClick(slip.put_back, LEFT)
    assert "will be as they were" in slip.status.text()
    qtbot.mouseClick(slip.put_back, LEFT)
    assert house(window).care.going_to == demo_copy
    again = open_window(demo_copy)
    assert len(house(again).shelf_state.entries) == count
    assert not house(again).library.reading


def test_the_library_slip_makes_backups_and_looks_through_everything(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    house(window).care.show_library()
    slip = window.findChild(LibrarySlip)
    qtbot.mouseClick(slip.make, LEFT)
    qtbot.waitUntil(lambda: slip.list.count() == 1)
    assert "asked for" in slip.list.item(0).text()
    qtbot.mouseClick(slip.look, LEFT)
    qtbot.waitUntil(lambda: "is sound" in slip.status.text())
    media = house(window).library.stored(house(window).shelf_state.entries[0].id).media[""]
    house(window).library.media.path(media).write_bytes(b"")
    qtbot.mouseClick(slip.look, LEFT)
    qtbot.waitUntil(lambda: "is damaged; take the same photo in again" in slip.status.text())


# No library


FAILURES = {
    Failure.FULL: ("The disk is full", {"again", "reading"}),
    Failure.READ_ONLY: ("may not be written to", {"again", "reading"}),
    Failure.IN_USE: ("open already", {"again", "reading"}),
    Failure.CANNOT_OPEN: ("cannot be opened", {"again"}),
    Failure.NEWER: ("of a newer Bralto", set()),
    Failure.NOT_A_LIBRARY: ("not a library of Bralto's", set()),
    Failure.EMPTIED: ("lost its list of studies", {"anew"}),
}


@pytest.mark.parametrize("kind", list(FAILURES))
def test_each_failure_has_its_own_sentence_and_ways_out(
    kind: Failure, tmp_path: Path, qtbot: QtBot
) -> None:
    said, ways = FAILURES[kind]
    window = NoLibrary(tmp_path, failure(kind, tmp_path), LIGHT)
    qtbot.addWidget(window)
    assert said in window.title.text()
    offered = {button.objectName() for button in window.findChildren(QPushButton)}
    assert offered == ways | {"elsewhere", "quit"}
    assert window.grab().height() > 100


def test_a_library_that_lost_its_database_comes_back_from_its_backup(
    demo_copy: Path, qtbot: QtBot
) -> None:
    with Library.open(demo_copy) as library:
        keep_backup(demo_copy, now())
        count = library.count()
    (demo_copy / "library.sqlite3").unlink()
    with pytest.raises(LibraryError) as met:
        Library.open(demo_copy)
    window = NoLibrary(demo_copy, met.value, LIGHT)
    qtbot.addWidget(window)
    window.findChild(QPushButton, "restore").click()
    assert window.library.count() == count
    window.library.close()


def test_trying_again_goes_on_once_the_cause_is_gone(tmp_path: Path, qtbot: QtBot) -> None:
    held = Library.open(tmp_path)
    with pytest.raises(LibraryError) as met:
        Library.open(tmp_path)
    window = NoLibrary(tmp_path, met.value, LIGHT)
    qtbot.addWidget(window)
    window.findChild(QPushButton, "again").click()
    assert window.library is None
    held.close()
    window.findChild(QPushButton, "again").click()
    assert window.library is not None
    window.library.close()


# A second start


def test_a_second_start_raises_the_first_window(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    house(window).care.listen()
    window.showMinimized()
    answers: list[bool] = []
    address = house(window).library.address
    caller = threading.Thread(target=lambda: answers.append(ring(address)))
    caller.start()
    qtbot.waitUntil(lambda: answers == [True])
    qtbot.waitUntil(lambda: not window.isMinimized())
    caller.join()
    assert not ring(address + "-nobody")
    other = Doorbell(address, window)  # the address is taken: it does without
    other.close()


_SECOND = """
import sys
from pathlib import Path
from bralto.app import run_window
sys.exit(run_window(Path(sys.argv[1])))
"""


def test_a_second_process_ends_well_and_changes_nothing(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    house(window).care.listen()
    second = subprocess.Popen(
        [sys.executable, "-c", _SECOND, str(tmp_path / "library")], stderr=subprocess.PIPE
    )
    qtbot.waitUntil(lambda: second.poll() is not None, timeout=60_000)
    assert second.returncode == 0
    assert second.stderr.read() == b""
    second.stderr.close()


# The folder goes away


def test_a_folder_that_goes_away_loses_nothing_and_another_place_is_offered(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, tmp_path: Path
) -> None:
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    study = house(window).bench.study
    shutil.rmtree(demo_copy)
    crown = study.picture(Board.DRAWING).marks["crown"]
    assert study.edits.set_mark(Board.DRAWING, "crown", Mark(crown.x + 3.0, crown.y, "seen", 1.0))
    qtbot.waitUntil(lambda: window.findChild(GoneSlip) is not None)
    slip = window.findChild(GoneSlip)
    qtbot.mouseClick(slip.back, LEFT)
    assert "not the same folder" in slip.fault.text()
    study.head.set_grade("exacting")  # one works on
    (tmp_path / "notes.txt").touch()
    slip.move_to(tmp_path)  # it is not empty: a folder of its own in there
    assert house(window).care.going_to == tmp_path / "bralto-library"
    assert not demo_copy.exists()
    with Library.open(house(window).care.going_to) as kept:
        assert kept.count() == 19
        there = kept.find(study.id)
        assert there.grade == "exacting"
        assert there.states[-1].picture.marks["crown"].x == crown.x + 3.0


def test_closing_while_the_folder_is_gone_asks_once_more(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    demo_copy.rename(demo_copy.with_name("moved"))
    window.go("Record")
    qtbot.waitUntil(lambda: window.findChild(GoneSlip) is not None)
    window.findChild(GoneSlip).reject()
    qtbot.waitUntil(lambda: window.findChild(GoneSlip) is None)
    assert not window.close()
    (slip,) = window.findChildren(GoneSlip)
    demo_copy.with_name("moved").rename(demo_copy)
    qtbot.mouseClick(slip.back, LEFT)  # it was only mounted again
    assert window.close()


def test_edits_that_the_disk_does_not_take_stay_in_memory(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    """A disk that was pulled out: the rows that SQLite still has in memory do not take the edit."""
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    study = house(window).bench.study

    def refuse(*_: object) -> None:
        raise failure(Failure.CANNOT_OPEN, demo_copy, " (Input/output error)")

    demo_copy.rename(tmp_path / "pulled")
    monkeypatch.setattr(StudyEdits, "put_marks", refuse)
    crown = study.picture(Board.DRAWING).marks["crown"]
    assert study.edits.set_mark(Board.DRAWING, "crown", Mark(crown.x + 5.0, crown.y, "seen", 1.0))
    assert study.document.unkept
    assert study.picture(Board.DRAWING).marks["crown"].x == crown.x + 5.0
    GoneSlip(house(window).library, study, window).move_to(tmp_path / "kept")
    with Library.open(tmp_path / "kept/bralto-library") as kept:
        marks = kept.find(study.id).states[-1].picture.marks
        assert marks["crown"].x == crown.x + 5.0
    (tmp_path / "pulled").rename(demo_copy)


# Faults of Bralto's own


def test_a_crash_in_a_job_is_kept_said_once_and_the_window_stands(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)

    def crash() -> None:
        secret = "Waiting for the tide"
        raise ValueError(f"cannot draw {secret} of {demo_copy}")

    refused: list[str] = []
    house(window).tasks.run(crash, lambda _: None, refused.append)
    settle(qtbot, window)
    assert refused == [OWN_FAULT]
    assert not house(window).busy
    assert window.prompt_line.prompt.lead == OWN_FAULT
    report = house(window).faults.reports.text()
    assert "builtins.ValueError" in report
    assert "crash" in report
    assert "tide" not in report
    assert str(demo_copy) not in report
    window.go("Record")
    assert not window.prompt_line.prompt.trouble
    house(window).tasks.run(crash, lambda _: None, refused.append)
    settle(qtbot, window)
    assert not window.prompt_line.prompt.trouble  # once is enough
    # At the next start it can be read, and deleted.
    again = open_window(demo_copy)
    house(again).care.look_at_reports()
    assert "Settings has a report of it" in again.prompt_line.prompt.lead
    house(again).show_settings()
    slip = again.findChild(SettingsSlip)
    qtbot.mouseClick(slip.report, LEFT)
    shown = slip.findChild(ReportSlip)
    assert "builtins.ValueError" in shown.text.toPlainText()
    qtbot.mouseClick(shown.delete, LEFT)
    assert house(again).faults.reports.text() == ""
    assert not slip.report.isEnabled()


_CRASH = """
import sys, threading
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
import bralto.app
plain = QApplication.exec
def run(*_):
    def crash():
        raise ValueError("in a slot")
    def thread():
        threading.Thread(target=crash).start()
    QTimer.singleShot(50, crash)
    QTimer.singleShot(100, thread)
    QTimer.singleShot(900, lambda: print("stands", flush=True))
    QTimer.singleShot(1000, QApplication.quit)
    return plain()
QApplication.exec = staticmethod(run)
from bralto.cli.printed.terminal import leave
leave(bralto.app.run_window(Path(sys.argv[1])))
"""


def test_an_exception_in_a_slot_or_a_thread_does_not_end_the_process(tmp_path: Path) -> None:
    env = {**os.environ, "XDG_STATE_HOME": str(tmp_path / "state")}
    done = subprocess.run(
        [sys.executable, "-c", _CRASH, str(tmp_path / "library")],
        capture_output=True, text=True, env=env, timeout=60, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert "stands" in done.stdout
    report = Reports(tmp_path / "state/bralto").text()
    assert report.count("builtins.ValueError") == 2
    assert "in the window" in report
    assert "in a thread" in report


def test_closing_does_not_wait_for_a_folder_that_never_answers(
    open_window: Opener, tmp_path: Path
) -> None:
    window = open_window(tmp_path / "library")
    never = threading.Event()
    for _ in range(5):
        house(window).tasks.run(lambda: never.wait(60.0), lambda _: None, lambda _: None)
    begun = time.monotonic()
    window.close()
    assert time.monotonic() - begun < 2.0
    never.set()


def test_jobs_that_never_end_do_not_keep_others_from_running(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("bralto.ui.running.tasks.LONG_S", 0.2)
    window = open_window(tmp_path / "library")
    never, seen = threading.Event(), []
    for _ in range(2):
        house(window).tasks.run(lambda: never.wait(60.0), lambda _: None, lambda _: None)
    qtbot.wait(300)
    house(window).tasks.run(lambda: 7, seen.append, lambda _: None)
    qtbot.waitUntil(lambda: seen == [7], timeout=2000)
    never.set()


def test_a_pipe_that_is_dropped_holds_nothing_up(
    open_window: Opener, demo_copy: Path, tmp_path: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    os.mkfifo(tmp_path / "pipe.jpg")
    house(window).incoming.take([tmp_path / "pipe.jpg"])
    (offer,) = window.findChildren(Offer)
    settle(qtbot, window)
    assert offer.preview.text() == "JPG"
    qtbot.mouseClick(offer.state, LEFT)
    settle(qtbot, window)
    assert "is a pipe, not a file" in window.prompt_line.prompt.lead


# A photo whose sheet is put off


def offered_state(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    photo_of_sheet(tmp_path / "later.jpg", -20.0)
    house(window).arrivals.take([tmp_path / "later.jpg"])
    (offer,) = window.findChildren(Offer)
    offer.name.setText("by lamplight")
    qtbot.mouseClick(offer.state, LEFT)
    qtbot.waitUntil(lambda: house(window).arrivals.slip is not None, timeout=60_000)
    settle(qtbot, window)


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    return window


def test_a_photo_whose_sheet_is_put_off_is_kept_and_that_is_said(
    window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    offered_state(window, qtbot, tmp_path)
    qtbot.mouseClick(house(window).arrivals.slip.leave, LEFT)
    settle(qtbot, window)
    study = house(window).bench.study
    assert study.session.state_name == "by lamplight"
    assert study.picture(Board.DRAWING).sheet is None
    assert "kept without its sheet" in window.prompt_line.prompt.lead
    stored = house(window).library.stored(study.id)
    assert house(window).library.media.is_sound(stored.media["by lamplight"])
    study.apply(prompting.skip)  # one goes on, and the prompt says what is next again
    assert "kept without its sheet" not in window.prompt_line.prompt.lead
    assert window.prompt_line.prompt.lead == house(window).bench.prompt().lead


def test_a_photo_that_is_left_out_leaves_nothing_behind(
    window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    before = set(house(window).library.media.names())
    offered_state(window, qtbot, tmp_path)
    assert set(house(window).library.media.names()) == before  # kept once it is decided
    qtbot.mouseClick(house(window).arrivals.slip.leave_out, LEFT)
    settle(qtbot, window)
    assert "was left out" in window.prompt_line.prompt.lead
    assert set(house(window).library.media.names()) == before
    assert len(house(window).bench.study.study.states) == 1


# What a full disk refuses


def test_a_refused_edit_leaves_no_dead_undo_and_times_are_tried_again(
    window: MainWindow, qtbot: QtBot
) -> None:
    study, library = house(window).bench.study, house(window).library
    before = study.study
    crown = study.picture(Board.DRAWING).marks["crown"]
    with refusing(library):
        study.edits.set_mark(Board.DRAWING, "crown", Mark(crown.x + 2.0, crown.y))
        assert study.undo_stack.count() == 0
        assert study.study == before
        assert window.prompt_line.prompt.trouble
        study.time.spend(90.0)
        study.time.keep()
    assert study.edits.set_mark(Board.DRAWING, "crown", Mark(crown.x + 2.0, crown.y))
    with refusing(library):
        study.undo_stack.undo()  # refused: the edit is still in force, and its step is there
        qtbot.waitUntil(lambda: study.undo_stack.index() == 1)
        assert study.picture(Board.DRAWING).marks["crown"].x == crown.x + 2.0
    study.undo_stack.undo()
    assert study.picture(Board.DRAWING).marks["crown"].x == crown.x
    study.time.keep()
    kept = house(window).library.find(study.id).extra["bench"]["seconds"]
    # The window's own clock may add a second or a few, on a busy machine.
    assert 90.0 <= sum(kept.values()) < 120.0


def test_a_setting_that_cannot_be_kept_is_said_on_its_slip(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    house(window).show_settings()
    slip = window.findChild(SettingsSlip)
    slip.minutes.setValue(11)
    assert not slip.fault.isVisible()
    kept = (house(window).library.root / "settings.json").read_text()
    full = OSError(28, "No space left on device")

    def refuse(*_: object, **__: object) -> None:
        raise full

    monkeypatch.setattr("bralto.ui.settings.write_private", refuse)
    slip.minutes.setValue(12)
    assert "No space left on device" in slip.fault.text()
    assert (house(window).library.root / "settings.json").read_text() == kept


def test_house_is_kept_once_a_start(window: MainWindow, qtbot: QtBot, demo_copy: Path) -> None:
    old = house(window).shelf_state.entries[1]
    house(window).library.put_binned({old.id: "2020-01-01T00:00:00+00:00"})
    house(window).care.keep_house()
    settle(qtbot, window)
    assert len(list((demo_copy / "backups").glob("weekly-*.sqlite3"))) == 1
    assert house(window).library.find(old.id) is None
    assert house(window).shelf_state.entry(old.id) is None


# The whole way, in a process of its own

_WHOLE_WAY = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication, QPushButton
import bralto.app
way, root, other = sys.argv[1], Path(sys.argv[2]), Path(sys.argv[3])
done = []
def house(window):
    return next(one for one in window.children() if type(one).__name__ == "House")
def look():
    for window in QApplication.topLevelWidgets():
        kind = type(window).__name__
        if not window.isVisible() or kind in done:
            continue
        if kind == "NoLibrary":
            done.append(kind)
            window.findChild(QPushButton, "restore").click()
        elif kind == "GoneSlip":
            done.append(kind)
            other.mkdir()
            window.move_to(other)
        elif kind == "MainWindow" and way == "gone" and "away" not in done:
            done.append("away")
            root.rename(root.with_name("away"))
            house(window).care.look_after_the_folder()
        elif kind == "MainWindow" and len(done) == (2 if way == "gone" else 1):
            window.grab()
            there = house(window)
            print(there.library.root.name, len(there.shelf_state.entries), flush=True)
            window.close()
        else:
            continue  # the windows come in any order
        return
clock = QTimer()
plain = bralto.app.make_application
def made(percent=100):
    application = plain(percent)
    clock.setInterval(100)
    clock.timeout.connect(look)
    clock.start()
    return application
bralto.app.make_application = made
from bralto.cli.printed.terminal import leave
leave(bralto.app.run_window(root))
"""


@pytest.mark.parametrize("way", ["table lost", "pages zeroed", "gone"])
def test_the_program_goes_on_with_the_library_that_was_chosen(
    way: str, demo_copy: Path, tmp_path: Path
) -> None:
    """From a library that cannot be had to a window with its studies, without a second start."""
    path = demo_copy / "library.sqlite3"
    if way != "gone":
        keep_backup(demo_copy, now())
        connection = sqlite3.connect(path)
        query = "SELECT rootpage FROM sqlite_master WHERE tbl_name = 'study' AND rootpage > 0"
        pages = [page for (page,) in connection.execute(query)]
        if way == "table lost":
            connection.execute("DROP TABLE study")
            connection.commit()
            pages = []
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        connection.close()
        data = bytearray(path.read_bytes())
        for page in pages:
            data[(page - 1) * 4096 : page * 4096] = bytes(4096)
        path.write_bytes(bytes(data))
    done = subprocess.run(
        [sys.executable, "-c", _WHOLE_WAY, way, str(demo_copy), str(tmp_path / "other")],
        capture_output=True, text=True, timeout=60, check=False,
    )  # fmt: skip
    assert done.returncode == 0, (done.returncode, done.stdout, done.stderr)
    assert done.stdout == ("other 19\n" if way == "gone" else "library 19\n")
    assert ("the library is damaged" in done.stderr) == (way == "table lost")
