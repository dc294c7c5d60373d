"""Paper that curls at its edges: what is taken out is put back by the same account."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import seen_from

from bralto.core.marking.carry import carry_by_sheet, plumb_from_line
from bralto.core.page.photo import read_sheet_photo
from bralto.core.results import NotMeasurable
from bralto.core.study.curled import (
    FLAT,
    bent,
    curls_too_far,
    flattened,
    of_other_corners,
    outline,
    worst_doubt,
)
from bralto.core.study.frames import image_points, sheet_homography, sight_points
from bralto.core.study.values import Mark, Picture, Sheet
from bralto.core.tolerances import GRADES

SIZE = (297.0, 420.0)
FLAT_SIDE = (0.0, 0.0, 0.0)
CORNERS = seen_from(30.0, 20.0, SIZE)
BENDS = ((2.0, 3.0, 1.5), (-1.0, -2.0, -1.0), (-12.0, -20.0, -15.0), (0.0, 1.0, 2.0))
SHEET = Sheet(tuple(map(tuple, CORNERS)), SIZE, 0.4, bends=BENDS)  # type: ignore[arg-type]


def to_unit() -> np.ndarray:
    homography = sheet_homography(SHEET)
    assert not isinstance(homography, NotMeasurable)
    return np.diag([1.0 / SIZE[0], 1.0 / SIZE[1], 1.0]) @ homography


def within(count: int = 60) -> np.ndarray:
    """Places of the photo within the sheet, by chance."""
    rng = np.random.default_rng(5)
    weights = rng.dirichlet(np.ones(4), count)
    return weights @ CORNERS


def test_a_place_on_the_very_edge_comes_to_the_line_between_the_corners() -> None:
    """By pencil and paper: at the middle of the lower side of a square sheet the edge lies 8 px
    inside; a mark there lies on the lower edge, one by the middle of the sheet where it was."""
    square = np.array([[0.0, 0.0], [200.0, 0.0], [200.0, 200.0], [0.0, 200.0]])
    sheet = Sheet(
        tuple(map(tuple, square)), (100.0, 100.0),  # type: ignore[arg-type]
        bends=((0.0,) * 3, (0.0,) * 3, (-6.0, -8.0, -6.0), (0.0,) * 3),  # type: ignore[arg-type]
    )  # fmt: skip
    picture = Picture("x.png", 300, 300, {}, sheet=sheet)
    found = sight_points(picture, np.array([[100.0, 192.0], [100.0, 80.0]]), np.zeros(2))
    np.testing.assert_allclose(found.xy, [[50.0, -100.0], [50.0, -40.0]], atol=1e-6)
    # Three quarters of the way down a quarter of it is taken: (2 x 3/4 - 1)^2 x 8 px = 2 px.
    low = sight_points(picture, np.array([[100.0, 148.0]]), np.zeros(1))
    np.testing.assert_allclose(low.xy, [[50.0, -75.0]], atol=1e-6)


def test_flattened_and_bent_are_each_others_inverse_and_corners_stay() -> None:
    xy = within()
    flat, _, _ = flattened(CORNERS, BENDS, to_unit(), xy)
    np.testing.assert_allclose(bent(CORNERS, BENDS, to_unit(), flat), xy, atol=1e-6)
    assert np.abs(flat - xy).max() > 5.0
    still, _, doubt = flattened(CORNERS, BENDS, to_unit(), CORNERS)
    np.testing.assert_allclose(still, CORNERS, atol=1e-9)
    assert doubt.max() < 1e-6
    picture = Picture("x.png", 1600, 1200, {}, sheet=SHEET, plumb_deg=7.0)
    there = sight_points(picture, xy, np.zeros(len(xy)))
    np.testing.assert_allclose(image_points(picture, there.xy), xy, atol=1e-6)


def test_the_jacobian_is_that_of_finite_differences() -> None:
    xy = within(20)
    _, jacobian, _ = flattened(CORNERS, BENDS, to_unit(), xy)
    for axis, step in enumerate(1e-3 * np.eye(2)):
        ahead, behind = (flattened(CORNERS, BENDS, to_unit(), xy + s)[0] for s in (step, -step))
        np.testing.assert_allclose(jacobian[:, :, axis], (ahead - behind) / 2e-3, atol=5e-3)


def test_the_doubt_is_that_of_how_far_in_four_papers_curl() -> None:
    """Papers that curl in a straight ramp over the outer seventh, quarter, half and all of a sheet:
    the SD of where they put a mark, worked out anew, is what is told, to 0.08 of the bend."""
    square = np.array([[0.0, 0.0], [200.0, 0.0], [200.0, 200.0], [0.0, 200.0]])
    bends = ((0.0,) * 3, (0.0,) * 3, (-6.0, -8.0, -6.0), (0.0,) * 3)
    unit = np.diag([1.0 / 200.0, 1.0 / 200.0, 1.0])
    for depth in (0.0, 0.25, 0.5, 0.75, 0.9, 1.0):
        flat = np.array([[100.0, 200.0 * depth]])
        xy = bent(square, bends, unit, flat)  # type: ignore[arg-type]
        doubt = flattened(square, bends, unit, xy)[2][0]  # type: ignore[arg-type]
        shares = [max(0.0, (depth - 1.0) / over + 1.0) for over in (1 / 7, 1 / 4, 1 / 2, 1.0)]
        assert doubt / 8.0 == pytest.approx(np.std(shares, ddof=1), abs=0.08)


def test_the_photo_says_how_unsure_marks_are_where_it_curls() -> None:
    unsure = worst_doubt(BENDS)
    lower = (FLAT_SIDE, FLAT_SIDE, (-20.0, -20.0, -20.0), FLAT_SIDE)
    told = flattened(CORNERS, lower, to_unit(), within(4000))
    # Along a side that bends alike at all three places no mark within is doubted more.
    assert 0.9 * unsure < told[2].max() < 1.1 * unsure
    found = read_sheet_photo(SHEET, GRADES["developing"])
    assert any("where it curls" in note for note in found.notes)
    flat = read_sheet_photo(replace(SHEET, bends=FLAT), GRADES["developing"])
    assert not any("curls" in note for note in flat.notes)
    assert worst_doubt(FLAT) == 0.0


def test_a_mirrored_or_turned_sheet_keeps_its_edges() -> None:
    edge = outline(CORNERS, BENDS)
    flip = np.array([-1.0, 1.0])
    mirrored = outline(flip * CORNERS[[1, 0, 3, 2]], of_other_corners(BENDS, (1, 0, 3, 2)))
    turned = outline(CORNERS[[2, 3, 0, 1]], of_other_corners(BENDS, (2, 3, 0, 1)))
    for found, as_it_was in ((flip * mirrored, edge), (turned, edge)):
        away = np.linalg.norm(found[:, None] - as_it_was[None], axis=2)
        assert away.min(axis=1).max() < 1e-9
    assert of_other_corners(BENDS, (0, 2, 1, 3)) == FLAT  # such a sheet has other sides
    assert of_other_corners(FLAT, (1, 2, 3, 0)) == FLAT
    same = SHEET.with_corners_in((3, 0, 1, 2))
    assert same.corners == (SHEET.corners[3], *SHEET.corners[:3])
    assert same.bends == (BENDS[3], *BENDS[:3])


def test_marks_are_carried_from_a_curled_photo_to_a_flat_one_and_back() -> None:
    marks = {f"m{i}": Mark(x, y) for i, (x, y) in enumerate(within(12).tolist())}
    old = Picture("a.png", 1600, 1200, marks, sheet=SHEET)
    again = seen_from(10.0, 70.0, SIZE)
    new = Picture("b.png", 1600, 1200, {}, sheet=Sheet(tuple(map(tuple, again)), SIZE))  # type: ignore[arg-type]
    there = carry_by_sheet(old, new)
    assert set(there) == set(marks)
    back = carry_by_sheet(
        replace(new, marks={k: replace(m, visibility="seen") for k, m in there.items()}),
        replace(old, marks={}),
    )
    for key, mark in marks.items():
        assert (back[key].x, back[key].y) == pytest.approx((mark.x, mark.y), abs=1e-5)
    # A line drawn plumb on the sheet is plumb, however its lower end curls.
    flat = np.array([[150.0, -60.0], [150.0, -410.0]])
    ends = image_points(replace(old, plumb_deg=0.0), flat)
    assert plumb_from_line(old, tuple(ends[0]), tuple(ends[1])) == pytest.approx(0.0, abs=1e-6)


def test_edges_that_no_paper_has_are_refused_and_not_reckoned_with() -> None:
    wild = replace(SHEET, bends=((1e5, -1e5, 1e5),) * 4)
    assert curls_too_far(CORNERS, wild.bends)
    assert not curls_too_far(CORNERS, BENDS)
    found = sight_points(Picture("x", 9, 9, {}, sheet=wild), within(3), np.ones(3))
    assert isinstance(found, NotMeasurable)
    assert "too far" in found.reason
