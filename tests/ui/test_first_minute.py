"""The empty shelf: a picture of what there is to have, and ways to it."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QPushButton
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.ui.shelf.first_minute import FirstMinute
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.window import MainWindow

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(open_window: Opener, tmp_path: Path) -> MainWindow:
    return open_window(tmp_path / "library")


def page_of(window: MainWindow) -> FirstMinute:
    page = window.findChild(FirstMinute)
    assert page is not None
    return page


def press(window: MainWindow, name: str) -> None:
    button = page_of(window).findChild(QPushButton, name)
    assert button.isVisible()
    QTest.mouseClick(button, LEFT)


@pytest.mark.parametrize(
    ("size", "pictured"), [((731, 457), False), ((1024, 700), True), ((1280, 800), True),
                           ((1920, 1200), True)],
)  # fmt: skip
def test_all_of_it_is_in_sight_at_any_size(
    window: MainWindow, size: tuple[int, int], pictured: bool, qtbot: QtBot
) -> None:
    window.resize(*size)
    qtbot.wait(20)
    page = page_of(window)
    picture = page.findChild(QLabel, "framed")
    assert picture.isVisible() == pictured
    if pictured:
        shown = picture.pixmap()
        assert shown.width() / shown.devicePixelRatio() >= 400
        right = picture.mapTo(page, picture.rect().bottomRight()).x()
        assert right < min(
            b.mapTo(page, b.rect().topLeft()).x() for b in page.findChildren(QPushButton)
        )
    for button in page.findChildren(QPushButton):
        corner = button.mapTo(page, button.rect().bottomRight())
        assert corner.x() <= page.width()
        assert corner.y() <= page.height()


def test_three_ways_lead_in(window: MainWindow, qtbot: QtBot) -> None:
    press(window, "new")
    slip = window.findChild(NewStudy)
    assert slip is not None
    slip.reject()
    qtbot.waitUntil(lambda: window.findChild(NewStudy) is None)
    press(window, "model")
    assert window.place == "Model"
    window.go("Shelf")
    press(window, "life")
    slip = window.findChild(NewStudy)
    assert slip is not None
    QTest.mouseClick(slip.start, LEFT)  # no picture is wanted
    qtbot.waitUntil(lambda: house(window).bench is not None)
    assert house(window).bench.study.from_life
    assert house(window).bench.study.current_pass == "sight"


def test_the_picture_opens_what_it_shows(window: MainWindow, qtbot: QtBot) -> None:
    QTest.mouseClick(page_of(window).findChild(QLabel, "framed"), LEFT)
    qtbot.waitUntil(lambda: house(window).bench is not None, timeout=60_000)
    settle(qtbot, window)
    assert window.place == "Bench"
    assert house(window).bench.study.corrections
