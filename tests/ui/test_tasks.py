"""Slow work off the GUI thread."""

from __future__ import annotations

import threading
import time
from functools import partial

from PyQt6 import sip
from PyQt6.QtCore import QObject
from pytestqt.qtbot import QtBot

from bralto.core.errors import UserError
from bralto.ui.running.tasks import Tasks


def test_a_result_is_applied_on_the_gui_thread(qtbot: QtBot) -> None:
    tasks, seen = Tasks(), []
    tasks.run(
        threading.get_ident, lambda w: seen.extend((w, threading.get_ident())), lambda _: None
    )
    qtbot.waitUntil(lambda: len(seen) == 2)
    assert seen[0] != seen[1] == threading.get_ident()
    tasks.close()


def test_a_fault_of_the_user_comes_back_as_its_sentence(qtbot: QtBot) -> None:
    def work() -> None:
        raise UserError("that is no picture")

    tasks, said = Tasks(), []
    tasks.run(work, lambda _: None, said.append)
    qtbot.waitUntil(lambda: said == ["that is no picture"])
    assert not tasks.busy
    tasks.close()


def test_a_closed_pool_applies_nothing(qtbot: QtBot) -> None:
    tasks, seen, go = Tasks(), [], threading.Event()
    tasks.run(go.wait, seen.append, seen.append)
    go.set()
    tasks.close()
    qtbot.wait(30)
    assert seen == []


def test_what_a_closed_widget_asked_for_is_dropped_or_taken_back(qtbot: QtBot) -> None:
    """Closing calls long work off: nothing is told to a widget that is gone."""
    tasks, told, begun = Tasks(), [], []
    hold = threading.Event()

    class Asker(QObject):
        def take(self, value: object) -> None:
            told.append(value)

    asker = Asker()
    for number in range(4):  # two threads: two begin, two wait

        def work(number: int = number) -> int:
            begun.append(number)
            hold.wait(5.0)
            return number

        tasks.run(work, partial(asker.take), told.append)
    qtbot.waitUntil(lambda: len(begun) == 2)
    tasks.call_off(asker)
    sip.delete(asker)
    hold.set()
    qtbot.waitUntil(lambda: not tasks.busy)
    assert (sorted(begun), told) == ([0, 1], [])
    tasks.close()


def test_closing_does_not_wait_for_what_only_saves_time_later() -> None:
    tasks, hold = Tasks(), threading.Event()
    tasks.run(hold.wait, lambda _: None, lambda _: None, needless=True)
    begun = time.monotonic()
    tasks.close()
    took = time.monotonic() - begun
    hold.set()
    assert took < 1.0  # it would wait for 1.5 s
