"""Which errors follow from which correction, by what it can be checked, and in which order it
stands. Worked on bodies whose faults are made by plain geometry."""

from __future__ import annotations

import math
import re
from pathlib import Path

import numpy as np
import pytest
from tests.learner import Faults, draw_body
from tests.puppet import PARTS_BELOW, landmarks
from tests.studies import POSE, study_of

from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.correction_words import correction
from bralto.core.corrections.search import Search
from bralto.core.examination.assessment import Assessment, assess
from bralto.core.study.values import Mark
from bralto.core.views.shipped_views import view_named
from bralto.core.words.wording import unit_words, whole_words
from bralto.exchange.study_file import read_study

DATA = Path(__file__).parent.parent / "data"
KEYS = tuple(m.key for m in view_named("figure-front").landmarks)
BODY = landmarks(POSE)
Body = dict[str, np.ndarray]


def placed(body: Body, spread: float = 1.0) -> dict[str, Mark]:
    return {k: Mark(1500 + 300 * body[k][0], 2800 - 300 * body[k][1], "seen", spread) for k in KEYS}


def told(body: Body, **more: str) -> Assessment:
    return assess(study_of(placed(BODY), placed(body), **more), corrections=True)


def named(said: Assessment) -> list[tuple[str, str | None]]:
    return [(one.move, one.part) for one in said.corrections]


def scaled(body: Body, part: str, factor: float) -> Body:
    root, keys = PARTS_BELOW[part]
    return body | {k: body[root] + factor * (body[k] - body[root]) for k in keys}


def legs(body: Body, factor: float) -> Body:
    return scaled(scaled(body, "leg_r", factor), "leg_l", factor)


@pytest.mark.parametrize("factor", [0.8, 0.92, 1.06, 1.2])
@pytest.mark.parametrize("school", ["head", "envelope", "best-fit"])
def test_both_legs_long_or_short_are_one_move_under_every_school(
    factor: float, school: str
) -> None:
    said = told(legs(BODY, factor), school=school)
    assert named(said) == [("scale", "legs")]
    (one,) = said.corrections
    assert one.factor == pytest.approx(factor, abs=0.01)
    assert one.words.startswith("Make both legs ")
    assert said.reading(one.check).verdict in {"over", "under"}


@pytest.mark.parametrize(
    ("part", "key"), [("arm", "arms"), ("forearm", "forearms"), ("hand", "hands"),
                      ("shank", "shanks")],
)  # fmt: skip
def test_any_pair_is_one_move(part: str, key: str) -> None:
    body = scaled(scaled(BODY, f"{part}_r", 1.25), f"{part}_l", 1.25)
    (one,) = told(body).corrections
    assert one.part == key
    assert one.move in {"scale", "lengthen"}
    assert one.factor == pytest.approx(1.25, abs=0.02)


def test_one_leg_long_is_that_leg() -> None:
    assert named(told(scaled(BODY, "leg_l", 1.12))) == [("scale", "leg_l")]


def test_a_straightened_pose_is_one_move_with_its_share() -> None:
    """Leans of pelvis, trunk, shoulders and head at 55 % of what is seen; arms and legs as seen."""
    said = told(draw_body(POSE, Faults(tilts=0.55), seed=1))
    assert named(said)[0] == ("straighten", None)
    first = said.corrections[0]
    assert first.amount == pytest.approx(45.0, abs=8.0)
    assert "drawn at" in first.words
    assert first.share > 0.8


def test_a_long_trunk_carries_head_and_arms_at_their_own_size() -> None:
    hips = 0.5 * (BODY["hip_point_r"] + BODY["hip_point_l"])
    axis = BODY["pit_of_neck"] - hips
    long, unit = 0.12 * axis, axis / np.linalg.norm(axis)
    body = dict(BODY)
    for key in ("navel", "ribcage_base", "sternum_end", "nipple_r", "nipple_l"):
        body[key] = BODY[key] + 0.12 * float((BODY[key] - hips) @ unit) * unit
    carried = ("pit_of_neck", "chin", "crown", "shoulder", "deltoid", "elbow", "wrist", "fingertip")
    body |= {k: BODY[k] + long for k in BODY if k.startswith(carried)}
    (one,) = told(body).corrections
    assert (one.move, one.part) == ("lengthen", "trunk")
    assert one.words.startswith("Make the trunk ")
    assert set(one.shifts) & {"crown", "elbow_r"} == {"crown", "elbow_r"}


