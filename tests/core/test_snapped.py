"""Marks that were brought to a line: known more closely across it, in every figure made of them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import figure_marks, seen_from, study_of

from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.remedies import remedied_picture
from bralto.core.examination.assessment import assess
from bralto.core.study.frames import sight_marks
from bralto.core.study.snapped import ACROSS_PX, SNAPPED, mark_covariance, snapped_to, unsnapped
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, Sheet
from bralto.core.views.shipped_views import view_named


def test_across_the_line_a_snapped_mark_is_known_to_a_pixel_and_along_it_as_before() -> None:
    mark = snapped_to(Mark(10.0, 20.0, spread=2.0), 11.0, 21.0, 90.0)
    (cov,) = mark_covariance([mark])
    # One px of the picture, uniform: a variance of 1/12 (JCGM 100:2008, F.2.2.1).
    np.testing.assert_allclose(cov, [[4.0, 0.0], [0.0, 1.0 / 12.0]], atol=1e-12)
    slanting = snapped_to(Mark(0.0, 0.0, spread=2.0), 0.0, 0.0, 30.0)
    (cov,) = mark_covariance([slanting])
    across = np.array([np.cos(np.pi / 6.0), np.sin(np.pi / 6.0)])
    along = np.array([-across[1], across[0]])
    assert across @ cov @ across == pytest.approx(1.0 / 12.0)
    assert along @ cov @ along == pytest.approx(4.0)
    assert along @ cov @ across == pytest.approx(0.0, abs=1e-12)
    (cov,) = mark_covariance([unsnapped(slanting)])
    np.testing.assert_allclose(cov, 4.0 * np.eye(2))


def test_a_finer_mark_is_not_made_coarser_by_its_line() -> None:
    fine = snapped_to(Mark(0.0, 0.0, spread=0.1), 0.0, 0.0, 0.0)
    np.testing.assert_allclose(mark_covariance([fine])[0], 0.01 * np.eye(2))


@pytest.mark.parametrize(
    "line",
    [None, 3, [90.0, 0.3], {}, {"across_deg": "90", "spread": 0.3}, {"across_deg": 90.0},
     {"across_deg": float("nan"), "spread": 0.3}, {"across_deg": 90.0, "spread": -1.0},
     {"across_deg": 90.0, "spread": 5.0}, {"across_deg": True, "spread": 0.1}],
)  # fmt: skip
def test_what_is_no_line_in_a_file_counts_as_none(line: object) -> None:
    mark = Mark(0.0, 0.0, spread=2.0, extra={SNAPPED: line})
    np.testing.assert_array_equal(mark_covariance([mark])[0], 4.0 * np.eye(2))


def test_on_a_sheet_seen_aslant_both_doubts_are_carried_as_a_monte_carlo_run_has_them() -> None:
    corners = seen_from(35.0, 20.0, (297.0, 420.0)) + 300.0
    sheet = Sheet(tuple(map(tuple, corners)), (297.0, 420.0), spread=0.4)  # type: ignore[arg-type]
    at = corners.mean(axis=0) + np.array([12.0, -9.0])
    mark = snapped_to(Mark(*at, spread=1.8), *at, 35.0)
    picture = Picture("x.png", 900, 900, {"crown": mark}, sheet=sheet)
    found = sight_marks(picture, ["crown"])
    rng = np.random.default_rng(3)
    turn = np.radians(35.0)
    steps = rng.normal(size=(40_000, 2)) * (ACROSS_PX, 1.8)
    steps = steps @ [[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]]
    steps += rng.normal(0.0, 0.4, (40_000, 2))
    names = [f"m{i}" for i in range(len(steps))]
    marks = {k: Mark(*(at + step), spread=0.0) for k, step in zip(names, steps, strict=True)}
    told = sight_marks(replace(picture, marks=marks), names)
    np.testing.assert_allclose(np.cov(told.xy.T), found.cov[0], rtol=0.05, atol=2e-3)


def test_a_crown_snapped_to_the_top_of_its_line_makes_heights_surer_and_no_offset() -> None:
    study = study_of(figure_marks(), figure_marks(scale=80.0))
    (state,) = study.states
    crown = state.picture.marks["crown"]
    marks = {**state.picture.marks, "crown": snapped_to(crown, crown.x, crown.y, 90.0)}
    snapped = study.with_state(replace(state, picture=replace(state.picture, marks=marks)))
    before, after = assess(study), assess(snapped)
    height = "height.crotch"
    assert after.reading(height).u < 0.97 * before.reading(height).u
    assert after.reading(height).error == pytest.approx(before.reading(height).error)
    sideways = [one.spec.id for one in before.readings if one.spec.id.startswith("offset.")]
    assert sideways
    for name in sideways:
        assert after.reading(name).u <= before.reading(name).u * (1.0 + 1e-9)


def test_a_mirrored_picture_mirrors_the_line_as_well() -> None:
    mark = snapped_to(Mark(30.0, 40.0, spread=2.0), 30.0, 40.0, 30.0)
    picture = Picture("x.png", 100, 100, {"crown": mark})
    doubt = Doubt("mirrored", (), Board.DRAWING, "mirror", "")
    there = remedied_picture(view_named("figure-front"), picture, doubt).marks["crown"]
    assert (there.x, there.y) == (70.0, 40.0)
    flip = np.diag([-1.0, 1.0])
    np.testing.assert_allclose(
        mark_covariance([there])[0], flip @ mark_covariance([mark])[0] @ flip, atol=1e-9
    )
