"""What is measured is named in full: a learner cannot mend *R start of the neck between mo...*."""

from __future__ import annotations

import pytest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle
from tests.ui.written import written_on

from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.passes.fan import TiltFan
from bralto.ui.record.record_place import DRAWN, TODAY, TRIES, Record
from bralto.ui.session import prompting
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.row_list import Row, Rows
from bralto.ui.window import MainWindow

PASSES = (PassKey.SHEET, PassKey.PLUMB, PassKey.WIDTHS, PassKey.TILTS, PassKey.ACTION)
ANY_SIZE = ((1280, 800), (1024, 700), (731, 457))


@pytest.mark.parametrize(
    "view", ["figure-front", "head-front", "head-three-quarter", "head-profile"]
)
def test_rows_and_needles_of_a_pass_name_what_they_are(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, view: str
) -> None:
    whose = next(one for one in house(window).shelf_state.entries if one.row.view == view)
    house(window).open_study(whose.id)
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    named = set()
    for size in ANY_SIZE:
        window.resize(*size)
        for key in PASSES:
            bench.study.apply(prompting.enter_pass, key)
            settle(qtbot, window)
            for kind in (Rows, TiltFan):
                for shown in filter(kind.isVisible, bench.findChildren(kind)):
                    named |= {words for words, _ in written_on(shown, monkeypatch)}
    assert len(named) > 30
    asks = {"push the pose or a part …"}  # and a list opens
    assert {one for one in named if one.endswith("…")} - asks == set()


@pytest.mark.parametrize("page", [DRAWN, TRIES, TODAY])
def test_pages_of_the_record_say_all_that_they_say(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, page: str
) -> None:
    """At 175 % an exercise ended in *Action te...*, and a try was of *24 Septemb...*."""
    window.go("Record")
    settle(qtbot, window)
    place = window.at("Record")
    assert isinstance(place, Record)
    for size in ANY_SIZE:
        window.resize(*size)
        place.show_page(page)
        settle(qtbot, window)
        shown = {words for words, _ in written_on(place.page(page), monkeypatch)}
        assert len(shown) > 8
        assert {one for one in shown if one.endswith("…")} == set(), size


def test_figures_go_below_a_name_that_has_no_room_beside_them(qtbot: QtBot) -> None:
    rows = Rows(LIGHT, "Rows")
    qtbot.addWidget(rows)
    rows.say((Row("", "outermost left", right=("R ear base", "R ear base")), Row("", "brow")))
    heights = []
    for width in (400, 220):
        rows.resize(width, 300)
        rows.grab()
        heights.append([rows.list.visualRect(rows.list.model().index(i, 0)).height()
                        for i in range(2)])  # fmt: skip
    (wide, one), (narrow, still) = heights
    assert wide == one == still < narrow


def test_a_column_too_narrow_for_needles_lists_the_lines(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """At 175 % the fan named *n..., li..., b..., e...*."""
    whose = next(e for e in house(window).shelf_state.entries if e.row.view == "head-front")
    house(window).open_study(whose.id)
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    bench.study.apply(prompting.enter_pass, PassKey.TILTS)
    listed = []
    for size in ANY_SIZE:
        window.resize(*size)
        settle(qtbot, window)
        (fan,) = filter(TiltFan.isVisible, bench.findChildren(TiltFan))
        readings = fan.shown()
        listed.append(fan.are_listed(readings))
        words = " ".join(words for words, _ in written_on(fan, monkeypatch))
        said = [one.spec.label for one in readings]
        assert all(label in words for label in said), (size, words)
    assert listed == [False, False, True]
