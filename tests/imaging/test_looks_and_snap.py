"""Other looks leave the picture as it is; snapping brings a mark to the line that was meant."""

from __future__ import annotations

import numpy as np
import pytest
from PIL import Image, ImageDraw

from bralto.core.results import NotMeasurable
from bralto.imaging.snap import Snap, snap
from bralto.imaging.tones.looks import LOOKS
from bralto.imaging.tones.tone import even_light, look_at, values


def drawn(angle: float = 0.0) -> np.ndarray:
    """A pencil line 2.4 px wide through the middle of 200 x 200 px, and a grey half-plane's edge
    60 px to its right, drawn at eight times the size."""
    big = Image.new("L", (1600, 1600), 245)
    draw = ImageDraw.Draw(big)
    draw.rectangle((1280, 0, 1600, 1600), fill=150)
    draw.line((800, 200, 800, 1400), fill=70, width=19)
    big = big.rotate(angle, resample=Image.Resampling.BICUBIC, fillcolor=245)
    small = np.asarray(big.resize((200, 200), Image.Resampling.BOX))
    return np.repeat(small[..., None], 3, axis=2)


@pytest.mark.parametrize("angle", [0.0, 17.0, 45.0, 80.0])
def test_a_mark_beside_a_stroke_comes_onto_it(angle: float) -> None:
    """The line's true middle is known; the mark may slide along it."""
    found = snap(drawn(angle), 100.0 + 3.0, 100.0 + 2.0, 8.0)
    assert isinstance(found, Snap)
    assert found.what == "stroke"
    turn = np.radians(angle)
    across = (found.x - 100.0) * np.cos(turn) - (found.y - 100.0) * np.sin(turn)
    assert across == pytest.approx(0.05, abs=0.15)  # 19 px are half a px off the middle
    assert abs((found.across_deg + angle + 90.0) % 180.0 - 90.0) < 4.0  # square to the line
    assert found.gain == pytest.approx(np.hypot(found.x - 103.0, found.y - 102.0), abs=1e-6)


def test_an_edge_and_the_end_of_a_stroke_are_found() -> None:
    picture = drawn()
    edge = snap(picture, 163.0, 100.0, 6.0)
    assert (edge.what, edge.x) == ("edge", pytest.approx(160.0, abs=0.15))
    end = snap(picture, 102.0, 27.5, 8.0)
    assert (end.what, end.y) == ("end", pytest.approx(25.0, abs=1.5))


def test_where_no_line_is_near_nothing_moves() -> None:
    assert isinstance(snap(drawn(), 40.0, 100.0, 8.0), NotMeasurable)
    assert isinstance(snap(drawn(), 0.5, 0.5, 3.0), NotMeasurable)  # at the very corner


def test_uneven_light_is_taken_away_from_paper() -> None:
    rng = np.random.default_rng(1)
    light = np.linspace(0.5, 1.0, 900)[None, :, None] * np.ones((300, 900, 3))
    paper = np.clip(240 * light + rng.normal(0, 1, light.shape), 0, 255)
    paper[90:93] *= 0.4  # a pencil line across
    even = even_light(paper.astype(np.uint8)).astype(float)
    assert np.ptp(even[20:80].mean(axis=(0, 2))) < 0.1 * np.ptp(paper[20:80].mean(axis=(0, 2)))
    assert even[91].mean() < 0.55 * even[60].mean()


def test_values_are_few_and_part_where_the_picture_parts() -> None:
    picture = np.full((120, 120, 3), 230, dtype=np.uint8)
    picture[:, 60:] = 90
    found = values(picture, 2)
    assert len(np.unique(found)) == 2
    assert found[60, 20, 0] > found[60, 100, 0]
    # Only what lies on the sheet decides: here the dark half alone, whose parts differ little.
    picture[:60, 60:] = 110
    sheet = np.array([[60.0, 0], [120, 0], [120, 120], [60, 120]])
    inside = values(picture, 2, sheet)
    assert inside[20, 100, 0] > inside[100, 100, 0]
    assert values(picture, 2)[20, 100, 0] == values(picture, 2)[100, 100, 0]


@pytest.mark.parametrize("look", LOOKS)
def test_no_look_changes_the_picture(look: str) -> None:
    picture = drawn()
    before = picture.copy()
    found = look_at(picture, look)
    assert found.shape == picture.shape
    assert found.dtype == np.uint8
    assert np.array_equal(picture, before)