def test_the_upper_body_may_stand_aside_and_the_legs_hang_low() -> None:
    above = [k for k in KEYS if not k.startswith(("knee", "ankle", "heel", "toe", "hip_point",
                                                  "trochanter", "crotch"))]  # fmt: skip
    aside = told(BODY | {k: BODY[k] + [0.25, 0.0] for k in above})
    assert named(aside) == [("shift", "upper_body")]
    assert aside.corrections[0].across == pytest.approx(-0.25, abs=0.02)
    below = ("knee", "ankle", "heel", "toe", "trochanter", "crotch")
    low = told(BODY | {k: BODY[k] - [0.0, 0.3] for k in KEYS if k.startswith(below)})
    assert named(low) == [("shift", "hip_joints")]
    assert low.corrections[0].up == pytest.approx(0.3, abs=0.02)


def test_a_head_turned_about_the_neck_and_big_is_two_moves() -> None:
    c, s = math.cos(math.radians(8.0)), math.sin(math.radians(8.0))
    neck, turn = BODY["pit_of_neck"], np.array([[c, -s], [s, c]])
    body = dict(BODY)
    body["crown"] = BODY["chin"] + 1.15 * (BODY["crown"] - BODY["chin"])
    body |= {k: neck + turn @ (body[k] - neck) for k in ("chin", "crown")}
    said = told(body)
    assert set(named(said)) == {("scale", "head"), ("turn", "head")}
    turned = next(one for one in said.corrections if one.move == "turn")
    assert turned.amount == pytest.approx(-8.0, abs=1.0)


def test_the_whole_turned_is_said_once() -> None:
    c, s = math.cos(math.radians(3.0)), math.sin(math.radians(3.0))
    said = told({k: np.array([[c, -s], [s, c]]) @ xy for k, xy in BODY.items()})
    assert named(said) == [("turn", None)]
    assert said.corrections[0].amount == pytest.approx(-3.0, abs=0.2)


def test_the_list_is_the_order_of_work_and_the_greatest_is_marked() -> None:
    """A wide whole, a big head, a long forearm: the whole, a mass, a limb."""
    body = scaled(scaled(BODY, "forearm_l", 1.45), "head", 1.1)
    said = told({k: xy * [1.06, 1.0] for k, xy in body.items()})
    assert named(said) == [("stretch", None), ("scale", "head"), ("scale", "forearm_l")]
    shares = [one.share for one in said.corrections]
    assert [one.greatest for one in said.corrections] == [x == max(shares) for x in shares]
    assert sum(shares) == pytest.approx(1.0, abs=0.03)


def test_every_error_is_told_by_the_correction_it_follows_from() -> None:
    """A head 12 % long alone: all that is off follows from it, and nothing is left over."""
    said = told(scaled(BODY, "head", 1.12))
    assert len(said.off()) > 20
    rows = said.view.measure_rows
    for reading in said.off():
        at = rows[reading.spec.id]
        assert said.causes.follows_from[at] == 1
        assert abs(said.causes.left_over[at]) < reading.tolerance
    assert said.following(1) == said.off()


def test_two_causes_share_their_consequences() -> None:
    """The forearm's own length follows from the forearm, the whole height from the head."""
    said = told(scaled(scaled(BODY, "head", 1.12), "forearm_r", 1.4))
    assert named(said) == [("scale", "head"), ("scale", "forearm_r")]
    follows = {r.spec.id: said.causes.follows_from[said.view.measure_rows[r.spec.id]]
               for r in said.off()}  # fmt: skip
    assert follows["span.figure"] == 1
    assert follows["span.forearm_r"] == 2


def test_what_is_left_over_is_what_a_drawing_corrected_by_hand_would_have() -> None:
    """Against the same drawing without the fault that is named, measured anew."""
    wild = BODY | {"navel": BODY["navel"] + [0.0, 0.07]}
    said = told(legs(wild, 1.1))
    assert ("scale", "legs") in named(said)
    again = told(wild)
    rows = said.view.measure_rows
    for key in ("height.navel", "span.thigh_r", "height.knee_r", "fraction.knee_half"):
        wanted = again.reading(key).error
        if ("shift", "navel") in named(said) and key == "height.navel":
            wanted = 0.0
        assert said.causes.left_over[rows[key]] == pytest.approx(wanted, abs=0.02)


