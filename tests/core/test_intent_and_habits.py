"""What is changed on purpose is no error; typical faults are named when they occur."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.learner import Faults, draw_body
from tests.puppet import Pose
from tests.studies import POSE, figure_marks, study_of

from bralto.core.corrections.intent import factor_of, measures_of
from bralto.core.discover.figures import figure_of
from bralto.core.examination.assessment import assess
from bralto.core.examination.typical_faults import typical_faults
from bralto.core.study.anchored import view_of
from bralto.core.study.values import Intent, Mark, Study
from bralto.core.views.shipped_views import view_keys, view_named

SEEN = figure_marks(spread=0.5)


def drawn(faults: Faults) -> dict[str, Mark]:
    return {
        key: Mark(400.0 + 100.0 * float(x), 820.0 - 100.0 * float(y), "seen", 0.5)
        for key, (x, y) in draw_body(POSE, faults, seed=1).items()
        if key in SEEN
    }


def named(study: Study) -> set[str]:
    found = assess(study, corrections=True)
    pictures = (study.reference, study.states[0].picture)
    figures = tuple(figure_of(view_of(study), picture) for picture in pictures)
    return {one.key for one in typical_faults(found, found.corrections, pictures, figures)}


def test_a_head_meant_larger_is_no_correction_but_one_drawn_larger_still_is() -> None:
    study = study_of(SEEN, drawn(Faults({"head": 1.15})))
    (one,) = assess(study, corrections=True).corrections
    assert measures_of(view_of(study), one) == ("span.head",)
    assert one.factor == pytest.approx(1.15, abs=0.01)
    meant = replace(study, intents=(Intent("span.head", 1.15),))
    assert assess(meant, corrections=True).corrections == ()
    smaller = replace(study, intents=(Intent("span.head", 1.05),))
    assert assess(smaller, corrections=True).corrections == (one,)
    # Another measure's intention leaves it alone.
    other = replace(study, intents=(Intent("span.hand_r", 1.15),))
    assert assess(other, corrections=True).corrections == (one,)


def test_a_pair_is_meant_by_both_its_sides() -> None:
    study = study_of(SEEN, drawn(Faults({"leg_r": 1.12, "leg_l": 1.12})))
    (one,) = assess(study, corrections=True).corrections
    assert one.part == "legs"
    names = measures_of(view_of(study), one)
    assert names == ("span.thigh_r", "span.thigh_l")
    meant = replace(study, intents=tuple(Intent(name, 1.12) for name in names))
    assert assess(meant, corrections=True).corrections == ()
    one_side = replace(study, intents=(Intent(names[0], 1.12),))
    assert assess(one_side, corrections=True).corrections == (one,)
    trunk = replace(one, part="trunk", move="lengthen")
    assert measures_of(view_of(study), trunk) == ("span.torso",)


def test_a_tilt_can_be_meant_by_the_factor_that_its_reading_has() -> None:
    marks = dict(SEEN)
    for side, by in (("r", 14.0), ("l", -14.0)):  # the shoulders with all that hangs from them
        for part in ("shoulder", "elbow", "wrist", "fingertip"):
            at = marks[f"{part}_{side}"]
            marks[f"{part}_{side}"] = replace(at, y=at.y + by)
    study = study_of(SEEN, marks)
    found = assess(study, corrections=True)
    tilt = next(one for one in found.corrections if one.move == "tilt")
    (name,) = measures_of(found.view, tilt)
    assert name == "tilt.shoulders"
    factor = factor_of(tilt, found.reading(name))
    meant = replace(study, intents=(Intent(name, factor),))
    assert tilt not in assess(meant, corrections=True).corrections
    assert assess(meant).reading(name).verdict == "intended"


@pytest.mark.parametrize("key", view_keys())
def test_every_limb_has_a_measure_that_exists_or_none(key: str) -> None:
    view = view_named(key)
    (model,) = assess(study_of(SEEN, drawn(Faults({"head": 1.15}))), corrections=True).corrections
    for limb in view.limbs:
        for move in ("scale", "lengthen", "tilt"):
            names = measures_of(view, replace(model, part=limb.key, move=move))
            assert set(names) <= set(view.measure_rows)
    assert measures_of(view, replace(model, part=None)) == ()
    assert measures_of(view, replace(model, move="shift")) == ()


def test_a_big_head_is_named_and_a_small_one_is_not() -> None:
    assert "head big" in named(study_of(SEEN, drawn(Faults({"head": 1.15}))))
    assert "head big" not in named(study_of(SEEN, drawn(Faults({"head": 0.88}))))


def test_a_limb_away_from_the_torso_drawn_long_is_named() -> None:
    """The model's left arm reaches out by 38 degrees, the right one hangs at 14."""
    assert "long arm_l" in named(study_of(SEEN, drawn(Faults({"arm_l": 1.2}))))
    assert "long arm_r" not in named(study_of(SEEN, drawn(Faults({"arm_r": 1.2}))))
    assert "long arm_l" not in named(study_of(SEEN, drawn(Faults({"arm_l": 0.8}))))


def test_low_legs_and_a_low_hand_are_named() -> None:
    low = dict(SEEN)
    for key in ("crotch", "trochanter_r", "trochanter_l", "hip_point_r", "hip_point_l"):
        low[key] = replace(low[key], y=low[key].y + 40.0)
    assert "legs low" in named(study_of(SEEN, low))
    hand = dict(SEEN)
    for key in ("wrist_r", "fingertip_r"):
        hand[key] = replace(hand[key], y=hand[key].y + 45.0)
    assert "hand low r" in named(study_of(SEEN, hand))
    assert named(study_of(SEEN, SEEN)) == set()


def test_a_straightened_pose_and_a_missing_heel_are_named() -> None:
    stiff = Pose(
        hips=3,
        shoulders=-3,
        head=2,
        lean=-1,
        arms={"r": (6, 2, 1), "l": (16, -8, -6)},
        legs={"r": (0, 0), "l": (6, 3)},
    )
    straight = figure_marks(stiff, spread=0.5)
    assert "straightened" in named(study_of(SEEN, straight))
    heel = SEEN | {"heel_l": replace(SEEN["heel_l"], visibility="absent")}
    assert "heel" in named(study_of(SEEN, heel))


def test_high_eyes_are_named_in_a_head() -> None:
    view = view_named("head-front")
    marks = {key: Mark(100.0 + 7.0 * i, 300.0 + 11.0 * (i % 5), "seen", 0.3)
             for i, key in enumerate(view.placing)}  # fmt: skip
    heights = {"crown": 100.0, "chin": 300.0, "nose_base": 250.0, "mouth_mid": 267.0,
               "hairline": 130.0, "brow_mid": 188.0}  # fmt: skip
    for key, y in heights.items():
        marks[key] = Mark(200.0, y, "seen", 0.3)
    for key in (k for k in marks if k.startswith(("eye_", "pupil_"))):
        marks[key] = replace(marks[key], y=200.0)
    higher = {k: replace(m, y=m.y - 24.0) if k.startswith(("eye_", "pupil_")) else m
              for k, m in marks.items()}  # fmt: skip
    assert "eyes high" in named(study_of(marks, higher, view="head-front"))
    assert "eyes high" not in named(study_of(marks, marks, view="head-front"))
