"""A figure that lies or kneels is measured along itself: no height is told of it."""

from __future__ import annotations

import numpy as np
import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.core.assessment import Assessment, assess

SEEN = figure_marks(scale=300.0)
LYING = moved(SEEN, 1.0, (3500.0, 0.0), clockwise=90.0)


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


def test_no_height_and_no_balance_is_told_of_it() -> None:
    readings = told(LYING).readings
    heights = [one for one in readings if one.spec.kind == "height"]
    assert len(heights) > 20
    assert {one.reason for one in heights if one.verdict == "not measured"} >= {
        "the figure lies, and a height says nothing of it"
    }
    assert not [one for one in heights if one.verdict != "not measured"]
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
