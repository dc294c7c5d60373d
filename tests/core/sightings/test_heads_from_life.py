"""Portraits from life: what a pencil tells of a head that is tilted.

Its values are worked out by plane geometry (`bench.pencil`), which knows nothing of the frame in
which the tool measures a head.
"""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from bench.pencil import told_by_pencil
from tests.core.sightings.sitters import Places, implied, picture, places, points_of

from bralto.core.examination.assessment import assess
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.sketch import bones
from bralto.core.sightings.held import held_against
from bralto.core.sightings.how_sighted import how_sighted
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.sightings.sighting_words import asked
from bralto.core.sightings.told_skills import told_so_far
from bralto.core.study.taken import Sighting, Sightings, Sort, doubt_of, sighting_of
from bralto.core.study.values import State, Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.typical import typical_of

FRONT = view_named("head-front")


def tilted(degrees: float) -> Places:
    """A head from the front, turned in the picture: + counter-clockwise as it is seen."""
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    upright = places("head-front")
    return {key: np.array([[c, -s], [s, c]]) @ at for key, at in upright.items()}


def all_points(view: View, marks: Places) -> Places:
    """Marks, and the points that are the middle of some."""
    table = points_of(view, marks)
    rows = view.point_rows
    return {key: table.xy[row] for key, row in rows.items() if table.present[row]}


def by_pencil(view: View, marks: Places, one: Sighting) -> Sighting:
    value = told_by_pencil(one, all_points(view, marks), marks["crown"] - marks["chin"])
    assert value is not None
    return replace(one, value=value, u=doubt_of(view, replace(one, value=value)))


def an_evening(view: View, marks: Places, many: int) -> tuple[Sighting, ...]:
    """What the tool asks for, told by the pencil."""
    items: tuple[Sighting, ...] = ()
    for _ in range(many):
        found = most_telling(view, implied(view, items), view.grade("developing"), most=1)
        items = (*items, by_pencil(view, marks, found[0].sighting))
    return items


@pytest.mark.parametrize("degrees", [-15.0, 0.0, 9.0])
def test_a_pencil_does_not_tilt_with_the_head(degrees: float) -> None:
    """Plumb is plumb and level is level; only lengths go down the head as it is tilted."""
    marks = tilted(degrees)
    sighter, seen = Sighter(FRONT, points_of(FRONT, marks)), 0
    for spec in FRONT.measures:
        one = sighting_of(FRONT, spec, 0.0)
        if one is None or spec.id == "height.hair_top":  # above the crown: no length is less than 0
            continue
        told, found = by_pencil(FRONT, marks, one), sighter.on(one)
        assert found is not None
        # The centre line is laid through six marks, the pencil from crown to chin.
        assert found.value == pytest.approx(told.value, abs=0.4 * told.u), spec.id
        seen += 1
    assert seen > 100


@pytest.mark.parametrize("degrees", [-12.0, 12.0])
def test_a_right_drawing_of_a_tilted_head_is_moved_in_nothing(degrees: float) -> None:
    """Its eyes were taken for twice as tilted, and it was told so."""
    marks = tilted(degrees)
    items = an_evening(FRONT, marks, 16)
    drawn = picture(marks, 1.0)
    study = Study("x", "head-front", None, (State("first", drawn),), grade="developing",
                  sightings=Sightings(items))  # fmt: skip
    assert assess(study, corrections=True).corrections == ()
    held = held_against(FRONT, Sightings(items), drawn, FRONT.grade("developing"))
    assert not [one.sighting.measure for one in held if one.verdict.off]
    found = implied(FRONT, items)
    at = dict(zip(found.marks.keys, found.marks.xy, strict=True))
    eyes = at["eye_outer_l"] - at["eye_outer_r"]
    assert np.degrees(np.arctan2(eyes[1], eyes[0])) == pytest.approx(degrees, abs=2.5)


