"""A simulated learner draws heads: each habit alone, end to end, is what measuring finds first."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.discover.figures import figure_of
from bralto.core.discover.likeness import likeness
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.setting import set_up
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import AnswerKey, answer_key
from bralto.stand.model.example import KNOWN, simulated
from bralto.stand.model.pencil_view import Page, PageDrawing
from bralto.stand.model.portrait import HEAD_LEARNERS, HeadHabits, misplaced, portrait_by
from bralto.stand.model.stage import Stage

COARSE = 0.12
PAGE = Page(px_mm=1.0)
AROUND = {"head-front": 0.0, "head-three-quarter": 40.0, "head-profile": 88.0}


@pytest.fixture(scope="module")
def seen() -> dict[str, tuple[Stage, object, AnswerKey]]:
    out = {}
    for name, around in AROUND.items():
        stage = Stage.of(replace(set_up("head"), camera=Camera(1.6, 0.20, around)), COARSE)
        view = stage.view(360, 480)
        out[name] = (stage, view, answer_key(stage, view, view_named(name)))
    return out


def drawn(seen: dict, name: str, habits: HeadHabits) -> tuple[Study, PageDrawing]:
    stage, view, key = seen[name]
    drawing = portrait_by(stage, view, view_named(name), key, habits, PAGE, seed=4)
    one = {mark.key: Mark(*np.asarray(mark.px).tolist(), spread=0.3) for mark in key.marks}
    two = {key: Mark(*at.tolist(), spread=0.3) for key, at in drawing.marks.items()}
    study = Study(
        "", name, Picture("a.png", 360, 480, one),
        (State("first", Picture("b.png", *PAGE.size, two)),),
    )  # fmt: skip
    return study, drawing


@pytest.mark.parametrize("name", list(AROUND))
def test_without_habits_the_head_is_drawn_as_it_is(seen: dict, name: str) -> None:
    study, drawing = drawn(seen, name, HeadHabits())
    found = assess(study, corrections=True)
    assert found.corrections == ()
    assert found.miss.value < 0.003
    ink = np.asarray(drawing.image.convert("L")) < 150
    assert 0.005 < ink.mean() < 0.3  # lines, and paper between them


@pytest.mark.parametrize(
    ("habits", "named"),
    [
        (HeadHabits(eyes_high=0.06), ("shift", "eye_band")),
        (HeadHabits(face_wide=1.12), ("widen", "face_sides")),
        (HeadHabits(features=1.15), ("scale", "mask")),
        (HeadHabits(mask_aside=0.06), ("shift", "mask")),
        (HeadHabits(mouth_deg=8.0), ("tilt", "lips")),
        (HeadHabits(ears_low=0.08), ("shift", "ears")),
    ],
)
def test_a_habit_is_what_is_told_first(
    seen: dict, habits: HeadHabits, named: tuple[str, str]
) -> None:
    study, _ = drawn(seen, "head-front", habits)
    moves = assess(study, corrections=True).corrections
    assert (moves[0].move, moves[0].part) == named


@pytest.mark.parametrize("name", ["head-three-quarter", "head-profile"])
def test_eyes_and_ears_are_told_from_the_side_too(seen: dict, name: str) -> None:
    study, _ = drawn(seen, name, HeadHabits(eyes_high=0.05, ears_low=0.06))
    moves = {(one.move, one.part) for one in assess(study, corrections=True).corrections}
    assert moves >= {("shift", "eye_band"), ("shift", "ears")}


def test_a_head_drawn_straighter_than_it_is_tilted_is_told_to_be_turned(seen: dict) -> None:
    """Half of a tilt of 20 degrees, by plain geometry of the marks."""
    _, _, key = seen["head-front"]
    places = {mark.key: np.asarray(mark.px, float) for mark in key.marks}
    c, s = np.cos(np.radians(20.0)), np.sin(np.radians(20.0))
    tilted = {k: places["chin"] + np.array([[c, -s], [s, c]]) @ (p - places["chin"])
              for k, p in places.items()}  # fmt: skip
    half = misplaced(tilted, HeadHabits(upright=0.5))
    one, two = (
        {k: Mark(*p.tolist(), spread=0.3) for k, p in marks.items()} for marks in (tilted, half)
    )
    study = Study("", "head-front", Picture("a.png", 360, 480, one),
                  (State("first", Picture("b.png", 360, 480, two)),))  # fmt: skip
    (move,) = assess(study, corrections=True).corrections
    assert (move.move, move.part) == ("turn", None)
    assert abs(move.amount) == pytest.approx(10.0, abs=0.3)
    assert move.words.startswith("Turn the head 10° clockwise")


def test_who_draws_what_they_know_flattens_the_likeness() -> None:
    """A sitter with a long lower third and a narrow nose; three tenths of it are drawn."""
    setting = set_up("head", "slender")
    figures = {"face.lower": 1.25, "face.eyes_apart": 1.2, "face.nose_wide": 0.8}
    setting = replace(setting, build=setting.build.with_figures(**figures))
    found = {}
    for name in ("careful", "flattening"):
        study = simulated(setting, {}, HEAD_LEARNERS[name], size=(360, 480), page=PAGE).study
        view, drawn = view_named("head-front"), study.states[0].picture
        seen_ = figure_of(view, study.reference)
        person = likeness(view, seen_, figure_of(view, drawn), 3.0)
        found[name] = {one.words: one.kept for one in person.departures}
        if name == "flattening":
            assert person.slope.slope < 0.75
            assert study.extra[KNOWN]["likeness"] == 0.3
    assert "a long lower third" in found["careful"]
    assert found["careful"]["a long lower third"] in {"kept", "cannot tell"}
    assert found["flattening"]["a long lower third"] == "flattened"


@pytest.mark.parametrize(
    ("learner", "named"),
    [("eyes-high", ("shift", "eye_band")), ("mask-aside", ("shift", "mask")),
     ("ears-low", ("shift", "ears")), ("features-large", ("scale", "mask"))],
)  # fmt: skip
def test_named_learners_of_heads_do_what_they_are_called(
    learner: str, named: tuple[str, str]
) -> None:
    setting = replace(set_up("head"), hair=True)
    made = simulated(setting, {}, HEAD_LEARNERS[learner], size=(360, 480), page=PAGE)
    moves = assess(made.study, corrections=True).corrections
    assert (moves[0].move, moves[0].part) == named
    assert made.study.states[0].picture.marks.keys() == made.study.reference.marks.keys()


@pytest.mark.parametrize(("around", "amount"), [(42.0, -9.0), (-42.0, 9.0), (88.0, -9.0)])
def test_who_turns_a_head_back_to_the_front_is_told_by_how_much(
    around: float, amount: float
) -> None:
    setting = replace(set_up("head"), camera=Camera(1.6, 0.2, around))
    made = simulated(setting, {}, HEAD_LEARNERS["too-frontal"], size=(360, 480), page=PAGE)
    first, *rest = assess(made.study, corrections=True).corrections
    assert (first.move, first.part) == ("face", None)
    assert first.amount == pytest.approx(amount, abs=2.0)
    assert f"more to your {'left' if amount < 0.0 else 'right'}" in first.words
    assert len(rest) <= 1


def test_between_its_marks_the_paper_goes_astray_smoothly(seen: dict) -> None:
    """The way back from the paper leads to where the line came from, within half a px."""
    from bralto.stand.model.portrait import Astray

    stage, view, key = seen["head-front"]
    places = {mark.key: np.asarray(mark.px, float) for mark in key.marks}
    outline = view.project(stage.points)
    habits = HeadHabits(eyes_high=0.06, face_wide=1.12, mouth_deg=8.0)
    hand = Astray(view, outline, habits, places, places, PAGE, 4)
    for at in ((180.0, 200.0), (150.0, 240.0), (215.0, 260.0)):
        x, y = hand.to_sheet(np.array([at]))[0]
        back = hand.to_camera(np.array([x]), np.array([y]))[0]
        assert back == pytest.approx(np.array(at), abs=0.5)
