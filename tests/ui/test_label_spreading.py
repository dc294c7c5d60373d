"""Labels keep apart with the least moves."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bralto.ui.widgets.label_spreading import spread_out

wishes = st.lists(st.floats(0, 400), max_size=14)


@given(wishes, st.floats(1, 25))
def test_neighbours_keep_their_gap_and_their_order(wanted: list[float], gap: float) -> None:
    places = spread_out(wanted, gap)
    order = sorted(range(len(wanted)), key=lambda i: wanted[i])
    for a, b in pairwise(order):
        assert places[b] - places[a] >= gap - 1e-6


@given(wishes, st.floats(1, 25))
def test_no_small_move_of_any_block_would_come_nearer(wanted: list[float], gap: float) -> None:
    """Least squares: within a touching block the mean of the moves is 0."""
    places = spread_out(wanted, gap)
    order = sorted(range(len(wanted)), key=lambda i: wanted[i])
    block: list[float] = []
    for rank, i in enumerate(order):
        if rank and places[i] - places[order[rank - 1]] > gap + 1e-6:
            assert sum(block) == pytest.approx(0.0, abs=1e-4)
            block = []
        block.append(places[i] - wanted[i])
    assert sum(block) == pytest.approx(0.0, abs=1e-4)


def test_labels_with_room_stay_where_they_are() -> None:
    assert spread_out([10.0, 50.0, 90.0], 17.0) == [10.0, 50.0, 90.0]


def test_labels_stay_within_the_range_where_they_fit() -> None:
    assert spread_out([95.0, 99.0], 17.0, 0.0, 100.0) == [83.0, 100.0]
