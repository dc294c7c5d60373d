"""`bralto pose` and `bralto simulate` as a user types them."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from tests.cli.test_commands import loads_none_of, typed

from bralto.core.mannequin.body.joints import turns
from bralto.core.mannequin.known import known_lengths
from bralto.core.mannequin.posing.poses import named_poses
from bralto.exchange.study_file import read_study
from bralto.imaging.find_sheet import find_sheet

Capture = pytest.CaptureFixture[str]
SIZE = ("--size", "240x320")


def pixels(path: Path) -> np.ndarray:
    with Image.open(path) as picture:
        return np.asarray(picture).astype(int)


def test_poses_and_joints_are_listed_one_a_line(capsys: Capture) -> None:
    status, out, _ = typed(capsys, "pose", "--list")
    assert (status, out.split()) == (0, list(named_poses()))
    status, out, _ = typed(capsys, "pose", "--joints")
    assert len(out.splitlines()) == len(turns())
    assert "elbow_l.bend" in out


def test_a_pose_is_drawn_with_its_study_beside_it(capsys: Capture, tmp_path: Path) -> None:
    out = tmp_path / "w.png"
    status, said, err = typed(capsys, "pose", "weight-right", str(out), *SIZE)
    assert (status, err) == (0, "")
    assert "31 landmarks" in said
    assert pixels(out).shape == (320, 240, 3)
    study = read_study(out.with_suffix(".json"))
    assert study.states == ()
    assert study.reference.file == "w.png"
    assert (study.reference.width, study.reference.height) == (240, 320)
    assert {m.visibility for m in study.reference.marks.values()} == {"seen", "inferred"}
    assert known_lengths(study)["span.forearm_r"].full == pytest.approx(1.08, abs=0.01)


def test_the_study_gives_its_pose_back(capsys: Capture, tmp_path: Path) -> None:
    one, two = tmp_path / "one.png", tmp_path / "two.png"
    typed(
        capsys, "pose", "chance", str(one), "--hard", "4", "--seed", "7", "--distance", "2.5", *SIZE
    )
    status, said, _ = typed(capsys, "pose", str(tmp_path / "one.json"), str(two), *SIZE)
    assert status == 0
    assert "From 2.5 m" in said  # a near camera foreshortens, and it is said
    assert (pixels(one) == pixels(two)).all()


def test_options_change_the_picture(capsys: Capture, tmp_path: Path) -> None:
    def drawn(name: str, *options: str) -> np.ndarray:
        out = tmp_path / f"{name}.png"
        status, _, err = typed(capsys, "pose", "at-rest", str(out), *SIZE, *options)
        assert (status, err) == (0, "")
        return pixels(out)

    plain = drawn("plain")
    for name, *options in (
        ("turned", "--turn", "200"),
        ("built", "--build", "child-4"),
        ("lit", "--light", "70"),
        ("low", "--eye", "0.3"),
        ("lined", "--outlines"),
        ("wide", "--focal", "20", "--tilt", "5"),
    ):
        assert np.abs(drawn(name, *options) - plain).mean() > 0.3, name
    # Turned by more than half a turn is turned the other way.
    assert json.loads((tmp_path / "turned.json").read_text())["view"] == "figure-back"


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["pose"], "give a pose"),
        (["pose", "flying", "x.png"], "no pose 'flying'"),
        (["pose", "at-rest", "x.jpg"], "the picture is a .png"),
        (["pose", "at-rest", "x.png", "--build", "giant"], "no build 'giant'"),
        (["pose", "at-rest", "x.png", "--size", "big"], "WIDTHxHEIGHT"),
        (["pose", "at-rest", "x.png", "--size", "9x9"], "between 64 and"),
        (["pose", "crouching", "x.png", "--distance", "0.35"], "step back"),
        (["pose", "chance", "x.png", "--hard", "8"], "difficulty 8"),
        (["pose", "chance", "x.png", "--seed", "-1"], "--seed"),
        (["pose", "at-rest", "x.png", "--save", "../here/x.json"], "keep the pose elsewhere"),
        (["pose", "none.json", "x.png"], "no such file"),
        (["simulate", "none.json", "../here/none.png"], "would take the place of none.json"),
        (["simulate", "none.json", "x.png", "--seed", "-1"], "--seed"),
        (["simulate", "none.json", "x.png"], "no such file"),
        (["simulate", "none.png", "x.png"], "give a study of the model"),
        (["simulate", "none.json", "x.jpg"], "the drawing is a .png"),
    ],
)
def test_faults_are_one_line(
    capsys: Capture, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, words: list[str], said: str
) -> None:
    here = tmp_path / "here"
    here.mkdir()
    monkeypatch.chdir(here)
    status, out, err = typed(capsys, *words)
    assert (status, out) == (2, "")
    assert said in err
    assert len(err.splitlines()) == 1
    assert list(here.iterdir()) == []


def test_a_learner_draws_a_study_of_the_model(capsys: Capture, tmp_path: Path) -> None:
    model, drawn = tmp_path / "m.png", tmp_path / "d.png"
    typed(capsys, "pose", "at-rest", str(model), *SIZE)
    status, said, err = typed(
        capsys, "simulate", str(tmp_path / "m.json"), "--learner", "big-head", str(drawn)
    )
    assert (status, err) == (0, "")
    assert "big-head" in said
    assert pixels(drawn).shape == (840, 594, 3)
    status, out, _ = typed(capsys, "measure", str(tmp_path / "d.json"), "--format", "json")
    found = json.loads(out)
    first = found["corrections"][0]
    assert (status, first["move"], first["part"]) == (0, "scale", "head")
    status, out, _ = typed(capsys, "find", str(tmp_path / "d.json"))
    assert "(known of the model)" in out
    assert "of its other side" not in out  # nothing is guessed where it is known
    status, _, err = typed(
        capsys, "simulate", str(tmp_path / "m.json"), str(drawn), "--learner", "ape"
    )
    assert (status, len(err.splitlines())) == (2, 1)


def test_a_head_is_posed_with_hair_and_drawn_by_a_learner_of_heads(
    capsys: Capture, tmp_path: Path
) -> None:
    out, drawn = tmp_path / "h.png", tmp_path / "d.png"
    status, said, err = typed(capsys, "pose", "head", str(out), "--hair", "--planes", *SIZE)
    assert (status, err) == (0, "")
    assert "58 landmarks" in said
    status, said, err = typed(
        capsys, "simulate", str(out.with_suffix(".json")), str(drawn), "--learner", "eyes-high"
    )
    assert (status, err) == (0, "")
    status, said, _ = typed(capsys, "measure", str(drawn.with_suffix(".json")))
    assert status == 0
    assert "Move the eyes and brows" in said.splitlines()[4]
    status, _, err = typed(
        capsys, "simulate", str(out.with_suffix(".json")), str(drawn), "--learner", "stiff"
    )
    assert status == 2
    assert "no learner 'stiff' of the head" in err
    status, _, err = typed(capsys, "pose", "walking", str(out), "--hair")
    assert status == 2
    assert "of the head alone" in err


def test_a_learner_photographs_the_drawing(capsys: Capture, tmp_path: Path) -> None:
    """The sheet lies aslant on a table; measured through its corners the habit is the same."""
    model, drawn = str(tmp_path / "m.png"), tmp_path / "d.png"
    typed(capsys, "pose", "at-rest", model, *SIZE)
    words = ("simulate", str(tmp_path / "m.json"), str(drawn), "--learner", "big-head")
    first = {}
    for photo in ((), ("--photo",)):
        status, said, err = typed(capsys, *words, *photo)
        assert (status, err) == (0, "")
        assert ("photographed" in said) == bool(photo)
        _, out, _ = typed(capsys, "measure", str(tmp_path / "d.json"), "--format", "json")
        first[photo] = json.loads(out)["corrections"][0]
    assert pixels(drawn).shape == (1600, 1200, 3)
    study = read_study(tmp_path / "d.json")
    sheet = study.states[0].picture.sheet
    found = find_sheet(np.asarray(Image.open(drawn).convert("RGB")))
    assert np.abs(np.array(found.corners) - np.array(sheet.corners)).max() < 4.0  # px
    scan, photo = first[()], first[("--photo",)]
    assert (photo["move"], photo["part"]) == (scan["move"], scan["part"]) == ("scale", "head")
    assert photo["amount"] == pytest.approx(scan["amount"], abs=2.0 * scan["u"])


def test_posing_needs_no_qt(tmp_path: Path) -> None:
    out = str(tmp_path / "a.png")
    loads_none_of({"PyQt6", "sqlalchemy"}, "pose", "at-rest", out, "--size", "90x120")


@pytest.mark.parametrize("command", ["pose", "simulate"])
def test_what_cannot_be_written_is_said_before_anything_is_drawn(
    command: str, capsys: Capture, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def drawn(*_: object, **__: object) -> None:
        raise AssertionError("the model was drawn for nothing")

    pose = tmp_path / "pose.json"
    assert typed(capsys, "pose", "walking", "--save", str(pose))[0] == 0
    monkeypatch.setattr("bralto.stand.model.model_study.modelled", drawn)
    monkeypatch.setattr("bralto.stand.model.example.modelled", drawn)
    (tmp_path / "folder.png").mkdir()
    (tmp_path / "taken.json").mkdir()
    first = "walking" if command == "pose" else str(pose)
    for name, why in (
        ("folder.png", "Is a directory"),
        ("taken.png", "Is a directory"),  # the study beside it
        ("nowhere/a.png", "No such file or directory"),
    ):
        status, _, err = typed(capsys, command, first, str(tmp_path / name))
        assert (status, len(err.splitlines())) == (2, 1)
        assert "cannot be written" in err
        assert why in err
