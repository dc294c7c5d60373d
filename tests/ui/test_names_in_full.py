"""What is measured is named in full: a learner cannot mend *R start of the neck between mo...*."""

from __future__ import annotations

import pytest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle
from tests.ui.written import written_on

from bralto.core.views.pass_keys import PassKey
from bralto.ui.bench.passes.fan import TiltFan
from bralto.ui.session import prompting
from bralto.ui.widgets.row_list import Rows
from bralto.ui.window import MainWindow

PASSES = (PassKey.WIDTHS, PassKey.TILTS)


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
    for width, height in ((1280, 800), (1024, 700)):
        window.resize(width, height)
        for key in PASSES:
            bench.study.apply(prompting.enter_pass, key)
            settle(qtbot, window)
            for kind in (Rows, TiltFan):
                for shown in filter(kind.isVisible, bench.findChildren(kind)):
                    named |= {words for words, _ in written_on(shown, monkeypatch)}
    assert len(named) > 30
    assert {one for one in named if one.endswith("…")} == set()
