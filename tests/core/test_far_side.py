"""The other leg and arm of a figure seen from the side: marked where seen, never waited for."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
import pytest
from bench.bodies import Body, bodies

from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.session.passes import progress_of, session_passes, worth_next
from bralto.core.sightings.figure.implied import Implied, imply
from bralto.core.sightings.next_sighting import candidates
from bralto.core.study.values import Mark, Picture, Scale, State, Study
from bralto.core.views.shipped_views import view_named

VIEW = view_named("figure-side")
FAR = tuple(mark.key for mark in VIEW.landmarks if mark.key.startswith("far_"))
SIZE = (900, 1200)


def striding() -> Body:
    """The model with its legs apart, seen from its left."""
    return max(
        bodies("figure-side"), key=lambda one: abs(one.marks["heel"][0] - one.marks["far_heel"][0])
    )


def placed(places: Mapping[str, np.ndarray], rng: np.random.Generator) -> dict[str, Mark]:
    """At 120 px a head, with a hand of a hundredth of one."""
    middle = np.mean(list(striding().marks.values()), axis=0)
    out = {}
    for key, at in places.items():
        x, y = 120.0 * (at - middle) * [1.0, -1.0] + rng.normal(0.0, 1.2, 2)
        out[key] = Mark(450.0 + float(x), 600.0 + float(y), "seen", 1.2)
    return out


def study_of(drawn: Mapping[str, np.ndarray], without: tuple[str, ...] = ()) -> Study:
    rng, seen = np.random.default_rng(4), striding().marks
    pictures = [
        Picture(name, *SIZE, placed({k: v for k, v in of.items() if k not in without}, rng))
        for name, of in (("a.png", seen), ("b.png", drawn))
    ]
    return Study("", "figure-side", pictures[0], (State("first", pictures[1]),), Scale("head"))


def listed(study: Study) -> tuple[Correction, ...]:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    return found


def changed(
    keys: tuple[str, ...], change: Callable[[np.ndarray], np.ndarray]
) -> dict[str, np.ndarray]:
    return {key: change(at) if key in keys else at for key, at in striding().marks.items()}


def turned(about: np.ndarray, degrees: float) -> Callable[[np.ndarray], np.ndarray]:
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return lambda at: about + np.array([[c, -s], [s, c]]) @ (at - about)


FAR_LEG = ("far_knee", "far_ankle", "far_heel", "far_toe")
LEG = ("knee", "ankle", "heel", "toe")


def test_a_far_leg_drawn_at_another_angle_is_one_move() -> None:
    hip = striding().marks["trochanter"]
    (one,) = listed(study_of(changed(FAR_LEG, turned(hip, 9.0))))
    assert (one.move, one.part) == ("turn", "far_leg")
    assert one.amount == pytest.approx(-9.0, abs=1.0)
    assert "far leg" in one.words


def test_both_legs_too_long_are_said_as_a_pair() -> None:
    hip = striding().marks["trochanter"]
    (one,) = listed(study_of(changed((*LEG, *FAR_LEG), lambda at: hip + 1.12 * (at - hip))))
    assert (one.move, one.part) == ("scale", "legs")
    assert one.words.startswith("Make both legs")


def test_one_that_is_too_long_is_the_one_that_is() -> None:
    hip = striding().marks["trochanter"]
    for keys, part in ((LEG, "leg"), (FAR_LEG, "far_leg")):
        (one,) = listed(study_of(changed(keys, lambda at: hip + 1.13 * (at - hip))))
        assert (one.move, one.part) == ("scale", part)


@pytest.mark.parametrize("body", range(len(list(bodies("figure-side")))))
def test_a_far_arm_hangs_from_a_shoulder_that_does_not_show(body: int) -> None:
    """Made 14 % long about it, which only the model's skeleton knows: one move, not a shift of the
    arm and a longer forearm, which come to the same."""
    stood = list(bodies("figure-side"))[body]
    side = "r" if stood.setting.camera.around_deg >= 0.0 else "l"
    shoulder = stood.joints[f"shoulder_{side}"]
    drawn = {
        key: shoulder + 1.14 * (at - shoulder) if key in {"far_elbow", "far_wrist"} else at
        for key, at in stood.marks.items()
    }
    rng = np.random.default_rng(4)
    pictures = [
        Picture(name, *SIZE, placed(of, rng))
        for name, of in (("a.png", stood.marks), ("b.png", drawn))
    ]
    study = Study("", "figure-side", pictures[0], (State("first", pictures[1]),), Scale("head"))
    (one,) = listed(study)
    assert (one.move, one.part) == ("scale", "far_arm")
    assert one.factor is not None
    assert one.factor - 1.0 == pytest.approx(0.14, abs=0.05)


def test_without_the_marks_that_tell_its_shoulder_the_near_one_stands_for_it() -> None:
    keys = tuple(key for key in striding().marks if key != "ribcage_base")
    tree = {(one.kind, one.part): one for one in moves_for(VIEW, keys).moves}
    pivot = tree["scale", "far_arm"].ends[0]
    assert dict(zip(keys, pivot, strict=True))["shoulder"] == 1.0
    assert np.abs(pivot).sum() == 1.0
    whole = {(one.kind, one.part): one for one in moves_for(VIEW, tuple(striding().marks)).moves}
    assert whole["scale", "far_arm"].ends[0].sum() == pytest.approx(1.0)


def test_where_the_far_side_is_not_marked_all_is_as_it_was() -> None:
    hip = striding().marks["trochanter"]
    drawn = changed((*LEG, *FAR_LEG), lambda at: hip + 1.12 * (at - hip))
    (one,) = listed(study_of(drawn, without=FAR))
    assert (one.move, one.part) == ("scale", "leg")
    low = changed((*LEG, *FAR_LEG, "trochanter", "gluteal_fold"), lambda at: at - [0.0, 0.25])
    for without in (FAR, ()):
        (one,) = listed(study_of(low, without))
        assert (one.move, one.part) == ("shift", "hip_joints")


def test_the_lowest_of_both_feet_is_the_sole() -> None:
    lifted = changed(("heel", "toe", "ankle", "knee"), lambda at: at + np.array([0.0, 0.6]))
    found = assess(study_of(lifted))
    whole = found.reading("span.figure")
    assert whole is not None
    assert whole.drawing == pytest.approx(whole.reference, abs=0.15)


def test_it_is_offered_and_never_waited_for() -> None:
    passes = session_passes(VIEW)
    far = next(one for one in passes if one.key == "far")
    assert set(far.marks) == set(FAR)
    assert not far.asked
    rest = {key for one in passes for key in one.marks} - set(FAR)
    others = {one.key: (1, 1) for one in passes if not one.marks}
    progress = progress_of(passes, rest, rest, others)
    assert worth_next(progress, "edges") is None
    assert not set(FAR) & {key for keys in VIEW.short for key in keys}


def test_from_life_the_far_side_is_not_asked_for() -> None:
    found = imply(VIEW, ())
    assert isinstance(found, Implied)
    asked = {key for one in candidates(VIEW, found) for key in (*one.points, *one.of)}
    assert "knee" in asked
    assert not asked & set(FAR)
