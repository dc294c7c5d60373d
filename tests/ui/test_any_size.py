"""Nothing is out of reach on a small screen, nor where everything is drawn at 175 % of its size.

A screen of 1280x800 px has 731x457 of them at 175 %, one of 1024x700 has 585x400.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QRect, QSize
from PyQt6.QtWidgets import QAbstractButton, QDialog, QLineEdit, QScrollArea, QWidget
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.ui import room
from bralto.ui.window import MainWindow

ROOMS = (QSize(1024, 700), QSize(731, 457), QSize(585, 400))


@pytest.fixture(params=ROOMS, ids=lambda one: f"{one.width()}x{one.height()}")
def small(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> QSize:
    """A screen with so much room."""
    monkeypatch.setattr(room, "room_on_screen", lambda _: request.param)
    monkeypatch.setattr("bralto.ui.window.room_on_screen", lambda _: request.param)
    return request.param


@pytest.fixture
def window(
    small: QSize, open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> Iterator[MainWindow]:
    window = open_window(demo_copy)
    assert window.width() <= small.width()
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    yield window
    for slip in window.findChildren(QDialog):
        slip.reject()


def out_of_reach(top: QWidget) -> list[str]:
    """Buttons and fields of a window that lie outside it even after scrolling to them, or that are
    smaller than their words."""
    lost = []
    for one in top.findChildren(QWidget):
        if not isinstance(one, QAbstractButton | QLineEdit) or not one.isVisibleTo(top):
            continue
        if isinstance(one, QLineEdit) and isinstance(one.parent(), QAbstractButton):
            continue
        above = one.parentWidget()
        while above is not None and above is not top:
            if isinstance(above, QScrollArea):
                above.ensureWidgetVisible(one)
            above = above.parentWidget()
        at = QRect(one.mapTo(top, QPoint(0, 0)), one.size())
        seen = top.rect().intersected(at)
        # A line to write in may be wider than the screen: it is written in all the same.
        wide = isinstance(one, QLineEdit)
        if seen.height() < at.height() or seen.width() < (0.6 * at.width() if wide else at.width()):
            name = one.text() or one.accessibleName() or type(one).__name__
            lost.append(f"{name} {at.getRect()}")
    return lost


def test_the_window_is_no_larger_than_the_screen(window: MainWindow, small: QSize) -> None:
    assert window.width() <= small.width()
    assert window.height() <= small.height()


@pytest.mark.parametrize("place", ["Shelf", "Bench", "Model", "Record"])
def test_every_button_of_a_place_can_be_reached(
    window: MainWindow, qtbot: QtBot, place: str
) -> None:
    window.go(place)
    window.grab()
    settle(qtbot, window)
    assert out_of_reach(window) == []


@pytest.mark.parametrize("slip", ["new study", "sheet", "settings", "keys", "library", "rename"])
def test_every_button_of_a_slip_can_be_reached(
    window: MainWindow, qtbot: QtBot, small: QSize, slip: str
) -> None:
    there = house(window)
    before = set(map(id, window.findChildren(QDialog)))
    window.go("Shelf")
    there.shelf.list.setCurrentIndex(there.shelf.entries.index(0, 0))
    {
        "new study": lambda: there.begin_study([]),
        "sheet": lambda: there.arrivals.show_sheet(there.bench.study, Board.DRAWING),
        "settings": there.show_settings,
        "keys": window.show_keys,
        "library": there.care.show_library,
        "rename": there.acts.rename,
    }[slip]()
    (opened,) = (one for one in window.findChildren(QDialog) if id(one) not in before)
    opened.grab()
    settle(qtbot, window)
    assert opened.width() <= small.width()
    assert opened.height() <= small.height()
    assert out_of_reach(opened) == []
    opened.reject()


def test_with_room_enough_nothing_scrolls(open_window: Opener, demo_copy: Path) -> None:
    window = open_window(demo_copy)
    window.resize(1024, 700)
    window.grab()
    (area,) = (one for one in window.centralWidget().findChildren(QScrollArea)
               if one.parent() is window.centralWidget())  # fmt: skip
    for bar in (area.horizontalScrollBar(), area.verticalScrollBar()):
        assert bar.maximum() == 0
