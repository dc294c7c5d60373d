"""Polygons against Shapely 2.2 and against shapes whose figures geometry gives."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial.distance import directed_hausdorff
from shapely import Polygon
from shapely.affinity import rotate
from tests.studies import figure_marks, moved, study_of
from uncertainties import ufloat

from bralto.core.examination.assessment import assess
from bralto.core.measures.shapes import ShapeReading, area, centroid, principal_tilt
from bralto.core.study.values import Mark, Picture, State, Study

BLOCK = ((300.0, 300.0), (500.0, 300.0), (500.0, 400.0), (300.0, 400.0))  # 2 heads by 1


@given(st.integers(0, 2**32 - 1), st.integers(3, 20))
def test_area_and_centroid_are_those_of_shapely(seed: int, corners: int) -> None:
    """Star-shaped polygons far from the origin, both ways round."""
    rng = np.random.default_rng(seed)
    angle = np.sort(rng.uniform(0, 2 * np.pi, corners)) + np.arange(corners) * 1e-3
    radius = rng.uniform(20, 90, corners)
    xy = 5000 + radius[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])
    theirs = Polygon(xy)
    for ours in (xy, xy[::-1]):
        assert area(ours) == pytest.approx(theirs.area, rel=1e-9)
        if theirs.is_valid and theirs.area > 10.0:
            where = (theirs.centroid.x, theirs.centroid.y)
            assert centroid(ours) == pytest.approx(np.array(where), abs=1e-6)


@pytest.mark.parametrize("turn", [-80.0, -30.0, 0.0, 12.5, 45.0, 89.0])
def test_a_turned_block_has_its_long_axis_where_it_was_turned(turn: float) -> None:
    """Shapely turns counter-clockwise in a frame whose y is up, as the sight frame's is."""
    block = rotate(Polygon([(0, 0), (3, 0), (3, 1), (0, 1)]), turn)
    xy = np.array(block.exterior.coords)[:-1]
    assert principal_tilt(xy) == pytest.approx(turn, abs=1e-9)
    assert principal_tilt(xy[::-1]) == pytest.approx(turn, abs=1e-9)


def study(seen: tuple, drawn: tuple, scale: float = 1.0, **marks: Mark) -> Study:
    """Polygons on pictures of a figure with a head of 100 px, the drawing ``scale`` times that."""
    made = study_of(figure_marks() | marks, moved(figure_marks(), scale, (0, 0)))
    state = made.states[0]
    picture = replace(
        state.picture, polygons={"gap": tuple((scale * x, scale * y) for x, y in drawn)}
    )
    return replace(
        made,
        reference=replace(made.reference, polygons={"gap": seen, "alone": seen}),
        states=(replace(state, picture=picture),),
    )


def shape(one: Study) -> ShapeReading:
    (found,) = assess(one).shapes
    assert isinstance(found, ShapeReading)
    return found


def test_a_copy_of_any_size_is_the_same_shape() -> None:
    found = shape(study(BLOCK, BLOCK, scale=2.5))
    assert (found.area.reference, found.area.error) == pytest.approx((2.0, 0.0), abs=1e-9)
    assert (found.width_height.reference, found.width_height.error) == pytest.approx(
        (2.0, 0.0), abs=1e-9
    )
    assert (found.overlap, found.contour) == pytest.approx((1.0, 0.0), abs=1e-9)
    assert (found.across.error, found.up.error) == pytest.approx((0.0, 0.0), abs=1e-9)


def test_a_wider_block_overlaps_by_its_share() -> None:
    """2 x 1 against 2.4 x 1 heads about one centre: 2 / 2.4, and 0.2 head at the corners."""
    wide = ((260.0, 300.0), (500.0, 300.0), (500.0, 400.0), (260.0, 400.0))
    found = shape(study(BLOCK, wide))
    assert found.overlap == pytest.approx(2.0 / 2.4)
    assert found.contour == pytest.approx(0.2)
    assert found.area.error == pytest.approx(0.4)
    assert found.width_height.error == pytest.approx(0.2)
    assert found.across.error == pytest.approx(-0.2)


def test_the_area_of_a_triangle_has_the_uncertainty_of_the_package() -> None:
    """Corners and crown and chin with their spreads, the head's share included."""
    corners = ((300.0, 300.0), (420.0, 310.0), (350.0, 450.0))
    one = study(corners, corners)
    found = shape(one)
    parts = []
    for picture in (one.reference, one.states[0].picture):
        p = [(ufloat(x, 1.5), ufloat(y, 1.5)) for x, y in picture.polygons["gap"]]
        twice = (p[1][0] - p[0][0]) * (p[2][1] - p[0][1]) - (p[2][0] - p[0][0]) * (
            p[1][1] - p[0][1]
        )
        crown, chin = (
            (ufloat(m.x, m.spread), ufloat(m.y, m.spread))
            for m in (picture.marks["crown"], picture.marks["chin"])
        )
        head = ((crown[0] - chin[0]) ** 2 + (crown[1] - chin[1]) ** 2) ** 0.5
        parts.append(twice / 2 / head**2)
    error = parts[1] - parts[0]
    assert found.area.reference == pytest.approx(parts[0].nominal_value)
    assert found.area.u == pytest.approx(error.std_dev, rel=1e-5)


