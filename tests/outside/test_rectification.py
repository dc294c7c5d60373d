"""The sheet's homography against published values, scikit-image and a theorem."""

from __future__ import annotations

import numpy as np
import pytest
from skimage.transform import ProjectiveTransform

from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sheet_homography, sight_marks, turn_to_sight, warp
from bralto.core.study.values import Mark, Picture, Sheet

# checks.md, section C: corners of a photographed sheet, to 1600 x 1600 sqrt(2).
CORNERS = ((123.0, 87.0), (1840.0, 142.0), (1903.0, 2611.0), (61.0, 2534.0))
SIZE = (1600.0, 1600.0 * 2.0**0.5)


def test_mapped_points_are_the_worked_ones() -> None:
    mapped, _ = warp(sheet_homography(Sheet(CORNERS, SIZE)), np.array([[500.0, 500], [982, 1344]]))
    wanted = [[358.42971593, 392.04191961], [803.05741717, 1171.55820587]]
    assert mapped == pytest.approx(np.array(wanted), abs=1e-6)


def test_points_and_slopes_agree_with_scikit_image() -> None:
    square = np.array([[0, 0], [SIZE[0], 0], SIZE, [0, SIZE[1]]])
    theirs = ProjectiveTransform.from_estimate(np.array(CORNERS), square)
    points = np.random.default_rng(1).uniform(100, 1800, (20, 2))
    mapped, jacobian = warp(sheet_homography(Sheet(CORNERS, SIZE)), points)
    assert mapped == pytest.approx(theirs(points), abs=1e-6)
    step = 1e-3
    for axis in range(2):
        by = np.eye(2)[axis] * step
        slope = (theirs(points + by) - theirs(points - by)) / (2 * step)
        assert jacobian[:, :, axis] == pytest.approx(slope, abs=1e-6)


def test_the_centre_lies_where_the_diagonals_cross() -> None:
    """A homography keeps lines: the inverse maps the middle of the sheet to (1, 2/3)."""
    sheet = Sheet(((0.0, 0.0), (2.0, 0.0), (1.5, 1.0), (0.5, 1.0)), (1.0, 1.0))
    mapped, _ = warp(sheet_homography(sheet), np.array([[1.0, 2.0 / 3.0]]))
    assert mapped == pytest.approx(np.array([[0.5, 0.5]]), abs=1e-12)


def test_the_pictures_corner_may_lie_on_the_horizon_but_a_mark_may_not() -> None:
    """Sides that meet at (0, 0), the picture's corner, put the plane's horizon through it."""
    sheet = Sheet(((20, 80), (80, 20), (400, 100), (100, 400)), (100.0, 100.0))
    homography = sheet_homography(sheet)
    corners, _ = warp(homography, np.array(sheet.corners, dtype=float))
    assert corners == pytest.approx(np.array([[0, 0], [100, 0], [100, 100], [0, 100]]), abs=1e-9)
    picture = Picture("", 500, 500, {"crown": Mark(-5.0, -5.0)}, sheet=sheet)
    refused = sight_marks(picture, ["crown"])
    assert isinstance(refused, NotMeasurable)
    assert "horizon" in refused.reason


@pytest.mark.parametrize(
    "corners",
    [
        ((0, 0), (10, 10), (10, 0), (0, 10)),  # folded
        ((0, 0), (10, 0), (5, 1), (0, 0)),  # two in one spot
        ((0, 0), (10, 0), (3, 1), (0, 10)),  # dented
        ((0, 0), (5, 0), (10, 0), (15, 0)),  # on a line
    ],
)
def test_corners_that_are_no_sheet_are_refused(corners: tuple) -> None:
    assert isinstance(sheet_homography(Sheet(corners, (210.0, 297.0))), NotMeasurable)


def test_a_plumb_correction_turns_counter_clockwise() -> None:
    """A vertical that leans 10 degrees clockwise in the picture stands upright after it."""
    lean = np.radians(10.0)
    up = np.array([np.sin(lean), -np.cos(lean)])  # image frame, y down
    assert turn_to_sight(10.0) @ up == pytest.approx(np.array([0.0, 1.0]), abs=1e-12)
