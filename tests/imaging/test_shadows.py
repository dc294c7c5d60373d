"""Shapes of shadow found in pictures: against scikit-image, on uneven paper, hatched, lined."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from scipy.ndimage import gaussian_filter
from shapely import Polygon
from skimage.filters import threshold_otsu

from bralto.core.arrays import Floats, Pixels
from bralto.core.results import NotMeasurable
from bralto.imaging.tones.shadows import Shadows, Values, find_shadows, find_values

FIGURE = np.array([[150.0, 60.0], [330.0, 60.0], [330.0, 560.0], [150.0, 560.0]])
FORM = 0.85 * FIGURE + 0.15 * FIGURE.mean(axis=0)
DARK = np.array([[240.0, 60.0], [330.0, 60.0], [330.0, 560.0], [240.0, 560.0]])


def filled(polygons: list[tuple[Floats, float]], ground: float) -> Pixels:
    grey = np.full((640, 480), 255.0 * ground, np.float32)
    for polygon, tone in polygons:
        cv2.fillPoly(grey, [np.round(polygon).astype(np.int32)], 255.0 * tone)
    return np.repeat(grey.astype(np.uint8)[..., None], 3, axis=2)


def region(found: Shadows) -> Polygon:
    shape = Polygon()
    for ring in found.rings:
        shape = shape.symmetric_difference(Polygon(ring))
    return shape


def alike(found: Shadows, truth: Floats) -> float:
    one, two = region(found), Polygon(truth)
    return one.intersection(two).area / one.union(two).area


def told(picture: Pixels, **kwargs) -> Shadows:
    found = find_shadows(picture, FIGURE, [FORM], **kwargs)
    assert isinstance(found, Shadows), found
    return found


def test_a_two_toned_figure_is_parted_where_it_is_dark_and_from_what_is_behind_it() -> None:
    picture = filled([(FIGURE, 0.75), (DARK, 0.30)], 0.55)
    found = told(picture, paper=False)
    assert alike(found, DARK) > 0.93
    assert found.outline is not None
    outline = Polygon(found.outline)
    assert outline.intersection(Polygon(FIGURE)).area / outline.union(Polygon(FIGURE)).area > 0.97


def test_the_level_is_that_of_otsu_as_scikit_image_has_it() -> None:
    ramp = np.clip(np.linspace(20.0, 235.0, 480)[None] + np.zeros((640, 1)), 0, 255)
    ramp[:, :200] -= 15.0
    picture = np.repeat(ramp.astype(np.uint8)[..., None], 3, axis=2)
    whole = np.array([[0.0, 0.0], [479.0, 0.0], [479.0, 639.0], [0.0, 639.0]])
    found = find_shadows(picture, whole, [], paper=False)
    assert isinstance(found, Shadows)
    tone = cv2.cvtColor(picture, cv2.COLOR_RGB2LAB)[..., 0]
    soft = gaussian_filter(tone.astype(np.float64), 0.008 * 640)
    assert 255.0 * found.level == pytest.approx(threshold_otsu(soft), abs=3.0)


@pytest.mark.parametrize("gap", [8, 20])
def test_hatching_fine_or_coarse_is_tone_and_an_outline_is_none(gap: int) -> None:
    picture = filled([], 0.95)
    inside = np.zeros((640, 480), np.uint8)
    cv2.fillPoly(inside, [DARK.astype(np.int32)], 1)
    y, x = np.mgrid[0:640, 0:480]
    strokes = ((0.8 * x + 0.6 * y) % gap < 0.4 * gap) & (inside > 0)
    picture[strokes] = 60
    cv2.polylines(picture, [FIGURE.astype(np.int32)], True, (40, 40, 40), 2)
    found = told(picture, paper=True)
    assert alike(found, DARK) > 0.80
    lit = Polygon([(158, 70), (225, 70), (225, 550), (158, 550)])
    assert region(found).intersection(lit).area < 0.03 * lit.area


def test_uneven_light_on_the_paper_is_no_shadow() -> None:
    picture = filled([(DARK, 0.45)], 0.95).astype(np.float64)
    _y, x = np.mgrid[0:640, 0:480]
    lit = (picture * (1.0 - 0.5 * x / 480.0)[..., None]).astype(np.uint8)
    assert alike(told(lit, paper=True), DARK) > 0.9


def test_a_broad_shadow_is_not_evened_away_as_paper() -> None:
    broad = np.array([[160.0, 70.0], [320.0, 70.0], [320.0, 550.0], [160.0, 550.0]])
    light = np.array([[160.0, 70.0], [200.0, 70.0], [200.0, 550.0], [160.0, 550.0]])
    found = told(filled([(broad, 0.55), (light, 0.95)], 0.95), paper=True)
    assert (
        alike(found, np.array([[200.0, 70.0], [320.0, 70.0], [320.0, 550.0], [200.0, 550.0]])) > 0.9
    )


def test_small_islands_belong_to_what_surrounds_them() -> None:
    spot = np.array([[180.0, 200.0], [190.0, 200.0], [190.0, 210.0], [180.0, 210.0]])
    found = told(filled([(FIGURE, 0.75), (DARK, 0.30), (spot, 0.2)], 0.55), paper=False)
    assert len(found.rings) == 1


@pytest.mark.parametrize("corners", [6, 12, 40])
def test_no_outline_has_more_corners_than_are_stated(corners: int) -> None:
    turn = np.linspace(0.0, 2.0 * np.pi, 80, endpoint=False)
    star = np.column_stack([240.0 + (70.0 + 15.0 * np.cos(9 * turn)) * np.cos(turn),
                            300.0 + (150.0 + 30.0 * np.cos(9 * turn)) * np.sin(turn)])  # fmt: skip
    found = told(filled([(FIGURE, 0.8), (star, 0.3)], 0.5), paper=False, corners=corners)
    assert max(len(ring) for ring in found.rings) <= corners
    assert alike(found, star) > (0.6 if corners == 6 else 0.75)  # half-closed eyes blunt its points


def test_a_level_of_ones_own_is_kept() -> None:
    picture = filled(
        [
            (FIGURE, 0.8),
            (DARK, 0.5),
            (np.array([[250, 100], [320, 100], [320, 200], [250, 200]]), 0.2),
        ],
        0.95,
    )
    low, high = told(picture, paper=False, level=0.35), told(picture, paper=False, level=0.65)
    assert low.level == 0.35
    assert region(low).area < 0.3 * region(high).area


@pytest.mark.parametrize("tone", [0.75, 0.2])
def test_a_figure_without_light_and_shadow_says_so(tone: float) -> None:
    picture = filled([(FIGURE, tone)], 0.95)
    found = find_shadows(picture, FIGURE, [FORM], paper=False)
    assert isinstance(found, NotMeasurable)
    outside = find_shadows(picture, FIGURE + 5000.0, [], paper=True)
    assert isinstance(outside, NotMeasurable)


def test_the_sharpest_place_is_where_black_meets_white() -> None:
    contrast = np.array([[180.0, 400.0], [215.0, 400.0], [215.0, 440.0], [180.0, 440.0]])
    found = told(filled([(FIGURE, 0.75), (DARK, 0.5), (contrast, 0.0)], 0.7), paper=False)
    assert np.hypot(*(found.focus - [197.0, 420.0])) < 40.0


def test_three_values_part_a_figure_of_three_tones() -> None:
    middle = np.array([[210.0, 60.0], [270.0, 60.0], [270.0, 560.0], [210.0, 560.0]])
    right = np.array([[270.0, 60.0], [330.0, 60.0], [330.0, 560.0], [270.0, 560.0]])
    picture = filled([(FIGURE, 0.85), (middle, 0.55), (right, 0.20)], 0.95)
    found = find_values(picture, FIGURE, [FORM], paper=False)
    assert isinstance(found, Values)
    # Each is a third of the figure; LAB lightness of 0.20, 0.55 and 0.85 is 21, 58 and 87 %.
    assert found.shares == pytest.approx((1 / 3, 1 / 3, 1 / 3), abs=0.03)
    assert 0.21 < found.levels[0] < 0.58 < found.levels[1] < 0.87
    areas = [sum(Polygon(ring).area for ring in rings) for rings in (found.dark, found.half)]
    assert areas[0] == pytest.approx(Polygon(right).area, rel=0.04)
    assert areas[1] == pytest.approx(2.0 * Polygon(right).area, rel=0.04)


def test_an_even_figure_has_no_three_values() -> None:
    flat = filled([(FIGURE, 0.6)], 0.95)
    assert isinstance(find_values(flat, FIGURE, [FORM], paper=True), NotMeasurable)


LIMBS = [
    np.array([[168.0, 60.0], [165.0, 200.0], [195.0, 330.0], [186.0, 550.0]]),
    np.array([[312.0, 60.0], [318.0, 210.0], [280.0, 330.0], [290.0, 550.0]]),
    np.array([[230.0, 90.0], [245.0, 210.0], [238.0, 330.0]]),
    np.array([[190.0, 210.0], [250.0, 225.0], [310.0, 205.0]]),
    np.array([[195.0, 330.0], [240.0, 345.0], [285.0, 332.0]]),
    np.array([[238.0, 345.0], [246.0, 450.0], [240.0, 550.0]]),
]
"""Outlines and creases of a figure, as a hand draws them."""


def drawn(hatched: bool) -> Pixels:
    """A pencil drawing on paper, in lines alone or with one side of it hatched."""
    grey = np.full((640, 480), 242.0, np.float32)
    for line in LIMBS:
        cv2.polylines(grey, [np.round(line).astype(np.int32)], False, 70.0, 3, cv2.LINE_AA)
    for x in range(244, 326, 7) if hatched else ():
        cv2.line(grey, (x, 540), (x + 14, 80), 130.0, 2, cv2.LINE_AA)
    return np.repeat(grey.astype(np.uint8)[..., None], 3, axis=2)


def test_a_drawing_in_lines_alone_has_no_shadows_and_the_hatched_one_has() -> None:
    plain, shaded = drawn(False), drawn(True)
    for found in (
        find_shadows(plain, FIGURE, [FORM], paper=True),
        find_values(plain, FIGURE, [FORM], paper=True),
    ):
        assert isinstance(found, NotMeasurable)
    assert alike(told(shaded, paper=True), DARK) > 0.6
    assert isinstance(find_values(shaded, FIGURE, [FORM], paper=True), Values)
    by_hand = find_shadows(plain, FIGURE, [FORM], paper=True, level=0.9)
    assert isinstance(by_hand, Shadows)  # whoever moves the slider sees what lies below it
