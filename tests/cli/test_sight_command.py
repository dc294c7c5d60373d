"""`bralto sight`, and what the other commands say of a study from life."""

from __future__ import annotations

import io
import json
from pathlib import Path

import pytest
from tests.cli.test_commands import FIGURE, typed
from tests.core.sightings.sitters import by_chance, picture, places, posed, sighted

from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.study.values import State, Study
from bralto.core.views.shipped_views import view_named
from bralto.exchange.study_file import read_study, write_study

FRONT = view_named("figure-front")

USUAL = ("span.figure", "height.crotch", "height.navel", "span.shoulders", "tilt.shoulders",
         "tilt.hips", "span.thigh_r", "span.thigh_l", "span.shank_r", "span.shank_l")  # fmt: skip


@pytest.fixture
def life(tmp_path: Path) -> Path:
    """A study from life with a drawing whose shoulders are too wide."""
    seen = places("figure-front")
    wide = dict(seen)
    for key in ("shoulder_r", "shoulder_l", "deltoid_r", "deltoid_l"):
        wide[key] = seen[key] + [-0.25 if key.endswith("_r") else 0.25, 0.0]
    study = Study("Rope coiler", "figure-front", None, (State("first", picture(wide, 1.5)),),
                  sightings=Sightings(sighted("figure-front", seen, *USUAL)))  # fmt: skip
    path = tmp_path / "life.json"
    write_study(study, path)
    return path


def answer(monkeypatch: pytest.MonkeyPatch, *lines: str) -> None:
    monkeypatch.setattr("sys.stdin", io.StringIO("".join(f"{line}\n" for line in lines)))


def test_it_asks_keeps_and_lists(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "evening.json"
    answer(monkeypatch, "7 1/2", "wide", "3 3/4", "another", "2 2/3", "back", "")
    status, out, err = typed(capsys, "sight", str(path), "--order", "heads")
    assert (status, err) == (0, "")
    assert "1. How many heads down is the sole?" in out
    assert "'wide' is no answer; say it as 2.3" in out
    kept = read_study(path)
    assert kept.sightings is not None
    assert [one.said for one in kept.sightings.items] == ["7 1/2", "3 3/4"]
    assert json.loads(path.read_text("utf-8"))["version"] == 2
    status, out, _ = typed(capsys, "sight", str(path), "--list", "--format", "json")
    assert status == 0
    found = json.loads(out)
    assert [row["value"] for row in found["sightings"]] == [7.5, 3.75]
    assert found["contradictions"] == []


def test_the_next_one_is_named_and_nothing_expected_with_it(
    life: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    status, out, _ = typed(capsys, "sight", str(life), "--next", "--format", "json")
    assert status == 0
    rows = json.loads(out)["next"]
    assert rows
    assert all(set(row) == {"measure", "question", "how", "about"} for row in rows)
    before = life.read_bytes()
    typed(capsys, "sight", str(life), "--next")
    assert life.read_bytes() == before


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["sight", str(FIGURE)], "has a reference already"),
        (["sight", "{life}", "--order", "alphabetical"], "unknown order"),
        (["sight", "new.json", "--view", "figure-up"], "figure-up"),
        (["sight", "new.json", "--view", "hand", "--next"], "nothing is known"),
    ],
)
def test_what_is_wrong_is_one_line(
    life: Path, capsys: pytest.CaptureFixture[str], arguments: list[str], said: str
) -> None:
    status, _, err = typed(capsys, *(one.replace("{life}", str(life)) for one in arguments))
    assert status == 2
    assert said in err
    assert err.count("\n") == 1


