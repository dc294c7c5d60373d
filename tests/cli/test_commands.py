"""The commands as a user types them: output, exit status, one line for each fault."""

from __future__ import annotations

import csv
import json
import os
import re
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest
from tests.studies import figure_marks, study_of

from bralto.cli.main import run
from bralto.core.study.values import Mark, State
from bralto.exchange.study_file import write_study
from bralto.store.library import Library

FIGURE = Path(__file__).parents[1] / "data/pencil-figure.json"
BRALTO = Path(sys.executable).parent / "bralto"


def typed(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, str, str]:
    with pytest.raises(SystemExit) as ended:
        run(list(arguments))
    out, err = capsys.readouterr()
    return int(ended.value.code or 0), out, err


def loads_none_of(modules: set[str], *arguments: str) -> None:
    """Run a command by itself; it must do without these modules."""
    code = (
        "import sys; from bralto.cli.main import run\n"
        f"try: run({list(arguments)!r})\n"
        "except SystemExit as ended: assert ended.code == 0\n"
        f"bad = {modules!r} & set(sys.modules)\n"
        "assert not bad, bad"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr


def test_measure_prints_the_contract(capsys: pytest.CaptureFixture[str]) -> None:
    status, out, err = typed(capsys, "measure", str(FIGURE), "--format", "json")
    assert (status, err) == (0, "")
    found = json.loads(out)
    assert set(found) >= {
        "study", "view", "state", "school", "grade", "unit", "measures", "fit", "parts",
        "corrections",
    }  # fmt: skip
    assert set(found["unit"]) >= {"name", "reference_px", "drawing_px", "drawing_mm"}
    assert set(found["fit"]) >= {
        "scale", "width_scale", "height_scale", "too_wide_percent", "verticals_lean_deg",
        "levels_tilt_deg", "typical_miss", "typical_miss_u", "mark_limit", "short_set_miss",
        "marks",
    }  # fmt: skip
    keys = {
        "id",
        "label",
        "kind",
        "unit",
        "reference",
        "drawing",
        "error",
        "percent",
        "u",
        "verdict",
    }
    for row in found["measures"]:
        assert set(row) >= keys
        assert all(row[key] is not None for key in keys) or row["reason"]
    assert found["unit"]["drawing_mm"] is None
    assert found["unit"]["reason"]


def test_text_says_what_is_off_worst_first(capsys: pytest.CaptureFixture[str]) -> None:
    status, out, _ = typed(capsys, "measure", str(FIGURE))
    assert status == 0
    listed = [line.split()[0] for line in out.splitlines() if ", drawn " in line]
    rows = json.loads(typed(capsys, "measure", str(FIGURE), "--format", "json")[1])["measures"]
    wrong = {row["id"] for row in rows if row["verdict"] in {"over", "under"}}
    assert listed
    assert set(listed) <= wrong
    assert "Typical miss, short set: not known" in out


def test_csv_opens_in_a_spreadsheet(capsys: pytest.CaptureFixture[str]) -> None:
    rows = list(
        csv.DictReader(typed(capsys, "measure", str(FIGURE), "--format", "csv")[1].split("\n"))
    )
    crotch = next(row for row in rows if row["id"] == "height.crotch")
    assert float(crotch["reference"]) == 4.0
    assert crotch["unit"] == "head"


def test_school_grade_and_state_can_be_chosen(capsys: pytest.CaptureFixture[str]) -> None:
    arguments = ("--school", "envelope", "--grade", "exacting", "--state", "first")
    status, out, _ = typed(capsys, "measure", str(FIGURE), *arguments, "--format", "json")
    found = json.loads(out)
    assert status == 0
    assert (found["school"], found["grade"]) == ("envelope", "exacting")
    assert found["unit"]["drawing_px"] == pytest.approx(100 * 1540 / 750)


def study_without(tmp_path: Path, key: str) -> Path:
    data = json.loads(FIGURE.read_text("utf-8"))
    del data["states"][0]["picture"]["marks"][key]
    path = tmp_path / "lacking.json"
    path.write_text(json.dumps(data))
    return path


def test_a_missing_unit_mark_is_bad_input(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = study_without(tmp_path, "chin")
    status, out, err = typed(capsys, "measure", str(path))
    assert (status, out) == (2, "")
    assert "lacks the mark 'chin'" in err
    assert len(err.splitlines()) == 1
    assert typed(capsys, "measure", str(path), "--school", "envelope")[0] == 0


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("measure",), "Missing argument"),
        (("measure", "nowhere.json"), "no such file"),
        (("measure", "nowhere"), "neither a study file nor the id"),
        (("measure", "nowhere.bralto"), "no such file"),
        (("measure", str(FIGURE), "--state", "last"), "there is no state 'last'; there is 'first'"),
        (("measure", str(FIGURE), "--school", "thumb"), "unknown school 'thumb'"),
        (("measure", str(FIGURE), "--school", "sight-size"), "compares mm with mm"),
        (("measure", str(FIGURE), "--grade", "kind"), "unknown grade 'kind'"),
        (("measure", str(FIGURE), "--format", "xml"), "xml"),
        (("measures", "figure-above"), "unknown view"),
        (("views", "figure-above"), "unknown view"),
        (("daub",), "No such command"),
        (("plan",), "give a study, or measures with --by-hand"),
        (("plan", "--by-hand", "height=7"), "height=... and width=..."),
        (("plan", "--by-hand", "height=7 width=two"), "'width=two' is not NAME=FIGURE"),
        (("plan", str(FIGURE), "--paper", "B9"), "unknown paper 'B9'"),
        (("plan", str(FIGURE), "--margins", "150"), "leave nothing of 297 mm"),
        (("measure", str(FIGURE), "--colour"), "No such option"),
    ],
)
def test_faults_are_one_line_and_status_two(
    arguments: tuple[str, ...],
    said: str,
    capsys: pytest.CaptureFixture[str],
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setenv("BRALTO_LIBRARY", str(tmp_path / "none"))
    status, out, err = typed(capsys, *arguments)
    assert (status, out) == (2, "")
    assert said in err
    assert len(err.splitlines()) == 1
    assert not (tmp_path / "none").exists()  # looking something up makes nothing


def test_views_and_measures_are_listed(capsys: pytest.CaptureFixture[str]) -> None:
    assert "figure-front" in typed(capsys, "views")[1]
    rows = json.loads(typed(capsys, "views", "head-front", "--format", "json")[1])
    assert {row["mark"] for row in rows} >= {"hairline", "pupil_l"}
    assert "fraction.crotch_half" in typed(capsys, "measures", "figure-front")[1]
    specs = json.loads(typed(capsys, "measures", "figure-front", "--format", "json")[1])
    assert next(s for s in specs if s["id"] == "tilt.hips")["unit"] == "degree"


def test_a_study_of_the_library_is_measured_by_its_id(
    demo_copy: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    with Library.open(demo_copy) as library:
        stored = library.studies()[0]
    monkeypatch.setenv("BRALTO_LIBRARY", str(demo_copy))
    status, out, _ = typed(capsys, "measure", stored.id, "--format", "json")
    assert status == 0
    found = json.loads(out)
    assert found["study"] == stored.study.title
    assert found["unit"]["drawing_mm"] > 30


def test_measuring_a_file_loads_no_qt_no_database_and_no_picture_library() -> None:
    """The command line is a first-class face of the core and never needs a display."""
    loads_none_of({"PyQt6", "sqlite3", "PIL", "cv2"}, "measure", str(FIGURE))


def test_a_reader_that_goes_away_is_no_fault() -> None:
    """`bralto measures figure-front | head -1` ends quietly."""
    done = subprocess.run(
        f"{BRALTO} measures figure-front | head -1; exit ${{PIPESTATUS[0]}}",
        shell=True, executable="/bin/bash", capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.stderr == ""
    assert done.stdout.startswith("height.crown")


def test_a_sheet_is_planned_from_marks_or_measures_by_hand(
    capsys: pytest.CaptureFixture[str],
) -> None:
    status, out, err = typed(capsys, "plan", str(FIGURE), "--paper", "A3", "--format", "json")
    assert (status, err) == (0, "")
    plan = json.loads(out)
    assert (plan["width_mm"], plan["height_mm"], plan["fits"]) == (297.0, 420.0, True)
    assert plan["figure"]["tall_mm"] == pytest.approx(380.0)
    assert plan["stations"][0] == {
        "key": "crown", "label": "crown", "from_top_mm": pytest.approx(20.0),
        "from_plumb_mm": pytest.approx(0.0),
    }  # fmt: skip
    status, out, _ = typed(capsys, "plan", str(FIGURE), "--paper", "A4", "--head", "70")
    assert status == 1  # a check failed
    assert "It does not fit within the margins; the largest head is 34.3 mm." in out
    status, out, _ = typed(capsys, "plan", "--by-hand", "height=7.5 width=2.6 chin=1")
    assert status == 0
    assert "Dividers: 50.7 mm a thumb." in out  # 380 mm / 7.5
    status, out, _ = typed(capsys, "plan", str(FIGURE))
    assert "Dividers: 50.7 mm a head." in out  # nobody can hold a picture's px
    assert "px" not in out
    # The picture 300 mm high, of 900 px: the figure's 750 px are 250 mm of it, 380 on the sheet.
    height = json.loads(FIGURE.read_text())["reference"]["height"]
    beside = f"{height / 3:g}"
    status, out, _ = typed(capsys, "plan", str(FIGURE), "--print-height", beside)
    assert "Dividers: 1.52 mm a mm of the print." in out
    status, _, err = typed(capsys, "plan", str(FIGURE), "--print-height", "-3")
    assert status == 2
    assert "stands -3 mm high" in err


def test_the_sheet_of_a_thing_is_planned_by_its_height(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """*Head 95.0 mm* was said of a chair."""
    chair = json.loads(FIGURE.read_text())
    ends = {"top": (300, 100), "bottom": (300, 700), "left": (150, 300), "right": (450, 300)}
    marks = {key: {"x": x, "y": y} for key, (x, y) in ends.items()}
    chair = {**chair, "view": "object", "states": []}
    chair["reference"] = {**chair["reference"], "marks": marks, "anchors": []}
    path = tmp_path / "chair.json"
    path.write_text(json.dumps(chair))
    status, out, err = typed(capsys, "plan", str(path), "--upright")
    assert (status, err) == (0, "")
    assert "Height 380.0 mm." in out
    assert "Dividers: 380.0 mm for the height." in out
    assert "head" not in out.lower()
    status, out, _ = typed(capsys, "plan", str(path), "--upright", "--head", "500")
    assert status == 1
    assert "the largest height is 380.0 mm" in out
    assert "from 40 mm above the top edge" in out


def test_a_thing_is_counted_in_quarters_of_its_height(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Of a chair 0.111 *heads* were said, and to hold its width *against the quarter*."""
    ends = {"top": (300, 100), "bottom": (300, 700), "left": (150, 300), "right": (450, 300)}
    picture = {"file": "x.png", "width": 1000, "height": 1000}
    seen = {k: {"x": x, "y": y} for k, (x, y) in ends.items()}
    wide = {k: {"x": 300 + 1.2 * (x - 300), "y": y} for k, (x, y) in ends.items()}
    chair = {
        "format": "bralto-study", "version": 1, "title": "Chair", "view": "object",
        "reference": {**picture, "marks": seen},
        "states": [{"name": "end", "picture": {**picture, "file": "y.png", "marks": wide}}],
        "scale": {"school": "envelope"},
    }  # fmt: skip
    path = tmp_path / "chair.json"
    path.write_text(json.dumps(chair))
    status, out, err = typed(capsys, "measure", str(path))
    assert (status, err) == (0, "")
    assert "Check: whole width against the height." in out
    assert re.search(r"Typical miss, all marks: 0\.\d+ ± 0\.\d+ quarters", out)
    assert not re.search(r"\bheads?\b", out)


def test_canons_are_listed_with_their_sources_and_held_against(
    capsys: pytest.CaptureFixture[str],
) -> None:
    _, out, _ = typed(capsys, "canons", "--format", "json")
    rows = json.loads(out)
    assert all(row["source"] for row in rows)
    _, out, _ = typed(capsys, "canons")
    assert [line.split()[0] for line in out.splitlines()] == [row["canon"] for row in rows]
    # Each value with its measure's own name and unit: ids alone tell a stranger nothing.
    out = typed(capsys, "canons", "eight-heads")[1] + typed(capsys, "canons", "five-eyes")[1]
    for words in (
        "height.chin  chin  1 head", "span.figure  whole height  8 heads",
        "span.deltoids  width over the deltoids  2.5 to 3 heads",
        "ratio.mouth_nose  mouth to nose, widths  1.5 : 1",
        "fraction.eye_outer_r_fifth  R outer corner of the eye across the face  20 %",
    ):  # fmt: skip
        assert f"  {words}\n" in re.sub(r"(?<=\S) {2,}", "  ", out)
    _, out, _ = typed(capsys, "measure", str(FIGURE), "--canon", "eight-heads", "--format", "json")
    canon = json.loads(out)["canon"]
    whole = next(row for row in canon["drawing"] if row["id"] == "span.figure")
    assert (whole["reference"], whole["verdict"]) == (8.0, "under")
    _, out, _ = typed(capsys, "measure", str(FIGURE), "--canon", "eight-heads")
    assert "an average and no verdict" in out
    status, _, err = typed(capsys, "measure", str(FIGURE), "--canon", "face-thirds")
    assert status == 2
    assert "is one of head-front, head-profile, head-three-quarter, not of figure-front" in err


def test_what_the_marks_tell_is_found(capsys: pytest.CaptureFixture[str]) -> None:
    status, out, err = typed(capsys, "find", str(FIGURE), "--format", "json")
    assert (status, err) == (0, "")
    found = json.loads(out)
    assert set(found) == {
        "plumb", "level", "alignments", "fractions", "questions", "balance", "life", "likeness",
        "foreshortened", "known_lengths", "cross_lines", "forms", "action", "light", "pushes",
        "ground", "head",
    }  # fmt: skip
    assert found["plumb"][0]["keys"] == ["crown", "chin", "pit_of_neck", "crotch"]
    assert found["foreshortened"] == []  # thighs of 241 and 260 px: 7 % is no foreshortening
    assert "reason" in found["cross_lines"]["reference"]  # a figure has none
    pelvis = next(row for row in found["forms"] if row["name"] == "pelvis")
    assert pelvis["width"] == pytest.approx(-0.13, abs=0.02)
    hidden = typed(capsys, "find", str(FIGURE))[1]
    shown = typed(capsys, "find", str(FIGURE), "--answers")[1]
    assert "To be answered by eye first:" in hidden
    assert len(shown) > len(hidden)
    status, _, err = typed(capsys, "find", str(FIGURE), "--state", "last")
    assert status == 2
    assert "there is no state 'last'" in err


def test_a_drawing_is_measured_against_an_earlier_state_of_it(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """The navel went down by a fifth of a head since; against itself a state has no error."""
    begun = figure_marks()
    later = dict(begun)
    later["navel"] = Mark(begun["navel"].x, begun["navel"].y + 20.0)
    study = study_of(figure_marks(), begun)
    second = State("second", replace(study.states[0].picture, marks=later))
    path = tmp_path / "study.json"
    write_study(replace(study, states=(*study.states, second)), path)

    def errors(*more: str) -> dict[str, float]:
        with pytest.raises(SystemExit) as ended:
            run(["measure", str(path), "--format", "json", *more])
        assert ended.value.code == 0
        rows = json.loads(capsys.readouterr().out)["measures"]
        return {row["id"]: row["error"] for row in rows if row["error"] is not None}

    assert errors("--against", "first")["height.navel"] == pytest.approx(0.2)
    same = errors("--against", "first", "--state", "first")
    assert all(abs(error) < 1e-9 for error in same.values())
    with pytest.raises(SystemExit) as ended:
        run(["measure", str(path), "--against", "third"])
    assert ended.value.code == 2
    assert "there is no state 'third'" in capsys.readouterr().err


@pytest.fixture
def own_library(demo_copy: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """The demo library as the learner's own."""
    monkeypatch.setenv("BRALTO_LIBRARY", str(demo_copy))
    return demo_copy


def test_studies_go_out_of_the_library_and_in_again(
    own_library: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    with Library.open(own_library) as library:
        stored = library.studies()[0]
    out = tmp_path / "out.bralto"
    assert typed(capsys, "export", stored.id, str(out)) == (0, f"{out}\n", "")
    assert typed(capsys, "export", stored.id, str(tmp_path / "out.pdf"))[0] == 2
    status, _, err = typed(capsys, "export", "nobody", str(out))
    assert (status, "there is no such study" in err) == (2, True)
    monkeypatch.setenv("BRALTO_LIBRARY", str(tmp_path / "other"))
    (tmp_path / "bad.json").write_text("[]")
    status, said, err = typed(capsys, "import", str(tmp_path / "bad.json"), str(out))
    assert status == 2
    assert err.startswith(f"bralto: {tmp_path / 'bad.json'}: not a Bralto study")
    assert said.split()[1] == "out.bralto"  # the good one came all the same
    with Library.open(tmp_path / "other", reading=True) as library:
        assert library.find(said.split()[0]) == stored.study


def test_the_library_is_looked_through_backed_up_and_put_back(
    own_library: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert typed(capsys, "library", "check") == (0, "19 studies, all sound\n", "")
    status, made, _ = typed(capsys, "library", "backup")
    assert (status, Path(made.split()[0]).is_file()) == (0, True)
    with Library.open(own_library) as library:
        gone = library.studies()[0]
        library.erase([gone.id])
        media = library.studies()[0].media[""]
        library.media.path(media).write_bytes(b"scribbled over")
    status, said, err = typed(capsys, "library", "check")
    assert (status, err) == (1, "")
    assert "the picture of the reference is damaged" in said
    status, where, _ = typed(capsys, "library", "where")
    assert where.splitlines()[0].startswith(str(own_library))
    name = where.splitlines()[1].split()[0]
    status, _, err = typed(capsys, "library", "restore", "daily-of-old")
    assert (status, "there is no backup 'daily-of-old'" in err) == (2, True)
    status, said, _ = typed(capsys, "library", "restore", name)
    assert (status, "what was there: " in said) == (0, True)
    with Library.open(own_library) as library:
        assert library.find(gone.id) == gone.study


def test_a_command_works_on_the_library_that_is_named_before_it_and_on_no_other(
    own_library: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    other = tmp_path / "other" / "library"
    (tmp_path / "other").mkdir()
    many = typed(capsys, "library", "check")[1]
    status, _, err = typed(capsys, "--library", str(other), "import", str(FIGURE))
    assert (status, err) == (0, "")
    assert typed(capsys, "--library", str(other), "library", "check")[1].startswith("1 study")
    assert str(other) in typed(capsys, f"--library={other}", "library", "where")[1]
    assert typed(capsys, "library", "check")[1] == many  # and what is named once is named once
    with Library.open(own_library) as library:
        assert len(library.studies()) == 19


def test_commands_that_write_leave_an_open_window_alone(
    own_library: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    with Library.open(own_library, what="a Bralto window") as library:
        study_id = library.rows()[0].id
        for arguments in (("import", str(FIGURE)), ("library", "restore")):
            typed(capsys, "library", "backup")
            status, _, err = typed(capsys, *arguments)
            assert status == 2
            assert "a Bralto window (process" in err
        assert typed(capsys, "measure", study_id)[0] == 0  # reading is open to all


def test_what_a_file_says_does_not_steer_the_terminal(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    study = json.loads(FIGURE.read_text("utf-8"))
    study["title"] = "clear \x1b[2J and \x00 and \x9b2J"
    path = tmp_path / "study.json"
    path.write_text(json.dumps(study))
    for arguments in ((), ("--format", "csv")):
        status, out, _ = typed(capsys, "measure", str(path), *arguments)
        assert status == 0
        assert all(one.isprintable() or one == "\n" for one in out)
    study["view"] = "\x1b[2J"
    path.write_text(json.dumps(study))
    status, _, err = typed(capsys, "measure", str(path))
    assert (status, "\x1b" in err, "\\x1b" in err) == (2, False, True)


@pytest.mark.parametrize(
    ("name", "text", "said"),
    [
        ("a.json", "1" * 5000, "not valid JSON"),
        ("a.json", "[" * 100_000, "nested too deep"),
        ("a.json", '{"format": "bralto-study", "version": 1, "x": NaN}', "field required"),
        ("a.toml", "x = " + "1" * 5000, "not valid TOML"),
        ("a.toml", "x = " + "[" * 5000, "not valid TOML"),
    ],
)
def test_numbers_and_nests_beyond_reason_are_one_line(
    name: str, text: str, said: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / name).write_text(text)
    command = "views" if name.endswith("toml") else "measure"
    status, _, err = typed(capsys, command, str(tmp_path / name))
    assert (status, len(err.splitlines())) == (2, 1)
    assert said in err


def test_a_study_with_more_landmarks_than_any_is_refused_and_the_most_takes_seconds(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """400 anchors made `find` take 33 s."""
    for count, status in ((40, 0), (41, 2)):
        study = json.loads(FIGURE.read_text("utf-8"))
        study["anchors"] = [{"key": f"a{i}", "label": f"place {i}"} for i in range(count)]
        for i in range(count):
            study["reference"]["marks"][f"a{i}"] = [7.0 + 1.7 * i, 9.0 + 2.3 * (i * i % 97)]
        path = tmp_path / f"{count}.json"
        path.write_text(json.dumps(study))
        assert typed(capsys, "find", str(path))[0] == status


def test_a_fault_of_our_own_is_one_line_and_a_report(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    def fails(*_: object, **__: object) -> None:
        raise ZeroDivisionError(f"in {tmp_path}")

    monkeypatch.setattr("bralto.cli.measure.assess", fails)
    status, out, err = typed(capsys, "measure", str(FIGURE))
    assert (status, out, len(err.splitlines())) == (70, "", 1)
    assert "something went wrong inside Bralto (ZeroDivisionError)" in err
    from bralto.disk.reports import Reports

    assert "builtins.ZeroDivisionError" in Reports().text()


def test_a_picture_whose_study_cannot_be_written_is_one_line(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "x.json").mkdir()
    status, _, err = typed(capsys, "pose", "hand-on-hip", str(tmp_path / "x.png"))
    assert status == 2
    assert err.startswith(f"bralto: {tmp_path / 'x.json'}: cannot be written")


_START = """
import sys
sys.argv = ["bralto", "--library", sys.argv[1]]
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication
plain = QApplication.exec
def run(*_):
    heavy = {"typer", "numpy", "scipy", "PIL", "cv2", "pydantic", "dataclasses", "inspect"}
    print(sorted(heavy & set(sys.modules)))
    ours = [one for one in tuple.__subclasses__() if one.__module__.startswith("bralto.")]
    print([one.__qualname__ for one in ours])
    QTimer.singleShot(400, QApplication.quit)
    return plain()
QApplication.exec = staticmethod(run)
from bralto.start import run
run()
"""


def test_the_shelf_is_there_before_anything_heavy_is_loaded(demo_copy: Path) -> None:
    with Library.open(demo_copy):
        pass
    done = subprocess.run(
        [sys.executable, "-c", _START, str(demo_copy)], capture_output=True, text=True, check=True
    )
    assert done.stdout.splitlines() == ["[]", "['_Named']"]  # all tuples are quickly made ones


@pytest.mark.parametrize(
    ("arguments", "named", "said"),
    [
        ([], {}, "there is no display here"),
        (["demo"], {}, "there is no display here"),
        ([], {"DISPLAY": ":977"}, "the display :977 is not there"),  # as a session that has ended
        ([], {"QT_QPA_PLATFORM": "xcb"}, "there is no display here"),
    ],
)
def test_without_a_display_the_window_says_so_and_leaves_nothing(
    tmp_path: Path, arguments: list[str], named: dict[str, str], said: str
) -> None:
    """Qt ended the process (exit status 134), of the demo after its library was made."""
    bare = {"HOME": str(tmp_path), "PATH": os.environ["PATH"], **named}
    done = subprocess.run(
        [BRALTO, *arguments], capture_output=True, text=True, check=False, env=bare
    )
    assert (done.returncode, done.stdout) == (2, "")
    assert done.stderr.startswith(f"bralto: {said} to open the window on")
    assert done.stderr.count("\n") == 1
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize("given", [["--library", ""], ["--library="], ["--library", "", "record"]])
def test_an_empty_name_is_no_library(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, given: list[str]
) -> None:
    """`--library "$UNSET"` made a library of the folder that one stood in, and shut it to all
    others."""
    monkeypatch.chdir(tmp_path)
    tmp_path.chmod(0o755)
    done = subprocess.run(
        [BRALTO, *given], capture_output=True, text=True, check=False, timeout=60,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert (done.returncode, done.stderr) == (2, "bralto: --library wants a folder\n")
    assert list(tmp_path.iterdir()) == []
    assert tmp_path.stat().st_mode & 0o777 == 0o755


def test_what_is_not_there_yet_cannot_be_written_out(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("BRALTO_LIBRARY", str(tmp_path / "library"))
    status, _, err = typed(capsys, "export", "abc", str(tmp_path / "out.bralto"))
    assert status == 2
    assert "there is no library yet; open Bralto once" in err
    assert list(tmp_path.iterdir()) == []
