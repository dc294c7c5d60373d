"""Where lengths in mm are read off: similar triangles, by pencil and paper."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.read_off import (
    carried_by_head,
    carried_over,
    head_changed,
    head_on_paper,
    on_paper,
)
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")
TILT = Sighting(Sort.TILT, ("shoulder_r", "shoulder_l"), -5.0, 2.0)


def mm(points: tuple[str, str], value: float, u: float = 1.0) -> Sighting:
    return Sighting(Sort.LENGTH, points, value, u, in_mm=True, said=f"{value} mm")


HEAD, LEGS = mm(FRONT.head, 50.0), mm(("crotch", "sole"), 180.0, 6.0)


def test_twice_as_far_from_the_eye_a_length_is_twice_as_long_and_as_unsure() -> None:
    kept = Sightings((HEAD, LEGS, TILT), eye_mm=600.0, plane_mm=1500.0)
    there = carried_over(kept, 300.0)
    assert [one.value for one in there.items] == [25.0, 90.0, -5.0]
    assert [one.u for one in there.items] == [0.5, 3.0, 2.0]
    assert (there.eye_mm, there.plane_mm) == (300.0, 1500.0)
    assert [one.said for one in there.items] == ["", "", ""]
    # The paper is where it was: a head is as large on it as before.
    assert on_paper(kept) == 2.5
    assert on_paper(there) == 5.0
    assert on_paper(there) * there.items[0].value == on_paper(kept) * HEAD.value


def test_where_it_was_not_said_nothing_can_be_carried_over() -> None:
    kept = Sightings((HEAD, TILT))
    assert carried_over(kept, 700.0) == replace(
        kept, eye_mm=700.0, items=(replace(HEAD, said=""), TILT)
    )
    assert on_paper(kept) is None
    assert on_paper(replace(kept, eye_mm=700.0)) is None


def test_a_head_on_the_paper_with_the_doubt_of_its_thumb_marks() -> None:
    """Two marks of 50 mm, each sure to 1 mm: 2.5 times as far off 125 mm, sure to 2.5 / sqrt(2); a
    little less where the legs tell something of it too."""
    implied = imply(FRONT, (HEAD, HEAD, LEGS))
    assert not isinstance(implied, NotMeasurable)
    found = head_on_paper(implied, 2.5)
    assert found is not None
    assert found[0] == pytest.approx(125.0, abs=1.5)
    assert 0.8 * 2.5 / math.sqrt(2.0) < found[1] < 2.5 / math.sqrt(2.0) * 1.001
    assert head_on_paper(implied, None) is None
    counted = imply(FRONT, (TILT,))
    assert not isinstance(counted, NotMeasurable)
    assert head_on_paper(counted, 2.5) is None


def test_a_head_that_is_another_on_the_pencil_is_told_beyond_twice_its_doubt() -> None:
    """50 +- 1 twice, so 50 +- 0.71; then x +- 1: together 1.22, twice that 2.45."""
    assert head_changed(FRONT, (HEAD, TILT)) is None
    assert head_changed(FRONT, (HEAD, HEAD, mm(FRONT.head, 52.4))) is None
    found = head_changed(FRONT, (HEAD, LEGS, HEAD, mm(FRONT.head[::-1], 47.5), TILT))
    assert found is not None
    assert (found.before, found.now) == (50.0, 47.5)


def test_lengths_before_another_head_are_carried_over_by_it_and_later_ones_left() -> None:
    later = mm(("shoulder_r", "shoulder_l"), 60.0)
    kept = Sightings((HEAD, LEGS, mm(FRONT.head, 40.0), later), eye_mm=650.0)
    there = carried_by_head(FRONT, kept)
    assert [one.value for one in there.items] == [40.0, 144.0, 40.0, 60.0]
    assert there.eye_mm == 650.0
    assert head_changed(FRONT, there.items) is None
    assert carried_by_head(FRONT, there) is there
