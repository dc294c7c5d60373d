"""The real window over a library, and hands to work it with."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from bralto.app import make_application, make_house
from bralto.core.mannequin.setting import Setting
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.house import House
from bralto.ui.model import draw_sheet
from bralto.ui.model.drawn import Drawn, drawn_now, sized
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.window import MainWindow

Opener = Callable[[Path], MainWindow]


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    """The application as it is composed, faces and all."""
    return make_application()


@pytest.fixture
def open_at_once(qtbot: QtBot) -> Iterator[Opener]:  # noqa: ARG001 - it fails on Qt's warnings
    """Opens windows on library folders and closes them in the end; nothing may be left running."""
    opened: list[tuple[MainWindow, Library]] = []

    def close(window: MainWindow, library: Library) -> None:
        window.close()
        assert not any(timer.isActive() for timer in loose_timers(window))
        library.close()
        window.deleteLater()

    def open_(folder: Path) -> MainWindow:
        for one in [one for one in opened if one[1].root == folder]:
            opened.remove(one)
            close(*one)  # a restart: a library has one window
        library = Library.open(folder)
        window = make_house(library, LIGHT).window
        opened.append((window, library))
        window.show()
        return window

    yield open_
    for one in opened:
        close(*one)


@pytest.fixture
def open_window(open_at_once: Opener, qtbot: QtBot) -> Opener:
    """The same, and waits until all that is listed is measured."""

    def open_(folder: Path) -> MainWindow:
        window = open_at_once(folder)
        settle(qtbot, window)
        return window

    return open_


def house(window: MainWindow) -> House:
    """What joins the places of a window."""
    return next(one for one in window.children() if isinstance(one, House))


def loose_timers(window: QObject) -> list[QTimer]:
    """Timers that would still fire for a closed window, but for the strip's clock."""
    return [t for t in window.findChildren(QTimer) if t.parent() is not window.strip]


@contextmanager
def refusing(library: Library) -> Iterator[None]:
    """Another program holds the library's database: every write is refused, as on a full disk."""
    other = sqlite3.connect(library.root / "library.sqlite3", isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    try:
        yield
    finally:
        other.execute("ROLLBACK")
        other.close()


def settle(qtbot: QtBot, window: MainWindow) -> None:
    """Wait until no picture is loading."""
    qtbot.waitUntil(lambda: not house(window).busy, timeout=60_000)
    qtbot.wait(10)


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    """The newest demo study on the bench, in a library of the test's own."""
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    return window


@pytest.fixture
def bench(window: MainWindow) -> Bench:
    """The bench of that window."""
    assert house(window).bench is not None
    return house(window).bench


@pytest.fixture
def quick_sheets(monkeypatch: pytest.MonkeyPatch) -> None:
    """The sheet that is drawn from shows the small picture of a drag: for tests of its clock."""

    def quick(setting: Setting, width: int, height: int, *, finished: bool) -> Drawn:
        assert finished
        return drawn_now(setting, *sized(width, height, 90 * 120), finished=False)

    monkeypatch.setattr(draw_sheet, "drawn_now", quick)
