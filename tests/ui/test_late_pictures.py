"""Studies of the demo that came as marks alone get their pictures once the shelf stands."""

from __future__ import annotations

import threading
from dataclasses import replace
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from tests.studies import figure_marks, study_of
from tests.ui.conftest import Opener, house
from tests.ui.written import written_on

from bralto.core.errors import UserError
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.stand.evening_class import demo_study
from bralto.store.demo_library import draw_late
from bralto.store.library import LATE, Library


def test_what_has_an_order_is_drawn_and_what_has_none_is_left_alone(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    late = demo_study("half year", 0, pictures=False).study
    order = {"kind": "half year", "number": 0, "seed": 1}
    late = replace(late, extra={**late.extra, LATE: order})
    with Library.open(tmp_path / "library") as library:
        drawn = library.add(late, {}, "2026-03-01T18:00:00Z")
        bare = library.add(study_of(figure_marks(), figure_marks()), {}, "2026-04-01T18:00:00Z")
        binned = library.add(late, {}, "2026-05-01T18:00:00Z")
        library.put_binned({binned: "2026-05-02T18:00:00Z"})
        assert library.awaiting_media() == [drawn]
        before = library.find(drawn)
    window = open_window(tmp_path / "library")
    shelf = house(window).shelf_state
    qtbot.waitUntil(lambda: house(window).library.awaiting_media() == [], timeout=60_000)
    qtbot.waitUntil(lambda: not house(window).busy, timeout=60_000)
    library = house(window).library
    after = library.find(drawn)
    assert after.reference.marks == before.reference.marks
    assert after.states[0].picture.marks == before.states[0].picture.marks
    shown = {one.id: one.digest for one in shelf.everything}
    assert shown[drawn].drawing.media is not None
    assert shown[drawn].reference.media is not None
    assert shown[bare].drawing.media is None


def _with_orders(root: Path, many: int) -> list[str]:
    """Fills a library with studies whose pictures are made late; their ids, newest first."""
    with Library.open(root) as library:
        ids = []
        for number in range(many):
            late = demo_study("half year", number, pictures=False).study
            order = {"kind": "half year", "number": number, "seed": 1}
            late = replace(late, extra={**late.extra, LATE: order})
            ids.append(library.add(late, {}, f"2026-03-{number + 1:02d}T18:00:00Z"))
    return ids[::-1]


def test_what_is_on_the_bench_is_drawn_first_and_shown_there(
    open_at_once: Opener, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It stayed without its picture, which it was said to have come without, until it was opened
    again."""
    newest, oldest = _with_orders(tmp_path / "library", 2)
    made: list[str] = []

    def draw(library: Library, study: str) -> bool:
        made.append(study)
        return draw_late(library, study)

    monkeypatch.setattr("bralto.store.demo_library.draw_late", draw)
    window = open_at_once(tmp_path / "library")
    house(window).open_study(oldest)
    bench = house(window).bench
    assert bench is not None
    assert [board.shown.message for board in bench.boards] == [
        "Its picture is not drawn yet; its marks are here."
    ] * 2
    study = bench.study
    marks = study.study.reference
    qtbot.waitUntil(lambda: all(one.full_size is not None for one in bench.boards), timeout=60_000)
    assert made[0] == oldest
    assert study.study.reference == marks
    study.edits.set_mark(Board.REFERENCE, "crown", Mark(30.0, 40.0))  # on the version that it has
    assert study.study.reference.marks["crown"].x == 30.0
    qtbot.waitUntil(lambda: not house(window).busy and made == [oldest, newest], timeout=60_000)
    assert house(window).library.find(oldest).reference.marks["crown"].x == 30.0


def test_a_card_says_that_its_pictures_are_on_their_way(
    open_at_once: Opener, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It said *no picture*."""
    (one,) = _with_orders(tmp_path / "library", 1)
    with Library.open(tmp_path / "library") as library:
        bare = library.add(study_of(figure_marks(), figure_marks()), {}, "2026-04-01T18:00:00Z")
    drawing = threading.Event()
    monkeypatch.setattr("bralto.store.demo_library.draw_late", lambda *_: not drawing.wait(60.0))
    window = open_at_once(tmp_path / "library")
    found = house(window)

    def words() -> list[str]:
        return [one for one, _ in written_on(found.shelf.list.viewport(), monkeypatch)]

    try:
        qtbot.waitUntil(lambda: found.late.expects(one) and not found.shelf_state.busy)
        said = words()
        assert said.count("being drawn …") == 2
        assert said.count("no picture") == 2
        assert (found.late.expects(one), found.late.expects(bare)) == (True, False)
    finally:
        drawing.set()
    qtbot.waitUntil(lambda: not found.busy)
    assert "being drawn …" not in words()


def test_no_card_is_bare_meanwhile(open_at_once: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    """Each lost its figure and its frames for a moment when its pictures came."""
    (one,) = _with_orders(tmp_path / "library", 1)
    found = house(open_at_once(tmp_path / "library"))
    shelf, seen = found.shelf_state, list[tuple[bool, bool]]()

    def look() -> None:
        entry = shelf.entry(one)
        if entry.digest is not None or seen:
            seen.append((entry.in_force, entry.digest.drawing.media is not None))

    for signal in (shelf.changed, shelf.measured, found.late.changed):
        signal.connect(look)
    qtbot.waitUntil(lambda: bool(seen) and not found.busy, timeout=60_000)
    assert seen[0] == (True, False)
    assert seen[-1] == (True, True)
    assert all(in_force for in_force, _ in seen)


def test_what_cannot_be_drawn_is_not_waited_for(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    newest, oldest = _with_orders(tmp_path / "library", 2)
    asked: list[str] = []

    def refuse(_: Library, study: str) -> bool:
        asked.append(study)
        if study == newest:
            return False  # another hand wrote its order
        raise UserError("there is no room for it")

    monkeypatch.setattr("bralto.store.demo_library.draw_late", refuse)
    window = open_window(tmp_path / "library")
    late = house(window).late
    qtbot.waitUntil(lambda: len(asked) == 2 and not house(window).busy)
    assert asked == [newest, oldest]
    assert not late.expects(newest)
    assert not late.expects(oldest)
