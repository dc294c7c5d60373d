"""A day is the learner's own: what was drawn late in the evening is of that evening's day."""

from __future__ import annotations

import itertools
import time
from collections.abc import Callable
from datetime import UTC, datetime

import pytest
from PyQt6.QtCore import QTimer
from pytestqt.qtbot import QtBot

from bralto.core.words.phrases import day_words, short_day_words
from bralto.ui.widgets.timeline import months

LATE = datetime(2026, 9, 30, 22, 30, tzinfo=UTC)
EARLY = datetime(2026, 10, 1, 3, 0, tzinfo=UTC)


@pytest.mark.parametrize(
    ("where", "late", "early"),
    [
        ("UTC0", "30 September", "1 October"),
        ("<+14>-14", "1 October", "1 October"),  # Kiritimati, 14 hours ahead: 12:30 and 17:00
        ("PST8PDT,M3.2.0,M11.1.0", "30 September", "30 September"),  # 7 behind: 15:30, 20:00
    ],
)
def test_a_day_is_that_of_the_clock_on_the_card_and_on_the_tape(
    where: str, late: str, early: str, zone: Callable[[str], None]
) -> None:
    """IANA time zone database: UTC+14, and UTC-7 in summer time. The card had the day at
    Greenwich, and the tape its month."""
    zone(where)
    assert (short_day_words(LATE), short_day_words(EARLY)) == (late, early)
    assert day_words(LATE) == f"{late} 2026"
    segments, _ = months([LATE, EARLY])
    counted = {one.key: int(one.note or 0) for one in segments}
    september = [late, early].count("30 September")
    assert counted.get("2026-09", 0) == september
    assert counted.get("2026-10", 0) == 2 - september


def test_months_begin_at_midnight_of_the_clock_also_where_it_is_put_back(
    zone: Callable[[str], None],
) -> None:
    """Central Europe's summer time ends on 25 October 2026 (Directive 2000/84/EC: the last
    Sunday): the first of October begins at 22:00 UTC and that of November at 23:00."""
    zone("CET-1CEST,M3.5.0,M10.5.0/3")
    days = [
        datetime(2026, 9, 30, 21, 59, tzinfo=UTC),
        datetime(2026, 9, 30, 22, 1, tzinfo=UTC),
        datetime(2026, 10, 31, 22, 59, tzinfo=UTC),
        datetime(2026, 10, 31, 23, 1, tzinfo=UTC),
    ]
    segments, _ = months(days)
    found = [(one.key, one.note) for one in segments]
    assert found == [("2026-09", "1"), ("2026-10", "2"), ("2026-11", "1")]


def test_a_test_waits_on_where_the_clock_on_the_wall_is_set_on(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    walls, come = itertools.count(time.time(), 3600.0), []
    monkeypatch.setattr(time, "time", lambda: next(walls))
    QTimer.singleShot(50, lambda: come.append(True))
    qtbot.waitUntil(lambda: bool(come))
    with pytest.raises(TimeoutError):
        qtbot.waitUntil(lambda: False, timeout=30)

    def never() -> None:
        raise AssertionError("not yet")

    with pytest.raises(AssertionError, match="not yet"):
        qtbot.waitUntil(never, timeout=30)
