"""Constructions as geometry: they sit on the marks, and differ by what was drawn differently."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPoint, Polygon
from tests.puppet import Pose
from tests.studies import figure_marks, moved

from bralto.core.discover.constructions import compare_forms, construct, convex_hull
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named


def figure(marks: dict[str, Mark], view: str = "figure-front") -> Figure:
    found = figure_of(view_named(view), Picture("", 4000, 4000, marks))
    assert isinstance(found, Figure)
    return found


@given(st.integers(0, 2**32 - 1), st.integers(3, 40))
def test_the_envelope_is_the_convex_hull_of_shapely(seed: int, count: int) -> None:
    xy = np.random.default_rng(seed).integers(0, 12, (count, 2)).astype(float)
    theirs = MultiPoint(xy).convex_hull
    ours = convex_hull(xy)
    if theirs.geom_type == "Polygon":
        assert Polygon(ours).symmetric_difference(theirs).area == pytest.approx(0.0, abs=1e-9)
        assert len(ours) == len(theirs.exterior.coords) - 1
    else:
        assert len(ours) <= 2


def test_all_forms_of_a_figure_sit_on_its_marks() -> None:
    one = figure(figure_marks())
    forms = {form.name: form for form in construct(one)}
    assert {
        "ribcage",
        "pelvis",
        "head",
        "jaw",
        "centre line",
        "envelope",
        "thigh_r",
        "forearm_l",
    } <= (set(forms))
    row = {key: i for i, key in enumerate(one.marks.keys)}
    for name, a, b in (
        ("ribcage", "pit_of_neck", "ribcage_base"),
        ("thigh_r", "hip_point_r", "knee_r"),
    ):
        ends = one.heads[[row[a], row[b]]]
        assert forms[name].centre == pytest.approx(ends.mean(axis=0))
        assert forms[name].length == pytest.approx(np.hypot(*(ends[1] - ends[0])))
    hips = one.heads[[row["hip_point_r"], row["hip_point_l"]]]
    assert forms["pelvis"].width == pytest.approx(np.hypot(*(hips[1] - hips[0])))
    # The egg's outline is in the middle and stands on its broad end, below its middle.
    egg = forms["ribcage"]
    assert Polygon(egg.outline).is_valid
    assert Polygon(egg.outline).centroid.y < egg.centre[1]
    below = one.heads[row["crotch"], 1]
    assert forms["pelvis"].outline[:, 1].min() < hips[:, 1].mean()
    assert abs(forms["pelvis"].outline[:, 1].min() - below) < 0.5


def test_a_copy_of_any_size_has_the_same_forms() -> None:
    marks = figure_marks()
    found = compare_forms(figure(marks), figure(moved(marks, 3.0, (50, 60))))
    assert len(found) > 10
    for one in found:
        assert (one.length, one.width, one.axis, one.across, one.up) == pytest.approx(
            (0.0,) * 5, abs=1e-9
        )


def test_flatter_hips_tilt_the_block_and_a_big_head_makes_all_else_small() -> None:
    seen, flat = figure(figure_marks(Pose(hips=8))), figure(figure_marks(Pose(hips=2)))
    pelvis = next(one for one in compare_forms(seen, flat) if one.name == "pelvis")
    assert pelvis.axis == pytest.approx(-6.0)
    assert pelvis.width == pytest.approx(0.0, abs=1e-9)
    marks = figure_marks(Pose(hips=8))
    crown, chin = marks["crown"], marks["chin"]
    big = marks | {"crown": Mark(crown.x, chin.y + 1.25 * (crown.y - chin.y), "seen", 1.5)}
    thigh = next(one for one in compare_forms(seen, figure(big)) if one.name == "thigh_r")
    assert thigh.length == pytest.approx(1 / 1.25 - 1)


def test_what_the_marks_lack_is_left_out() -> None:
    few = {k: figure_marks()[k] for k in ("crown", "chin", "navel")}
    assert {form.name for form in construct(figure(few))} == {"head", "jaw", "envelope"}
    same = few | {"pit_of_neck": few["navel"], "crotch": Mark(300, 500)}
    assert "centre line" not in {form.name for form in construct(figure(same))}


def test_a_rhythm_line_runs_from_a_shoulder_through_the_middle_down_the_other_leg() -> None:
    marks = figure_marks()
    found = figure_of(view_named("figure-front"), Picture("", 4000, 4000, marks))
    rhythm = next(form for form in construct(found) if form.name == "rhythm_r")
    assert rhythm.kind == "line"
    ends = [found.heads[found.marks.keys.index(key)] for key in ("shoulder_l", "ankle_r")]
    assert rhythm.outline[0] == pytest.approx(ends[0])
    assert rhythm.outline[-1] == pytest.approx(ends[1])
    assert len(rhythm.outline) == 4
