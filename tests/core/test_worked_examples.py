"""Three studies worked with pencil and paper, measured through the command as a learner would."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.cli.main import run
from bralto.exchange.study_file import write_study

DATA = Path(__file__).parents[1] / "data"


def measured(capsys: pytest.CaptureFixture[str], *arguments: str) -> dict[str, object]:
    with pytest.raises(SystemExit) as ended:
        run(["measure", *arguments, "--format", "json"])
    assert ended.value.code == 0
    return json.loads(capsys.readouterr().out)


def test_a_figure_worked_by_hand(capsys: pytest.CaptureFixture[str]) -> None:
    """Reference head 100 px, drawn head 220 px; every figure below is a quotient of whole px."""
    found = measured(capsys, str(DATA / "pencil-figure.json"))
    rows = {row["id"]: row for row in found["measures"]}
    # id: (reference, drawing), lengths in each picture's own heads
    by_hand = {
        "height.chin": (100 / 100, 220 / 220),
        "height.pit_of_neck": (140 / 100, 300 / 220),
        "height.crotch": (400 / 100, 820 / 220),
        "height.knees": ((580 + 560) / 2 / 100, (1140 + 1140) / 2 / 220),
        "height.heel_r": (750 / 100, 1540 / 220),
        "span.head": (1.0, 1.0),
        "span.figure": (750 / 100, 1540 / 220),
        "span.shoulders": (200 / 100, (440**2 + 22**2) ** 0.5 / 220),
        "span.hips": ((100**2 + 40**2) ** 0.5 / 100, (200**2 + 40**2) ** 0.5 / 220),
        "span.knees": (90 / 100, 160 / 220),
        "offset.knee_r": (-30 / 100, -60 / 220),
        "offset.crotch": (10 / 100, 0.0),
        "fraction.crotch_half": (400 / 750, 820 / 1540),
        "fraction.knee_half": ((670 - 500) / (850 - 500), (1240 - 920) / (1640 - 920)),
        "tilt.shoulders": (0.0, 2.862405226111748),  # arctan(22 / 440), from a table of tangents
        "tilt.hips": (21.80140948635181, 11.30993247402022),  # arctan(2 / 5), arctan(1 / 5)
    }
    for key, (seen, drawn) in by_hand.items():
        row = rows[key]
        assert row["reference"] == pytest.approx(seen, abs=1e-9), key
        assert row["drawing"] == pytest.approx(drawn, abs=1e-9), key
        assert row["error"] == pytest.approx(drawn - seen, abs=1e-9), key
    assert rows["span.figure"]["percent"] == pytest.approx(100 * (7.0 / 7.5 - 1), abs=1e-9)
    assert found["unit"]["reference_px"] == pytest.approx(100.0)
    assert found["unit"]["drawing_px"] == pytest.approx(220.0)
    assert rows["tilt.hips"]["verdict"] == "under"  # drawn flatter
    assert rows["span.figure"]["verdict"] == "under"
    assert rows["height.navel"]["verdict"] == "not measured"
    assert "navel" in rows["height.navel"]["reason"]


def test_a_head_worked_by_hand(capsys: pytest.CaptureFixture[str]) -> None:
    """Fitted by envelope: 400 px against 800 px, so one reference head is 800 px of drawing."""
    rows = {row["id"]: row for row in measured(capsys, str(DATA / "pencil-head.json"))["measures"]}
    by_hand = {
        "fraction.eye_half": (200 / 400, 360 / 800),
        "fraction.nose_half": (50 / 200, 90 / 440),
        "fraction.mouth_half": (40 / 150, 120 / 350),
        "fraction.brow_third": (100 / 350, 140 / 700),
        "fraction.nose_third": (200 / 350, 350 / 700),
        "fraction.eye_outer_r_fifth": (50 / 250, 80 / 500),
        "span.face_width": (250 / 400, 500 / 800),
        "span.eye_r": (50 / 400, 120 / 800),
        "height.hairline": (50 / 400, 100 / 800),
        "height.eye_line": (200 / 400, 360 / 800),
    }
    for key, (seen, drawn) in by_hand.items():
        assert rows[key]["reference"] == pytest.approx(seen, abs=1e-9), key
        assert rows[key]["error"] == pytest.approx(drawn - seen, abs=1e-9), key
    assert rows["fraction.brow_third"]["verdict"] == "under"  # drawn too high: 8.6 % of the axis


@pytest.mark.parametrize("school", ["head", "envelope", "best-fit"])
def test_a_turned_scaled_and_shifted_copy_has_no_error(
    school: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """The copy is turned by 12.5 degrees clockwise and its plumb correction says so."""
    seen = figure_marks()
    copy = moved(seen, 2.75, (900.0, -40.0), clockwise=12.5)
    write_study(study_of(seen, copy, school=school, plumb_deg=12.5), tmp_path / "study.json")
    found = measured(capsys, str(tmp_path / "study.json"))
    assert len(found["measures"]) > 100
    for row in found["measures"]:
        assert row["error"] == pytest.approx(0.0, abs=1e-9), row["id"]
        assert row["verdict"] in {"within", "cannot tell"}, row["id"]
    fit = found["fit"]
    assert fit["scale"] == pytest.approx(2.75, rel=1e-9)
    for key in ("typical_miss", "too_wide_percent", "verticals_lean_deg", "levels_tilt_deg"):
        assert fit[key] == pytest.approx(0.0, abs=1e-9), key
    assert all(part["scale"] == pytest.approx(1.0, abs=1e-9) for part in found["parts"])
