"""What makes this person, and whether the drawing keeps it: faces built by plain arithmetic."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from pathlib import Path

import pytest
from tests.studies import study_of

from bralto.cli.main import run
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.life import Life
from bralto.core.discover.likeness import Likeness, likeness, likeness_words, push_of, pushed
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named
from bralto.exchange.study_file import write_study

VIEW = view_named("head-front")


def face(share: float = 1.0, spread: float = 0.3, tilt: float = 0.0) -> dict[str, Mark]:
    """A face 1000 px high whose departures from the averages are taken by a share.

    At 1: eyes 1.3 eye widths apart, the mouth 1.2 noses wide, brow and nose at 0.30 and 0.60 of
    the face, so a low forehead and a long lower third.
    """
    eye = 100.0
    gap = eye * (1.0 + 0.3 * share)
    nose, wide = 100.0, 500.0
    mouth = nose * (1.5 - 0.3 * share)
    hair, low = 100.0, 900.0
    brow, base = (low * (1 / 3 - (1 / 3 - 0.30) * share), low * (2 / 3 - (2 / 3 - 0.60) * share))
    at = {
        "crown": (0.0, 0.0), "chin": (0.0, 1000.0), "hairline": (0.0, hair),
        "brow_mid": (0.0, hair + brow), "nose_base": (0.0, hair + base),
    }  # fmt: skip
    lower = 1000.0 - (hair + base)
    at["mouth_mid"] = (0.0, hair + base + lower / 3.0)
    for side, way in (("r", -1.0), ("l", 1.0)):
        at[f"eye_inner_{side}"] = (way * gap / 2.0, 500.0)
        at[f"eye_outer_{side}"] = (way * (gap / 2.0 + eye), 500.0)
        at[f"nostril_{side}"] = (way * nose / 2.0, hair + base)
        at[f"mouth_corner_{side}"] = (way * mouth / 2.0, at["mouth_mid"][1])
        at[f"face_edge_{side}"] = (way * wide / 2.0, 520.0)
    c, s = math.cos(math.radians(tilt)), math.sin(math.radians(tilt))
    return {
        key: Mark(1500 + c * x - s * y, 300 + s * x + c * y, spread=spread)
        for key, (x, y) in at.items()
    }


def figure(marks: dict[str, Mark]) -> Figure:
    found = figure_of(VIEW, Picture("", 4000, 4000, marks))
    assert isinstance(found, Figure)
    return found


def told(seen: dict[str, Mark], drawn: dict[str, Mark] | None = None) -> Likeness:
    other = NotMeasurable("no drawing") if drawn is None else figure(drawn)
    found = likeness(VIEW, figure(seen), other, 3.0)
    assert isinstance(found, Likeness)
    return found


def test_a_sitter_is_told_by_what_departs_the_largest_first() -> None:
    found = told(face())
    said = {one.measure: one for one in found.departures}
    assert said["ratio.between_eyes"].words == "eyes set wide"
    assert said["ratio.between_eyes"].size == pytest.approx(30.0)
    assert said["ratio.mouth_nose"].words == "a narrow mouth"
    assert said["ratio.mouth_nose"].size == pytest.approx(100 * (1.2 / 1.5 - 1))
    assert said["fraction.nose_third"].words == "a long lower third"
    assert said["fraction.nose_third"].size == pytest.approx(100 * (0.60 - 2 / 3))
    assert said["fraction.brow_third"].words == "a low forehead"
    assert "fraction.mouth_third" not in said  # as the average has it
    sizes = [abs(one.size) for one in found.departures]
    assert sizes == sorted(sizes, reverse=True)
    assert all(one.kept == "" and one.drawn is None for one in found.departures)
    assert isinstance(found.slope, NotMeasurable)


@pytest.mark.parametrize(
    ("share", "kept", "words"),
    [
        (1.0, {"kept"}, "the likeness is kept"),
        (0.4, {"flattened"}, "the drawing keeps"),
        (1.8, {"overdone"}, "the drawing keeps"),
        (-0.5, {"turned round"}, "goes back towards the average"),
    ],
)
def test_a_drawing_keeps_flattens_or_overdoes_it(share: float, kept: set[str], words: str) -> None:
    """All departures drawn at one share: the slope is that share."""
    found = told(face(), face(share))
    moved = [one for one in found.departures if one.measure not in {"ratio.face_eyes",
             "ratio.nose_face"}]  # fmt: skip
    assert {one.kept for one in moved} == kept
    found = told(face(), face(share, spread=0.3))
    assert isinstance(found.slope, Life)
    if share == 1.0:
        assert found.slope.slope == pytest.approx(1.0, abs=1e-6)
    # Width of face and nose were drawn as seen, so the whole lies between its share and 1.
    assert words in likeness_words(found.slope)


def test_the_slope_is_the_share_where_only_departures_were_drawn_so() -> None:
    """Width of face and nose are the same on both, so they count as kept: without their marks."""
    lean = {k for k in face() if k.startswith(("face_edge", "nostril", "mouth_corner"))}
    seen, drawn = ({k: m for k, m in face(share).items() if k not in lean} for share in (1.0, 0.5))
    found = told(seen, drawn)
    assert isinstance(found.slope, Life)
    assert found.slope.slope == pytest.approx(0.5, abs=0.02)
    assert "towards the average" in likeness_words(found.slope)


def test_a_tilted_sitter_is_the_same_person() -> None:
    upright, tilted = told(face()), told(face(tilt=20.0))
    assert [one.words for one in upright.departures] == [one.words for one in tilted.departures]
    for one, other in zip(upright.departures, tilted.departures, strict=True):
        assert one.size == pytest.approx(other.size, abs=1e-6)


def test_coarse_marks_cry_no_wolf() -> None:
    assert told(face(spread=60.0)).departures == ()
    found = told(face(spread=4.0), face(0.8, spread=4.0))
    assert {one.kept for one in found.departures} <= {"cannot tell", "kept"}


def test_an_average_face_has_nothing_that_stands_out() -> None:
    found = told(face(0.0), face(0.0))
    wide = {"ratio.face_eyes"}  # 500 / 100
    assert {one.measure for one in found.departures} <= wide


def test_the_command_says_what_makes_this_person(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "head.json"
    write_study(study_of(face(), face(0.4), view="head-front"), path)
    with pytest.raises(SystemExit):
        run(["find", str(path)])
    out = capsys.readouterr().out
    assert "What makes this person" in out
    assert "eyes set wide: 1.30 where the average is 1.00 (+30 ± " in out
    assert "flattened" in out
    with pytest.raises(SystemExit):
        run(["find", str(path), "--format", "json"])
    found = json.loads(capsys.readouterr().out)["likeness"]
    assert found["departures"][0]["measure"] == "ratio.between_eyes"


def test_a_push_takes_every_departure_as_many_times_as_far() -> None:
    """By plain arithmetic: the average, and so many times what leads away from it."""
    found = likeness(VIEW, figure(face()), NotMeasurable("none"), 3.0)
    assert isinstance(found, Likeness)
    assert len(found.departures) >= 3
    for one, meant in zip(found.departures, pushed(found, 1.5), strict=True):
        assert meant.measure == one.measure
        away = meant.factor * one.seen - one.average
        assert away == pytest.approx(1.5 * (one.seen - one.average))
    assert push_of(found, pushed(found, 1.5)) == pytest.approx(1.5)
    assert pushed(found, 1.0) == ()
    assert push_of(found, ()) == 1.0


def test_a_caricature_as_far_as_it_is_meant_has_no_error() -> None:
    """A face whose departures are 1.5 times the sitter's, drawn by who means that."""
    found = likeness(VIEW, figure(face()), NotMeasurable("none"), 3.0)
    assert isinstance(found, Likeness)
    plain = study_of(face(), face(1.5), view="head-front")
    meant = replace(plain, intents=pushed(found, 1.5))
    built = {"ratio.between_eyes", "ratio.mouth_nose", "fraction.brow_third", "fraction.nose_third"}
    assert built <= {one.measure for one in found.departures}
    for one in (one for one in found.departures if one.measure in built):
        before, after = (assess(s).reading(one.measure) for s in (plain, meant))
        assert abs(before.error) > 0.01, one.words
        assert after.error == pytest.approx(0.0, abs=1e-6), one.words
        assert after.verdict in {"intended", "within"}
