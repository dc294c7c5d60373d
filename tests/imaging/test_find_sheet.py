"""The sheet in a simulated photo, against where it truly is."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from PIL import Image, ImageDraw
from skimage import data as skimage_data
from skimage.transform import ProjectiveTransform
from skimage.transform import warp as skimage_warp
from tests.flattened import flatten

from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sheet_homography, sight_points, warp
from bralto.core.study.values import Picture, Sheet
from bralto.imaging.find_sheet import find_sheet
from bralto.imaging.outcome import FoundSheet
from bralto.stand.phone_aim import PhoneShot
from bralto.stand.phone_camera import TABLES, photograph

SIZE = (297.0, 420.0)
SHOT = PhoneShot(size=(1000, 750), slant_deg=25, around_deg=30, roll_deg=3, fill=0.85, uneven=0.3)


@pytest.fixture(scope="module")
def drawing() -> Image.Image:
    """Paper with a few strokes and a dark shape, 2 px a mm."""
    sheet = Image.new("RGB", (594, 840), (247, 244, 235))
    draw = ImageDraw.Draw(sheet)
    draw.ellipse((220, 90, 360, 260), outline=(60, 60, 60), width=4)
    draw.line((290, 260, 270, 700), fill=(60, 60, 60), width=4)
    draw.rectangle((240, 300, 350, 520), fill=(120, 118, 112))
    return sheet


def miss_mm(found: FoundSheet, truth: np.ndarray) -> float:
    """The worst corner's distance from where it truly is, on the sheet."""
    homography = sheet_homography(Sheet(tuple(map(tuple, truth)), SIZE))
    mm, _ = warp(homography, found.corners)
    ends = np.array([[0, 0], [SIZE[0], 0], SIZE, [0, SIZE[1]]], dtype=float)
    return float(np.hypot(*(mm - ends).T).max())


@pytest.mark.parametrize("table", TABLES)
@pytest.mark.parametrize("slant", [0.0, 40.0])
def test_corners_are_found_to_a_millimetre(drawing: Image.Image, table: str, slant: float) -> None:
    shot = replace(SHOT, table=table, slant_deg=slant, shadow=0.3, bow=-0.004)
    photo = photograph(drawing, SIZE, shot, seed=4)
    found = find_sheet(np.asarray(photo.image))
    assert isinstance(found, FoundSheet)
    assert miss_mm(found, photo.corners) < 1.0
    assert found.seen.min() > 0.5


@pytest.mark.parametrize(
    ("curl", "table"),
    [(3.0, "wood"), (10.0, "wood"), (3.0, "cluttered"), (10.0, "cluttered"), (3.0, "white")],
)
def test_a_lower_edge_that_curls_up_is_followed_measured_and_moves_no_corner(
    drawing: Image.Image, curl: float, table: str
) -> None:
    shot = PhoneShot(size=(1600, 1200), slant_deg=20, fill=0.85, table=table, curl=curl)
    photo = photograph(drawing, SIZE, shot, seed=6)
    found = find_sheet(np.asarray(photo.image))
    assert isinstance(found, FoundSheet)
    assert miss_mm(found, photo.corners) < 0.3
    # The edge lies where v + curl (4 v / h - 3) = h in the middle of the lower edge.
    high = SIZE[1]
    there = (high + 3.0 * curl) / (1.0 + 4.0 * curl / high)
    flat = photograph(drawing, SIZE, replace(shot, curl=0.0), seed=6)
    ends = flat.to_photo(np.array([[0.0, high], [SIZE[0] / 2, there], [SIZE[0], high]]))
    along = (ends[2] - ends[0]) / np.hypot(*(ends[2] - ends[0]))
    off = ends[1] - ends[0]
    truth = abs(along[0] * off[1] - along[1] * off[0])
    assert found.bow == pytest.approx(truth, rel=0.1)
    assert int(found.bows.argmax()) == int(
        np.argmax([_leans(photo.corners, i, ends[1]) for i in range(4)])
    )
    # A flat sheet on the same table bows nowhere.
    plain = find_sheet(np.asarray(flat.image))
    assert isinstance(plain, FoundSheet)
    assert plain.bow < 0.6
    # Straightened by that edge, marks on the curled part come nearer to where they were drawn, by a
    # third at least; those beyond it stay; all within their doubt.
    size = photo.image.size
    grid = np.stack(
        np.meshgrid([60.0, 110.0, 150.0, 200.0], [80.0, 200.0, 340.0, 380.0, 410.0]), -1
    )
    drawn = grid.reshape(-1, 2)
    px = photo.to_photo(drawn)
    corners = tuple(map(tuple, found.corners))
    as_flat = Sheet(corners, SIZE, found.spread)  # type: ignore[arg-type]
    away = []
    for sheet in (as_flat, replace(as_flat, bends=found.bends)):
        seen = sight_points(Picture("x.jpg", *size, {}, sheet=sheet), px, np.zeros(len(px)))
        errors = seen.xy * (1.0, -1.0) - drawn
        away.append(np.hypot(*errors.T))
    far = np.einsum("ni,nij,nj->n", errors, np.linalg.inv(seen.cov), errors)
    assert far.max() < 9.21  # 99 % of two dimensions (chi squared)
    low = drawn[:, 1] > 0.8 * high
    assert (
        np.sqrt(np.mean(np.square(away[1][low]))) < np.sqrt(np.mean(np.square(away[0][low]))) / 1.5
    )
    assert away[1][drawn[:, 1] < 0.5 * high].max() < 0.3


