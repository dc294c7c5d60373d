"""On the pages of the record no words lie on others, nor end beyond their page, at any width."""

from __future__ import annotations

from itertools import combinations
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, settle
from tests.ui.written import written_on

from bralto.ui.record.page import Page
from bralto.ui.record.record_place import ACCURACY, DRAWN, LOG, TODAY, TRIES, YEAR
from bralto.ui.window import MainWindow

WIDTHS = (560, 731, 1280)


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    window = open_window(demo_copy)
    window.go("Record")
    settle(qtbot, window)
    return window


def assert_apart(page: Page, patch: pytest.MonkeyPatch) -> None:
    written = written_on(page, patch)
    assert len(written) > 5
    for (one, at), (other, beside) in combinations(written, 2):
        both = at.intersected(beside)
        apart = both.width() < 1.0 or both.height() < 1.0
        assert apart, f"{page.width()}: {one!r} lies on {other!r}"
    beyond = [words for words, at in written if at.left() < -1.0 or at.right() > page.width() + 1.0]
    assert beyond == []


@pytest.mark.parametrize("title", [ACCURACY, DRAWN, TRIES, TODAY, LOG, YEAR])
def test_words_lie_apart(
    title: str, window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    place = window.at("Record")
    place.show_page(title)
    settle(qtbot, window)
    for width in WIDTHS:
        window.resize(width, 700)
        settle(qtbot, window)
        assert_apart(place.shown, monkeypatch)


def test_each_pose_s_tries_lie_apart(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    place = window.at("Record")
    place.show_page(TRIES)
    for width in WIDTHS:
        window.resize(width, 700)
        qtbot.keyClick(place.shown.list, Qt.Key.Key_Home)
        for _ in place.shown.series:
            settle(qtbot, window)
            assert_apart(place.shown, monkeypatch)
            qtbot.keyClick(place.shown.list, Qt.Key.Key_Down)


def test_in_a_low_window_tries_are_scrolled_to_their_end_and_other_pages_are_not(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Of a pose with twelve figures still off ten were below the window, and nothing scrolled."""
    place = window.at("Record")
    window.resize(1024, 700)
    place.show_page(TODAY)
    settle(qtbot, window)
    before = place.shown.height()
    place.show_page(TRIES)
    settle(qtbot, window)
    table = place.shown.table
    qtbot.waitUntil(lambda: table.height() > before + 50)
    ends = {words: at.bottom() for words, at in written_on(table, monkeypatch)}
    assert sum(one.startswith("and ") and one.endswith(" more") for one in ends) >= 1
    assert max(ends.values()) < table.height()
    place.show_page(TODAY)
    settle(qtbot, window)
    qtbot.waitUntil(lambda: place.shown.height() == before)