def test_the_eyes_of_a_tilted_head_that_are_level_are_not_as_it_is_tilted() -> None:
    """By pencil and paper: eyes sighted level, the centre line 10 degrees off plumb, are 10 degrees
    out of square with it."""
    tilt = FRONT.measure("tilt.head")
    eyes = FRONT.measure("tilt.eyes")
    assert tilt is not None
    assert eyes is not None
    one, other = sighting_of(FRONT, tilt, -80.0, 0.01), sighting_of(FRONT, eyes, 0.0, 0.01)
    assert one is not None
    assert other is not None
    found = implied(FRONT, (one, other))
    at = dict(zip(found.marks.keys, found.marks.xy, strict=True))
    line, across = at["chin"] - at["crown"], at["eye_outer_l"] - at["eye_outer_r"]
    turned = np.degrees(np.arctan2(line[1], line[0]) - np.arctan2(across[1], across[0]))
    assert turned == pytest.approx(-80.0, abs=0.2)


def test_who_sights_a_tilted_head_truly_is_told_no_bias() -> None:
    marks = tilted(12.0)
    names = ("tilt.eyes", "tilt.brows", "tilt.mouth", "tilt.nose", "offset.eye_outer_r",
             "offset.eye_outer_l", "offset.mouth_corner_r", "offset.mouth_corner_l")  # fmt: skip
    specs = [FRONT.measure(name) for name in names]
    items = [sighting_of(FRONT, spec, 0.0) for spec in specs if spec is not None]
    told = [by_pencil(FRONT, marks, one) for one in items if one is not None]
    senses = how_sighted(FRONT, told, picture(marks))
    assert {one.family for one in senses} == {"tilts", "plumbs"}
    assert all(abs(one.bias) < 0.01 for one in senses)


@pytest.mark.parametrize(
    ("view_key", "first"),
    [
        ("head-front", ("tilt.head", "ratio.width_height")),
        ("head-three-quarter", ("tilt.centre", "ratio.depth_height")),
        ("head-profile", ("tilt.face", "ratio.depth_height")),
        ("figure-front", ("span.figure",)),
    ],
)
def test_the_whole_is_asked_before_any_part(view_key: str, first: tuple[str, ...]) -> None:
    """A head's tilt and its width to its height (common practice, no source); and big forms
    before likeness."""
    view, marks = view_named(view_key), places(view_key)
    items: list[Sighting] = []
    for _ in range(8):
        found = most_telling(view, implied(view, tuple(items)), view.grade("developing"), most=1)
        one = found[0].sighting
        at = Sighter(view, points_of(view, marks)).on(one)
        assert at is not None
        items.append(replace(one, value=at.value))
    measures = [view.measure(one.measure) for one in items]
    assert tuple(one.id for one in measures if one is not None)[: len(first)] == first
    assert sum(one.step == "likeness" for one in measures if one is not None) <= 1


@pytest.mark.parametrize(
    ("view_key", "measure", "text", "how"),
    [
        ("head-front", "height.brow_mid", "How many heads down is the brow?",
         "thumb at the chin, then step down from the crown, tilted as the head is"),
        ("head-front", "height.ear_tops", "How many heads down are the ear tops?", "thumb at"),
        ("head-front", "fraction.eye_outer_r_fifth", "how far across is the right outer eye?", ""),
        ("head-front", "fraction.eye_half", "how far down is the eye line?", ""),
        ("head-profile", "height.brow", "How many heads down is the brow?",
         "thumb at the chin, along the slant, then step down from the crown, tilted as"),
        ("figure-back", "height.sacrum_base", "heads down is the sacrum?", "thumb at the nape"),
        ("figure-front", "height.navel", "How many heads down is the navel?",
         "thumb at the chin, then step down from the crown"),
    ],
)  # fmt: skip
def test_the_question_says_how_the_pencil_is_held(
    view_key: str, measure: str, text: str, how: str
) -> None:
    view = view_named(view_key)
    spec = view.measure(measure)
    assert spec is not None, measure
    one = sighting_of(view, spec, 0.0)
    assert one is not None
    question = asked(view, one)
    assert question.text.endswith(text)
    assert question.how.startswith(how)


