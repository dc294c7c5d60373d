"""A figure that lies or kneels is measured along itself, from a level line where it lies."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from bench.bodies import seen
from tests.studies import figure_marks, moved, study_of

from bralto.core.discover.balance import read_balance
from bralto.core.discover.figures import figure_of
from bralto.core.examination.assessment import Assessment, assess
from bralto.core.mannequin.setting import Setting, set_up
from bralto.core.measures.points import picture_points
from bralto.core.measures.posture import STANDS, posture
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named

SEEN = figure_marks(scale=300.0)
LYING = moved(SEEN, 1.0, (3500.0, 0.0), clockwise=90.0)


def turned(setting: Setting, view: str) -> Setting:
    around = {"figure-back": 180.0}.get(view, 0.0)
    return replace(setting, camera=replace(setting.camera, around_deg=around))


def told(marks: dict) -> Assessment:
    return assess(study_of(marks, marks))


def test_a_lying_figure_is_as_long_as_it_stands_tall() -> None:
    """The same marks turned by a quarter: what is measured along the body stays as it was."""
    standing, lying = told(SEEN), told(LYING)
    for key in ("span.torso", "span.ribcage", "fraction.navel_third", "fraction.fingertip_thigh_r",
                "span.thigh_l", "ratio.thigh_shank_r"):  # fmt: skip
        before, after = standing.reading(key), lying.reading(key)
        assert after.reference == pytest.approx(before.reference, abs=1e-9), key


def test_its_whole_is_its_longest_extent_and_says_between_which_marks() -> None:
    whole = told(LYING).reading("span.figure")
    xy = np.array([[m.x, m.y] for m in SEEN.values()])
    longest = max(float(np.hypot(*(a - b))) for a in xy for b in xy)
    head = np.hypot(SEEN["crown"].x - SEEN["chin"].x, SEEN["crown"].y - SEEN["chin"].y)
    assert whole.reference == pytest.approx(longest / head)
    assert whole.spec.label.startswith("longest extent, ")
    assert " to " in whole.spec.label
    assert told(SEEN).reading("span.figure").spec.label == "whole height"


def test_what_is_measured_down_a_standing_figure_is_measured_along_a_lying_one() -> None:
    """The same marks turned by a quarter clockwise: what lay to the right of the plumb line lies
    below the level line now, and all that a view measures along plumb or level is as it was."""
    standing, lying = told(SEEN), told(LYING)
    turned, lines = 0, 0
    for before in standing.readings:
        after, kind = lying.reading(before.spec.id), before.spec.kind
        if before.reference is None or before.spec.id == "span.figure":
            continue
        if kind == "height":
            key = before.spec.points[1]
            assert after.percent is None
            offset = standing.reading(f"offset.{key}")  # a point made of others has none
            if offset is not None:
                assert after.reference == pytest.approx(offset.reference, abs=1e-9), key
                lines += 1
        elif kind in {"span", "fraction", "ratio", "alignment"}:
            assert abs(after.reference) == pytest.approx(abs(before.reference), abs=1e-9), kind
            turned += before.spec.along in {"plumb", "level"}
    assert (turned > 12, lines > 20) == (True, True)
    along = lying.reading("offset.knee_r").reference - lying.reading("offset.crown").reference
    assert abs(along) == pytest.approx(standing.reading("height.knee_r").reference, abs=1e-9)


def test_a_lying_figure_is_told_in_words_that_fit() -> None:
    labels = {one.spec.id: one.spec.label for one in told(LYING).readings}
    assert labels["height.navel"] == "navel from level"
    assert labels["span.wrists"] == "wrist to wrist, plumb"
    assert labels["fraction.crotch_half"] == "crotch in the whole length"
    assert labels["alignment.crown_crotch"] == "crotch level with the crown"
    assert labels["alignment.elbow_ribs_r"] == "R elbow plumb with the ribcage"


def test_a_mark_of_a_lying_figure_that_is_drawn_low_is_told_as_low() -> None:
    """By hand: the knee 0.3 head further down, all else as it is seen."""
    knee, head = (
        LYING["knee_r"],
        np.hypot(SEEN["crown"].x - SEEN["chin"].x, SEEN["crown"].y - SEEN["chin"].y),
    )
    drawn = LYING | {"knee_r": replace(knee, y=knee.y + 0.3 * head)}
    found = assess(study_of(LYING, drawn)).reading("height.knee_r")
    assert found.error == pytest.approx(0.3, abs=1e-9)
    assert found.more
    assert found.verdict == "over"


def test_the_hand_of_a_lying_figure_that_reaches_out_divides_no_thigh() -> None:
    """Where its tip falls between crotch and knee is asked of an arm that lies along the body."""
    reach = LYING["crown"].x - LYING["crotch"].x
    out = LYING | {"fingertip_r": replace(LYING["fingertip_r"], x=LYING["crown"].x + reach)}
    asked = told(out).reading("fraction.fingertip_thigh_r")
    assert (asked.verdict, asked.reason) == (
        "not measured", "the figure lies with it far beside both ends",
    )  # fmt: skip
    assert told(LYING).reading("fraction.fingertip_thigh_r").error == 0.0


@pytest.mark.parametrize("view", ["hand", "arm", "leg", "torso-front"])
def test_a_part_that_is_held_across_is_measured_along_itself(view: str) -> None:
    """Marks by chance along a line: upright, upside down and held across. What lies below the level
    line of the one lies beside the plumb line of the other."""
    rng, edges = np.random.default_rng(5), view_named(view).edges
    between = [key for key in view_named(view).placing if key not in edges]
    down = np.sort(rng.uniform(0.0, 900.0, len(between) + 2)).tolist()
    upright = {
        key: Mark(1000.0 + rng.normal(0.0, 40.0), 500.0 + y, "seen", 1.0)
        for key, y in zip((edges[0], *between, edges[1]), down, strict=True)
    }
    across = moved(upright, 1.0, (3000.0, 0.0), clockwise=90.0)
    over = moved(upright, 1.0, (3000.0, 3000.0), clockwise=180.0)

    def lies(marks: dict) -> bool:
        return assess(study_of(marks, marks, view=view)).view.lies

    assert (lies(upright), lies(over), lies(across)) == (False, False, True)
    stood, held = (assess(study_of(m, m, view=view)) for m in (upright, across))
    heights = [one for one in held.readings if one.spec.kind == "height"]
    beside = [stood.reading(f"offset.{one.spec.points[1]}") for one in heights]
    pairs = [(a, b) for a, b in zip(heights, beside, strict=True) if b is not None]
    assert len(pairs) > 5
    for one, offset in pairs:
        assert one.reference == pytest.approx(offset.reference, abs=1e-9), one.spec.id


def test_fitted_by_its_envelope_a_lying_figure_has_the_unit_that_it_has_standing() -> None:
    """Its length between crown and sole, not by how much they lie apart in height."""
    feet = {k: replace(m, y=m.y + 60.0) for k, m in SEEN.items() if k.startswith(("heel", "toe"))}
    units = [
        assess(study_of(seen, drawn, school="envelope")).unit.drawing
        for seen, drawn in (
            (SEEN, SEEN | feet),
            (LYING, moved(SEEN | feet, 1.0, (3500.0, 0.0), clockwise=90.0)),
        )
    ]
    assert units[1] == pytest.approx(units[0], rel=1e-9)
    assert units[0] != pytest.approx(assess(study_of(SEEN, SEEN)).unit.drawing, rel=1e-3)


def test_no_balance_is_told_of_a_lying_figure() -> None:
    readings = told(LYING).readings
    assert not [one for one in readings if one.spec.kind == "balance" and one.error is not None]


def test_on_its_knees_heights_are_told_but_the_whole_is_an_extent() -> None:
    """The feet are drawn up behind: the lowest mark is a knee."""
    up = {k: m for k, m in SEEN.items() if k.startswith(("ankle", "heel", "toe"))}
    kneeling = SEEN | {
        k: type(m)(m.x, SEEN[f"knee_{k[-1]}"].y - 150.0, m.visibility, m.spread)
        for k, m in up.items()
    }
    said = told(kneeling)
    assert said.reading("height.crotch").error == 0.0
    assert said.reading("span.figure").spec.label.startswith("longest extent, ")


@pytest.mark.parametrize("view", ["figure-front", "figure-back"])
def test_who_sits_does_not_stand_whatever_the_pose(view: str) -> None:
    """All named poses of the model that keep their feet, against what their names say."""
    sits = {"sitting", "sitting-forward"}
    for name in sits | {"at-rest", "weight-left", "bending", "walking", "on-one-leg", "lunging"}:
        body = seen(view_named(view), turned(set_up(name), view))
        marks = {k: Mark(500 + 100 * x, 900 - 100 * y) for k, (x, y) in body.marks.items()}
        found = picture_points(view_named(view), Picture("", 2000, 2000, marks))
        assert not isinstance(found, NotMeasurable)
        assert (posture(view_named(view), found[0]) == STANDS) == (name not in sits), name


def test_a_sitting_figure_has_no_balance() -> None:
    """Its feet bear little of it: where the weight falls the marks do not tell."""
    knees = {s: SEEN[f"knee_{s}"] for s in "rl"}
    sitting = dict(SEEN)
    for key, mark in SEEN.items():
        if not key.startswith(("knee", "ankle", "heel", "toe")):
            down = knees["r"].y - SEEN["crotch"].y
            sitting[key] = type(mark)(mark.x, mark.y + 0.9 * down, mark.visibility, mark.spread)
    found = figure_of(view_named("figure-front"), Picture("", 9000, 9000, sitting))
    assert not isinstance(found, NotMeasurable)
    balance = read_balance(found, GRADES["developing"])
    assert isinstance(balance, NotMeasurable)
    assert balance.reason == "the figure does not stand on its feet"
    one = assess(study_of(sitting, sitting)).reading("balance.feet")
    assert (one.verdict, one.reason) == ("not measured", balance.reason)
