"""Pooled placings, foreshortened limbs and the cross lines of a turned head, by construction."""

from __future__ import annotations

import math

import numpy as np
import pytest
from tests.puppet import Pose
from tests.studies import figure_marks

from bralto.core.discover.cross_lines import read_cross_lines
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.foreshortening import foreshortened, surely_foreshortened
from bralto.core.marking.repeats import by_kind, kind_of, pooled_spread, together
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named


def figure(marks: dict[str, Mark], view: str = "figure-front") -> Figure:
    found = figure_of(view_named(view), Picture("", 4000, 4000, marks))
    assert isinstance(found, Figure)
    return found


def test_the_pooled_spread_is_that_of_pencil_and_paper() -> None:
    """Two marks: (0,0) (2,0) about (1,0) and three on a line; 2 + 8 over 2 (1 + 2) degrees."""
    found = pooled_spread([[(0, 0), (2, 0)], [(10, 8), (10, 10), (10, 12)], [(5, 5)]])
    assert found.degrees == 6
    assert found.spread == pytest.approx(math.sqrt(10 / 6))
    assert isinstance(pooled_spread([[(1, 1)], []]), NotMeasurable)


def test_the_pooled_spread_finds_the_hand_that_made_it() -> None:
    rng = np.random.default_rng(5)
    placings = [rng.normal(rng.uniform(0, 900, 2), 1.8, (3, 2)) for _ in range(400)]
    found = pooled_spread(placings)
    assert found.spread == pytest.approx(1.8, abs=3 * found.u)
    assert found.u == pytest.approx(1.8 / math.sqrt(2 * 1600), rel=0.1)


@pytest.mark.parametrize("slant", [10.0, 35.0, 60.0])
def test_a_limb_that_comes_forward_is_shorter_by_the_cosine(slant: float) -> None:
    """The other arm, straight down in the plane, gives the full length."""
    marks = figure_marks(Pose(arms=dict.fromkeys("rl", (0.0, 0.0, 0.0))))
    shoulder, elbow = marks["shoulder_r"], marks["elbow_r"]
    share = math.cos(math.radians(slant))
    marks["elbow_r"] = Mark(elbow.x, shoulder.y + share * (elbow.y - shoulder.y), "seen", 1.5)
    found = foreshortened(figure(marks), "span.upper_arm_r")
    assert found.slant == pytest.approx(slant)
    assert found.ratio == pytest.approx(share)
    given = foreshortened(figure(marks), "span.upper_arm_r", full=found.full)
    assert given.slant == pytest.approx(slant)
    # Two spans without a mark in common: each of sqrt 2 of 1.5 px over 135 px; heads cancel.
    by_hand = math.sqrt(2.0) * 1.5 / 135.0 * math.sqrt(1.0 + share**2)
    assert found.u_ratio == pytest.approx(by_hand, rel=1e-9)
    # Below 15 % a pose and two hands make as much of it: at 10 degrees it is 1.5 %, at 35 18 %.
    told = [one.measure for one in surely_foreshortened(figure(marks))]
    assert ("span.upper_arm_r" in told) == (slant > 31.8)
    longer = foreshortened(figure(marks), "span.upper_arm_l")
    assert isinstance(longer, NotMeasurable)
    assert "the other that is foreshortened" in longer.reason


def test_near_the_plane_the_slant_has_no_first_order_doubt() -> None:
    marks = figure_marks(Pose())
    whole = foreshortened(figure(marks), "span.forearm_r", full=2.0)
    assert whole.u_slant is not None
    found = foreshortened(figure(marks), "span.forearm_r", full=1.0001 * whole.apparent)
    assert found.slant < 1.0
    assert found.u_slant is None
    assert isinstance(foreshortened(figure(marks), "tilt.hips"), NotMeasurable)
    assert isinstance(foreshortened(figure(marks), "span.torso"), NotMeasurable)


def head(lines: dict[str, tuple[tuple[float, float], tuple[float, float]]]) -> Figure:
    marks = {"crown": Mark(500, 100, "seen", 0.3), "chin": Mark(500, 900, "seen", 0.3)}
    marks["nose_base"] = Mark(500, 600, "seen", 0.3)
    for name, (right, left) in lines.items():
        marks[f"{name}_r"], marks[f"{name}_l"] = (Mark(x, y, "seen", 0.3) for x, y in (right, left))
    return figure(marks, "head-front")


def towards(vanishing: tuple[float, float], right: tuple[float, float], x: float) -> tuple:
    """The other end of a line that runs to a vanishing point (px, y down)."""
    share = (x - right[0]) / (vanishing[0] - right[0])
    return right, (x, right[1] + share * (vanishing[1] - right[1]))


def test_lines_that_run_to_one_point_meet_there() -> None:
    """A point 2500 px to the right of the nose, at eye level: heads are 800 px."""
    point = (3000.0, 480.0)
    found = read_cross_lines(
        head({
            "brow": towards(point, (330, 400), 670), "eye_outer": towards(point, (320, 490), 680),
            "nostril": towards(point, (440, 610), 560),
            "mouth_corner": towards(point, (400, 720), 600),
        })
    )  # fmt: skip
    assert not found.parallel
    assert found.vanishing == pytest.approx((2500 / 800, 120 / 800), abs=1e-6)
    assert found.spread == pytest.approx(0.0, abs=1e-9)


def test_level_lines_are_parallel_and_one_line_is_too_few() -> None:
    level = {"brow": ((330, 400), (670, 400.2)), "mouth_corner": ((400, 700), (600, 700))}
    found = read_cross_lines(head(level))
    assert (found.parallel, found.vanishing) == (True, None)
    assert isinstance(read_cross_lines(head({"brow": level["brow"]})), NotMeasurable)


def test_a_hand_is_known_by_kinds_of_landmarks_and_pooled_over_evenings() -> None:
    assert [kind_of(key) for key in ("knee_r", "crown", "navel", "far_temple", "toe_l")] == [
        "bony", "end", "soft", "bony", "end",
    ]  # fmt: skip
    # By hand: two placings a mark, 2 px apart across: s^2 = 2 / 2 = 1 a kind; the head has 100 px.
    placings = {
        "knee_r": [(0.0, 0.0), (2.0, 0.0)], "knee_l": [(5.0, 5.0), (7.0, 5.0)],
        "navel": [(0.0, 0.0), (0.0, 4.0)],
    }  # fmt: skip
    found = by_kind(placings, 100.0)
    assert set(found) == {"bony", "soft"}
    assert (found["bony"].spread, found["bony"].degrees) == (pytest.approx(0.01), 4)
    assert (found["soft"].spread, found["soft"].degrees) == (pytest.approx(0.02), 2)
    pooled = together({"soft": (0.01, 6)}, found)
    # sqrt((6 * 1 + 2 * 4) / 8) hundredths
    assert pooled["soft"] == (pytest.approx(0.01 * math.sqrt(14 / 8)), 8)
    assert pooled["bony"] == (pytest.approx(0.01), 4)
