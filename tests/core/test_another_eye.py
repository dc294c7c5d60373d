"""A drawing of the model made as from another height of the eye: one cause, where all marks err."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.examination.assessment import assess
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.in_depth import in_depth
from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.posing.poses import pose_named
from bralto.core.mannequin.setting import Setting
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.exchange.pose_file import setting_document
from bralto.stand.model.answer import answer_key
from bralto.stand.model.model_study import model_study
from bralto.stand.model.stage import Stage

HEAD_M = Setting().build.head_m
SIZE = (900, 1200)


def drawn_from(
    pose: str, higher_m: float, *, hand: float = 0.004, tilt_deg: float = 0.0, big_head: float = 1.0
) -> Study:
    """A study of the model whose drawing shows it as a camera does that stands so much higher
    (`View3D.project`, not what is tested), set by a hand of that scatter, heads."""
    seen = Setting(
        pose=pose_named(pose).fitted(Setting().build), camera=Camera(4.0, 1.5, 10.0, tilt_deg)
    )
    stage = Stage.of(seen)
    study = model_study(
        "", answer_key(stage, stage.view(*SIZE)), "a.png", SIZE, setting_document(seen)
    )
    assert study.reference is not None
    other = replace(seen, camera=replace(seen.camera, eye_m=1.5 + higher_m))
    view = Stage.of(other).view(*SIZE)
    places = study.extra[MODEL]["places"]  # type: ignore[index]
    rng = np.random.default_rng(5)
    px = {key: view.project(np.array(place)) for key, place in places.items()}
    head = float(np.hypot(*(px["crown"] - px["chin"]))) if "chin" in px else 100.0
    marks = {}
    for key, at in px.items():
        x, y = at + rng.normal(0.0, hand * head, 2)
        if key == "crown":
            x, y = px["chin"] + big_head * (np.array([x, y]) - px["chin"])
        marks[key] = Mark(float(x), float(y), "seen", 0.5)
    known = {key: one for key, one in marks.items() if key in study.reference.placed()}
    return replace(study, states=(State("first", Picture("b.png", *SIZE, known)),))


def listed(study: Study) -> list[tuple[str, str | None, float]]:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    return [(one.move, one.part, one.amount) for one in found]


@pytest.mark.parametrize("pose", ["walking", "kneeling", "sitting-ground", "lying-side"])
@pytest.mark.parametrize("higher_m", [0.5, -0.6])
def test_seen_from_higher_or_lower_is_one_cause(pose: str, higher_m: float) -> None:
    ((move, part, amount),) = listed(drawn_from(pose, higher_m))
    assert (move, part) == ("eye", None)
    # What is to be done is the opposite; in heads of the model.
    assert amount == pytest.approx(-higher_m / HEAD_M, rel=0.12)


def test_it_is_said_in_words_and_nothing_is_off_once_it_is_put_right() -> None:
    found = assess(drawn_from("one-knee", 0.5), corrections=True)
    (one,) = found.corrections if not isinstance(found.corrections, NotMeasurable) else ((),)
    assert one.words.startswith("Draw it as from 2.")
    assert "heads lower" in one.words
    assert "what is nearer fall less" in one.words
    assert len(found.off()) > 10
    assert found.causes is not None
    follows = [row for row in found.causes.follows_from if row == 1]
    assert len(follows) > 0.8 * len(found.off())


def test_drawn_from_where_it_was_seen_no_eye_is_named_and_a_big_head_is_a_big_head() -> None:
    assert listed(drawn_from("sitting-ground", 0.0)) == []
    (one,) = listed(drawn_from("sitting-ground", 0.0, big_head=1.25))
    assert one[:2] == ("scale", "head")


def test_where_the_stand_is_not_known_no_eye_is_named() -> None:
    aslant = drawn_from("kneeling", 0.5, tilt_deg=8.0)
    assert in_depth(aslant).marks == {}
    level = drawn_from("kneeling", 0.5)
    bare = replace(level, extra={})
    assert in_depth(bare).marks == {}
    assert all(move != "eye" for move, *_ in listed(bare))
    model = level.extra[MODEL]
    for damaged in (
        {}, {**model, "places": {"crown": [0.0, "x", 1.0]}}, {**model, "setting": {}},  # type: ignore[dict-item]
        {**model, "places": {"crown": [0.0, float("nan"), 0.0]}},  # type: ignore[dict-item]
    ):  # fmt: skip
        assert in_depth(replace(level, extra={MODEL: damaged})).marks == {}


def test_the_stand_is_laid_out_as_the_camera_sees_it() -> None:
    study = drawn_from("walking", 0.0, hand=0.0)
    stand, drawn = in_depth(study).marks, study.states[0].picture.marks
    keys = [key for key in drawn if key in stand]
    mine = np.array([[stand[key].x, stand[key].y] for key in keys])
    theirs = np.array([[drawn[key].x, -drawn[key].y] for key in keys])
    scale = np.ptp(theirs[:, 1]) / np.ptp(mine[:, 1])
    off = (theirs - theirs.mean(axis=0)) / scale - (mine - mine.mean(axis=0))
    assert np.abs(off).max() < 1e-6
