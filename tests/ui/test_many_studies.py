"""Shelf and record with more studies than a screen shows, or a chart can tell apart."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF
from PyQt6.QtGui import QImage, QPixmap
from pytestqt.qtbot import QtBot
from tests.store.test_first_screen import blank
from tests.studies import figure_marks, study_of
from tests.ui.conftest import Opener, house, settle

from bralto.core.examination.summary import SCIENCE
from bralto.core.study.two_boards import Board
from bralto.store.library import Library
from bralto.store.summaries import KeptDigest
from bralto.ui.boards.pixels import as_pixels
from bralto.ui.record import record_state
from bralto.ui.record.accuracy.chart import Chart, Dot, Dots
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.shelf_state import FIRST, ShelfState
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.timeline import months

START = datetime(2024, 1, 1, 12, tzinfo=UTC)


def dots(count: int) -> tuple[Dot, ...]:
    values = [0.1 + 0.05 * ((7 * i) % 11) / 11 for i in range(count)]
    return tuple(
        Dot(f"s{i}", (i + 0.5) / count, v, v - 0.02, v + 0.02, 0.03) for i, v in enumerate(values)
    )


def chart_of(shown: tuple[Dot, ...], qtbot: QtBot) -> Chart:
    chart = Chart("miss", LIGHT)
    qtbot.addWidget(chart)
    chart.resize(600, 120)
    chart.show_dots(Dots.of(shown))
    return chart


def picture(chart: Chart) -> QImage:
    return chart.grab().toImage()


def test_the_newest_studies_are_listed_before_the_rest_is_read(
    tmp_path: Path, qtbot: QtBot
) -> None:
    count = FIRST + 25
    with Library.open(tmp_path) as library:
        ids = [
            library.add(study_of({}, {}), {}, f"{START + timedelta(days=i):%Y-%m-%dT%H:%M:%SZ}")
            for i in range(count)
        ]
        library.put_digests([KeptDigest(one, 1, SCIENCE, "{}") for one in ids])
        library.put_hidden({ids[-1]: True})  # the newest of all, out of sight
        tasks = Tasks()
        state = ShelfState(library, tasks)
        assert [entry.id for entry in state.entries] == ids[::-1][1 : FIRST + 1]
        assert (state.complete, state.busy, state.total) == (False, True, count)
        library.rename(ids[0], "The first of all")  # before the rest is there
        state.measure()
        qtbot.waitUntil(lambda: state.complete)
        assert [entry.id for entry in state.entries] == ids[::-1][1:]
        qtbot.waitUntil(lambda: not state.busy)
        assert state.entry(ids[0]).title == "The first of all"
        state.look("hidden", "")
        assert [entry.id for entry in state.entries] == [ids[-1]]
        state.stop()
        tasks.close()


def test_only_what_changed_is_read_and_measured_again(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = open_window(demo_copy)
    read: list[str] = []
    plain = Library.stored

    def stored(library: Library, study_id: str) -> object:
        read.append(study_id)
        return plain(library, study_id)

    monkeypatch.setattr(Library, "stored", stored)
    house(window).open_study(house(window).shelf_state.entries[3].id)
    settle(qtbot, window)
    before = house(window).shelf_state.entries[3].summary
    study = house(window).bench.study
    crown = study.picture(Board.DRAWING).marks["crown"]
    study.edits.move(Board.DRAWING, "crown", crown.x, crown.y - 40.0, 1.0)
    read.clear()
    window.go("Shelf")
    settle(qtbot, window)
    assert set(read) == {study.id}
    assert house(window).shelf_state.entries[3].summary != before
    again = open_window(demo_copy)
    assert house(again).shelf_state.entries[3].summary is not None
    read.clear()
    again.go("Record")
    settle(qtbot, again)
    assert read == []  # a start measures nothing that was measured


def test_a_study_measured_by_an_earlier_science_is_measured_again(
    open_window: Opener, demo_copy: Path
) -> None:
    library = house(open_window(demo_copy)).library
    rows = library.rows()
    assert {row.science for row in rows} == {SCIENCE}
    library.put_digests(
        [KeptDigest(row.id, row.version, SCIENCE - 1, row.document) for row in rows[:2]]
    )
    window = open_window(demo_copy)
    assert {entry.row.science for entry in house(window).shelf_state.entries} == {SCIENCE}


def test_a_picture_is_laid_for_its_card_once(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = open_window(demo_copy)
    window.grab()
    settle(qtbot, window)  # they are written off the GUI thread
    cards = sorted((demo_copy / "media").glob("??/*.card-*.jpg"))
    assert len(cards) >= 16
    assert {path.stat().st_mode & 0o777 for path in cards} == {0o600}

    def never(*_: object) -> None:
        raise AssertionError("laid a second time")

    monkeypatch.setattr("bralto.ui.shelf.card_picture.lay_for_card", never)
    window = open_window(demo_copy)
    window.grab()
    house(window).library.media.sweep(set(), -1.0)
    assert not list((demo_copy / "media").glob("??/*"))


def test_the_next_start_shows_the_first_cards_without_a_decoder_and_to_the_pixel(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = open_window(demo_copy)
    settle(qtbot, window)
    before = house(window).shelf.list.grab().toImage()
    window.close()
    kept = demo_copy / "media" / "first-screen"
    assert kept.stat().st_size > 100_000
    decoded: list[str] = []

    class Counting(QPixmap):
        def __init__(self, *args: object) -> None:
            decoded.extend(one for one in args if isinstance(one, str))
            super().__init__(*args)

    monkeypatch.setattr("bralto.ui.shelf.card.QPixmap", Counting)
    again = open_window(demo_copy)
    settle(qtbot, again)
    shown = house(again).shelf.list.grab().toImage()
    assert shown == before
    assert decoded == []
    again.close()
    # Without it, or with one that is damaged, they are read one by one.
    kept.write_bytes(kept.read_bytes()[:-1])
    once_more = open_window(demo_copy)
    settle(qtbot, once_more)
    assert len(decoded) >= 16
    anew = house(once_more).shelf.list.grab().toImage()
    away = np.abs(as_pixels(anew).astype(int) - as_pixels(before).astype(int))
    assert away.mean() < 1.0  # JPEG


def test_a_study_deleted_for_good_is_not_left_on_the_first_screen(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    settle(qtbot, window)
    window.grab()
    library = house(window).library
    first = house(window).shelf_state.entries[0].id
    media = set(library.stored(first).media.values())
    library.media.remove(library.erase([first]))
    assert library.media.first_screen.read(blank) == {}
    window.close()
    names = "".join(library.media.first_screen.read(blank))
    gone = [name for name in media if not library.media.path(name).exists()]
    assert gone
    assert not any(name.rsplit("/", 1)[-1].split(".")[0] in names for name in gone)
    assert names


@pytest.mark.parametrize("count", [1, 40, 150, 151, 3000])
def test_the_study_under_the_pointer_is_the_nearest_across(count: int, qtbot: QtBot) -> None:
    """Held against a look at every dot."""
    shown = dots(count)
    chart = chart_of(shown, qtbot)
    for x in range(0, 600, 7):
        near = min(shown, key=lambda dot: abs(dot.share * 600 - x))
        expected = near.study if abs(near.share * 600 - x) < 10.0 else ""
        assert chart.study_at(QPointF(x, 20.0)) == expected


def test_many_dots_are_bands_and_pointing_paints_one_dot_over_them(qtbot: QtBot) -> None:
    few, many = chart_of(dots(150), qtbot), chart_of(dots(2000), qtbot)
    assert (few.crowded, many.crowded) == (False, True)
    few.resize(300, 100)
    assert few.crowded  # there is no room for a sign each any more
    assert picture(few) != picture(many)
    still = picture(many)
    many.light("s900")
    lit = picture(many)
    assert lit != still
    at = QPoint(round(dots(2000)[900].share * 600), 0)
    assert all(
        lit.pixel(x, y) == still.pixel(x, y)
        for x in range(0, 600, 5)
        for y in range(0, 120, 5)
        if abs(x - at.x()) > 8
    )
    many.light("")
    assert picture(many) == still
    many.resize(500, 100)
    assert picture(many).width() == 500


def test_bands_hold_the_middle_of_what_falls_together(qtbot: QtBot) -> None:
    """One study in twenty that is far off does not stretch its band."""
    calm = tuple(dot._replace(value=0.1) for dot in dots(2000))
    wild = tuple(dot._replace(value=0.19 if i % 20 == 0 else 0.1) for i, dot in enumerate(calm))
    shown, stretched = chart_of(calm, qtbot), chart_of(wild, qtbot)
    top = stretched.place_of(0.5, 0.15).toPoint()
    assert picture(stretched).pixelColor(top) == picture(shown).pixelColor(5, 3)


def test_years_are_shown_where_months_would_be_lines_beside_lines() -> None:
    day = datetime(2020, 3, 5, tzinfo=UTC)
    few, _ = months([day + timedelta(days=30 * i) for i in range(12)])
    assert few[1].key == "2020-03"  # a little air before the first
    assert sum(int(one.note or 0) for one in few) == 12
    many, bars = months([day + timedelta(days=i) for i in range(2000)])
    assert [one.title for one in many][-5:] == ["2021", "2022", "2023", "2024", "2025"]
    assert sum(int(one.note or 0) for one in many) == 2000
    assert len(bars) == 2000
    assert months([]) == ((), ())


def test_a_study_that_has_all_its_marks_is_on_record(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    with Library.open(tmp_path / "library") as library:
        library.add(study_of(figure_marks(), figure_marks(scale=60.0)), {}, "2026-05-02T18:20:00Z")
        library.add(study_of({}, {}), {}, "2026-05-03T18:20:00Z")
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    assert window.prompt_line.prompt.lead == "1 study on record:"
    assert window.prompt_line.prompt.how == "1 without the whole short set counts apart"


def test_of_many_studies_the_record_shows_what_it_had_until_the_rest_is_gone_through(
    open_window: Opener, demo_copy: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(record_state, "MANY", 5)
    window = open_window(demo_copy)
    window.go("Record")
    settle(qtbot, window)
    place, shelf = house(window).record, house(window).shelf_state
    before = place.state.every
    assert len(before) > 5  # the first time all are gone through at once
    window.go("Shelf")
    gone = shelf.entries[0]
    shelf.bin([gone], "2026-11-28T12:00:00Z")
    window.go("Record")
    assert place.state.every is before  # what was shown stays for the moment
    assert place.busy
    qtbot.waitUntil(lambda: not place.busy, timeout=60_000)
    assert [one.id for one in place.state.every] == [one.id for one in before if one.id != gone.id]
    assert all(gone.id not in course.studies for course in place.state.courses.values())
    # Two changes on each other's heels: the last one is shown.
    shelf.undo_stack.undo()
    place.state.follow()
    shelf.bin([shelf.entries[1]], "2026-11-28T12:00:00Z")
    place.state.follow()
    qtbot.waitUntil(lambda: not place.busy, timeout=60_000)
    assert {one.id for one in place.state.every} == {
        entry.id for entry in shelf.counted if entry.in_force and entry.summary is not None
    }
