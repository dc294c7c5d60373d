"""A wild hand: keys and clicks at random on every kind of study. Nothing breaks, nothing is lost.

Exceptions in slots and warnings of Qt fail the test (pytest-qt). Longer runs of the same kind found
a snap of a mark that its board lacks, and a list that was pointed at from above.
"""

from __future__ import annotations

import json
import random
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QMenu, QWidget
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.values import State, Study
from bralto.exchange.study_file import parse_study, study_document
from bralto.store.library import StoredStudy
from bralto.ui.bench.bench import Bench
from bralto.ui.session import prompting
from bralto.ui.window import MainWindow

EVENTS = 130
LEFT = Qt.MouseButton.LeftButton
KEYS = [getattr(Qt.Key, f"Key_{letter}") for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"] + [
    Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Tab, Qt.Key.Key_Backspace,
    Qt.Key.Key_Delete, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down,
    Qt.Key.Key_F2, Qt.Key.Key_F6, Qt.Key.Key_Question, Qt.Key.Key_BracketLeft, Qt.Key.Key_Plus,
]  # fmt: skip


def kinds(old: StoredStudy) -> dict[str, Study]:
    """Marked, bare, before a line is drawn, from imagination, and in other views."""
    seen, state = old.study.reference, old.study.states[-1]
    bare = replace(seen, marks={})
    unmarked = State(state.name, replace(state.picture, marks={}, sheet=None))
    return {
        "marked": old.study,
        "bare": Study("bare", "figure-front", bare, (unmarked,)),
        "undrawn": Study("undrawn", "figure-front", bare),
        "imagined": Study("dream", "figure-front", None, (state,), "imagined", canon="eight-heads"),
        "object": Study("object", "object", bare, (unmarked,)),
        "head": Study("head", "head-front", None, (unmarked,), "imagined", canon="face-thirds"),
    }  # fmt: skip


def parts(window: MainWindow, bench: Bench) -> list[QWidget]:
    middle, guesses = bench.column, bench.column.guesses
    every = [
        *bench.boards, bench.moves.list.viewport(), bench.off.list.viewport(), bench.ladder,
        *bench.rails, middle.right,
        *(middle.list_of(key).list.viewport() for key in ("plumb", "shapes", "verdict", "widths")),
        window.tape, guesses.take,
        guesses.skip, guesses.choices[0], guesses.dial, guesses.leave,
    ]  # fmt: skip
    return [part for part in every if part.isVisible()]


def strike(window: MainWindow, dice: random.Random) -> None:
    """A key where the focus is."""
    target = QApplication.focusWidget()
    if target is None or target.window() is not window:
        target = house(window).bench.active_board()
    held = dice.choice([Qt.KeyboardModifier.NoModifier] * 6 + [
        Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier,
    ])  # fmt: skip
    QTest.keyClick(target, dice.choice(KEYS), held)


def touch(window: MainWindow, dice: random.Random) -> None:
    """A click or a drag somewhere."""
    part = dice.choice(parts(window, house(window).bench))
    at = QPoint(dice.randrange(max(1, part.width())), dice.randrange(max(1, part.height())))
    QTest.mouseMove(part, at)
    if dice.random() < 0.7:
        QTest.mouseClick(part, LEFT, pos=at)
        return
    end = at + QPoint(dice.randrange(-60, 60), dice.randrange(-60, 60))
    QTest.mousePress(part, LEFT, pos=at)
    QTest.mouseMove(part, end)
    QTest.mouseMove(part, end + QPoint(5, 5))
    QTest.mouseRelease(part, LEFT, pos=end)


def turn(window: MainWindow, dice: random.Random) -> None:
    """Undo, redo, another pass, school, grade, state or size."""
    study = house(window).bench.study
    states = [state.name for state in study.study.states]
    acts = [
        study.undo_stack.undo,
        study.undo_stack.redo,
        lambda: study.apply(prompting.enter_pass, dice.choice(study.now.ground.passes).key),
        lambda: study.head.set_school(dice.choice(study.now.schools)),
        lambda: study.head.set_grade(dice.choice(["learning", "exacting"])),
        lambda: study.states.compare_with(dice.choice(["", *states])),
        lambda: window.resize(dice.choice([1024, 1280]), dice.choice([700, 800])),
        lambda: QTest.qWait(20),
    ]
    dice.choice(acts)()


@pytest.mark.parametrize("kind", ["marked", "bare", "undrawn", "imagined", "object", "head"])
def test_keys_and_clicks_at_random_break_nothing(
    kind: str, open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: ("", ""))
    window = open_window(demo_copy)
    library, old = house(window).library, house(window).library.studies()[0]
    study = kinds(old)[kind]
    media = {key: name for key, name in old.media.items() if key or study.reference}
    if not study.states:
        media = {"": old.media[""]}
    new = library.add(study, media, old.made)
    house(window).open_study(new)
    dice = random.Random(kind)
    for _ in range(EVENTS):
        for dialog in window.findChildren(QDialog):
            dialog.close()
        dice.choices((strike, touch, turn), (5, 3, 2))[0](window, dice)
        for open_menu in QApplication.topLevelWidgets():
            if isinstance(open_menu, QMenu):
                open_menu.close()
    settle(qtbot, window)
    window.grab()
    # What the library has is what is shown, and a study file takes it.
    bench = house(window).bench
    bench.study.edits.put_back()
    bench.study.time.keep()
    kept = library.find(bench.study.id)
    assert kept == bench.study.study
    assert study_document(parse_study(json.dumps(study_document(kept)), "wild")) == study_document(
        kept
    )
