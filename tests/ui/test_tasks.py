"""Slow work off the GUI thread."""

from __future__ import annotations

import threading

from pytestqt.qtbot import QtBot

from bralto.core.errors import UserError
from bralto.ui.tasks import Tasks


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
