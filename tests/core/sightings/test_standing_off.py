"""How far away a sitter stands who is seen on a screen, by similar triangles on paper."""

from __future__ import annotations

from dataclasses import replace

import pytest

from bralto.core.page.photo import HEAD_M
from bralto.core.sightings.standing_off import (
    DISTANCES_M,
    EYES_MM,
    away_m,
    head_mm_at,
    head_px,
)
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named


def test_a_person_six_metres_away_is_a_hands_length_on_the_screen() -> None:
    """1.725 m in 7 1/2 heads; at 6 m, 60 cm before the eye, a tenth of it: 172.5 mm."""
    assert pytest.approx(1.725) == HEAD_M * 7.5
    assert 7.5 * head_mm_at(6.0, 600.0) == pytest.approx(172.5)
    # As large as the pencil reads at arm's length: 650 mm from the eye a head there is 24.9 mm.
    assert head_mm_at(6.0, 650.0) == pytest.approx(24.9167, abs=1e-4)


@pytest.mark.parametrize("eye", EYES_MM)
def test_where_one_stands_and_how_large_one_is_are_each_others_inverse(eye: float) -> None:
    for metres in (*DISTANCES_M["figure"], *DISTANCES_M["part"]):
        assert away_m(head_mm_at(metres, eye), eye) == pytest.approx(metres, rel=1e-12)
    assert away_m(20.0, 2.0 * eye) == pytest.approx(2.0 * away_m(20.0, eye))  # leaning back


def marked(view_key: str, *, heads: float) -> Picture:
    """A picture of the ends of that view's unit alone, 80 px apart along a slant of 3 : 4."""
    top, bottom = view_named(view_key).head
    ends = {top: Mark(100.0, 40.0), bottom: Mark(100.0 + 48.0 * heads, 40.0 + 64.0 * heads)}
    return Picture("sitter.png", 900, 1200, ends)


def test_a_head_is_counted_in_px_of_the_picture() -> None:
    seen = marked("figure-front", heads=1.0)
    assert head_px(view_named("figure-front"), seen) == pytest.approx(80.0)
    only = {key: mark for key, mark in seen.marks.items() if key == "crown"}
    assert head_px(view_named("figure-front"), replace(seen, marks=only)) is None


def test_of_a_view_without_a_whole_head_it_is_the_average_one() -> None:
    """A hand is 0.77 heads long."""
    assert head_px(view_named("hand"), marked("hand", heads=0.77)) == pytest.approx(80.0)


def test_a_thing_has_no_head() -> None:
    assert head_px(view_named("object"), marked("object", heads=4.0)) is None
