"""The measure by which a correction is to be checked is one of the very part: what a teacher would
hold it against (common practice, no source)."""

from __future__ import annotations

import numpy as np
import pytest
from tests.puppet import landmarks
from tests.studies import HEAD, POSE, study_of

from bralto.core.corrections.candidates.composing import compose
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark
from bralto.core.views.shipped_views import view_named

BODY = landmarks(POSE)
KEYS = tuple(mark.key for mark in view_named("figure-front").landmarks)


def marks(places: dict, px: float) -> dict[str, Mark]:
    return {k: Mark(2500 + px * x, 500 + px * y, "seen", 0.5) for k, (x, y) in places.items()}


def told(view: str, seen: dict, drawn: dict, px: float) -> Correction:
    found = assess(
        study_of(marks(seen, px), marks(drawn, px), view=view, school=view_named(view).school),
        corrections=True,
    ).corrections
    assert not isinstance(found, NotMeasurable)
    (one,) = found
    return one


@pytest.mark.parametrize(
    ("kind", "part", "amount", "check", "words"),
    [
        ("lengthen", "leg_l", 0.15, "span.thigh_l", "L thigh against the head"),
        ("tilt", "pelvis", 0.15, "tilt.hips", "the tilt of the hips"),
        ("turn", "upper_body", 0.1, "tilt.torso", "the tilt of the axis of the torso"),
        ("scale", "forearm_r", 0.2, "span.forearm_r", "R forearm against the head"),
    ],
)
def test_a_part_is_held_against_itself_and_not_by_what_follows(
    kind: str, part: str, amount: float, check: str, words: str
) -> None:
    """A thigh was to be checked by *whole height against the head*, tilted hips by *the tilt of
    the ankles*, an upper body by an arm: all three only follow."""
    seen = np.array([BODY[k] for k in KEYS])
    moves = moves_for(view_named("figure-front"), KEYS).bound(seen).moves
    (move,) = (one for one in moves if (one.kind, one.part) == (kind, part))
    drawn = compose([move], [np.array([amount])], seen)[0]
    flat, there = (dict(zip(KEYS, xy * [1, -1], strict=True)) for xy in (seen, drawn))
    one = told("figure-front", flat, there, 300.0)
    assert (one.move, one.part) == (kind, part)
    assert (one.check, one.check_words) == (check, words)


@pytest.mark.parametrize(
    ("above", "words"),
    [("brow_mid", "eye line in the head"),
     ("nose_base", "base of nose between hairline and chin")],
)  # fmt: skip
def test_what_is_long_in_a_face_is_told_by_what_divides_it(above: str, words: str) -> None:
    """*Width of the jaw against the head* was said of a long lower face, and even of a nose, as
    the head that all is counted in grows with it."""
    joint = np.array(HEAD[above])
    beside = ("eye", "pupil", "ear", "face", "neck")
    below = [k for k, (_, y) in HEAD.items() if y > joint[1] and not k.startswith(beside)]
    drawn = HEAD | {k: tuple(joint + 1.15 * (HEAD[k] - joint)) for k in below}
    one = told("head-front", HEAD, drawn, 1500.0)
    assert (one.move, one.check_words) == ("scale", words)


@pytest.mark.parametrize("view", ["arm", "hand", "leg", "torso-back", "torso-front"])
def test_what_has_a_length_of_its_own_is_checked_by_that(view: str) -> None:
    """Of every limb that is measured from its joint to its end, or across."""
    one = view_named(view)
    rng = np.random.default_rng(3)
    keys = tuple(mark.key for mark in one.landmarks)
    at = np.cumsum(rng.uniform(0.2, 0.5, (len(keys), 2)), axis=0) * [0.3, -1.0]
    at /= np.hypot(*(at[keys.index(one.head[0])] - at[keys.index(one.head[1])])) / one.heads
    lines = {frozenset(spec.points): spec.id for spec in one.measures if spec.kind == "span"}
    tried = 0
    for move in moves_for(one, keys).bound(at).moves:
        limb = next((limb for limb in one.limbs if limb.key == move.part), None)
        if limb is None or move.kind not in {"lengthen", "widen"}:
            continue
        line = lines.get(frozenset(limb.span or (*limb.root, limb.marks[0])))
        if line is None:
            continue
        drawn = compose([move], [np.array([0.3])], at)[0]
        found = assess(
            study_of(*(marks(dict(zip(keys, xy * [1, -1], strict=True)), 900.0)
                       for xy in (at, drawn)), view=view, school="best-fit"),
            corrections=True,
        ).corrections  # fmt: skip
        if [(c.move, c.part) for c in found] == [(move.kind, move.part)]:
            tried += 1
            assert found[0].check == line
    assert tried >= 1
