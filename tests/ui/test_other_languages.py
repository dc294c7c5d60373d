"""Machines whose language writes figures and months in its own way: Bralto's stay as they are."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from datetime import UTC, date, datetime
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from bralto.core.words.phrases import MONTHS, day_words, month_words, short_day_words, weekday
from bralto.ui.widgets.figure_spin import FigureSpin

SOURCE = Path(__file__).parents[2] / "src"

_TYPED = """
from PyQt6.QtCore import QLocale, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QSpinBox
from bralto.app import make_application
from bralto.ui.widgets.figure_spin import FigureSpin
application = make_application()
print(QLocale.system().name())
for typed in ("7.5", "7,5"):
    spin = FigureSpin()
    spin.setRange(1.0, 100.0)
    spin.lineEdit().selectAll()
    QTest.keyClicks(spin.lineEdit(), typed)
    QTest.keyClick(spin.lineEdit(), Qt.Key.Key_Return)
    print(spin.value(), spin.text())
whole = QSpinBox()
whole.setRange(0, 5000)
whole.setValue(1200)
print(whole.text())
"""


@pytest.mark.parametrize("language", ["de_DE", "fr_FR", "en_US"])
def test_a_figure_is_typed_with_a_point_or_a_comma_in_any_language(language: str) -> None:
    """7.5 heads were 75 on a German machine, and 7,5 on an English one."""
    own = {key: value for key, value in os.environ.items() if not key.startswith(("LC_", "LANG"))}
    done = subprocess.run(
        [sys.executable, "-c", _TYPED], capture_output=True, text=True, check=True,
        env={**own, "LC_ALL": f"{language}.UTF-8", "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert done.stdout.splitlines() == [language, "7.5 7.50", "7.5 7.50", "1200"]


def test_a_comma_becomes_a_point_while_it_is_typed(qtbot: QtBot) -> None:
    qtbot.addWidget(spin := FigureSpin())
    spin.lineEdit().selectAll()
    qtbot.keyClicks(spin.lineEdit(), "7,")
    assert spin.lineEdit().text() == "7."
    qtbot.keyClicks(spin.lineEdit(), "2,5")  # a second one is not taken
    qtbot.keyClick(spin.lineEdit(), Qt.Key.Key_Return)
    assert spin.value() == 7.25


def test_days_and_months_have_their_names_whatever_the_language() -> None:
    """They were *Dezember* and *Dienstag* in the window, amid English sentences."""
    days = [datetime(2026, month, 1, 12, tzinfo=UTC) for month in range(1, 13)]
    assert [short_day_words(one) for one in days] == [f"1 {name}" for name in MONTHS]
    assert day_words(days[9]) == "1 October 2026"
    assert month_words(2026, 2) == "February 2026"
    assert [weekday(date(2026, 11, 30 - back)) for back in range(7)] == [
        "Monday", "Sunday", "Saturday", "Friday", "Thursday", "Wednesday", "Tuesday",
    ]  # fmt: skip
    asked = re.compile(r"%[aAbBcxXp]\b|month_name|month_abbr|day_name|day_abbr")
    found = [path.name for path in SOURCE.rglob("*.py") if asked.search(path.read_text("utf-8"))]
    assert found == []
