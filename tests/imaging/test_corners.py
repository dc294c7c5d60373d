"""Corners of a picture lie where they were drawn."""

from __future__ import annotations

import numpy as np
import pytest
from PIL import Image, ImageDraw

from bralto.imaging.corners import find_corners

CHAIR = ((300.0, 200.0), (700.0, 240.0), (680.0, 700.0), (350.0, 760.0))


def painted(size: tuple[int, int], corners: tuple[tuple[float, float], ...]) -> np.ndarray:
    """A light quadrilateral on a dark ground with grain, drawn at four times the size."""
    big = Image.new("L", (4 * size[0], 4 * size[1]), 60)
    ImageDraw.Draw(big).polygon([(4 * x, 4 * y) for x, y in corners], fill=200)
    small = np.asarray(big.resize(size, Image.Resampling.BOX), np.float64)
    grain = np.random.default_rng(2).normal(0.0, 3.0, small.shape)
    return np.clip(small + grain, 0, 255).astype(np.uint8)[..., None].repeat(3, axis=2)


@pytest.mark.parametrize("by", [1.0, 2.0])
def test_the_strongest_corners_are_those_of_the_thing(by: float) -> None:
    """Also of a picture that is larger than the size at which corners are looked for."""
    corners = tuple((by * x, by * y) for x, y in CHAIR)
    found = find_corners(painted((round(1000 * by), round(900 * by)), corners), most=4)
    assert found.shape == (4, 2)
    away = np.linalg.norm(found[:, None] - np.array(corners)[None], axis=2)
    assert sorted(away.argmin(axis=1)) == [0, 1, 2, 3]
    # To one px of the size at which they are looked for, a fillet of the softening included.
    assert away.min(axis=1).max() < 2.5 * by


def test_an_even_page_has_none_and_a_speck_of_a_picture_does_no_harm() -> None:
    assert find_corners(np.full((300, 400, 3), 240, np.uint8)).shape == (0, 2)
    assert find_corners(np.full((1, 1, 3), 240, np.uint8)).shape == (0, 2)
    assert find_corners(np.full((2000, 1, 3), 240, np.uint8)).shape == (0, 2)