def _leans(corners: np.ndarray, side: int, place: np.ndarray) -> float:
    """How much nearer a place is to a side's middle than to others: minus its distance."""
    middle = (corners[side] + corners[(side + 1) % 4]) / 2.0
    return -float(np.hypot(*(place - middle)))


@pytest.mark.parametrize("extra", [{"hand": True}, {"second": True, "table": "cloth"}])
def test_a_hand_over_an_edge_or_a_sheet_below_do_not_mislead(
    drawing: Image.Image, extra: dict
) -> None:
    photo = photograph(drawing, SIZE, replace(SHOT, **extra), seed=2)
    found = find_sheet(np.asarray(photo.image))
    assert isinstance(found, FoundSheet)
    assert miss_mm(found, photo.corners) < 1.0


def test_a_bent_lens_is_told_by_its_bow(drawing: Image.Image) -> None:
    straight, bent = (
        find_sheet(np.asarray(photograph(drawing, SIZE, replace(SHOT, bow=bow), 3).image))
        for bow in (0.0, -0.03)
    )
    assert bent.bow > 1.0 > 0.2 > straight.bow


@pytest.mark.parametrize("kind", ["nothing", "noise", "a still life", "a cat"])
def test_a_picture_without_a_sheet_says_so(kind: str) -> None:
    """Two of the pictures are scikit-image's own samples: a cup on a table, a cat."""
    picture = np.full((600, 800, 3), 180, dtype=np.uint8)
    if kind == "noise":
        picture = np.random.default_rng(0).integers(0, 255, (600, 800, 3), dtype=np.uint8)
    elif kind != "nothing":
        picture = skimage_data.coffee() if kind == "a still life" else skimage_data.chelsea()
    found = find_sheet(picture)
    assert isinstance(found, NotMeasurable)
    assert "show its four corners" in found.reason


def test_a_flattened_sheet_is_that_of_scikit_image(drawing: Image.Image) -> None:
    """skimage's ProjectiveTransform and bilinear warp of the same photo, away from the border."""
    photo = photograph(drawing, SIZE, replace(SHOT, grain=0.0, quality=0), seed=1)
    picture = np.asarray(photo.image)
    flat = flatten(picture, Sheet(tuple(map(tuple, photo.corners)), SIZE), 1.0)
    assert flat.shape == (420, 297, 3)
    ends = np.array([[0, 0], [297, 0], [297, 420], [0, 420]], dtype=float)
    back = ProjectiveTransform.from_estimate(ends - 0.5, photo.corners - 0.5)
    theirs = skimage_warp(picture, back, output_shape=(420, 297), order=1, preserve_range=True)
    assert np.abs(flat.astype(float) - theirs)[3:-3, 3:-3].mean() < 0.6
    folded = Sheet(((0, 0), (9, 9), (9, 0), (0, 9)), SIZE)
    assert isinstance(flatten(picture, folded, 1.0), NotMeasurable)


def test_the_photo_shows_each_place_where_the_camera_says(drawing: Image.Image) -> None:
    """A black dot on the sheet is darkest where `to_photo` puts it."""
    spotted = drawing.copy()
    ImageDraw.Draw(spotted).ellipse((96, 696, 104, 704), fill=(0, 0, 0))  # 50 mm across, 350 down
    photo = photograph(spotted, SIZE, replace(SHOT, bow=-0.02, grain=0.0), seed=7)
    (x, y), grey = (
        photo.to_photo(np.array([[50.0, 350.0]]))[0],
        np.asarray(photo.image.convert("L")),
    )
    patch = grey[int(y) - 8 : int(y) + 9, int(x) - 8 : int(x) + 9].astype(float)
    dark = np.clip(patch.max() - patch - 60.0, 0.0, None)
    rows, columns = np.indices(patch.shape)
    centre = (
        (dark * columns).sum() / dark.sum() + int(x) - 8 + 0.5,
        (dark * rows).sum() / dark.sum() + int(y) - 8 + 0.5,
    )
    assert centre == pytest.approx((x, y), abs=0.5)
