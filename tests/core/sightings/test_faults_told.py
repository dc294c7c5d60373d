"""What a sighting would do for what a drawing is told."""

from __future__ import annotations

import math
from statistics import NormalDist

import numpy as np
import pytest
from tests.core.sightings.sitters import by_the_tool, implied, picture, places, posed, sighted

from bralto.core.corrections.candidates.moves import Move
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.sightings.faults_told import faults_told
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.implied import Implied
from bralto.core.sightings.next_sighting import candidates
from bralto.core.sightings.sighting_words import asked
from bralto.core.study.taken import Sighting, Sightings
from bralto.core.study.values import State, Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")
DEVELOPING = FRONT.grade("developing")
FIRST = ("span.figure", "tilt.shoulders", "span.forearm_r", "span.shank_l", "span.shank_r")
"""Some that are sighted."""

SCALED, TILTED = 0.15, math.radians(8.0)


def _slope(known: Implied, one: Sighting, view: View = FRONT) -> np.ndarray:
    """How a sighting goes with the marks."""
    at = Sighter(view, known.points).on(one)
    assert at is not None
    return np.asarray(at.gradient.ravel())


def _told(known: Implied, asked: tuple[Sighting, ...], view: View = FRONT) -> np.ndarray:
    slopes = np.array([_slope(known, one, view) for one in asked])
    own = [slope @ known.cov @ slope + one.u**2 for slope, one in zip(slopes, asked, strict=True)]
    grade = view.grade("developing")
    return faults_told(view, known, grade, known.cov, slopes @ known.cov, np.array(own))


def _after(known: Implied, slope: np.ndarray, u: float) -> np.ndarray:
    """Covariance of the marks once that was sighted too: one row more of least squares."""
    told = known.cov @ slope
    return np.asarray(known.cov - np.outer(told, told) / (slope @ told + u * u))


def _away(way: np.ndarray, beside: list[np.ndarray], root: np.ndarray) -> float:
    """Length of a way beside others, in the metric W^T W, by least squares over all of them."""
    white = root @ np.column_stack(beside)
    goal = root @ way
    fitted = np.linalg.lstsq(white, goal, rcond=None)[0]
    return float(np.linalg.norm(goal - white @ fitted))


def _log_chances(known: Implied, cov: np.ndarray) -> float:
    """By the words of docs/measurement.md, 11, each fault by itself."""
    marks = known.marks.xy
    n = len(marks)
    moves = moves_for(FRONT, known.marks.keys).bound(marks)
    fields = moves.tangents(marks).reshape(-1, 2 * n)
    rows = np.cumsum(moves.sizes) - moves.sizes
    single: list[tuple[Move, np.ndarray]] = [
        (move, fields[row]) for move, row in zip(moves.moves, rows, strict=True)
        if move.size == 1 and move.kind not in {"straighten", "swing", "shift"}
    ]  # fmt: skip
    hand = (0.25 * DEVELOPING.head) ** 2
    root = np.linalg.inv(np.linalg.cholesky(cov + hand * np.eye(2 * n)))
    free = [np.tile([1.0, 0.0], n), np.tile([0.0, 1.0], n), marks.ravel()]
    total, normal = 0.0, NormalDist()
    for move, way in single:
        if not move.usual or move.of_pair:
            continue
        drawn = {"scale": SCALED, "tilt": TILTED}[move.kind]
        far = drawn * _away(way, free, root)
        others = [other for one, other in single if one.part != move.part]
        apart = drawn * min(_away(way, [*free, other], root) for other in others)
        total += math.log(0.1 + normal.cdf((far - 3.0) / 2.0) * normal.cdf(apart / 2.0))
    return total


def test_it_is_what_least_squares_with_one_row_more_would_tell() -> None:
    """Against the whole problem solved anew, one fault after the other."""
    known = implied(FRONT, sighted(FRONT, places("figure-front"), *FIRST))
    wanted = {"span.thigh_l", "span.upper_arm_r", "tilt.hips", "alignment.elbow_ribs_l"}
    asked = tuple(one for one in candidates(FRONT, known) if one.measure in wanted)
    assert len(asked) == len(wanted)
    now = _log_chances(known, known.cov)
    for one, value in zip(asked, _told(known, asked), strict=True):
        after = _log_chances(known, _after(known, _slope(known, one), one.u))
        assert value == pytest.approx(after - now, abs=1e-6)
        assert value > 0.0


def test_what_is_known_already_is_worth_less() -> None:
    """Of an arm that was sighted either part again; the other arm's as much as before, about."""
    marks = places("figure-front", 1)
    arm = ("span.forearm_r", "span.upper_arm_r")

    def worth(*names: str) -> dict[str, float]:
        known = implied(FRONT, sighted(FRONT, marks, "span.figure", "span.shoulders", *names))
        wanted = {*arm, *(name.replace("_r", "_l") for name in arm)}
        asked = tuple(one for one in candidates(FRONT, known) if one.measure in wanted)
        return dict(zip((one.measure for one in asked), _told(known, asked), strict=True))

    before, after = worth(), worth(*arm)
    for name in arm:
        assert after[name] < 0.5 * before[name]
        other = name.replace("_r", "_l")
        assert after[other] > 0.7 * before[other]


def test_a_head_has_no_usual_faults_to_be_told() -> None:
    view = view_named("head-front")
    known = implied(view, ())
    asked = candidates(view, known)[:6]
    assert len(asked) == 6
    assert _told(known, asked, view).tolist() == [0.0] * 6


def test_a_drawing_with_a_long_arm_is_told_so_by_what_the_tool_asks_for() -> None:
    """Six bodies, twenty sightings each; `make sightings` counts hundreds."""
    rng, named = np.random.default_rng(4), 0
    for number in range(6):
        marks = places("figure-front", number)
        items = by_the_tool(FRONT, marks, 20, seed=number)
        drawn = dict(marks)
        for key in ("elbow_r", "wrist_r", "fingertip_r"):
            drawn[key] = marks["shoulder_r"] + (1.0 + SCALED) * (marks[key] - marks["shoulder_r"])
        state = State("first", picture(drawn, 1.5, rng, 1.5))
        study = Study("from life", FRONT.key, None, (state,), grade="developing",
                      sightings=Sightings(items))  # fmt: skip
        found = assess(study, corrections=True).corrections
        assert not isinstance(found, NotMeasurable)
        named += any(one.part == "arm_r" for one in found)
    assert named >= 5


def test_a_share_is_asked_only_where_the_mark_is_expected_between() -> None:
    """Fingertips above the crotch are not so far down between crotch and knee: nobody could answer;
    and where one hangs otherwise than expected, the question says what to do."""
    name = "fraction.fingertip_thigh_l"
    hangs = implied(FRONT, ())
    assert name in {one.measure for one in candidates(FRONT, hangs)}
    raised = sighted(FRONT, posed("reaching-up"), "span.figure", "height.fingertip_l",
                     "height.wrist_l", "height.crotch")  # fmt: skip
    assert raised[1].value < raised[3].value  # the fingertip is the higher one
    known = implied(FRONT, raised)
    assert name not in {one.measure for one in candidates(FRONT, known)}
    one = next(one for one in candidates(FRONT, hangs) if one.measure == name)
    assert "if it is not between them, take another" in asked(FRONT, one).how
