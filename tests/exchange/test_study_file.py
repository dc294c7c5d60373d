"""The study file: round trips keep everything, bad input gets one clear sentence."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from bralto.core.errors import UserError
from bralto.exchange.study_file import (
    parse_study,
    read_study,
    study_document,
    study_schema,
    write_study,
)
from bralto.store.library import Library

SHIPPED = Path(__file__).parents[2] / "src/bralto/exchange/study.schema.json"

# The example of formats-and-commands.md with keys of a later Bralto sprinkled in.
FULL: dict[str, Any] = {
    "format": "bralto-study", "version": 1, "title": "Bell ringer, second try",
    "view": "figure-front", "kind": "observed", "scale": {"school": "head", "later": 1},
    "grade": "developing",
    "reference": {
        "file": "reference.png", "width": 900, "height": 1200, "plumb_deg": 0.0, "sheet": None,
        "marks": {
            "crown": {"x": 452.0, "y": 96.5, "visibility": "seen", "spread": 1.5, "hand": "left"},
            "chin": [450, 218],
        },
        "polygons": {"left_arm_gap": [[520, 400], [560, 470], [515, 520]]},
        "permission": "rendered here", "lens": 50,
    },
    "states": [
        {
            "name": "block-in", "taken": "2026-05-02T18:20:00Z", "mood": "calm",
            "picture": {
                "file": "drawing-1.jpg", "width": 3000, "height": 4000, "plumb_deg": 0.4,
                "sheet": {
                    "corners": [[210, 180], [2790, 205], [2835, 3820], [160, 3790]],
                    "size_mm": [297, 420], "weight": "120 g",
                },
                "marks": {"crown": [1490, 520], "rope_end": [90, 80]}, "polygons": {},
            },
        }
    ],
    "anchors": [{"key": "rope_end", "label": "end of the rope"}],
    "intents": [{"measure": "span.head", "factor": 1.15}],
    "guesses": [{"measure": "tilt.shoulders", "value": -6.0, "at": "2026-05-02T18:05:00Z"}],
    "from_the_future": {"deep": [1, 2]},
}  # fmt: skip


def document(**changes: Any) -> str:
    return json.dumps(FULL | changes)


def with_marks(marks: dict[str, Any]) -> str:
    reference = FULL["reference"] | {"marks": marks}
    return document(reference=reference)


def test_a_round_trip_keeps_every_key_known_or_not(tmp_path: Path) -> None:
    first = parse_study(document(), "it")
    write_study(first, tmp_path / "again.json")
    again = read_study(tmp_path / "again.json")
    assert again == first
    kept = study_document(again)
    assert kept["from_the_future"] == {"deep": [1, 2]}
    assert kept["scale"]["later"] == 1
    assert kept["reference"]["lens"] == 50
    assert kept["reference"]["marks"]["crown"]["hand"] == "left"
    assert kept["reference"]["marks"]["chin"] == {
        "x": 450.0, "y": 218.0, "visibility": "seen", "spread": 1.5,
    }  # fmt: skip
    assert kept["states"][0]["mood"] == "calm"
    assert kept["states"][0]["picture"]["sheet"]["weight"] == "120 g"


def test_the_library_keeps_the_same_study(library: Library) -> None:
    study = parse_study(document(), "it")
    assert library.find(library.add(study, {}, "2026-05-02T18:20:00Z")) == study


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "not valid JSON"),
        ("[1, 2]", "not a Bralto study"),
        ('{"format": "something-else"}', "not a Bralto study"),
        ("[" * 100_000, "nested too deep"),
        (f'{{"own": {"[" * 450}{"]" * 450}}}', "nested too deep"),
        (f'{{"own": {"""{"a": """ * 450}1{"}" * 450}}}', "nested too deep"),
        (document(version=3), "written as version 3, this Bralto reads up to 2; update it"),
        (document(view="figure-above"), "unknown view 'figure-above'; use one of arm, figure-back"),
        (document(grade="lenient"), "grade"),
        (document(kind="guessed"), "kind"),
        (document(scale={"school": "thumb"}), "scale.school"),
        (with_marks({"crown": [float("nan"), 3]}), "reference.marks.crown.x"),
        (with_marks({"crown": [1e999, 3]}), "reference.marks.crown.x"),
        (with_marks({"crown": [1e308, 3]}), "reference.marks.crown.x"),
        (with_marks({"crown": [1]}), "reference.marks.crown: a mark is [x, y]"),
        (with_marks({"crown": "here"}), "reference.marks.crown"),
        (with_marks({"crown": [1, 2], "chin": [1, 2]}), "crown and chin lie in one spot (1, 2)"),
        (with_marks({"crwon": [1, 2]}), "a mark 'crwon' that the view figure-front does not know"),
        (with_marks({"crown": {"x": 1, "y": 2, "spread": -1}}), "reference.marks.crown.spread"),
        (document(reference=FULL["reference"] | {"width": 0}), "reference.width"),
        (document(states=FULL["states"] * 2), "two states have one name"),
        (document(intents=[{"measure": "span.head", "factor": 0}]), "intents.0.factor"),
    ],
)
def test_bad_input_gets_one_sentence_with_its_place(text: str, said: str) -> None:
    with pytest.raises(UserError) as refused:
        parse_study(text, "study.json")
    message = str(refused.value)
    assert message.startswith("study.json: ")
    assert said in message
    assert "\n" not in message


def test_marks_in_one_spot_may_be_absent_ones() -> None:
    absent = {"x": 1, "y": 2, "visibility": "absent"}
    study = parse_study(with_marks({"crown": [1, 2], "chin": absent}), "it")
    assert study.reference.placed() == {"crown"}


def test_a_file_that_is_no_text_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "study.json"
    path.write_bytes(b"\x89PNG\r\n\xff\xfe")
    with pytest.raises(UserError, match="not UTF-8"):
        read_study(path)
    with pytest.raises(UserError, match="no such file"):
        read_study(tmp_path / "nowhere.json")


def test_a_failed_write_leaves_the_old_file(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "study.json"
    path.write_text("old")
    monkeypatch.setattr("os.fsync", lambda _: (_ for _ in ()).throw(OSError(28, "full")))
    with pytest.raises(UserError, match="cannot be written"):
        write_study(parse_study(document(), "it"), path)
    assert path.read_text() == "old"
    assert list(tmp_path.iterdir()) == [path]


def test_the_published_schema_is_that_of_the_models() -> None:
    """`make schema` writes it; a changed model must be published too."""
    assert json.loads(SHIPPED.read_text("utf-8")) == study_schema()
