"""A curled sheet's photo, straightened: every place of it lies where its figures say."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from tests.core.test_curled import SHEET

from bralto.core.study.bend_grid import bend_grid
from bralto.core.study.frames import on_flat_sheet, sheet_homography
from bralto.imaging.straightened import straighten

HIGH, WIDE = 1200, 1600
DOTS = np.array([[0.5, 0.05], [0.06, 0.5], [0.5, 0.93], [0.75, 0.9], [0.3, 0.9], [0.5, 0.5]])
"""Of the sheet's width and height: places all over it, most by the edge that curls."""


def dots() -> np.ndarray:
    """(n, 2) px of the photo."""
    a, b, c, d = np.array(SHEET.corners)
    s, t = DOTS.T[:, :, None]
    places: np.ndarray = (a * (1 - s) + b * s) * (1 - t) + (d * (1 - s) + c * s) * t
    return places


def dotted() -> np.ndarray:
    """(h, w, 4) a white photo with a soft dot at each, the middle of a pixel at its half."""
    y, x = np.mgrid[0:HIGH, 0:WIDE] + 0.5
    dark = sum(np.exp(-((x - u) ** 2 + (y - v) ** 2) / (2 * 4.0**2)) for u, v in dots())
    return np.dstack([255.0 - 255.0 * np.clip(dark, 0, 1)] * 4).astype(np.uint8)


def dots_of(picture: np.ndarray, near: np.ndarray, shrink: float) -> np.ndarray:
    """The middle of what is dark within 20 px of each place."""
    found = []
    for u, v in near:
        y, x = np.mgrid[0 : picture.shape[0], 0 : picture.shape[1]] + 0.5
        dark = (255.0 - picture[:, :, 0]) * (np.hypot(x - u, y - v) < 20.0 * shrink)
        found.append([(x * dark).sum() / dark.sum(), (y * dark).sum() / dark.sum()])
    return np.array(found)


@pytest.mark.parametrize("shrink", [1.0, 0.5])
def test_each_place_comes_to_where_it_would_lie_if_the_sheet_lay_flat(shrink: float) -> None:
    grid, homography = bend_grid(SHEET), sheet_homography(SHEET)
    assert grid is not None
    assert isinstance(homography, np.ndarray)
    photo = cv2.resize(dotted(), None, fx=shrink, fy=shrink, interpolation=cv2.INTER_AREA)
    laid = np.empty_like(photo)
    straighten(photo, grid, WIDE, laid)
    wanted = on_flat_sheet(SHEET, homography, dots())[0]
    assert np.abs(wanted - dots()).max() > 8.0  # it does curl
    np.testing.assert_allclose(dots_of(laid, wanted * shrink, shrink), wanted * shrink, atol=0.15)
