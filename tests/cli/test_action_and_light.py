"""`bralto find` on the action and on light and shadow."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from tests.cli.test_commands import typed
from tests.core.action.test_sweep_pairs import bow, with_curve
from tests.studies import figure_marks, study_of

from bralto.core.action.sweeps import WHOLE
from bralto.core.corrections.push import POSE, push_intent
from bralto.exchange.study_file import write_study


@pytest.fixture
def study_path(tmp_path: Path) -> Path:
    marks = figure_marks()
    study = with_curve(study_of(marks, marks), bow(40.0), bow(28.0))
    box = ((380.0, 200.0), (440.0, 200.0), (440.0, 500.0), (380.0, 500.0))
    wider = ((368.0, 188.0), (452.0, 188.0), (452.0, 512.0), (368.0, 512.0))
    drawn = replace(study.states[0].picture, shadows=(wider,))
    study = replace(study, reference=replace(study.reference, shadows=(box,)))
    write_study(study.with_state(replace(study.states[0], picture=drawn)), tmp_path / "one.json")
    return tmp_path / "one.json"


Told = Callable[..., str]


@pytest.fixture
def told(capsys: pytest.CaptureFixture[str]) -> Told:
    """What a command prints."""

    def run_it(*arguments: str) -> str:
        status, out, err = typed(capsys, *arguments)
        assert (status, err) == (0, "")
        return out

    return run_it


def test_the_bend_kept_and_the_shadows_are_told_in_words(study_path: Path, told: Told) -> None:
    text = told("find", str(study_path))
    assert "Action: you kept 70 % of the bend, " in text
    assert "Light, shadow edge into the light: drawn +0." in text
    assert "Light: 0 shapes of shadow lost, 0 invented." in text
    assert "Ribcage and pelvis, ribcage tilts on the pelvis: seen" in text


def test_all_of_it_is_there_as_json(study_path: Path, told: Told) -> None:
    found = json.loads(told("find", str(study_path), "--format", "json"))
    (sweep,) = found["action"]["sweeps"]
    assert sweep["name"] == WHOLE
    assert sweep["kept"]["share"] == pytest.approx(0.7, abs=0.02)
    assert sweep["reference"]["counted"] == "head"
    assert sweep["reference"]["sagitta"]["value"] > sweep["drawing"]["sagitta"]["value"]
    assert found["light"]["edge"]["value"] > 0.0
    areas = 60.0 * 300.0, 84.0 * 324.0
    assert found["light"]["overlap"]["value"] == pytest.approx(areas[0] / areas[1], abs=0.01)
    assert found["pushes"] == {}
    assert np.isfinite(found["action"]["masses"]["reference"]["tilt"]["value"])


def test_a_study_without_them_says_what_is_lacking_and_a_push_is_named(
    tmp_path: Path, told: Told
) -> None:
    marks = figure_marks()
    study = replace(study_of(marks, marks), intents=(push_intent(POSE, 1.3),))
    write_study(study, tmp_path / "plain.json")
    found = json.loads(told("find", str(tmp_path / "plain.json"), "--format", "json"))
    assert found["action"]["sweeps"] == []
    assert "no shadow is outlined" in found["light"]["reason"]
    assert found["pushes"] == {POSE: 1.3}
    text = told("find", str(tmp_path / "plain.json"))
    assert "Action:" not in text
    assert "Light:" not in text
