"""The big forms of a head: they stand as the head stands, and sit on its marks."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from shapely import LineString, Polygon
from tests.core.heads.busts import bust_marks, figure_with

from bralto.core.discover.constructions import Form
from bralto.core.heads.head_forms import HEAD_SCHOOLS, block_of, head_forms, planes_seen
from bralto.core.heads.head_in_space import HeadInSpace, head_in_space
from bralto.core.results import NotMeasurable

AROUND = {"head-front": 4.0, "head-three-quarter": 42.0, "head-profile": 90.0}


def head(view: str, around: float | None = None, **more: float) -> HeadInSpace:
    turns = {key.replace("_", "."): by for key, by in more.items()}
    marks = bust_marks(view, AROUND[view] if around is None else around, turns)
    found = head_in_space(figure_with(view, marks))
    assert isinstance(found, HeadInSpace)
    return found


def named(forms: tuple[Form, ...], name: str) -> list[Form]:
    return [one for one in forms if one.name == name]


@pytest.mark.parametrize("view", AROUND)
def test_an_oval_reaches_from_the_chin_to_the_crown(view: str) -> None:
    one = head(view)
    (oval,) = named(head_forms(one, "oval"), "oval")
    block = block_of(one)
    crown, chin = one.project(np.array([block.crown, block.chin]))
    assert Polygon(oval.outline).is_valid
    assert oval.outline[:, 1].max() == pytest.approx(crown[1], abs=0.03)
    assert oval.outline[:, 1].min() == pytest.approx(chin[1], abs=0.05)


def test_an_oval_from_the_front_is_as_wide_as_the_face_and_broader_above() -> None:
    one = head("head-front", 0.0)
    forms = head_forms(one, "oval")
    (oval,) = named(forms, "oval")
    block = block_of(one)
    edges = one.project(np.array([block.edge, block.edge * [-1.0, 1.0, 1.0]]))
    assert oval.width == pytest.approx(float(np.hypot(*(edges[0] - edges[1]))), rel=0.06)
    middle = 0.5 * (oval.outline[:, 1].max() + oval.outline[:, 1].min())
    above = np.ptp(oval.outline[oval.outline[:, 1] > middle + 0.2, 0])
    below = np.ptp(oval.outline[oval.outline[:, 1] < middle - 0.2, 0])
    assert above > below
    # The eye line of this school is the half.
    (half,) = named(forms, "half")
    crown, chin = one.project(np.array([block.crown, block.chin]))
    assert np.median(half.outline[:, 1]) == pytest.approx(0.5 * (crown[1] + chin[1]), abs=0.03)


@pytest.mark.parametrize("school", ["oval", "ball"])
def test_the_centre_line_bends_to_the_side_to_which_the_face_is_turned(school: str) -> None:
    for around, way in ((20.0, -1.0), (-20.0, 1.0)):
        forms = head_forms(head("head-front", around), school)
        centre = named(forms, "centre line")[0].outline
        chord = LineString([centre[0], centre[-1]])
        bulge = max(centre, key=lambda at: chord.distance(LineString([at, at + 1e-9])))
        assert (bulge[0] - chord.centroid.x) * way > 0.05


@pytest.mark.parametrize("around", [35.0, 50.0, 88.0])
def test_the_side_of_the_ball_is_a_circle_seen_at_the_heads_own_turn(around: float) -> None:
    """A circle whose plane is turned by a from the eye is an ellipse of 1 : sin a (from afar)."""
    view = "head-profile" if around > 70.0 else "head-three-quarter"
    one = head(view, around)
    (side,) = named(head_forms(one, "ball"), "side plane")
    assert side.width / side.length == pytest.approx(np.sin(np.radians(around)), abs=0.09)


def test_the_ball_from_the_side_is_round_and_from_the_front_cut_flat() -> None:
    (side,) = named(head_forms(head("head-profile"), "ball"), "ball")
    area = Polygon(side.outline).area
    assert 4.0 * np.pi * area / Polygon(side.outline).length ** 2 > 0.99
    (front,) = named(head_forms(head("head-front", 0.0), "ball"), "ball")
    assert front.width < 0.97 * front.length


def test_the_jaw_ends_at_the_chin_and_hangs_on_both_sides_from_the_front() -> None:
    one = head("head-front", 0.0)
    jaws = named(head_forms(one, "ball"), "jaw")
    assert len(jaws) == 2
    chin = one.project(block_of(one).chin)
    for jaw in jaws:
        assert jaw.outline[-1] == pytest.approx(chin)
    assert len(named(head_forms(head("head-profile"), "ball"), "jaw")) == 1


def test_a_wedge_shows_the_planes_that_are_turned_to_the_eye() -> None:
    def shown(view: str, around: float) -> set[str]:
        return {one.name for one in head_forms(head(view, around), "wedge")}

    assert {"front plane", "forehead plane", "side plane"} <= shown("head-three-quarter", 42.0)
    assert "back plane" not in shown("head-three-quarter", 42.0)
    assert "front plane" not in shown("head-profile", 97.0)
    # Visible faces of a closed block do not lie over each other.
    forms = head_forms(head("head-three-quarter"), "wedge")
    front, side = (Polygon(named(forms, name)[0].outline) for name in ("front plane", "side plane"))
    assert front.intersection(side).area < 0.02 * front.area


def test_more_of_the_side_is_seen_as_a_head_turns_away() -> None:
    shares = []
    for around in (30.0, 40.0, 50.0, 60.0):
        front, side = planes_seen(head("head-three-quarter", around))
        shares.append(side / front)
    assert shares == sorted(shares)
    assert shares[-1] > 2.0 * shares[0]


@pytest.mark.parametrize("school", HEAD_SCHOOLS)
@pytest.mark.parametrize("view", AROUND)
def test_forms_lean_with_the_head(view: str, school: str) -> None:
    plain, leaned = head(view), head(view, head_lean=-12.0)
    turned = np.degrees(leaned.tilt - plain.tilt)
    one, other = head_forms(plain, school)[0], head_forms(leaned, school)[0]
    assert (other.axis - one.axis + 90.0) % 180.0 - 90.0 == pytest.approx(turned, abs=1e-6)
    assert np.all(np.isfinite(other.outline))


def test_marks_by_chance_make_forms_or_none_and_never_a_fault() -> None:
    rng, made = np.random.default_rng(4), 0
    for i in range(60):
        view = list(AROUND)[i % 3]
        marks = bust_marks(view, AROUND[view])
        spread = float(rng.choice([20.0, 80.0, 400.0]))
        wild = {
            key: replace(one, x=one.x + rng.normal(0.0, spread), y=one.y + rng.normal(0.0, spread))
            for key, one in marks.items()
        }
        found = head_in_space(figure_with(view, wild))
        if isinstance(found, NotMeasurable):
            continue
        for school in HEAD_SCHOOLS:
            for form in head_forms(found, school):
                made += 1
                assert np.all(np.isfinite(form.outline))
    assert made > 50


@pytest.mark.parametrize("school", HEAD_SCHOOLS)
def test_a_brow_above_the_crown_is_of_no_head(school: str) -> None:
    marks = bust_marks("head-front", 0.0)
    high = {"brow_mid": replace(marks["brow_mid"], y=marks["crown"].y - 60.0)}
    found = head_in_space(figure_with("head-front", marks | high))
    assert isinstance(found, HeadInSpace)
    assert head_forms(found, school) == ()
