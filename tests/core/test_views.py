"""Views are data: complete, consistent, and faulty ones are refused with the place of the fault."""

from __future__ import annotations

import tomllib
from importlib import resources

import pytest

from bralto.core.errors import BugError, UserError
from bralto.core.views.library import parse_view, view_keys, view_named


@pytest.mark.parametrize("key", view_keys())
def test_a_view_is_complete(key: str) -> None:
    view = view_named(key)
    assert all(mark.how and mark.label for mark in view.landmarks)
    assert sorted(view.placing) == sorted(mark.key for mark in view.landmarks)
    assert 10 <= len(view.short) <= 14
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
    with pytest.raises(UserError, match="figure-front, head-front"):
        view_named("figure-above")
