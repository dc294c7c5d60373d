"""Sightings in study files: round trips, version rules, and refusals with their place."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from bralto.core.errors import UserError
from bralto.core.study.taken import Sightings, Sort
from bralto.core.views.stances import Stance
from bralto.exchange.bundle import read_bundle, write_bundle
from bralto.exchange.study_file import parse_study, study_document, study_text

ALL: list[dict[str, Any]] = [
    {"measure": "height.knee_l", "heads": 5.6, "u": 0.15},
    {"length": ["knee_l", "heel_l"], "of": ["knee_l", "navel"], "ratio": [2, 3], "u_percent": 3},
    {"length": ["crown", "chin"], "mm": 31.5, "u": 1.0},
    {"length": ["shoulder_r", "shoulder_l"], "along": "level", "heads": 1.7, "u": 0.06},
    {"tilt": ["shoulder_r", "shoulder_l"], "degrees": -8, "u": 2},
    {"plumb": ["pit_of_neck", "ankle_l"], "off_heads": 0.0, "u": 0.05},
    {"level": ["navel", "elbow_l"], "off_heads": -0.1, "u": 0.05},
    {"fraction": ["crown", "crotch", "sole"], "part": 0.5, "u": 0.03, "along": "plumb"},
    {"longer": ["knee_l", "heel_l"], "than": ["knee_l", "navel"], "answer": "no"},
    {"higher": ["shoulder_r"], "than": ["shoulder_l"], "answer": "alike", "mood": "sure"},
    {"left": ["wrist_r"], "than": ["knee_r"], "answer": "yes"},
    {"measure": "ratio.thigh_shank_r", "ratio": 1.1},
    {"measure": "fraction.navel_third", "part": 0.36},
    {"measure": "offset.heel_r", "heads": -0.3},
]


def document(*sightings: dict[str, Any], **more: Any) -> str:
    reference = {"sightings": list(sightings), "taken": "2026-05-02T18:20:00Z"} | more
    return json.dumps({
        "format": "bralto-study", "version": 2, "title": "rope coiler", "view": "figure-front",
        "reference": reference,
    })  # fmt: skip


def test_all_sorts_go_out_and_in_again() -> None:
    first = parse_study(document(*ALL, eye_mm=600, plane_mm=1200, room="attic"), "x")
    assert first.reference is None
    assert isinstance(first.sightings, Sightings)
    assert {one.sort for one in first.sightings.items} == set(Sort)
    assert first.sightings.items[1].value == pytest.approx(2 / 3)
    assert first.sightings.items[1].u == pytest.approx(0.02)
    assert first.sightings.items[9].extra == {"mood": "sure"}
    assert first.sightings.extra == {"room": "attic"}
    again = parse_study(study_text(first), "x")
    assert again == first
    assert study_document(first)["version"] == 2


def test_a_study_with_pictures_alone_stays_readable_by_the_first_version() -> None:
    plain = parse_study('{"format": "bralto-study", "version": 1, "view": "figure-front"}', "x")
    assert study_document(plain)["version"] == 1
    assert "sightings" not in study_document(plain)


def test_a_bundle_takes_them_along(tmp_path: Path) -> None:
    first = parse_study(document(*ALL), "x")
    path = tmp_path / "life.bralto"
    write_bundle(first, {}, None, path)
    assert read_bundle(path).sightings == first.sightings


@pytest.mark.parametrize(
    ("one", "said"),
    [
        ({"tilt": ["knee_l", "knee_r"]}, "has its value under degrees"),
        ({"tilt": ["knee_l", "knee_r"], "heads": 1}, "has its value under degrees"),
        ({"tilt": ["knee_l", "knee_r"], "plumb": ["knee_l", "knee_r"], "degrees": 1}, "one of"),
        ({"length": ["knee_l", "navel"], "ratio": 1}, "under 'of'"),
        ({"longer": ["knee_l", "navel"], "answer": "no"}, "under 'than'"),
        ({"higher": ["knee_l"], "than": ["a", "b"], "answer": "no"}, "one point"),
        ({"measure": "height.tail", "heads": 1}, "no measure 'height.tail'"),
        ({"measure": "balance.weight", "heads": 1}, "sighting 1"),
        ({"tilt": ["knee_l", "tail"], "degrees": 1}, "no point 'tail'"),
        ({"tilt": ["knee_l", "knee_l"], "degrees": 1}, "one point"),
        ({"tilt": ["knee_l", "knee_r"], "degrees": 1, "u": -1}, "reference.sightings.0.u"),
        ({"tilt": ["knee_l"], "degrees": 1}, "reference.sightings.0.tilt"),
        ({"length": ["knee_l", "navel"], "heads": 1e9}, "reference.sightings.0.heads"),
    ],
)
def test_what_is_wrong_is_said_in_one_sentence(one: dict[str, Any], said: str) -> None:
    with pytest.raises(UserError) as refused:
        parse_study(document(one), "life.json")
    assert said in str(refused.value)
    assert str(refused.value).startswith("life.json: ")
    assert "\n" not in str(refused.value)


def test_how_the_model_is_placed_goes_out_and_in_again() -> None:
    """Of one that lies a height is how far below a level line it is, not down from the crown."""
    lies = parse_study(document(ALL[0], ALL[4], stance="lying-right"), "x")
    assert lies.sightings is not None
    assert lies.sightings.stance is Stance.LYING_RIGHT
    height = lies.sightings.items[0]
    assert (height.sort, height.points) == (Sort.LEVEL, ("pit_of_neck", "knee_l"))
    assert (height.measure, height.value) == ("height.knee_l", 5.6)
    assert parse_study(study_text(lies), "x") == lies
    assert study_document(lies)["reference"]["stance"] == "lying-right"
    stands = parse_study(document(ALL[0]), "x")
    assert stands.sightings is not None
    assert stands.sightings.items[0].sort is Sort.LENGTH
    assert "stance" not in study_document(stands)["reference"]


def test_a_stance_that_is_none_is_refused_with_its_place() -> None:
    with pytest.raises(UserError, match=r"reference.*stance"):
        parse_study(document(ALL[0], stance="floating"), "x")
