"""Views are data: complete, consistent, and faulty ones are refused with the place of the fault."""

from __future__ import annotations

import tomllib
from importlib import resources

import numpy as np
import pytest
from tests.studies import moved, study_of

from bralto.core.errors import BugError, UserError
from bralto.core.examination.assessment import assess
from bralto.core.study.values import Mark
from bralto.core.views.shipped_views import parse_view, view_keys, view_named


@pytest.mark.parametrize("key", view_keys())
def test_a_view_is_complete(key: str) -> None:
    view = view_named(key)
    assert all(mark.how and mark.label for mark in view.landmarks)
    assert sorted(view.placing) == sorted(mark.key for mark in view.landmarks)
    assert 10 <= len(view.short) <= 14 or key == "object"  # a thing has its four extremes
    for mark in view.landmarks:
        assert view.measure(f"height.{mark.key}") is not None
        assert view.measure(f"offset.{mark.key}") is not None
    for spec in view.measures:
        assert spec.id.startswith(f"{spec.kind}.")


def test_the_short_set_of_the_figure_is_the_one_agreed() -> None:
    agreed = {
        "crown", "chin", "pit_of_neck", "shoulder_r", "shoulder_l", "navel", "crotch",
        "hip_point_r", "hip_point_l", "wrist_r", "wrist_l", "knee_r", "knee_l",
    }  # fmt: skip
    short = view_named("figure-front").short
    assert {keys[0] for keys in short if len(keys) == 1} == agreed
    assert [keys for keys in short if len(keys) > 1] == [("heel_r", "heel_l")]


VIEWS = {
    "figure-front": 31, "figure-back": 31, "figure-side": 25, "head-front": 58,
    "head-profile": 32, "head-three-quarter": 48, "leg": 13, "arm": 13, "torso-front": 17,
    "torso-back": 16, "hand": 15, "object": 4,
}  # fmt: skip


def test_every_view_of_the_field_is_there() -> None:
    """Landmarks of each; those of figure and head are listed in measurement, section 2."""
    assert {key: len(view_named(key).landmarks) for key in view_keys()} == VIEWS
    side = {mark.key for mark in view_named("figure-side").landmarks}
    assert side == {
        "crown", "chin", "ear", "pit_of_neck", "nape", "shoulder", "elbow", "wrist", "fingertip",
        "sternum_end", "ribcage_base", "navel", "hip_point", "trochanter", "gluteal_fold", "knee",
        "ankle", "heel", "toe",
        # Beyond the list: of the other leg and arm, where they are seen.
        "far_knee", "far_ankle", "far_heel", "far_toe", "far_elbow", "far_wrist",
    }  # fmt: skip


def test_from_behind_the_models_right_is_on_the_viewers_right() -> None:
    assert view_named("figure-back").landmark("elbow_r").label == "R elbow (on your right)"


@pytest.mark.parametrize("key", view_keys())
def test_a_copy_has_no_error_and_no_correction_in_any_view(key: str) -> None:
    """Turned, scaled and shifted (the turn undone by the plumb correction), marks at random."""
    view, rng = view_named(key), np.random.default_rng(8)
    seen = {m.key: Mark(*rng.uniform(100, 900, 2), "seen", 1.0) for m in view.landmarks}
    drawn = moved(seen, 1.7, (40.0, 25.0), clockwise=6.0)
    for school in ("head", "envelope", "best-fit"):
        study = study_of(seen, drawn, view=key, school=school, plumb_deg=6.0)
        found = assess(study, corrections=True)
        told = [r for r in found.readings if not r.reason.startswith("the figure ")]
        assert len(told) > 0.4 * len(found.readings)  # marks at random may lie on the ground
        assert max(abs(r.error) for r in told) < 1e-9
        assert {r.verdict for r in told} <= {"within", "cannot tell"}
        assert found.corrections == ()


def test_ids_of_the_contract_exist() -> None:
    ids = {spec.id for spec in view_named("figure-front").measures}
    assert ids >= {
        "height.chin", "offset.knee_l", "span.head", "span.figure", "span.shoulders",
        "span.upper_arm_r", "span.forearm_l", "span.thigh_r", "span.shank_l", "tilt.shoulders",
        "tilt.hips", "tilt.knees", "tilt.upper_arm_r", "fraction.crotch_half",
    }  # fmt: skip
    head = {spec.id for spec in view_named("head-front").measures}
    assert head >= {
        f"fraction.{name}"
        for name in ("eye_half", "nose_half", "mouth_half", "brow_third", "nose_third")
    }


def test_sides_are_the_models_own_and_the_viewers_is_said_once() -> None:
    shoulder = view_named("figure-front").landmark("shoulder_r")
    assert shoulder.label == "R shoulder (on your left)"
    assert shoulder.short == "R shoulder"


def test_a_faulty_view_is_refused_by_the_name_of_its_fault() -> None:
    text = (resources.files("bralto.core.views") / "data/head-front.toml").read_text("utf-8")
    data = tomllib.loads(text.replace('from = "hairline"', 'from = "fringe"'))
    with pytest.raises(BugError, match=r"span\.face: there is no point 'fringe'"):
        parse_view(data)


def test_an_unknown_view_lists_those_there_are() -> None:
    with pytest.raises(UserError, match="figure-front, figure-side, hand, head-front"):
        view_named("figure-above")
