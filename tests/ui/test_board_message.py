"""What a board says where it has no picture is written beside the marks, not over them."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QRectF
from tests.studies import figure_marks, study_of
from tests.ui.conftest import Opener, house

from bralto.stand.evening_class import demo_orders, demo_study
from bralto.store.library import Library
from bralto.ui.boards.board_message import message_place
from bralto.ui.boards.picture_board import PictureBoard

_GONE = "This study came without its picture; its marks are here."


def _under(board: PictureBoard) -> list[str]:
    """The marks that are hidden by what a board says."""
    place, free = message_place(board, board.message)
    assert QRectF(board.rect()).contains(place)
    placed = board.study.now.picture(board.board).placed()
    under = [key for key in placed if place.contains(board.at(key))]
    assert not (free and under)
    return under


@pytest.mark.parametrize(("wide", "high"), [(1280, 800), (1024, 700), (1920, 1200)])
def test_no_mark_lies_under_it(open_window: Opener, tmp_path: Path, wide: int, high: int) -> None:
    """It was written over the crown of every standing figure."""
    kinds = [("figure", 0), ("figure", 4), *(one for one in demo_orders() if one[0] == "head")]
    with Library.open(tmp_path / "library") as library:
        for kind, number in kinds:
            one = demo_study(kind, number, pictures=False).study
            library.add(one, {}, f"2026-03-0{number + 1}T18:00:00Z")
    window = open_window(tmp_path / "library")
    window.resize(wide, high)
    for entry in house(window).shelf_state.entries:
        house(window).open_study(entry.id)
        bench = house(window).bench
        assert bench is not None
        for board in bench.boards:
            assert board.message == _GONE
            # A small board has no place between the marks of a head: then one lies under it.
            most = 1 if wide < 1280 and "head" in entry.title else 0
            assert len(_under(board)) <= most, (entry.title, board.board)


def test_without_marks_in_the_way_it_is_one_line_at_the_top(
    open_window: Opener, tmp_path: Path
) -> None:
    with Library.open(tmp_path / "library") as library:
        one = library.add(study_of({}, figure_marks()), {}, "2026-03-01T18:00:00Z")
    window = open_window(tmp_path / "library")
    window.resize(1920, 1200)
    house(window).open_study(one)
    bench = house(window).bench
    assert bench is not None
    place, _ = message_place(bench.reference, bench.reference.message)
    assert place.top() == 16.0
    assert (place.left(), place.height() < 20.0) == (16.0, True)
    assert _under(bench.drawing) == []


def test_where_marks_lie_everywhere_they_are_painted_over_the_words(
    open_window: Opener, tmp_path: Path
) -> None:
    """A head on a small board: the words lay over two of its marks."""
    with Library.open(tmp_path / "library") as library:
        one = library.add(demo_study("head", 3, pictures=False).study, {}, "2026-03-01T18:00:00Z")
    window = open_window(tmp_path / "library")
    window.resize(1120, 640)
    house(window).open_study(one)
    bench = house(window).bench
    assert bench is not None
    board = bench.drawing
    key, *_ = _under(board)
    ink = board.tokens.colour("ink2").lightness()
    assert board.grab().toImage().pixelColor(board.at(key).toPoint()).lightness() < ink
    place, _ = message_place(board, board.message)
    assert place.contains(board.at(key))
