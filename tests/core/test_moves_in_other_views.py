"""Corrections of heads, backs and part studies, and the words of every kind of move."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.puppet import landmarks
from tests.studies import ARM, HEAD, LEG, POSE, study_of

from bralto.core.corrections.candidates.composing import compose
from bralto.core.corrections.candidates.moves import MOVES
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.correction_words import Correction, correction
from bralto.core.corrections.explained import Explained
from bralto.core.corrections.search import Search
from bralto.core.examination.assessment import assess
from bralto.core.fit.similarity import fit_similarity
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Sheet, Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_keys, view_named


def marks(places: dict[str, tuple[float, float]], scale: float = 800.0) -> dict[str, Mark]:
    return {k: Mark(1500 + scale * x, 300 + scale * y, "seen", 1.0) for k, (x, y) in places.items()}


def corrections(study: Study) -> tuple[Correction, ...]:
    found = assess(study, corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    return found


def of_head(drawn: dict[str, tuple[float, float]]) -> tuple[Correction, ...]:
    return corrections(
        study_of(marks(HEAD), marks(HEAD | drawn), view="head-front", school="envelope")
    )


def test_eyes_set_too_high_are_moved_down_as_one_line() -> None:
    eyes = {k: (x, y - 0.08) for k, (x, y) in HEAD.items() if k.startswith(("eye", "pupil"))}
    (one,) = of_head(eyes)
    assert (one.move, one.part) == ("shift", "eyes")
    assert (one.across, one.up) == pytest.approx((0.0, -0.08), abs=0.005)
    assert one.text.startswith("Move the line of the eyes 0.080 head down (± 0.00")


def test_one_eye_drawn_too_wide_is_that_eye_alone() -> None:
    middle = (HEAD["eye_inner_l"][0] + HEAD["eye_outer_l"][0]) / 2
    wide = {
        k: (middle + 1.9 * (HEAD[k][0] - middle), HEAD[k][1])
        for k in ("eye_inner_l", "eye_outer_l")
    }
    (one,) = of_head(wide)
    assert (one.move, one.part) == ("widen", "eye_l")
    assert "narrower" in one.text


def test_a_crooked_mouth_is_tilted_back() -> None:
    crooked = {"mouth_corner_r": (-0.12, 0.85), "mouth_corner_l": (0.12, 0.73)}
    (one,) = of_head(crooked)
    assert (one.move, one.part, one.unit) == ("tilt", "lips", "degree")
    drawn = np.degrees(np.arctan2(0.12, 0.24))
    assert one.amount == pytest.approx(-drawn, abs=0.5)
    assert "clockwise, R mouth corner up" in one.text


def test_a_long_nose_carries_mouth_and_chin_along() -> None:
    """Everything below the brow lower by the same amount: one part, lengthened or moved."""
    low = {k: (x, y + 0.1) for k, (x, y) in HEAD.items()
           if k in {"nose_base", "nostril_r", "nostril_l", "mouth_mid", "chin"}
           or k.startswith("mouth_corner")}  # fmt: skip
    found = of_head(low)
    assert len(found) <= 2
    assert found[0].part in {"nose", "mouth"}
    assert found[0].move in {"lengthen", "shift", "scale"}


@pytest.mark.parametrize("view", [key for key in view_keys() if view_named(key).limbs])
def test_every_limb_of_every_view_is_found_when_it_alone_is_wrong(view: str) -> None:
    """Each part scaled by a half about its joint, on marks spread at random and placed exactly.

    What is found need not have the limb's own name, since two limbs can hold the same marks, but
    it must take all of the error away in at most two moves.
    """
    shape, rng = view_named(view), np.random.default_rng(12)
    keys = tuple(mark.key for mark in shape.landmarks)
    seen = {k: Mark(*rng.uniform(500, 3500, 2), "seen", 0.5) for k in keys}
    start = np.array([[m.x, -m.y] for m in seen.values()])
    candidates = moves_for(shape, keys)
    for move in candidates.moves:
        if move.kind not in {"scale", "widen"} or move.part is None or move.both:
            continue
        there = compose([move.bound(start)], [np.array([0.5])], start)[0]
        plain = fit_similarity(start, there, np.ones(len(keys)), robust=False)
        head = np.hypot(*(start[keys.index(shape.head[0])] - start[keys.index(shape.head[1])]))
        left = np.hypot(*plain.residuals.T).max() / plain.scale / head * shape.heads
        if left < 2.0 * GRADES["developing"].head:
            continue  # it is the whole, larger, or it stays within the tolerance
        # Marks at random are no body: neither measures nor doubts have a say.
        size = plain.scale * head / shape.heads
        p, q = start / size * plain.scale, there / size
        sd = np.full(len(keys), 0.5 / size)
        found = Search(candidates.bound(p), p, q, sd, 0.05, shakiest=0.04).found().moves
        assert 1 <= len(found) <= 2, move.part
        assert sum(one.share for one in found) == pytest.approx(1.0, abs=0.02), move.part


KEYS = tuple(mark.key for mark in view_named("figure-front").landmarks)
SAID = {
    ("scale", "head"): ("Make the head 5 mm shorter", "dividers to"),
    ("lengthen", "leg_r"): ("Make the R thigh", "shorter"),
    ("widen", "shoulders"): ("Make the shoulders", "narrower"),
    ("turn", "arm_l"): ("Turn the L arm 6° clockwise", "mm at the end"),
    ("swing", "arm_r"): ("Turn the R upper arm 6° clockwise", "mm at the end"),
    ("tilt", "pelvis"): ("Tilt the hips 6° clockwise", "up"),
    ("shift", "navel"): ("Move the navel", "down"),
    ("stretch", None): ("Make the whole 9 % narrower", "± "),
    ("lean", None): ("Lean the whole 6° more to your left", "it leans to your right"),
    ("straighten", None): ("Give the pose back its leans", "at 90 % of what is seen"),
    ("turn", None): ("Turn the whole 6° clockwise", "± "),
    ("scale", "legs"): ("Make both legs", "shorter"),
    ("lengthen", "thighs"): ("Make both thighs", "shorter"),
    ("lengthen", "trunk"): ("Make the trunk", "shorter"),
    ("turn", "head"): ("Turn the head on the neck 6° clockwise", "mm at the end"),
    ("shift", "upper_body"): ("Move the upper body", "to your left"),
    ("shift", "hip_joints"): ("Move the legs at the hip joints", "down"),
    ("scale", None): ("Make the whole 9 % smaller", "± "),
}


def test_every_kind_of_move_is_said_in_words() -> None:
    """A drawing 10 % (or 0.1 radian, or 0.1 head up) off, on a sheet of 50 mm a head."""

    view = view_named("figure-front")
    body = landmarks(POSE)
    p = np.array([body[key] for key in KEYS])
    by_name = {(m.kind, m.part): m for m in moves_for(view, KEYS, whole_scale=True).moves}
    # Those: test_another_eye.py, test_twist.py, heads/test_head_turned_in_a_drawing.py.
    in_space = {"eye", "face", "nod", "tip", "twist"}
    assert {kind for kind, _ in SAID} == set(MOVES) - in_space
    for name, (begins, holds) in SAID.items():
        move = by_name[name].bound(p)
        parameter = np.array([0.0, 0.1]) if move.size == 2 else np.array([0.1])
        found = Explained(move, parameter, 0.0001 * np.eye(move.size), 0.4)
        said = correction(view, found, p, 1.0, 50.0)
        assert said.text.startswith(begins), said.text
        assert holds in said.text
        assert "takes away 40 %" in said.text
        assert (said.mm is None) == (move.kind == "straighten")
        without = correction(view, found, p, 1.0, None)
        assert without.mm is None
        assert "mm" not in without.text


def test_the_order_of_marks_in_a_study_does_not_matter() -> None:
    tall = {k: (x, y * 1.0 + (0.1 if k == "chin" else 0.0)) for k, (x, y) in HEAD.items()}
    study = study_of(marks(HEAD), marks(tall), view="head-front", school="best-fit")
    seen = dict(reversed(list(study.reference.marks.items())))
    other = replace(study, reference=replace(study.reference, marks=seen))
    assert [c.text for c in corrections(study)] == [c.text for c in corrections(other)]


def test_a_sheet_seen_askew_gives_the_same_moves_as_one_seen_square() -> None:
    """The drawing on A4 in a photo with perspective: marks mapped by the sheet's own corners."""
    chin = HEAD | {"chin": (0.0, 1.12)}
    square = ((0.0, 0.0), (3000.0, 0.0), (3000.0, 4242.6), (0.0, 4242.6))
    askew = ((210.0, 180.0), (2790.0, 305.0), (2535.0, 3820.0), (160.0, 3590.0))
    size = (210.0, 297.0)
    rows = []
    for (x, y), (u, v) in zip(square, askew, strict=True):
        rows.append(([x, y, 1, 0, 0, 0, -u * x, -u * y], u))
        rows.append(([0, 0, 0, x, y, 1, -v * x, -v * y], v))
    h = np.linalg.solve(np.array([r for r, _ in rows]), np.array([t for _, t in rows]))
    h = np.append(h, 1.0).reshape(3, 3)

    def photographed(mark: Mark) -> Mark:
        u, v, w = h @ [mark.x, mark.y, 1.0]
        return Mark(u / w, v / w, "seen", mark.spread)

    flat = marks(chin)
    found = []
    for corners, drawn in ((square, flat), (askew, {k: photographed(m) for k, m in flat.items()})):
        study = study_of(marks(HEAD), drawn, view="head-front", school="best-fit")
        state = study.states[0]
        picture = replace(state.picture, sheet=Sheet(corners, size))
        found.append(corrections(replace(study, states=(replace(state, picture=picture),))))
    assert [(c.move, c.part) for c in found[0]] == [(c.move, c.part) for c in found[1]]
    assert found[0][0].mm == pytest.approx(found[1][0].mm, rel=0.02)