def test_a_head_long_within_the_tolerance_is_said_to_be_the_cause() -> None:
    """The head is drawn 4 % long, which no list names: it makes the heights look short."""
    said = told(scaled(BODY, "head", 1.04))
    assert said.corrections == ()
    assert said.off()
    assert set(said.causes.follows_from) == {"unit", None}
    assert said.causes.unit_percent == pytest.approx(4.0, abs=0.8)
    words = unit_words(said.causes.unit_percent, len(said.following("unit")), "head")
    assert words.startswith("Your head is 4 % long")
    assert words.endswith("look short.")


def test_a_pencil_drawing_gets_its_causes() -> None:
    """Twelve marks by hand: tilts at 65 %, knees 0.52 head high; it was told 'none' before."""
    said = assess(read_study(DATA / "pencil-figure.json"), corrections=True)
    first = said.corrections[0]
    assert (first.move, first.part) == ("straighten", None)
    assert first.amount == pytest.approx(35.0, abs=5.0)
    causes = [said.causes.follows_from[said.view.measure_rows[r.spec.id]] for r in said.off()]
    assert len(causes) == 19
    assert sum(isinstance(one, int) for one in causes) >= 16


def test_lean_and_width_are_said_to_a_side_and_without_signs() -> None:
    said = told({k: np.array([0.94 * x - 0.04 * y, y]) for k, (x, y) in BODY.items()})
    words = whole_words(said.affine)  # arctan(0.04) = 2.29 degrees
    assert re.match(r"6\.1 ± 0\.\d % too narrow for its height, ", words)
    assert re.search(r"its verticals lean 2\.29 ± 0\.\d+° to your left", words)
    assert "-" not in words


TRUNK = ("crown", "chin", "pit_of_neck", "hip_point_r", "hip_point_l", "crotch")


@pytest.mark.parametrize(
    ("keys", "tied"),
    [
        ((*TRUNK, "knee_r", "knee_l", "heel_r", "heel_l"), True),
        ((*TRUNK, "navel"), False),
    ],
)
def test_amounts_that_hold_only_together_are_said_together(
    keys: tuple[str, ...], tied: bool
) -> None:
    """A whole that leans, or an upper body that stands aside. The correlation of the two by hand:
    by least squares beside place and size, a lean shifting each mark by its height, the other
    those above the hips alike."""
    p = np.array([BODY[key] for key in keys])
    upper = [1.0 * (key in {"crown", "chin", "pit_of_neck", "navel"}) for key in keys]
    along, down = np.tile([1.0, 0.0], len(p)), np.tile([0.0, 1.0], len(p))
    lean, shift = np.kron(p[:, 1], [1.0, 0.0]), np.kron(upper, [1.0, 0.0])
    free = np.column_stack([p.ravel(), along, down, lean, shift])
    cov = np.linalg.inv(free.T @ free)
    assert (abs(cov[3, 4]) / math.sqrt(cov[3, 3] * cov[4, 4]) > 0.8) == tied

    candidates = moves_for(view_named("figure-front"), keys, whole_scale=False).bound(p)
    wanted = {("lean", None), ("shift", "upper_body")}
    only = [one for one in candidates.moves if (one.kind, one.part) in wanted]
    q = p + np.random.default_rng(4).normal(0.0, 0.005, p.shape)
    sd = np.full(len(keys), 0.01)
    found = Search(candidates, p, q, sd, 0.05, shakiest=0.04).fitted(only)
    said = {one.move.kind: [other.kind for other in one.tied] for one in found.moves}
    if not tied:
        assert said == {"lean": [], "shift": []}
        return
    assert said == {"lean": ["shift"], "shift": ["lean"]}
    one = next(one for one in found.moves if one.move.kind == "lean")
    told_so = correction(view_named("figure-front"), one, p, 1.0, None)
    assert "holds only together with that of the upper body" in told_so.text
