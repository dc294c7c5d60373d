"""Nothing is out of reach on a small screen, nor where everything is drawn at 175 % of its size.

A screen of 1280x800 px has 731x457 of them at 175 %, one of 1024x700 has 585x400.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QRect, QRectF, QSize, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QDialog, QLineEdit, QScrollArea, QWidget
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.core.views.pass_keys import PassKey
from bralto.ui import room
from bralto.ui.plan.plan_slip import PlanSlip
from bralto.ui.prompt import Prompt, PromptLine
from bralto.ui.session import prompting
from bralto.ui.strip import Strip
from bralto.ui.theme.paint import text_width
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.row_list import Row, Rows
from bralto.ui.widgets.tape import TapeShown
from bralto.ui.window import MainWindow

ROOMS = (QSize(1024, 700), QSize(731, 457), QSize(585, 400))


@pytest.fixture(params=ROOMS, ids=lambda one: f"{one.width()}x{one.height()}")
def small(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> QSize:
    """A screen with so much room."""
    monkeypatch.setattr(room, "room_on_screen", lambda _: request.param)
    for one in ("window", "keys"):
        monkeypatch.setattr(f"bralto.ui.{one}.room_on_screen", lambda _: request.param)
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
    if slip != "sheet" and small.width() > 585:  # its picture takes what there is
        sideways = [one.horizontalScrollBar() for one in opened.findChildren(QScrollArea)
                    if one.parent() is opened]  # fmt: skip
        assert all(bar.maximum() == 0 for bar in sideways)
    opened.reject()


def test_the_shelf_is_never_wider_than_the_screen(
    window: MainWindow, qtbot: QtBot, small: QSize
) -> None:
    """At 175 % its head had the whole of it scroll sideways; now it says less beside its name."""
    window.go("Shelf")
    window.grab()
    settle(qtbot, window)
    (area,) = (one for one in window.centralWidget().findChildren(QScrollArea)
               if one.parent() is window.centralWidget())  # fmt: skip
    assert area.horizontalScrollBar().maximum() == 0
    counted = house(window).shelf.counted
    many = f"{len(house(window).shelf_state.entries)} studies"
    whole = f"{many}, newest first; the figure is the typical miss"
    assert counted.accessibleName() == whole
    assert counted.text() == {1024: whole, 731: many, 585: ""}[small.width()]
    assert counted.fontMetrics().horizontalAdvance(counted.text()) <= counted.width()


def test_the_months_stand_over_the_charts_or_over_all_of_a_place_that_scrolls(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """In a window made narrow the whole year was one block of ink, and the charts had no width."""
    window = open_window(demo_copy)
    window.go("Record")
    settle(qtbot, window)
    place = window.at("Record")
    shown: list[TapeShown] = []
    monkeypatch.setattr(window.tape, "show_segments", shown.append)
    for width in (1280, 731, 560, 1280):
        window.resize(width, 700)
        window.grab()
        settle(qtbot, window)
        assert (place.width() > window.width()) == (width == 560)
        assert shown[-1] == place.tape()
        assert (shown[-1].margins == TapeShown().margins) == (width < 1280)
        charts = [one for one in place.accuracy.charts.values() if one.isVisible()]
        assert charts
        assert min(one.width() for one in charts) >= 120


@pytest.mark.parametrize("learner", ["", "Anna of the lamps on the pier"])
@pytest.mark.parametrize("width", [560, 640, 731, 900, 1280])
def test_the_words_of_the_strip_never_lie_on_each_other(
    qtbot: QtBot, width: int, learner: str
) -> None:
    """Beside a picture on half a screen, and at 175 %, settings and clock lay on the places."""
    strip = Strip(LIGHT)
    qtbot.addWidget(strip)
    strip.set_places(("Shelf", "Bench", "Model", "Record"))
    strip.show_place("Record", "")
    if learner:
        strip.show_learner(learner, "#aa3344")
    strip.resize(width, 46)
    strip.grab()
    spots = sorted(strip.spots.values(), key=QRectF.left)
    assert len(spots) == 5 + bool(learner)
    assert all(one.right() <= other.left() + 1.0 for one, other in pairwise(spots))
    clock = width - 24 - 64  # sign and time
    assert spots[-1].right() < clock
    rested, strip.left_s = strip.left_s, 5
    QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(clock, 23))
    assert strip.left_s == rested


def test_the_poses_stand_in_one_column_before_the_model_scrolls_sideways(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    window.go("Model")
    place = window.at("Model")
    grid = place.shelf.grid
    stands = next(i for i, one in enumerate(grid.poses) if one.key == place.state.pose_key)
    for width, columns, scrolls in ((1280, 2, False), (731, 1, False), (700, 1, True)):
        window.resize(width, 700)
        window.grab()
        settle(qtbot, window)
        assert (place.width() > window.width()) == scrolls
        assert grid.area(columns).top() > grid.area(0).top() == grid.area(columns - 1).top()
        assert grid.width() <= place.shelf.viewport().width()
        assert place.shelf.viewport().rect().translated(
            -grid.pos()
        ).contains(grid.area(stands))  # fmt: skip
        assert out_of_reach(window) == []


def test_with_room_enough_nothing_scrolls(open_window: Opener, demo_copy: Path) -> None:
    window = open_window(demo_copy)
    window.resize(1024, 700)
    window.grab()
    (area,) = (one for one in window.centralWidget().findChildren(QScrollArea)
               if one.parent() is window.centralWidget())  # fmt: skip
    for bar in (area.horizontalScrollBar(), area.verticalScrollBar()):
        assert bar.maximum() == 0


def test_the_fields_of_the_sheet_show_their_words_whole(window: MainWindow, qtbot: QtBot) -> None:
    """*As gives more room* and *the largest that fits* were cut off at both ends."""
    bench = house(window).bench
    assert bench is not None
    house(window).window.go("Bench")
    bench.study.apply(prompting.enter_pass, PassKey.SHEET)
    window.grab()
    settle(qtbot, window)
    (plan,) = window.findChildren(PlanSlip)
    arrow = 24
    for field, words in (
        (plan.lies, plan.lies.currentText()),
        (plan.head, plan.head.specialValueText()),
    ):
        assert field.width() >= field.fontMetrics().horizontalAdvance(words) + arrow, words


def test_headings_and_names_of_rows_take_a_second_line_in_a_narrow_list(qtbot: QtBot) -> None:
    """Headings ran into the titles of their columns, and three rows read *width of the …*."""
    said = ("Ribcage and pelvis", "R half of the face to the L", "Push", "knees")
    rows = Rows(LIGHT, "Rows")
    qtbot.addWidget(rows)
    rows.say(tuple(Row("", one, right=("drawn", "seen"), title=one[0].isupper() and i != 1)
                   for i, one in enumerate(said)))  # fmt: skip
    heights = []
    for width in (400, 170):
        rows.resize(width, 300)
        rows.grab()
        heights.append([rows.list.visualRect(rows.list.model().index(i, 0)).height()
                        for i in range(len(said))])  # fmt: skip
    wide, narrow = heights
    assert wide[:2] == wide[2:] == narrow[2:]
    assert all(now > before + 10 for now, before in zip(narrow[:2], wide[:2], strict=True))


LEAD = "To look closer, mark the R bulge of the shoulder (on your left) on the reference:"
HOW = "the outermost point of the muscle over the shoulder, well below its bony tip"


@pytest.mark.parametrize(("width", "many"), [(560, 2), (731, 2), (1024, 2), (1280, 1), (1920, 1)])
def test_what_to_do_next_takes_two_lines_where_one_is_too_short(
    qtbot: QtBot, width: int, many: int
) -> None:
    """At 1280 too it ended in *not the bu…*, where it says where a mark belongs."""
    line = PromptLine(LIGHT)
    qtbot.addWidget(line)
    line.resize(width, 46)
    line.say(Prompt(LEAD, HOW, (("Click", "set"), ("N", "skip"))))
    line.grab()
    room = width - 260.0
    size, lines = line.lines(room)
    assert len(lines) == many
    assert (size == Size.PROMPT) == (width == 1920)
    for one in lines:
        taken = sum(text_width(words, font(size, bold=leads)) + 8.0 for leads, words in one)
        assert taken - 8.0 <= room + 1.0
    shown = " ".join(words for one in lines for _, words in one)
    assert shown.startswith(LEAD)
    if width > 560:
        assert shown == f"{LEAD} {HOW}"
    else:
        assert shown.endswith("…")
        assert line.toolTip() == f"{LEAD} {HOW}"


def test_a_prompt_that_fits_stays_as_large_as_it_was(qtbot: QtBot) -> None:
    line = PromptLine(LIGHT)
    qtbot.addWidget(line)
    line.resize(1280, 46)
    line.say(Prompt("Open a study,", "or drop two pictures anywhere to begin one"))
    line.grab()
    assert line.lines(1000.0) == (
        Size.PROMPT,
        [[(True, "Open a study,"), (False, "or drop two pictures anywhere to begin one")]],
    )
    assert line.toolTip() == ""
    line.say(Prompt(""))
    line.grab()
    assert line.lines(1000.0) == (Size.PROMPT, [[]])
