"""Corners that both pictures have are paired by the marks' best fit, and by nothing else."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import seen_from

from bralto.core.discover.common_corners import CommonCorners, common_corners
from bralto.core.study.anchored import view_of
from bralto.core.study.values import Anchor, Mark, Picture, Sheet, Study
from bralto.core.views.shipped_views import view_named

VIEW = view_named("object")
EDGES = {"top": (500.0, 100.0), "bottom": (480.0, 900.0), "left": (200.0, 500.0),
         "right": (800.0, 520.0)}  # fmt: skip
PLACES = np.array([[350.0, 300.0], [650.0, 320.0], [640.0, 700.0], [360.0, 690.0], [505.0, 480.0]])


def picture(scale: float = 1.0, shift: tuple[float, float] = (0.0, 0.0)) -> Picture:
    marks = {key: Mark(scale * x + shift[0], scale * y + shift[1]) for key, (x, y) in EDGES.items()}
    return Picture("x.png", 4000, 4000, marks)


def drawn_as(scale: float, shift: tuple[float, float], seed: int = 1) -> np.ndarray:
    rng = np.random.default_rng(seed)
    return scale * (PLACES + rng.normal(0.0, 6.0, PLACES.shape)) + shift


def test_each_corner_finds_its_own_on_a_drawing_of_another_size_and_place() -> None:
    drawn = drawn_as(1.7, (300.0, 150.0))
    order = np.array([3, 0, 4, 1, 2])
    found = common_corners(VIEW, picture(), picture(1.7, (300.0, 150.0)), PLACES, drawn[order])
    np.testing.assert_allclose(found.seen, PLACES)
    np.testing.assert_allclose(found.drawn, drawn)
    few = common_corners(VIEW, picture(), picture(1.7, (300.0, 150.0)), PLACES, drawn, most=2)
    np.testing.assert_allclose(few.seen, PLACES[:2])  # the strongest


def test_what_one_picture_alone_has_and_what_is_marked_or_far_off_is_left_out() -> None:
    seen = np.vstack([PLACES, [[500.0, 104.0], [1500.0, 500.0], [420.0, 560.0]]])
    drawn = np.vstack([PLACES[:4], [[501.0, 103.0], [1500.0, 500.0], [560.0, 780.0]]])
    found = common_corners(VIEW, picture(), picture(), seen, drawn)
    np.testing.assert_allclose(found.seen, PLACES[:4])


def test_a_point_that_one_picture_has_already_is_proposed_on_neither() -> None:
    study = Study("x", "object", None, (), anchors=(Anchor("own_1", "knob"),))
    view = view_of(study)
    marked = picture()
    marks = {**marked.marks, "own_1": Mark(352.0, 301.0)}
    for seen, drawn in (
        (replace(marked, marks=marks), picture()),
        (picture(), replace(marked, marks=marks)),
    ):
        found = common_corners(view, seen, drawn, PLACES, PLACES)
        np.testing.assert_allclose(found.seen, PLACES[1:])


def test_a_corner_of_the_drawing_is_given_once_to_the_nearer() -> None:
    seen = np.array([[350.0, 300.0], [350.0, 330.0]])
    found = common_corners(VIEW, picture(), picture(), seen, np.array([[350.0, 325.0]]))
    assert found.seen == ((350.0, 330.0),)


def test_on_a_sheet_seen_aslant_they_are_found_as_well() -> None:
    corners = seen_from(35.0, 15.0, (1000.0, 1000.0))
    sheet = Sheet(tuple(map(tuple, 1500.0 + corners)), (1000.0, 1000.0))  # type: ignore[arg-type]
    size, of = np.array([1000.0, 1000.0]), 1500.0 + corners
    # The homography from mm to px by its four corners, solved anew.
    rows, right = [], []
    for (x, y), (u, v) in zip(
        [(0, 0), (size[0], 0), (size[0], size[1]), (0, size[1])], of, strict=True
    ):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    h = np.append(np.linalg.solve(np.array(rows, float), np.array(right)), 1.0).reshape(3, 3)

    def on_photo(at: np.ndarray) -> np.ndarray:
        lifted = np.column_stack([at, np.ones(len(at))]) @ h.T
        return lifted[:, :2] / lifted[:, 2:]

    marks = {key: Mark(*on_photo(np.array([place]))[0]) for key, place in EDGES.items()}
    photo = Picture("d.png", 4000, 4000, marks, sheet=sheet)
    found = common_corners(VIEW, picture(), photo, PLACES, on_photo(PLACES))
    np.testing.assert_allclose(found.seen, PLACES)
    np.testing.assert_allclose(found.drawn, on_photo(PLACES))


@pytest.mark.parametrize("lacking", ["marks", "seen", "drawn", "sheet"])
def test_without_a_fit_or_without_corners_there_are_none(lacking: str) -> None:
    seen, drawn, there = picture(), PLACES, PLACES
    other = picture()
    if lacking == "marks":
        two = {key: seen.marks[key] for key in ("top", "bottom")}
        seen = replace(seen, marks=two)
    elif lacking == "seen":
        there = np.empty((0, 2))
    elif lacking == "drawn":
        drawn = np.empty((0, 2))
    else:
        flat = ((0.0, 0.0), (10.0, 0.0), (20.0, 0.0), (30.0, 0.0))
        other = replace(other, sheet=Sheet(flat, (297.0, 420.0)))
    assert common_corners(VIEW, seen, other, there, drawn) == CommonCorners()