def test_pairs_that_hang_from_a_pair() -> None:
    """Both shanks are part of both legs, both hands of both arms; a pair of eyes of none."""
    found = set()
    for key in view_keys():
        view = view_named(key)
        moves = moves_for(view, tuple(one.key for one in view.landmarks)).moves
        found |= {(one.part, one.of_pair) for one in moves if one.both}
    parts = {part for part, hangs in found if hangs}
    assert parts == {"shanks", "feet", "forearms", "hands"}
    assert {"legs", "thighs", "arms", "upper_arms", "eyes"} <= {
        part for part, of in found if not of
    }


def test_what_teachers_see_often() -> None:
    """Girdles, the head, arms and pairs of limbs, of figures alone (common practice, no source)."""

    def usual(key: str) -> set[tuple[str, str | None]]:
        view = view_named(key)
        moves = moves_for(view, tuple(one.key for one in view.landmarks)).moves
        return {(one.kind, one.part) for one in moves if one.usual}

    both = {("scale", part) for part in ("legs", "shanks", "arms", "forearms")}
    both |= {("lengthen", "shanks"), ("lengthen", "forearms"), ("scale", "head")}
    tilts = {("tilt", "shoulders"), ("tilt", "pelvis")}
    assert usual("figure-front") == both | tilts | {("scale", "arm_r"), ("scale", "arm_l")}
    assert usual("figure-back") == usual("figure-front") | {("tilt", "waist")}
    side = both | {("scale", "arm"), ("scale", "far_arm")}
    assert usual("figure-side") == side - {("lengthen", "forearms")}
    for key in view_keys():
        assert key.startswith("figure-") or not usual(key)


