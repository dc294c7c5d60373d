"""The shortest list of moves: known faults come out as themselves, and nothing else does."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.puppet import PARTS_BELOW, landmarks
from tests.studies import POSE, figure_marks, moved, study_of

from bralto.core.corrections.candidates.composing import compose
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Sheet, Study
from bralto.core.views.shipped_views import view_keys, view_named

KEYS = tuple(m.key for m in view_named("figure-front").landmarks)
BODY = {k: xy for k, xy in landmarks(POSE).items() if k in KEYS}


def placed(body: dict, spread: float = 0.5) -> dict[str, Mark]:
    return {k: Mark(400 + 100 * x, 820 - 100 * y, "seen", spread) for k, (x, y) in body.items()}


def scaled(part: str, factor: float) -> dict:
    root, keys = PARTS_BELOW[part]
    return BODY | {k: BODY[root] + factor * (BODY[k] - BODY[root]) for k in keys}


def turned(keys: list[str], about: np.ndarray, degrees: float) -> dict:
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    turn = np.array([[c, -s], [s, c]])
    return BODY | {k: about + turn @ (BODY[k] - about) for k in keys}


def corrections(study: Study) -> tuple[Correction, ...]:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    return found


def of_drawing(body: dict, **kind: str) -> tuple[Correction, ...]:
    return corrections(study_of(placed(BODY), placed(body), **kind))


@pytest.mark.parametrize("school", ["head", "envelope", "best-fit"])
def test_a_head_too_big_is_one_move_under_every_school(school: str) -> None:
    """Under the head school it makes fifty other measures wrong, and is one move all the same."""
    (one,) = of_drawing(scaled("head", 1.12), school=school)
    assert (one.move, one.part, one.unit) == ("scale", "head", "head")
    assert one.amount == pytest.approx(-0.12, abs=0.002)
    assert one.share == pytest.approx(1.0, abs=0.01)
    assert one.text.startswith("Make the head 0.12 head shorter (± 0.0")


@pytest.mark.parametrize(
    ("part", "factor", "move"),
    [("arm_l", 0.9, "scale"), ("forearm_r", 1.2, "scale"), ("hand_l", 0.7, "scale"),
     ("shank_r", 0.93, "scale")],
)  # fmt: skip
def test_a_part_drawn_too_large_is_named_with_its_amount(
    part: str, factor: float, move: str
) -> None:
    """The amount is what the far end of the part must be moved by, along it."""
    (one,) = of_drawing(scaled(part, factor))
    root, keys = PARTS_BELOW[part]
    size = max(np.linalg.norm(BODY[k] - BODY[root]) for k in keys)
    assert (one.move, one.part) == (move, part)
    assert one.amount == pytest.approx(size * (1.0 - factor), rel=0.01)


def test_a_turn_is_undone_in_degrees_as_seen_on_the_sheet() -> None:
    keys = ["wrist_l", "fingertip_l"]
    (one,) = of_drawing(turned(keys, BODY["elbow_l"], 15.0))
    assert (one.move, one.part, one.unit) == ("turn", "forearm_l", "degree")
    assert one.amount == pytest.approx(-15.0, abs=0.1)
    assert one.text.startswith("Turn the L forearm with the hand 15° clockwise (± ")


def test_flat_shoulders_are_tilted_and_the_arms_go_along() -> None:
    body = turned(["shoulder_r", "shoulder_l"], BODY["pit_of_neck"], 7.0)
    for side in "rl":
        by = body[f"shoulder_{side}"] - BODY[f"shoulder_{side}"]
        body |= {
            f"{k}_{side}": BODY[f"{k}_{side}"] + by
            for k in ("deltoid", "elbow", "wrist", "fingertip")
        }
    (one,) = of_drawing(body)
    assert (one.move, one.part) == ("tilt", "shoulders")
    assert one.amount == pytest.approx(-7.0, abs=0.1)
    assert "Tilt the shoulders 7° clockwise, R shoulder up" in one.text


def test_the_whole_too_wide_and_leaning_are_moves_of_the_whole() -> None:
    (wide,) = of_drawing({k: xy * [1.06, 1.0] for k, xy in BODY.items()})
    assert (wide.move, wide.part, wide.unit) == ("stretch", None, "percent")
    assert wide.amount == pytest.approx(100 * (1 / 1.06 - 1), abs=0.1)
    (lean,) = of_drawing({k: np.array([x + 0.04 * y, y]) for k, (x, y) in BODY.items()})
    assert (lean.move, lean.part) == ("lean", None)
    assert lean.amount == pytest.approx(np.degrees(np.arctan(0.04)), abs=0.05)
    assert "it leans to your right" in lean.text


def test_one_wild_mark_is_moved_alone() -> None:
    (one,) = of_drawing(BODY | {"elbow_r": BODY["elbow_r"] + [0.05, -0.3]})
    assert (one.move, one.part) == ("shift", "elbow_r")
    assert (one.across, one.up) == pytest.approx((-0.05, 0.3), abs=0.01)
    assert one.text.startswith("Move the R elbow 0.30 head up (± ")


def test_two_faults_come_out_as_two_moves_whose_shares_add_up() -> None:
    body = scaled("head", 1.15)
    body |= {k: BODY[k] + [0.4, 0.0] for k in ("wrist_l", "fingertip_l")}
    found = of_drawing(body)
    assert {(one.move, one.part) for one in found} == {("scale", "head"), ("shift", "forearm_l")}
    assert sum(one.share for one in found) == pytest.approx(1.0, abs=0.02)
    # The head is a mass, the forearm a limb: that is the order of work, whichever is the greater.
    assert [one.part for one in found] == ["head", "forearm_l"]
    assert [one.greatest for one in found] == [found[0].share > 0.5, found[1].share > 0.5]


def test_a_drawing_against_itself_or_within_tolerance_has_no_corrections() -> None:
    assert of_drawing(BODY) == ()
    rng = np.random.default_rng(3)
    near = {k: xy + rng.normal(0.0, 0.01, 2) for k, xy in BODY.items()}
    assert of_drawing(near) == ()


def test_where_and_how_large_the_drawing_is_changes_nothing() -> None:
    plain = of_drawing(scaled("head", 1.12))
    drawing = moved(placed(scaled("head", 1.12)), 2.5, (300.0, 40.0))
    other = corrections(study_of(placed(BODY), drawing))
    assert [(o.move, o.part) for o in other] == [(o.move, o.part) for o in plain]
    assert other[0].amount == pytest.approx(plain[0].amount, abs=1e-3)


def on_sheets(study: Study, drawing_mm: float) -> Study:
    """Both pictures as sheets: 4000 px are 400 mm of reference and ``drawing_mm`` of drawing."""
    corners = ((0.0, 0.0), (4000.0, 0.0), (4000.0, 4000.0), (0.0, 4000.0))
    seen = replace(study.reference, sheet=Sheet(corners, (400.0, 400.0)))
    state = study.states[0]
    drawn = replace(state.picture, sheet=Sheet(corners, (drawing_mm, drawing_mm)))
    return replace(study, reference=seen, states=(replace(state, picture=drawn),))


def test_millimetres_and_dividers_are_given_on_a_sheet() -> None:
    """A head of 100 px is 10 mm of a 400 mm sheet; drawn at twice that it must span 20 mm."""
    study = on_sheets(study_of(placed(BODY), placed(scaled("head", 1.12))), 800.0)
    (one,) = corrections(study)
    assert one.mm == pytest.approx(-0.12 * 20.0, abs=0.1)
    assert one.divider_mm == pytest.approx(20.0, abs=0.1)
    assert "dividers to 20 mm. Check: " in one.text


def test_at_sight_size_the_size_of_the_whole_is_a_finding() -> None:
    """The same picture on a sheet 10 % larger is 10 % too large, mm for mm; nothing else is."""
    study = on_sheets(study_of(placed(BODY), placed(BODY), school="sight-size"), 440.0)
    (one,) = corrections(study)
    assert (one.move, one.part, one.unit) == ("scale", None, "percent")
    assert one.amount == pytest.approx(100 * (1 / 1.1 - 1), abs=0.1)
    assert one.text.startswith("Make the whole 9.1 % smaller (± 0.1 %)")


@pytest.mark.parametrize("view", view_keys())
def test_moves_compose_with_exact_derivatives(view: str) -> None:
    """Against central differences, for every move of the view and for all of them together."""
    keys = tuple(m.key for m in view_named(view).landmarks)
    rng = np.random.default_rng(4)
    start = rng.normal(0.0, 2.0, (len(keys), 2))
    moves = moves_for(view_named(view), keys, whole_scale=True).moves
    count = min(9, len(moves))
    chosen = [moves[i] for i in sorted(rng.choice(len(moves), count, replace=False))]
    at = [rng.normal(0.0, 0.1, move.size) for move in chosen]
    slopes = iter(compose(chosen, at, start)[1])
    for i, move in enumerate(chosen):
        for axis in range(move.size):
            step = np.zeros(move.size)
            step[axis] = 1e-6
            there, back = [*at], [*at]
            there[i], back[i] = at[i] + step, at[i] - step
            numeric = compose(chosen, there, start)[0] - compose(chosen, back, start)[0]
            assert next(slopes) == pytest.approx(numeric / 2e-6, abs=1e-6), (move.kind, move.part)


def test_tangents_of_all_candidates_are_those_of_each_move() -> None:
    candidates = moves_for(view_named("figure-front"), KEYS)
    start = np.array([BODY[k] for k in KEYS])
    single = [
        slope
        for move in candidates.moves
        for slope in compose([move], [np.zeros(move.size)], start)[1]
    ]
    assert candidates.tangents(start) == pytest.approx(np.array(single), abs=1e-12)
    larger = candidates.tangents(2.0 * start)  # what is kept of some marks is not told of others
    assert not np.allclose(larger, np.array(single))
    assert candidates.tangents(start) == pytest.approx(np.array(single), abs=1e-12)


def test_tangents_with_what_is_known_in_depth_stand_behind_the_others() -> None:
    start = np.array([BODY[k] for k in KEYS])
    candidates = moves_for(view_named("figure-front"), KEYS).bound(start)
    field = np.stack([0.1 * start, 0.01 * start])
    more = candidates.with_depth([("eye", "height of the eye", field)])
    assert more.tangents(start)[:-1] == pytest.approx(candidates.tangents(start))
    assert more.tangents(start)[-1] == pytest.approx(field[0])


def test_too_few_marks_or_marks_on_a_line_give_a_reason_or_an_empty_list() -> None:
    three = {k: figure_marks()[k] for k in ("crown", "chin", "navel")}
    few = assess(study_of(three, three), corrections=True).corrections
    assert isinstance(few, NotMeasurable)
    assert "at least 4 marks" in few.reason
    line = {k: Mark(100.0, 100.0 + 50 * i) for i, k in enumerate(KEYS[:8])}
    assert corrections(study_of(line, line)) == ()
    bent = line | {KEYS[4]: Mark(140.0, 300.0)}
    (doubt,) = assess(study_of(line, bent), corrections=True).doubts
    assert (doubt.kind, doubt.marks) == ("wild-mark", (KEYS[4],))
    unasked = assess(study_of(three, three)).corrections
    assert isinstance(unasked, NotMeasurable)