def test_outlines_are_farthest_apart_in_the_middle_of_a_side() -> None:
    """A box of 8 x 2 heads with a V cut from above and one from below, to 0.05 head of its far
    side: every corner lies on the other outline or 0.05 from it, but where a V crosses the box's
    middle line it lies 1 head from either long side (by hand)."""
    box = ((-4.0, -1.0), (4.0, -1.0), (4.0, 1.0), (-4.0, 1.0))
    cut = (
        (-4.0, -1.0), (1.0, -1.0), (2.0, 0.95), (3.0, -1.0), (4.0, -1.0),
        (4.0, 1.0), (-1.0, 1.0), (-2.0, -0.95), (-3.0, 1.0), (-4.0, 1.0),
    )  # fmt: skip
    seen, drawn = (tuple((900.0 + 100.0 * x, 500.0 - 100.0 * y) for x, y in p) for p in (box, cut))
    by_hand = pytest.approx(1.0, abs=1e-6)
    assert shape(study(seen, drawn)).contour == by_hand
    assert shape(study(drawn, seen)).contour == by_hand
    assert Polygon(box).exterior.hausdorff_distance(Polygon(cut).exterior) < 0.06  # corners alone


@settings(max_examples=40)
@given(st.integers(0, 2**32 - 1), st.integers(3, 9), st.integers(3, 9))
def test_outlines_are_as_far_apart_as_their_dense_points(seed: int, one: int, two: int) -> None:
    """Against `scipy.spatial.distance.directed_hausdorff` over a point every 0.01 head."""
    rng = np.random.default_rng(seed)

    def star(corners: int) -> np.ndarray:
        angle = (np.arange(corners) + rng.uniform(0.1, 0.9, corners)) * 2 * np.pi / corners
        radius = rng.uniform(40, 150, corners)
        return 400 + radius[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])

    def dense(xy: np.ndarray) -> np.ndarray:
        return shapely.get_coordinates(shapely.segmentize(Polygon(xy - centroid(xy)), 1.0))

    corners = [star(one), star(two)]
    if not all(Polygon(xy).is_valid for xy in corners):
        return
    a, b = (dense(xy) / 100.0 for xy in corners)
    theirs = max(directed_hausdorff(a, b)[0], directed_hausdorff(b, a)[0])
    ours = shape(study(*(tuple(map(tuple, xy.tolist())) for xy in corners))).contour
    assert ours == pytest.approx(theirs, abs=0.01)


@pytest.mark.parametrize(
    ("corners", "said"),
    [
        (((0.0, 0.0), (9.0, 9.0)), "fewer than three corners"),
        (((0.0, 0.0), (100.0, 100.0), (100.0, 0.0), (0.0, 100.0)), "crosses itself"),
        (((0.0, 0.0), (50.0, 50.0), (100.0, 100.0)), "crosses itself or is a line"),
    ],
)
def test_what_is_no_polygon_is_said(corners: tuple, said: str) -> None:
    ((name, missing),) = assess(study(BLOCK, corners)).shapes
    assert name == "gap"
    assert said in missing.reason


def test_a_centroid_from_plumb_has_the_scatter_of_repeats_wherever_the_picture_begins() -> None:
    """Corners, pit of neck, crown and chin thrown 4,000 times; JCGM 101 against our first order."""
    rng = np.random.default_rng(9)
    corners = np.array([(300.0, 300.0), (420.0, 310.0), (350.0, 450.0)])
    marks = figure_marks()
    ends = np.array([[marks[k].x, marks[k].y] for k in ("pit_of_neck", "crown", "chin")])

    def thrown() -> float:
        place = corners + rng.normal(0, 1.5, corners.shape)
        pit, crown, chin = ends + rng.normal(0, 1.5, ends.shape)
        return float((place.mean(axis=0) - pit)[0] / np.hypot(*(crown - chin)))

    spread = float(np.std([thrown() for _ in range(4000)]))
    found = []
    for shift in (0.0, 2000.0):
        there = {k: Mark(m.x + shift, m.y + shift, "seen", m.spread) for k, m in marks.items()}
        triangle = tuple((x + shift, y + shift) for x, y in corners.tolist())
        picture = Picture("", 9000, 9000, there, polygons={"gap": triangle})
        made = Study("", "figure-front", picture, (State("first", picture),))
        found.append(shape(made).across.u)
    assert found[0] == pytest.approx(found[1], rel=1e-6)
    # Both pictures alike; crown and chin move the head, the pit of the neck the plumb line.
    assert found[0] == pytest.approx(spread * 2**0.5, rel=0.05)


def test_overlap_and_outlines_apart_have_the_scatter_of_repeats() -> None:
    """Corners of both pictures, crown and chin thrown 500 times through Shapely (JCGM 101)."""
    rng = np.random.default_rng(11)
    seen = np.array([(300.0, 300.0), (500.0, 290.0), (520.0, 420.0), (310.0, 400.0)])
    drawn = np.array([(300.0, 300.0), (540.0, 300.0), (500.0, 450.0), (290.0, 380.0)])
    marks = figure_marks()
    ends = np.array([[marks[k].x, marks[k].y] for k in ("crown", "chin")])

    def thrown(corners: np.ndarray) -> Polygon:
        crown, chin = ends + rng.normal(0, marks["crown"].spread, ends.shape)
        place = (corners + rng.normal(0, 1.5, corners.shape)) / np.hypot(*(crown - chin))
        middle = Polygon(place).centroid
        return Polygon(place - np.array([middle.x, middle.y]))

    figures = []
    for _ in range(500):
        one, two = thrown(seen), thrown(drawn)
        apart = one.exterior.segmentize(0.03).hausdorff_distance(two.exterior.segmentize(0.03))
        figures.append((one.intersection(two).area / one.union(two).area, apart))
    found = shape(study(tuple(map(tuple, seen.tolist())), tuple(map(tuple, drawn.tolist()))))
    # Head and corner are thrown alike on both pictures, as they are in `study_of`.
    spreads = np.std(figures, axis=0)
    assert (found.overlap_u, found.contour_u) == pytest.approx(tuple(spreads), rel=0.1)
