"""The picture bent by its corrections: what it then shows measures as corrected."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from skimage.transform import PiecewiseAffineTransform
from tests.learner import Faults, draw_body
from tests.puppet import landmarks
from tests.studies import POSE, study_of

from bralto.core.corrections.corrected import corrected_marks, name_of
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark
from bralto.imaging.bent import bend

SIZE = (1000, 760)  # rows, columns
KEPT = {"hip_r", "hip_l"}


def marks_of(body: dict, scale: float = 120.0) -> dict[str, Mark]:
    return {
        key: Mark(380.0 + scale * float(x), 960.0 - scale * float(y), "seen", 0.5)
        for key, (x, y) in body.items()
        if key not in KEPT
    }


def dotted(marks: dict[str, Mark]) -> np.ndarray:
    """White paper with a soft dark dot at each mark."""
    paper = np.full(SIZE, 255.0)
    rows, columns = np.mgrid[: SIZE[0], : SIZE[1]] + 0.5
    for mark in marks.values():
        away = (columns - mark.x) ** 2 + (rows - mark.y) ** 2
        paper -= 200.0 * np.exp(-away / (2.0 * 1.6**2))
    return np.repeat(paper.clip(0, 255).astype(np.uint8)[:, :, None], 3, axis=2)


def found(picture: np.ndarray, near: Mark, reach: int = 7) -> tuple[float, float]:
    """Where the dot is that lies next to a place, by its darkness alone."""
    x, y = round(near.x), round(near.y)
    left, top = max(0, x - reach), max(0, y - reach)
    part = 255.0 - picture[top : y + reach, left : x + reach, 0].astype(float)
    part[part < 25.0] = 0.0
    rows, columns = np.mgrid[: part.shape[0], : part.shape[1]] + 0.5
    return left + (columns * part).sum() / part.sum(), top + (rows * part).sum() / part.sum()


@pytest.mark.parametrize(
    "faults",
    [
        Faults({"head": 1.15}),
        Faults({"head": 1.12, "arm_r": 1.2}),
        Faults({"leg_l": 0.88, "forearm_l": 1.25}),
    ],
)
def test_the_corrected_picture_measures_as_corrected(faults: Faults) -> None:
    """The goal of the issue: the typical miss falls by at least 80 %."""
    seen = marks_of(landmarks(POSE))
    drawn = marks_of(draw_body(POSE, faults, seed=1))
    study = study_of(seen, drawn)
    before = assess(study, corrections=True)
    assert not isinstance(before.corrections, NotMeasurable)
    assert before.corrections
    wanted = corrected_marks(study.states[0].picture, before.corrections)
    assert not isinstance(wanted, NotMeasurable)
    keys = list(drawn)
    places = [np.array([[m[k].x, m[k].y] for k in keys]) for m in (drawn, wanted)]
    picture = bend(dotted(drawn), *places)
    # Measured on the picture itself, not where the marks were sent.
    read = {}
    for key in keys:
        x, y = found(picture, wanted[key])
        read[key] = replace(drawn[key], x=x, y=y)
    after = assess(study_of(seen, read))
    assert after.miss.value < 0.2 * before.miss.value
    assert after.short_miss.value < 0.2 * before.short_miss.value


def test_a_picture_without_moves_stays_as_it_is_and_its_frame_never_moves() -> None:
    rng = np.random.default_rng(2)
    picture = rng.integers(0, 255, (90, 120, 3), dtype=np.uint8)
    marks = np.array([[30.0, 40.0], [80.0, 50.0], [60.0, 20.0]])
    assert np.abs(bend(picture, marks, marks).astype(int) - picture).max() <= 1
    moved = bend(picture, marks, marks + np.array([0.0, 9.0]))
    edge = np.abs(moved[0].astype(int) - picture[0]).mean()
    inside = np.abs(moved[45:55, 70:90].astype(int) - picture[45:55, 70:90]).mean()
    assert inside > 2.0 * edge


def test_marks_come_to_their_places_as_by_another_map_of_the_library() -> None:
    """scikit-image's piecewise affine map agrees at the marks; between them each goes its way."""
    marks = np.array([[30.0, 30.0], [90.0, 40.0], [50.0, 90.0], [100.0, 100.0]])
    places = marks + np.array([[4.0, 0.0], [-3.0, 5.0], [0.0, -6.0], [2.0, 2.0]])
    paper = np.full((130, 130, 3), 255, dtype=np.uint8)
    for x, y in marks.astype(int):
        paper[y - 1 : y + 1, x - 1 : x + 1] = 0
    picture = bend(paper, marks, places)
    corners = np.array([[0, 0], [130, 0], [130, 130], [0, 130]], dtype=float)
    other = PiecewiseAffineTransform.from_estimate(
        np.vstack([marks, corners]), np.vstack([places, corners])
    )
    for place in other(marks):
        x, y = found(picture, Mark(*place), 6)
        assert (x, y) == pytest.approx(tuple(place), abs=0.7)


def test_corrections_keep_their_names_from_state_to_state() -> None:
    seen = marks_of(landmarks(POSE))
    drawn = marks_of(draw_body(POSE, Faults({"head": 1.15}), seed=1))
    (one, *_) = assess(study_of(seen, drawn), corrections=True).corrections
    assert name_of(one) == "scale:head"