def test_a_short_shank_of_a_leg_alone_is_held_against_the_leg() -> None:
    """*Check: width of the calf against the head* was said, and no head is drawn: what everything
    is counted in, the leg, is too short too, and makes the calf look wide."""
    own = ("ankle", "ankle_out", "ankle_in", "calf_out", "calf_in")
    knee, up = LEG["knee"][1], 0.12 * (LEG["ankle"][1] - LEG["knee"][1])
    short = {k: (LEG[k][0], knee + 0.88 * (LEG[k][1] - knee)) for k in own}
    short |= {k: (LEG[k][0], LEG[k][1] - up) for k in ("heel", "toe")}  # the foot as it is
    (one,) = corrections(study_of(marks(LEG), marks(LEG | short), view="leg", school="head"))
    assert (one.move, one.part, one.check) == ("lengthen", "shank", "span.shank")
    assert one.check_words == "shank against the leg"


@pytest.mark.parametrize("part", ["upper", "forearm"])
def test_a_thick_arm_is_one_move(part: str) -> None:
    """Both sides of it were moved each by itself, to the left and to the right."""
    sides = (f"{part}_out", f"{part}_in")
    thick = {k: (0.5 + 1.2 * (ARM[k][0] - 0.5), ARM[k][1]) for k in sides}
    (one,) = corrections(study_of(marks(ARM), marks(ARM | thick), view="arm", school="best-fit"))
    assert (one.move, one.part, one.check) == ("widen", f"{part}_width", f"span.{part}_width")
    assert "narrower" in one.text
    assert "against the arm" in one.text


def test_both_sides_of_a_limb_are_named_as_one_says_it() -> None:
    """*Upper arm, out from plumb* and *crosses far eye, out, far lower lid* read as lists."""
    for key in view_keys():
        view = view_named(key)
        assert not [m.short for m in view.landmarks if m.short.endswith((", out", ", in"))]
    assert view_named("leg").point_label("calf_out") == "outer calf"
    assert view_named("head-three-quarter").point_label("far_eye_outer") == "far outer eye"
