"""Pose files: whole round trips, and one sentence for what cannot be read."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import build_named
from bralto.core.mannequin.body.joints import turns
from bralto.core.mannequin.body.pose import Pose
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.light import Look
from bralto.core.mannequin.posing.poses import named_poses
from bralto.core.mannequin.setting import Setting, set_up
from bralto.exchange.pose_file import (
    parse_settings,
    read_settings,
    setting_document,
    settings_document,
    write_settings,
)


def through_json(*given_: Setting) -> tuple[Setting, ...]:
    return parse_settings(json.dumps(settings_document(given_)), "x.json")


def test_every_named_pose_comes_back_as_it_was():
    for key in named_poses():
        setting = set_up(key, "child-12")
        assert through_json(setting) == (setting,)


def test_another_sitter_s_head_comes_back_with_its_hair():
    build = build_named("broad").with_figures(**{"face.lower": 1.12, "face.jaw": 0.85})
    setting = replace(set_up("head"), build=build, hair=True, planes=True)
    (back,) = through_json(setting)
    assert back.build.face == build.face
    assert (back.hair, back.planes, back.subject) == (True, True, "head")
    # A file of before heads had hair, faces and planes.
    old = {"subject": "head", "build": {"heads": 7.0, "leg": 0.5}}
    document = {"format": "bralto-pose", "version": 1, "poses": [old]}
    (plain,) = parse_settings(json.dumps(document), "x.json")
    assert (plain.hair, plain.planes) == (False, False)
    assert plain.build.face == build_named("seven-and-a-half").face
    document["poses"][0]["build"] = {"face.lower": 9.0}
    with pytest.raises(UserError, match=r"face\.lower 9 lies outside"):
        parse_settings(json.dumps(document), "x.json")


@settings(max_examples=60)
@given(st.data())
def test_any_setting_comes_back_as_it_was(data):
    keys = data.draw(st.lists(st.sampled_from(sorted(turns())), unique=True, max_size=8))
    values = {k: data.draw(st.floats(turns()[k].low, turns()[k].high)) for k in keys}
    camera = Camera(
        data.draw(st.floats(0.5, 40.0)),
        data.draw(st.floats(0.1, 5.0)),
        data.draw(st.floats(-180, 180)),
        data.draw(st.floats(-50, 50)),
        data.draw(st.one_of(st.none(), st.floats(10, 500))),
    )
    look = Look(data.draw(st.floats(-180, 180)), data.draw(st.floats(5, 90)), outlines=True)
    build = build_named("eight").with_figures(leg=data.draw(st.floats(0.43, 0.56)))
    title = data.draw(st.text(max_size=40))
    setting = Setting("figure", build, Pose(values, title), camera, look, 45.0)
    (back,) = through_json(setting)
    assert back.pose == setting.pose
    assert (back.camera, back.look, back.seconds) == (camera, look, 45.0)
    assert back.build.figures() == build.figures()


def test_a_series_keeps_its_order_and_times(tmp_path):
    path = tmp_path / "series.json"
    series = tuple(
        replace(set_up(key), seconds=s) for key, s in (("walking", 30.0), ("sitting", 300.0))
    )
    write_settings(series, path)
    assert read_settings(path) == series


def test_a_study_of_the_model_gives_its_pose_back():
    setting = set_up("kneeling")
    study = {"format": "bralto-study", "model": {"setting": setting_document(setting)}}
    assert parse_settings(json.dumps(study), "study.json") == (setting,)


GOOD = settings_document((set_up("at-rest"),))


def changed(**change) -> str:
    document = json.loads(json.dumps(GOOD))
    document["poses"][0] |= change
    return json.dumps(document)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("not json", "p.json: not valid JSON"),
        ("[" * 100_000, "p.json: not valid JSON"),
        ('{"format": "other"}', 'it must say "format": "bralto-pose"'),
        ("[]", 'it must say "format": "bralto-pose"'),
        ('{"format": "bralto-study", "model": {"setting": 3}}', "p.json: poses.0"),
        (json.dumps({**GOOD, "version": 9}), "written as version 9"),
        (json.dumps({**GOOD, "poses": []}), "poses: list should have at least 1"),
        (changed(turns={"elbow_l.bend": 170.0}), "a body can turn there from 0° to 150°"),
        (changed(turns={"wing_l.flap": 1.0}), "no joint 'wing_l.flap'"),
        (changed(turns={"elbow_l.bend": "much"}), "poses.0.turns.elbow_l.bend"),
        (changed(build="giant"), "no build 'giant'"),
        (changed(build={"leg": 3.0}), "leg 3 lies outside"),
        (changed(camera={"distance_m": 0.0}), "distance is 0 m"),
        (changed(light={"above_deg": -10}), "height is -10°"),
        (changed(subject="horse"), "'horse' cannot stand there"),
        (changed(prop="ladder"), "nothing called 'ladder'"),
        (changed(wobble=1), "poses.0.wobble: extra inputs"),
        (changed(seconds=-1), "poses.0.seconds"),
    ],
)
def test_what_is_wrong_is_said_in_one_sentence(text, words):
    with pytest.raises(UserError) as caught:
        parse_settings(text, "p.json")
    assert words in str(caught.value)
    assert "\n" not in str(caught.value)
    assert str(caught.value).startswith("p.json")


def test_files_that_are_no_files(tmp_path):
    with pytest.raises(UserError, match="no such file"):
        read_settings(tmp_path / "none.json")
    with pytest.raises(UserError, match="cannot be written"):
        write_settings((set_up("at-rest"),), tmp_path / "no" / "folder.json")
