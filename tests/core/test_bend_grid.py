"""The bends of a sheet on a grid are those of the formula, there and back."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.core.test_curled import BENDS, SHEET, within

from bralto.core.study.bend_grid import BendGrid, bend_grid
from bralto.core.study.curled import FLAT
from bralto.core.study.frames import as_curled, on_flat_sheet, sheet_homography
from bralto.core.study.values import Sheet

LARGEST = max(abs(one) for side in BENDS for one in side)


def grid_of(sheet: Sheet) -> BendGrid:
    found = bend_grid(sheet)
    assert found is not None
    return found


def test_the_grid_says_what_the_formula_says_to_a_two_thousandth_of_the_bend() -> None:
    homography = sheet_homography(SHEET)
    assert isinstance(homography, np.ndarray)
    grid, places = grid_of(SHEET), within(300)
    exact = on_flat_sheet(SHEET, homography, places)[0]
    flat = np.array([grid.flat(x, y) for x, y in places.tolist()])
    assert 0.0 < np.abs(flat - exact).max() < LARGEST / 2000.0
    back = as_curled(SHEET, homography, flat)
    curled = np.array([grid.curled(x, y) for x, y in flat.tolist()])
    assert np.abs(curled - back).max() < LARGEST / 2000.0


def test_there_and_back_is_the_same_place_also_far_beside_the_sheet() -> None:
    grid = grid_of(SHEET)
    for x, y in [*within(40).tolist(), (-3000.0, 40.0), (9000.0, 9000.0), (800.0, 1199.0)]:
        assert grid.curled(*grid.flat(x, y)) == pytest.approx((x, y), abs=1e-5)


def test_far_beside_the_sheet_nothing_bends_any_further() -> None:
    grid = grid_of(SHEET)
    low = SHEET.corners[2][1] + 5000.0
    assert grid.away_at(800.0, low) == grid.away_at(800.0, low + 5000.0)
    assert -2.0 * 20.0 < grid.away_at(800.0, low)[1] < 0.0


def test_a_flat_sheet_and_what_is_no_sheet_have_none() -> None:
    a, b, c, d = SHEET.corners
    assert bend_grid(replace(SHEET, bends=FLAT)) is None
    assert bend_grid(replace(SHEET, bends=((0.0, 900.0, 0.0), *BENDS[1:]))) is None
    assert bend_grid(replace(SHEET, corners=(a, c, b, d))) is None


def test_grids_are_the_same_where_their_sheets_are() -> None:
    assert grid_of(SHEET) == grid_of(replace(SHEET, spread=0.9))
    assert grid_of(SHEET) != grid_of(replace(SHEET, size_mm=(420.0, 594.0)))
