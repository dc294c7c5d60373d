"""How a picture lies on its board."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPointF, QSizeF

from bralto.ui.boards.viewport import Viewport

views = st.builds(
    Viewport,
    width=st.integers(50, 6000),
    height=st.integers(50, 6000),
    plumb_deg=st.floats(-45, 45),
    zoom=st.floats(0.05, 20),
    shift=st.builds(QPointF, st.floats(-900, 900), st.floats(-900, 900)),
    mirrored=st.booleans(),
)


@given(views, st.floats(0, 6000), st.floats(0, 6000))
def test_there_and_back_is_the_same_place(view: Viewport, x: float, y: float) -> None:
    back = view.to_image(view.to_board(x, y))
    assert (back.x(), back.y()) == pytest.approx((x, y), abs=1e-5)


@given(views, st.floats(0.2, 5), st.floats(0, 600), st.floats(0, 600))
def test_zooming_keeps_what_is_under_the_pointer(
    view: Viewport, factor: float, x: float, y: float
) -> None:
    about = QPointF(x, y)
    before = view.to_image(about)
    after = view.zoomed(factor, about).to_image(about)
    assert (after.x(), after.y()) == pytest.approx((before.x(), before.y()), abs=1e-4)


@pytest.mark.parametrize("plumb", [0.0, 7.0, -30.0])
def test_a_fitted_picture_lies_wholly_on_the_board(plumb: float) -> None:
    view = Viewport(3000, 4000, plumb).fitted(QSizeF(280, 470))
    for x, y in ((0, 0), (3000, 0), (3000, 4000), (0, 4000)):
        at = view.to_board(x, y)
        assert -1e-6 <= at.x() <= 280 + 1e-6
        assert -1e-6 <= at.y() <= 470 + 1e-6


def test_a_plumb_correction_turns_the_picture_counter_clockwise() -> None:
    """What leans 10 degrees clockwise in the file stands upright on the board."""
    view = Viewport(1000, 1000, 10.0)
    foot, top = view.to_board(500, 500), view.to_board(500 + 173.648, 500 - 984.808)
    assert top.x() == pytest.approx(foot.x(), abs=0.01)
    assert top.y() < foot.y()


def test_a_mirror_exchanges_left_and_right_about_the_board() -> None:
    view = Viewport(400, 400).fitted(QSizeF(300, 300))
    there, mirrored = view.to_board(100, 50), view.mirror(300).to_board(100, 50)
    assert mirrored.x() == pytest.approx(300 - there.x())
    assert mirrored.y() == pytest.approx(there.y())
