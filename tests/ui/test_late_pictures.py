"""Studies of the demo that came as marks alone get their pictures once the shelf stands."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from pytestqt.qtbot import QtBot
from tests.studies import figure_marks, study_of
from tests.ui.conftest import Opener, house

from bralto.stand.evening_class import demo_study
from bralto.store.demo_library import LATE
from bralto.store.library import Library


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
        assert library.lacking_media() == [bare, drawn]
        before = library.find(drawn)
    window = open_window(tmp_path / "library")
    shelf = house(window).shelf_state
    qtbot.waitUntil(lambda: house(window).library.lacking_media() == [bare], timeout=60_000)
    qtbot.waitUntil(lambda: not house(window).busy, timeout=60_000)
    library = house(window).library
    after = library.find(drawn)
    assert after.reference.marks == before.reference.marks
    assert after.states[0].picture.marks == before.states[0].picture.marks
    shown = {one.id: one.digest for one in shelf.everything}
    assert shown[drawn].drawing.media is not None
    assert shown[drawn].reference.media is not None
    assert shown[bare].drawing.media is None