def test_measure_holds_each_sighting_against_the_drawing(
    life: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    status, out, _ = typed(capsys, "measure", str(life), "--format", "json")
    assert status == 0
    found = json.loads(out)
    rows = {row["what"]: row for row in found["sightings"]}
    assert rows["shoulder width, bony tips"]["verdict"] == "over"
    assert rows["shoulder width, bony tips"]["error"] == pytest.approx(0.5, abs=0.03)
    assert rows["whole height"]["verdict"] in {"within", "cannot tell"}
    assert {(one["move"], one["part"]) for one in found["corrections"]} == {("widen", "shoulders")}
    arm = next(one for one in found["measures"] if one["id"] == "span.forearm_l")
    assert arm["error"] is None
    assert arm["reason"] == "the reference lacks a sighting of it"
    status, out, _ = typed(capsys, "measure", str(life))
    assert status == 0
    assert "Each sighting, held against the drawing:" in out
    assert "shoulders" in out


def test_find_says_what_is_open_and_plan_lays_out_the_sheet(
    life: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    status, out, _ = typed(capsys, "find", str(life), "--format", "json")
    assert status == 0
    found = json.loads(out)
    assert [row["skill"] for row in found["told"]][:2] == ["heights", "widths"]
    assert found["next"]
    status, out, _ = typed(capsys, "find", str(life))
    assert status == 0
    assert "To be sighted next:" in out
    status, out, _ = typed(capsys, "plan", str(life), "--paper", "A3", "--format", "json")
    assert status == 0
    plan = json.loads(out)
    assert plan["divider"]["unit"] == "head"
    assert plan["figure"]["tall_mm"] == pytest.approx(380.0, abs=0.1)
    crotch = next(one for one in plan["stations"] if one["key"] == "crotch")
    seen = read_study(life).sightings
    assert seen is not None
    down = next(one.value for one in seen.items if one.measure == "height.crotch")
    assert crotch["from_top_mm"] - 20.0 == pytest.approx(down * plan["figure"]["head_mm"], rel=0.02)


def test_distances_are_kept_and_lengths_carried_over_from_where_one_stood(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """52 mm at 650 mm are 48 at 600 (similar triangles)."""
    path = tmp_path / "size.json"
    head = Sighting(Sort.LENGTH, view_named("figure-front").head, 52.0, 1.5, in_mm=True)
    write_study(Study("Rope coiler", "figure-front", None, sightings=Sightings((head,))), path)

    def at(*words: str) -> Sightings:
        status, _, err = typed(capsys, "sight", str(path), *words, "--next")
        assert (status, err) == (0, "")
        kept = read_study(path).sightings
        assert kept is not None
        return kept

    kept = at("--eye-mm", "650", "--paper-mm", "900")
    assert (kept.eye_mm, kept.plane_mm, kept.items[0].value) == (650.0, 900.0, 52.0)
    assert at("--eye-mm", "600", "--moved").items[0].value == pytest.approx(48.0)
    assert at("--paper-mm", "0").plane_mm is None
    status, _, err = typed(capsys, "sight", str(path), "--eye-mm", "5")
    assert status == 2
    assert "100 to 10000 mm" in err
    before = path.read_text("utf-8")
    for words in (("--moved",), ("--eye-mm", "700", "--order", "spiral")):
        assert typed(capsys, "sight", str(path), *words)[0] == 2
        assert path.read_text("utf-8") == before


def test_a_head_that_is_another_on_the_pencil_is_said(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path, points = tmp_path / "moved.json", view_named("figure-front").head
    heads = tuple(Sighting(Sort.LENGTH, points, mm, 1.0, in_mm=True) for mm in (52.0, 43.0))
    write_study(Study("Rope coiler", "figure-front", None, sightings=Sightings(heads)), path)
    _, out, _ = typed(capsys, "sight", str(path), "--list")
    assert "The head was 52 mm on the pencil and is 43 now: you stand, or hold it, otherwise" in out


def test_how_the_model_is_placed_is_said_and_kept(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "reclining.json"
    status, out, err = typed(capsys, "sight", str(path), "--model", "lying", "--next")
    assert (status, err) == (0, "")
    assert "from crown to sole, straight across" in out
    assert json.loads(path.read_text("utf-8"))["reference"]["stance"] == "lying"
    assert "across" in typed(capsys, "sight", str(path), "--next")[1]  # it is kept
    typed(capsys, "sight", str(path), "--model", "standing", "--next")
    assert "stance" not in json.loads(path.read_text("utf-8"))["reference"]
    status, _, err = typed(capsys, "sight", str(path), "--model", "seated-right", "--next")
    assert status == 2
    assert "placed as one of: standing, seated, lying, lying-right" in err


def test_a_model_that_is_placed_otherwise_than_is_said_is_asked_about(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Then nothing of what was sighted is doubted: it may all be true."""
    items = by_chance(FRONT, posed("kneeling"), 12, seed=0)
    path = tmp_path / "kneeling.json"
    write_study(Study("Kneeling", FRONT.key, None, sightings=Sightings(items)), path)
    out = typed(capsys, "find", str(path))[1]
    assert "These suit a model that sits or kneels far better than one that stands." in out
    assert "cannot be" not in out
    told = json.loads(typed(capsys, "find", str(path), "--format", "json")[1])
    told = told.get("sightings", told)
    assert (told["stance"], told["suits_better"]) == ("standing", "seated")
    assert told["contradictions"] == []
    status, out, _ = typed(capsys, "sight", str(path), "--model", "seated", "--list")
    assert status == 0
    assert "far better" not in out