def test_what_lies_beside_the_centre_line_is_the_less_known_for_the_pencils_tilt() -> None:
    """By pencil and paper: a pencil 3 degrees off goes sin 3 = 0.052 of how far aside the place is
    too high or too low; on the line itself nothing."""
    typical = typical_of("head-front")
    assert typical is not None
    aside = typical.mean[typical.row["eye_outer_r"], 0] - typical.mean[typical.row["crown"], 0]
    for name, arm in (("height.brow_mid", 0.0), ("height.eye_outer_r", abs(float(aside)))):
        spec = FRONT.measure(name)
        assert spec is not None
        one = sighting_of(FRONT, spec, 0.4)
        assert one is not None
        assert one.u == pytest.approx(math.hypot(0.015, math.radians(3.0) * arm), abs=5e-4)
    # Straight from end to end no tilt is asked for, nor of a figure, where the pencil hangs.
    eye = FRONT.measure("span.eye_r")
    assert eye is not None
    assert doubt_of(FRONT, Sighting(Sort.LENGTH, eye.points, 0.2, 0.0)) == pytest.approx(0.015)
    hip = Sighting(Sort.LENGTH, ("crown", "hip_point_r"), 4.0, 0.0, along="plumb")
    assert doubt_of(view_named("figure-front"), hip) == pytest.approx(0.12)


def test_the_tilt_of_a_head_that_was_sighted_is_told_among_tilts() -> None:
    """Only its length is the unit, of which nothing can be known."""
    marks = tilted(8.0)
    spec = FRONT.measure("tilt.head")
    assert spec is not None
    one = sighting_of(FRONT, spec, 0.0)
    assert one is not None
    found = implied(FRONT, (by_pencil(FRONT, marks, one),))
    (tilts,) = (one for one in told_so_far(FRONT, found, FRONT.grade("developing"))
                if one.skill == "tilts")  # fmt: skip
    assert tilts.u == pytest.approx(2.0, abs=0.3)  # as sure as the arm


@pytest.mark.parametrize("view_key", ["head-front", "head-three-quarter", "head-profile"])
def test_a_head_so_far_has_its_outline_past_marks_that_nothing_tells(view_key: str) -> None:
    view = view_named(view_key)
    marks = {one.key for one in view.landmarks}
    whole = bones(view, marks)
    assert {key for pair in whole for key in pair} <= marks
    ends = {"head-front": ("temple_r", "jaw_r"), "head-three-quarter": ("hairline", "chin"),
            "head-profile": ("brow", "nose_tip")}[view_key]  # fmt: skip
    known = {*ends, "crown", "chin"}
    assert ends in bones(view, known)
    assert not bones(view, ())


def test_eyes_of_a_head_of_which_no_tilt_is_known_are_not_told_by_their_own_tilt_alone() -> None:
    """Against its centre line they are told once that was sighted too, with the arm's doubt of
    both (2 degrees each), and that of where the marks of the drawing lie."""
    marks = tilted(9.0)
    eyes, head = FRONT.measure("tilt.eyes"), FRONT.measure("tilt.head")
    assert eyes is not None
    assert head is not None
    items: tuple[Sighting, ...] = ()
    told = []
    for spec in (eyes, head):
        one = sighting_of(FRONT, spec, 0.0)
        assert one is not None
        items = (*items, by_pencil(FRONT, marks, one))
        drawn = State("first", picture(marks, 1.0))
        study = Study("x", "head-front", None, (drawn,), sightings=Sightings(items))
        reading = assess(study).reading("tilt.eyes")
        assert reading is not None
        assert not reading.verdict.off
        told.append(reading)
    assert told[0].u is None
    seen = drawn.picture.marks
    apart = float(np.hypot(*(marks["eye_outer_l"] - marks["eye_outer_r"]))) * 130.0
    placing = math.degrees(math.sqrt(2.0) * seen["eye_outer_l"].spread / apart)
    assert told[1].u is not None
    assert told[1].u == pytest.approx(math.hypot(2.0, 2.0, placing), rel=0.06)


@pytest.mark.parametrize("measure", ["height.brow_mid", "fraction.jaw_height_r", "span.hair_top"])
def test_a_length_of_ones_own_goes_down_the_head_as_that_of_a_measure_does(measure: str) -> None:
    sighter = Sighter(FRONT, points_of(FRONT, tilted(11.0)))
    spec = FRONT.measure(measure)
    assert spec is not None
    one = sighting_of(FRONT, spec, 0.0)
    assert one is not None
    by_id, own = sighter.on(one), sighter.on(replace(one, measure=""))
    assert by_id is not None
    assert own is not None
    assert own.value == pytest.approx(by_id.value, abs=1e-12)
    assert own.gradient.ravel() == pytest.approx(by_id.gradient.ravel(), abs=1e-12)
