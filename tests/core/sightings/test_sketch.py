"""The few strokes of what was sighted, for a card."""

from __future__ import annotations

import numpy as np
import pytest
from tests.core.sightings.sitters import places, sighted

from bralto.core.sightings.figure.sketch import HEAD_WIDE, bones, sketch_of
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")
TILT = Sighting(Sort.TILT, ("shoulder_r", "shoulder_l"), -10.0, 2.0)
WIDTH = Sighting(Sort.LENGTH, ("shoulder_r", "shoulder_l"), 2.0, 0.05)


def test_nothing_sighted_is_no_stroke() -> None:
    assert sketch_of(FRONT, ()) == ()


def test_a_line_that_is_sighted_stands_at_its_slope_and_nothing_else_is_drawn() -> None:
    """Ten degrees clockwise from right to left shoulder: y grows downwards to the viewer's
    right."""
    strokes = sketch_of(FRONT, (TILT, WIDTH))
    assert strokes
    (line,) = [one for one in strokes if len(one) == 2]
    (x0, y0), (x1, y1) = line
    slope = np.degrees(np.arctan2(y1 - y0, x1 - x0))
    assert slope == pytest.approx(10.0, abs=1.0)


def test_a_whole_figure_is_one_high_with_its_head_three_quarters_as_wide() -> None:
    usual = ("span.figure", "height.crotch", "span.shoulders", "tilt.shoulders", "span.thigh_r",
             "span.thigh_l", "span.shank_r", "span.shank_l", "tilt.thigh_r", "tilt.shank_r",
             "offset.knee_r", "offset.knee_l", "height.knees", "offset.heel_r")  # fmt: skip
    ids = {one.id for one in FRONT.measures}
    items = sighted("figure-front", places("figure-front"), *(one for one in usual if one in ids))
    strokes = sketch_of(FRONT, items)
    every = np.array([place for stroke in strokes for place in stroke])
    np.testing.assert_allclose([every.min(), every[:, 1].max()], [0.0, 1.0], atol=1e-9)
    (egg,) = [np.array(one) for one in strokes if len(one) > 2]
    assert egg[0] == pytest.approx(egg[-1], abs=2e-3)
    wide, high = np.ptp(egg, axis=0)
    assert wide / high == pytest.approx(HEAD_WIDE, abs=0.05)
    assert egg[:, 1].min() == 0.0  # nothing is higher than the crown
    assert sum(len(one) == 2 for one in strokes) >= 1


def test_a_head_of_which_alone_something_is_told_is_no_portrait() -> None:
    """Shoulders leave room below: with a head as high as its card it would pass for a head study,
    which fills its card."""
    strokes = sketch_of(FRONT, (WIDTH,))
    every = np.array([place for stroke in strokes for place in stroke])
    (egg,) = [np.array(one) for one in strokes if len(one) > 2]
    assert every.min() == 0.0
    assert np.ptp(egg[:, 1]) == pytest.approx(0.25, abs=2e-3)
    face = view_named("head-front")
    (whole, *_) = (one.id for one in face.measures if one.id.startswith("span."))
    alone = sketch_of(face, sighted("head-front", places("head-front"), whole))
    assert max(y for stroke in alone for _, y in stroke) == pytest.approx(1.0)


def test_bones_are_the_spans_of_parts_whose_marks_are_both_known() -> None:
    assert bones(FRONT, ("shoulder_r", "elbow_r", "knee_l")) == [("shoulder_r", "elbow_r")]
    assert FRONT.head not in bones(FRONT, [one.key for one in FRONT.landmarks])


def test_an_outline_of_two_marks_is_one_line_not_one_there_and_one_back() -> None:
    """Dashes of both would fill each other's gaps, and what is doubtful would look sure."""
    assert bones(view_named("head-front"), ("crown", "chin")) == [("crown", "chin")]
