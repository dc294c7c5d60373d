"""Where there is one of a thing it is said as one: a first evening is full of single things."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QAbstractButton, QLabel, QWidget
from pytestqt.qtbot import QtBot
from tests.core.sightings.sitters import places, sighted
from tests.ui.conftest import Opener, house, settle
from tests.ui.written import written_on

from bralto.core.study.taken import Sightings
from bralto.core.study.values import Study
from bralto.core.words.phrases import how_many, part_of, time_spent
from bralto.store.demo_library import add_worked_example
from bralto.store.instants import now_utc
from bralto.store.intake import add_study
from bralto.store.library import Library
from bralto.ui.record.record_place import ACCURACY, DRAWN, LOG, TODAY, TRIES, YEAR
from bralto.ui.window import MainWindow

_SEVERAL_OF_ONE = re.compile(r"(?<![\w.,:/−–+±-])(?:1|one|a) (?:more )?(\w+s)\b")
_NO_SEVERAL = {"was", "is", "has", "its", "across", "less", "pass", "this", "as"}


def said_by(window: MainWindow, patch: pytest.MonkeyPatch) -> Iterator[str]:
    """All that stands in a window, and what a screen reader is told of it."""
    yield from (words for words, _ in written_on(window, patch))
    for widget in [window, *window.findChildren(QWidget)]:
        if widget.isVisible():
            yield from (widget.accessibleName(), widget.accessibleDescription(), widget.toolTip())
            if isinstance(widget, QLabel | QAbstractButton):
                yield widget.text()


def several_of_one(window: MainWindow, patch: pytest.MonkeyPatch) -> list[str]:
    """What speaks of one thing as of several."""
    said = list(said_by(window, patch))
    assert sum(bool(words) for words in said) > 20
    return [
        words
        for words in said
        if any(found[1] not in _NO_SEVERAL for found in _SEVERAL_OF_ONE.finditer(words))
    ]


def test_a_number_goes_with_its_word() -> None:
    assert [how_many(n, "study") for n in (0, 1, 2)] == ["0 studies", "1 study", "2 studies"]
    assert [how_many(n, "day") for n in (1, 3)] == ["1 day", "3 days"]
    assert [how_many(n, "more move") for n in (1, 4)] == ["1 more move", "4 more moves"]
    assert [part_of(1, n, "study") for n in (1, 2)] == ["1 study", "1 of 2 studies"]


def test_time_is_told_from_half_a_minute_on() -> None:
    assert [time_spent(s, ", ") for s in (0.0, 29.0, 30.0, 200.0)] == ["", "", ", 1 min", ", 3 min"]


@pytest.fixture
def one_study(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> MainWindow:
    with Library.open(tmp_path / "library") as library:
        add_worked_example(library)
    window = open_window(tmp_path / "library")
    settle(qtbot, window)
    return window


def test_a_library_of_one_study(
    one_study: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert several_of_one(one_study, monkeypatch) == []
    one_study.go("Record")
    record = one_study.at("Record")
    for page in (ACCURACY, DRAWN, TRIES, TODAY, LOG, YEAR):
        record.show_page(page)
        settle(qtbot, one_study)
        assert several_of_one(one_study, monkeypatch) == [], page
    one_study.go("Model")
    settle(qtbot, one_study)
    assert several_of_one(one_study, monkeypatch) == []


def test_of_one_study_it_is_said_from_when_on_habits_are_told(
    one_study: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    one_study.go("Record")
    settle(qtbot, one_study)
    qtbot.waitUntil(
        lambda: "told from four drawings of one subject on" in said_by(one_study, monkeypatch),
        timeout=30_000,
    )


def test_a_year_without_work_on_the_bench_tells_no_minute_of_it(
    one_study: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The study came with its marks: nobody has worked at it here."""
    assert house(one_study).shelf_state.entries[0].digest.seconds == 0.0
    one_study.go("Record")
    one_study.at("Record").show_page(YEAR)
    settle(qtbot, one_study)
    said = list(said_by(one_study, monkeypatch))
    assert "1 study on 1 day" in said
    assert not any(re.search(r"\d min\b", words) for words in said)


def test_every_pass_of_a_study(
    one_study: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    house(one_study).open_study(house(one_study).shelf_state.entries[0].id)
    settle(qtbot, one_study)
    bench = house(one_study).bench
    passes = bench.segments()
    share = (one_study.tape.width() - 48) / len(passes)
    for i, one in enumerate(passes):
        at = QPoint(int(24 + (i + 0.5) * share), 20)
        qtbot.mouseClick(one_study.tape, Qt.MouseButton.LeftButton, pos=at)
        settle(qtbot, one_study)
        assert bench.study.current_pass == one.key
        assert several_of_one(one_study, monkeypatch) == [], one.key


@pytest.mark.parametrize("measures", [(), ("span.figure",)])
def test_a_figure_with_one_sighting_or_none(
    measures: tuple[str, ...], open_window: Opener, tmp_path: Path, qtbot: QtBot,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    items = sighted("figure-front", places("figure-front"), *measures)
    with Library.open(tmp_path / "library") as library:
        study = Study("Rope coiler", "figure-front", None, sightings=Sightings(items))
        study_id = add_study(library, study, None, None, now_utc())
    window = open_window(tmp_path / "library")
    house(window).open_study(study_id)
    settle(qtbot, window)
    assert several_of_one(window, monkeypatch) == []
    said = " ".join(said_by(window, monkeypatch))
    assert ("as 1 sighting implies it" if items else "nothing sighted yet") in said
