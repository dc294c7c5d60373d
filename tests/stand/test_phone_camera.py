"""The simulated phone tells the truth about what it took."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sheet_homography, warp
from bralto.core.study.values import Sheet
from bralto.stand.evening_class import demo_study
from bralto.stand.phone_aim import PhoneShot
from bralto.stand.phone_camera import TABLES, photograph, random_shot
from bralto.stand.tables import table

SIZE = (297.0, 420.0)
PAPER = Image.new("RGB", (297, 420), (250, 250, 250))
SHOT = PhoneShot(size=(500, 400), grain=0.0, quality=0)


@pytest.mark.parametrize("name", TABLES)
def test_every_table_is_a_texture_of_its_own(name: str) -> None:
    u, v = np.meshgrid(np.arange(60, dtype=np.float32), np.arange(40, dtype=np.float32))
    one, two = (table(name, np.random.default_rng(seed))(u, v) for seed in (1, 2))
    assert one.shape == (40, 60, 3)
    assert one.min() >= 0.0
    assert one.max() <= 255.0
    assert one.std() > 0.5  # no flat colour
    assert not np.array_equal(one, two)
    assert np.array_equal(one, table(name, np.random.default_rng(1))(u, v))


@pytest.mark.parametrize("slant", [0.0, 45.0])
@pytest.mark.parametrize("bow", [0.0, -0.05])
def test_the_sheet_fills_what_it_should_and_its_corners_are_where_it_ends(
    slant: float, bow: float
) -> None:
    photo = photograph(PAPER, SIZE, replace(SHOT, slant_deg=slant, bow=bow, fill=0.8), 1)
    extent = 2.0 * np.abs(photo.corners - [250.0, 200.0]).max(axis=0) / [500.0, 400.0]
    assert extent.max() == pytest.approx(0.8, abs=0.04)  # barrel draws it in a little
    grey = np.asarray(photo.image.convert("L")).astype(float)
    middle = photo.corners.mean(axis=0)
    for corner in photo.corners:
        inward = (middle - corner) / np.hypot(*(middle - corner))
        inside, outside = corner + 4.0 * inward, corner - 4.0 * inward
        assert grey[int(inside[1]), int(inside[0])] > grey[int(outside[1]), int(outside[0])] + 30.0


def test_without_distortion_the_map_is_the_homography_of_its_corners() -> None:
    photo = photograph(PAPER, SIZE, replace(SHOT, slant_deg=35, around_deg=50, roll_deg=8), 1)
    homography = sheet_homography(Sheet(tuple(map(tuple, photo.corners.tolist())), SIZE))
    assert not isinstance(homography, NotMeasurable)
    mm = np.array([[20.0, 30.0], [150.0, 210.0], [290.0, 400.0]])
    back, _ = warp(homography, photo.to_photo(mm))
    assert back == pytest.approx(mm, abs=1e-6)


def test_a_mm_is_as_many_px_as_a_scatter_on_the_sheet_shows() -> None:
    photo = photograph(PAPER, SIZE, replace(SHOT, slant_deg=40, around_deg=20, bow=-0.03), 1)
    rng = np.random.default_rng(5)
    scales = []
    for place in ((30.0, 30.0), (150.0, 210.0), (280.0, 400.0)):
        mm = np.array(place) + rng.normal(0.0, 0.05, (20_000, 2))
        off = photo.to_photo(mm) - photo.to_photo(np.array([place]))
        scales.append(float(np.sqrt(0.5 * np.square(off).sum(axis=1).mean())) / 0.05)
        assert photo.aim.px_a_mm(np.array([place]))[0] == pytest.approx(scales[-1], rel=0.02)
    assert max(scales) > 1.3 * min(scales)  # aslant, what is near is larger


def test_the_same_seed_gives_the_same_photo_and_shots_are_what_learners_take() -> None:
    shot = replace(SHOT, hand=True, second=True, shadow=0.4, uneven=0.3, grain=4.0, quality=85)
    one, two, three = (photograph(PAPER, SIZE, shot, seed) for seed in (1, 1, 2))
    assert np.array_equal(np.asarray(one.image), np.asarray(two.image))
    assert not np.array_equal(np.asarray(one.image), np.asarray(three.image))
    assert np.array_equal(one.corners, three.corners)  # seeds change the scene, not the camera
    rng = np.random.default_rng(0)
    shots = [random_shot(rng) for _ in range(200)]
    assert {one.table for one in shots} == set(TABLES)
    assert max(one.slant_deg for one in shots) <= 45.0
    assert any(one.shadow for one in shots)
    assert not any(one.hand or one.second for one in shots)


def test_the_photographed_demo_study_has_its_marks_on_the_paper() -> None:
    """Marks of the second photo lie on the sheet within 3 mm of those that the first one has, moved
    by what the block-in was off (9 px of a scan with 2.8 px a mm, three SD)."""
    study = demo_study("figure", 12, pictures=False).study
    assert len(study.states) > 1
    places = {}
    for state in study.states:
        homography = sheet_homography(state.picture.sheet)
        keys = list(study.states[0].picture.marks)
        marks = np.array([[state.picture.marks[k].x, state.picture.marks[k].y] for k in keys])
        places[state.name], _ = warp(homography, marks)
        assert np.all(places[state.name] > 0.0)
        assert np.all(places[state.name] < SIZE)
    apart = np.hypot(*(places["block-in"] - places["evening"]).T)
    assert 0.5 < np.median(apart) < 3.0 * 9.0 / (840.0 / 297.0)


def test_photographed_or_not_yet_the_demo_study_is_the_same() -> None:
    """Its marks come by where the phone is held: no photo is taken for them."""
    whole, marks = (demo_study("figure", 12, pictures=pictures) for pictures in (True, False))
    assert marks.study == whole.study
    assert not marks.pictures
    sizes = {one.file: (one.width, one.height) for one in whole.study.pictures().values()}
    assert {file: image.size for file, image in whole.pictures.items()} == sizes
