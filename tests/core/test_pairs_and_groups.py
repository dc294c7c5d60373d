"""How much a correction of several parts alike asks for, held against plain geometry."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from tests.puppet import PARTS_BELOW, landmarks
from tests.studies import HEAD, POSE, figure_marks, study_of

from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.push import pushable
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Sheet, Study
from bralto.core.views.shipped_views import view_named

BODY = landmarks(POSE)
KEYS = tuple(mark.key for mark in view_named("figure-front").landmarks)
HAND = {
    "wrist": (0.0, 0.0), "middle_knuckle": (0.02, -4.0), "index_knuckle": (-1.0, -3.8),
    "ring_knuckle": (0.95, -3.8), "little_knuckle": (1.7, -3.4), "thumb_base": (-1.2, -0.8),
    "thumb_knuckle": (-2.2, -2.3), "thumb_tip": (-2.9, -4.1), "middle_joint": (0.05, -6.0),
    "middle_tip": (0.1, -8.0), "index_tip": (-1.4, -7.2), "ring_tip": (1.4, -7.5),
    "little_tip": (2.6, -5.9), "wrist_thumb": (-1.1, 0.0), "wrist_little": (1.1, 0.0),
}  # fmt: skip
"""A hand, 8 high, y down from the wrist; its middle finger is as long as its palm. Invented."""
FINGERS = ("index", "middle", "ring", "little")
SIDES = ((0.0, 0.0), (6000.0, 0.0), (6000.0, 6000.0), (0.0, 6000.0))


def marks(places: dict, px: float) -> dict[str, Mark]:
    return {k: Mark(2500 + px * x, 4800 + px * y, "seen", 0.5) for k, (x, y) in places.items()}


def on_paper(study: Study, mm: float) -> Study:
    """The drawing on a sheet whose 6000 px are so many mm."""
    state = study.states[0]
    picture = replace(state.picture, sheet=Sheet(SIDES, (mm, mm)))
    return replace(study, states=(replace(state, picture=picture),))


def told(study: Study) -> Correction:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    (one,) = found
    return one


def of_body(drawn: dict[str, np.ndarray]) -> Correction:
    """A figure of 100 px a head, drawn 5 px to the mm."""
    seen, there = ({k: body[k] * [1, -1] for k in KEYS} for body in (BODY, drawn))
    return told(on_paper(study_of(marks(seen, 100), marks(there, 100)), 1200.0))


def grown(limb: str, by: float) -> dict[str, np.ndarray]:
    out = dict(BODY)
    for side in "rl":
        root, keys = PARTS_BELOW[f"{limb}_{side}"]
        out |= {k: BODY[root] + by * (BODY[k] - BODY[root]) for k in keys}
    return out


def lengths(limb: str) -> list[float]:
    """Heads from the joint of each side to its farthest mark."""
    found = []
    for side in "rl":
        root, keys = PARTS_BELOW[f"{limb}_{side}"]
        found.append(max(float(np.linalg.norm(BODY[k] - BODY[root])) for k in keys if k in KEYS))
    return found


@pytest.mark.parametrize(
    ("limb", "part"), [("hand", "hands"), ("forearm", "forearms"), ("leg", "legs")]
)
def test_both_sides_are_to_be_shortened_by_what_one_of_them_is_too_long(
    limb: str, part: str
) -> None:
    """What was measured was from the right joint to the left end, across the body: of both hands
    that are 0.12 head too long 0.37 head were to be taken away, and the dividers set to the body.
    """
    one, long = of_body(grown(limb, 1.2)), lengths(limb)
    assert (one.move, one.part) == ("scale", part)
    assert long[0] == pytest.approx(long[1], rel=0.02)
    assert one.amount == pytest.approx(-0.2 * long[0], abs=0.03)
    assert one.mm == pytest.approx(-0.2 * long[0] * 20.0, abs=0.6)
    assert one.divider_mm == pytest.approx(long[0] * 20.0, rel=0.03)


@pytest.mark.parametrize(
    ("stems", "by", "part", "size"),
    [(("ear_base",), 1.3, "ears", 0.24), (("eye_outer", "eye_inner"), 1.4, "eyes", 0.15)],
)
def test_ears_and_eyes_are_as_large_as_one_of_them(
    stems: tuple[str, ...], by: float, part: str, size: float
) -> None:
    """An ear is as high as from its top to its base, an eye as wide as from corner to corner."""
    drawn = dict(HEAD)
    for side in "rl":
        keys = [f"{stem}_{side}" for stem in stems]
        top = HEAD[f"ear_top_{side}"] if part == "ears" else np.mean([HEAD[k] for k in keys], 0)
        for key in keys:
            drawn[key] = tuple(np.add(top, by * np.subtract(HEAD[key], top)))
    study = study_of(marks(HEAD, 800), marks(drawn, 800), view="head-front", school="envelope")
    one = told(study)
    assert (one.move, one.part) == ("scale", part)
    assert one.amount == pytest.approx((1.0 - by) * size, abs=0.006)


def test_sides_that_are_not_seen_alike_long_are_told_as_a_share() -> None:
    """A leg that comes forward is seen shorter: one length would be wrong of one of both."""
    seen = dict(BODY)
    root, keys = PARTS_BELOW["leg_l"]
    seen |= {k: BODY[root] + [1.0, 0.7] * (BODY[k] - BODY[root]) for k in keys}
    drawn = dict(seen)
    for side in "rl":
        root, keys = PARTS_BELOW[f"leg_{side}"]
        drawn |= {k: seen[root] + 1.2 * (seen[k] - seen[root]) for k in keys}
    flat, there = ({k: body[k] * [1, -1] for k in KEYS} for body in (seen, drawn))
    one = told(on_paper(study_of(marks(flat, 100), marks(there, 100)), 1200.0))
    assert (one.part, one.unit, one.divider_mm) == ("legs", "percent", None)
    assert one.amount == pytest.approx(100.0 * (1.0 / 1.2 - 1.0), abs=0.5)
    long = [max(np.linalg.norm(seen[k] - seen[PARTS_BELOW[leg][0]]) for k in PARTS_BELOW[leg][1]
                if k in KEYS) for leg in ("leg_r", "leg_l")]  # fmt: skip
    least, most = sorted(0.2 * one * 20.0 for one in long)
    assert re.fullmatch(r"Make both legs 16\.\d % shorter", one.words)
    assert one.doubt.endswith(f", {least:.0f} to {most:.0f} mm")


def test_what_grows_on_all_sides_is_told_as_a_share() -> None:
    """*Make the features 0.044 head smaller* was the distance of a mark from their middle, which
    nobody can take on paper."""
    about = ("brow_mid", "nose_base", "eye_inner_r", "eye_inner_l", "mouth_mid")
    middle = np.mean([HEAD[k] for k in about], axis=0)
    features = [k for k in HEAD if k.startswith(("brow", "eye", "pupil", "nos", "mouth"))]
    drawn = HEAD | {k: tuple(middle + 1.2 * (HEAD[k] - middle)) for k in features}
    one = told(study_of(marks(HEAD, 800), marks(drawn, 800), view="head-front", school="envelope"))
    assert (one.move, one.part, one.unit) == ("scale", "mask", "percent")
    assert one.amount == pytest.approx(100.0 * (1.0 / 1.2 - 1.0), abs=0.5)
    assert re.fullmatch(r"Make the features 1[67](\.\d)? % smaller", one.words)


def hand(drawn: dict) -> Study:
    return study_of(marks(HAND, 500), marks(HAND | drawn, 500), view="hand", school="best-fit")


@pytest.mark.parametrize(("by", "way"), [(0.85, "longer"), (1.15, "shorter")])
def test_fingers_that_are_all_too_short_are_one_move(by: float, way: str) -> None:
    """They were told as a hand that is too small and a line of knuckles that is too wide."""
    ends = {f"{one}_tip": f"{one}_knuckle" for one in FINGERS} | {"middle_joint": "middle_knuckle"}
    drawn = {
        end: tuple(np.add(HAND[root], by * np.subtract(HAND[end], HAND[root])))
        for end, root in ends.items()
    }
    one = told(hand(drawn))
    assert (one.move, one.part, one.unit) == ("scale", "fingers", "percent")
    assert one.factor == pytest.approx(by, abs=0.02)
    assert one.words.startswith("Make the fingers ")
    assert one.words.endswith(f" % {way}")
    assert one.check_words == "middle finger against the hand"


def test_fingers_that_all_lean_one_way_are_one_move() -> None:
    c, s = np.cos(np.radians(10.0)), np.sin(np.radians(10.0))  # clockwise, as y goes down
    ends = {f"{one}_tip": f"{one}_knuckle" for one in FINGERS} | {"middle_joint": "middle_knuckle"}
    drawn = {
        end: tuple(np.array(HAND[root]) + [[c, -s], [s, c]] @ np.subtract(HAND[end], HAND[root]))
        for end, root in ends.items()
    }
    one = told(hand(drawn))
    assert (one.move, one.part) == ("turn", "fingers")
    assert one.amount == pytest.approx(10.0, abs=0.5)
    assert one.words == "Turn the fingers 10° counter-clockwise"


def test_one_finger_alone_is_that_finger_and_two_are_no_group() -> None:
    tip, knuckle = HAND["ring_tip"], HAND["ring_knuckle"]
    one = told(hand({"ring_tip": tuple(np.add(knuckle, 1.3 * np.subtract(tip, knuckle)))}))
    assert (one.move, one.part, one.check) == ("scale", "ring", "span.ring")
    view = view_named("hand")
    keys = tuple(mark.key for mark in view.landmarks)
    assert pushable(view, keys)["scale:fingers"] == "fingers"
    few = tuple(key for key in keys if key not in {"ring_tip", "little_tip"})
    assert "scale:fingers" not in pushable(view, few)


def test_a_share_is_told_as_far_as_it_is_known() -> None:
    """*Make the whole 13 % narrower, ± 0 %* said that nothing is in doubt."""
    narrow = figure_marks(POSE)
    wide = {k: replace(m, x=400.0 + 1.15 * (m.x - 400.0), spread=0.2) for k, m in narrow.items()}
    sure = {k: replace(m, spread=0.2) for k, m in narrow.items()}
    one = told(study_of(sure, wide))
    assert (one.move, one.part) == ("stretch", None)
    assert one.words == "Make the whole 13.0 % narrower"
    assert one.doubt == f"± {1.96 * one.u:.1f} %"
    assert float(one.doubt.split()[1]) > 0.0
