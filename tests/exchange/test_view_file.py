"""A learner's view from a file."""

from __future__ import annotations

import json
from importlib import resources
from pathlib import Path

import pytest

from bralto.core.errors import UserError
from bralto.core.examination.assessment import assess
from bralto.exchange.study_file import read_study, study_document
from bralto.exchange.view_file import read_own_view

ARM = (resources.files("bralto.core.views") / "data/arm.toml").read_text("utf-8")


def test_a_file_that_is_not_there_or_no_text_is_refused(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="no such file"):
        read_own_view(tmp_path / "none.toml")
    bad = tmp_path / "bad.toml"
    bad.write_bytes(b"\xff\xfe")
    with pytest.raises(UserError, match="not UTF-8"):
        read_own_view(bad)
    good = tmp_path / "good.toml"
    good.write_text(ARM.replace('key = "arm"', 'key = "mine"', 1), "utf-8")
    assert read_own_view(good).title == "Arm"


def test_a_study_finds_its_own_view_beside_itself(tmp_path: Path) -> None:
    """Measured by the landmarks of `net-needle.toml`, and written without the view's contents."""
    text = ARM.replace('key = "arm"', 'key = "net-needle"', 1)
    places = {
        "shoulder": [300, 100],
        "elbow": [310, 500],
        "wrist": [320, 800],
        "fingertip": [320, 990],
    }
    picture = {"file": "a.png", "width": 900, "height": 1200, "marks": places}
    document = {
        "format": "bralto-study", "version": 1, "view": "net-needle", "reference": picture,
        "scale": {"school": "envelope"}, "states": [{"name": "first", "picture": picture}],
    }  # fmt: skip
    path = tmp_path / "study.json"
    path.write_text(json.dumps(document))
    with pytest.raises(UserError, match="unknown view 'net-needle'"):
        read_study(path)
    (tmp_path / "net-needle.toml").write_text(text, "utf-8")
    study = read_study(path)
    found = assess(study)
    assert found.view.key == "net-needle"
    assert found.reading("span.upper_arm").error == pytest.approx(0.0)
    assert "own_view" not in study_document(study)
    (tmp_path / "net-needle.toml").write_text(
        ARM.replace('key = "arm"', 'key = "reel"', 1), "utf-8"
    )
    with pytest.raises(UserError, match="its key is 'reel'"):
        read_study(path)


def test_a_views_name_leads_to_no_other_folder(tmp_path: Path) -> None:
    (tmp_path / "out.toml").write_text(ARM.replace('key = "arm"', 'key = "out"', 1), "utf-8")
    inner = tmp_path / "inner"
    inner.mkdir()
    path = inner / "study.json"
    path.write_text(json.dumps({"format": "bralto-study", "version": 1, "view": "../out"}))
    with pytest.raises(UserError, match=r"unknown view '\.\./out'"):
        read_study(path)
