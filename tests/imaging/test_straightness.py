"""How much of a drawing is straight, on lines whose shape is known: straight ones and arcs."""

from __future__ import annotations

import math

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter

from bralto.core.arrays import Pixels
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.imaging.straightness import Straightness, straight_lines

WIDE, HIGH = 900, 1200
ALL = np.array([[10.0, 10.0], [WIDE - 10.0, 10.0], [WIDE - 10.0, HIGH - 10.0], [10.0, HIGH - 10.0]])


def drawing(straight: int, curved: int, seed: int) -> tuple[Pixels, float]:
    """Lines in a grid of cells on paper that is lit from one side, photographed with some noise;
    an arc turns by 40 to 120 degrees. Gives the share of their length that is straight."""
    rng = np.random.default_rng(seed)
    light = np.linspace(1.0, 0.75, WIDE)[None, :, None] * np.array([236.0, 232.0, 222.0])
    image = Image.fromarray(np.broadcast_to(light, (HIGH, WIDE, 3)).astype(np.uint8))
    pen = ImageDraw.Draw(image)
    cells = [(x, y) for x in range(90, WIDE - 60, 150) for y in range(90, HIGH - 60, 150)]
    lengths = {True: 0.0, False: 0.0}
    kinds = [True] * straight + [False] * curved
    for kind, cell in zip(kinds, rng.permutation(cells), strict=False):
        long, way = float(rng.uniform(70.0, 130.0)), float(rng.uniform(0.0, 2.0 * math.pi))
        along = np.linspace(-0.5, 0.5, 60)
        if kind:
            places = np.column_stack([along * long, np.zeros(60)])
        else:
            turn = math.radians(float(rng.uniform(40.0, 120.0)))
            radius = long / turn
            places = radius * np.column_stack([np.sin(along * turn), np.cos(along * turn)])
            places -= places.mean(axis=0)
        c, s = math.cos(way), math.sin(way)
        there = cell + places @ np.array([[c, s], [-s, c]])
        pen.line([(float(x), float(y)) for x, y in there], fill=(95, 93, 90), width=3)
        lengths[kind] += long
    soft = np.asarray(image.filter(ImageFilter.GaussianBlur(1.0)), dtype=np.float64)
    noisy = soft + rng.normal(0.0, 3.0, (HIGH, WIDE, 1))
    return np.clip(noisy, 0.0, 255.0).astype(np.uint8), lengths[True] / sum(lengths.values())


@pytest.mark.parametrize(("straight", "curved"), [(30, 0), (22, 8), (15, 15), (8, 22), (0, 30)])
def test_the_share_of_straight_lines_is_found(straight: int, curved: int) -> None:
    for seed in range(4):
        picture, truth = drawing(straight, curved, seed)
        found = straight_lines(picture, ALL)
        assert isinstance(found, Straightness)
        assert found.share == pytest.approx(truth, abs=0.12)
        assert abs(found.share - truth) <= COVERAGE * found.u + 0.02
        assert found.pieces >= 0.9 * (straight + curved)


@pytest.mark.parametrize(("shape", "low", "high"), [("polygon", 0.95, 1.0), ("circle", 0.0, 0.1)])
def test_a_polygon_is_straight_and_a_circle_is_not(shape: str, low: float, high: float) -> None:
    image = Image.new("RGB", (WIDE, HIGH), (235, 232, 225))
    pen = ImageDraw.Draw(image)
    for i in range(8):
        middle = (230.0 + 420.0 * (i % 2), 170.0 + 285.0 * (i // 2))
        around = (middle[0] - 120, middle[1] - 120, middle[0] + 120, middle[1] + 120)
        if shape == "circle":
            pen.ellipse(around, outline=(80, 80, 80), width=3)
        else:
            pen.regular_polygon((middle, 120), 5, 20 * i, outline=(80, 80, 80), width=3)
    found = straight_lines(np.asarray(image), ALL)
    assert isinstance(found, Straightness)
    assert low <= found.share <= high


def test_only_what_lies_on_the_drawing_counts_and_an_empty_sheet_tells_nothing() -> None:
    picture, _ = drawing(0, 30, 7)
    left = np.array([[10.0, 10.0], [40.0, 10.0], [40.0, 1190.0], [10.0, 1190.0]])
    assert isinstance(straight_lines(picture, left), NotMeasurable)
    bare = np.full((HIGH, WIDE, 3), 230, dtype=np.uint8)
    assert isinstance(straight_lines(bare, ALL), NotMeasurable)
