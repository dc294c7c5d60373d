"""Words that stand for pages: whole when they are bold, and still when another is chosen."""

from __future__ import annotations

import pytest
from PyQt6.QtGui import QFontMetricsF
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from bralto.ui.record.page_strip import PageStrip
from bralto.ui.theme.style import style_sheet
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.word_button import WordButton

PAGES = ("Accuracy and habits", "Habits drawn", "Tries", "Today", "Log", "Year")
PADDING = 2 * 8
"""To both sides of a word, in the style."""


@pytest.fixture
def room(qtbot: QtBot) -> QWidget:
    found = QWidget()
    found.setStyleSheet(style_sheet(LIGHT))
    found.resize(900, 60)
    qtbot.addWidget(found)
    return found


@pytest.fixture
def strip(room: QWidget, qtbot: QtBot) -> PageStrip:
    found = PageStrip(room)
    found.resize(900, 30)
    found.show_counted("figures", "15 of 19 studies")
    found.show_pages(PAGES, PAGES[0])
    room.show()
    qtbot.waitExposed(room)
    return found


def test_a_chosen_word_is_whole_and_moves_no_other(strip: PageStrip) -> None:
    places = set()
    for page in PAGES:
        strip.show_pages(PAGES, page)
        words = strip.findChildren(WordButton)
        (chosen,) = (one for one in words if one.isChecked())
        assert chosen.text() == page
        wide = QFontMetricsF(font(Size.BODY, bold=True)).horizontalAdvance(page)
        assert wide + PADDING <= chosen.width()
        places.add(tuple(one.geometry().getRect() for one in words))
    assert len(places) == 1


@pytest.mark.parametrize(
    ("wide", "said"),
    [(900, "15 of 19 studies: figures ▾"), (680, "15 of 19 studies ▾"), (640, "15 of 19 ▾")],
)
def test_what_is_counted_is_said_in_as_many_words_as_there_is_room_for(
    strip: PageStrip, wide: int, said: str
) -> None:
    strip.resize(wide, 30)
    assert strip.counted.text() == said
    assert strip.counted.accessibleName() == "What is counted: 15 of 19 studies, figures"
