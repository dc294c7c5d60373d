"""Titles stand beside what is chosen there, on however small a screen."""

from __future__ import annotations

import pytest
from pytestqt.qtbot import QtBot

from bralto.ui.theme.paint import text_width
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heading import Choice, Heading


@pytest.mark.parametrize("wide", [400, 210, 185, 150])
def test_what_is_chosen_keeps_off_the_title_and_says_its_end(qtbot: QtBot, wide: int) -> None:
    heading = Heading(LIGHT)
    qtbot.addWidget(heading)
    heading.resize(wide, 40)
    heading.say("Before shading", "", Choice("fitted by head", (), frozenset(), lambda _: None))
    shown = heading.words_shown()
    assert "fitted by head".endswith(shown)
    title = text_width("Before shading", font(Size.BOARD, bold=True))
    assert title + text_width(shown, font(Size.NOTE)) + 14.0 < wide or not shown
    assert shown == {400: "fitted by head", 210: "by head", 185: "head", 150: ""}[wide]


@pytest.mark.parametrize(
    ("note", "wide", "shown"),
    [
        ("as 1 sighting implies it", 400, "as 1 sighting implies it"),
        ("as 1 sighting implies it", 190, ""),
        ("3 of 4, the whole first", 230, "3 of 4"),
        ("tells most of: L elbow at the ribcage", 330, "tells most of: L elbow at the …"),
        ("Wednesday: " + "a long name " * 20, 330, "Wednesday: a long name a …"),
    ],
)
def test_a_note_without_room_is_its_tip_and_is_not_begun_for_a_few_letters(
    qtbot: QtBot, note: str, wide: int, shown: str
) -> None:
    heading = Heading(LIGHT)
    qtbot.addWidget(heading)
    heading.say("The figure so far", note, "")
    heading.resize(wide, 30)
    heading.show()
    assert heading.note_shown() == shown
    assert heading.toolTip() == ("" if shown == note else note)
    heading.resize(3000, 30)
    assert (heading.note_shown(), heading.toolTip()) == (note, "")
