"""Points made from marks, and all measures of several pictures in one go."""

from __future__ import annotations

import numpy as np
import pytest
from tests.puppet import Pose
from tests.studies import POSE, figure_marks, moved, study_of

from bralto.core.examination.assessment import assess
from bralto.core.measures.masses import ENOUGH, SEGMENTS, mass_weights, support
from bralto.core.measures.points import picture_points, point_table
from bralto.core.measures.table import measure_table, measure_tables
from bralto.core.study.frames import sight_marks
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_keys, view_named

VIEW = view_named("figure-front")


def picture(marks: dict[str, Mark]) -> Picture:
    return Picture("", 4000, 4000, marks)


@pytest.mark.parametrize("view", view_keys())
def test_every_point_that_is_there_weighs_its_marks_to_one(view: str) -> None:
    chosen = view_named(view)
    rng = np.random.default_rng(1)
    marks = {m.key: Mark(*rng.uniform(0, 900, 2).tolist()) for m in chosen.landmarks}
    sight, points = picture_points(chosen, picture(marks))
    assert points.weights[points.present].sum(axis=1) == pytest.approx(1.0)
    assert points.xy == pytest.approx(points.weights @ sight.xy)
    assert points.present.all() or view != "figure-front"


def test_the_lowest_and_the_outermost_are_chosen_in_sight_among_common_marks() -> None:
    marks = figure_marks() | {"toe_l": Mark(1500.0, 3000.0)}
    keys = list(marks)
    sight = sight_marks(picture(marks), keys)
    row = VIEW.point_rows
    whole = point_table(VIEW, sight, frozenset(keys))
    assert whole.xy[row["sole"]] == pytest.approx(sight.xy[keys.index("toe_l")])
    without = point_table(VIEW, sight, frozenset(keys) - {"toe_l"})
    assert without.xy[row["sole"], 1] > whole.xy[row["sole"], 1]
    # The middle of the feet lies between the outermost two, wherever the others are.
    across = [sight.xy[keys.index(k), 0] for k in ("heel_r", "heel_l", "toe_r", "toe_l")]
    middle = whole.xy[row["feet_middle"], 0]
    assert middle == pytest.approx((min(across) + max(across)) / 2.0)
    feet = [keys.index(k) for k in ("heel_r", "heel_l", "toe_r", "toe_l")]
    left, right = support(sight.xy, feet)
    assert sight.xy[left, 0] == min(across)
    assert sight.xy[right, 0] == max(across)


def test_masses_are_those_of_the_segments_whose_marks_are_there() -> None:
    keys = tuple(figure_marks())
    weights, mass = mass_weights(VIEW, keys)
    assert (mass, weights.sum()) == pytest.approx((1.0, 1.0), abs=1e-3)
    forearm = next(one for one in SEGMENTS if one.name == "forearm_l")
    hand = next(one for one in SEGMENTS if one.name == "hand_l")
    short = tuple("" if key == "fingertip_l" else key for key in keys)
    _, lesser = mass_weights(VIEW, short)
    assert mass - lesser == pytest.approx(hand.mass)
    none = tuple("" if key in {"wrist_l", "fingertip_l"} else key for key in keys)
    assert mass - mass_weights(VIEW, none)[1] == pytest.approx(hand.mass + forearm.mass)
    assert mass_weights(VIEW, ("crown",))[1] == 0.0
    assert mass_weights(VIEW, tuple("" if k == "pit_of_neck" else k for k in keys))[1] < ENOUGH


@pytest.mark.parametrize("view", view_keys())
def test_two_pictures_in_one_go_are_each_alone(view: str) -> None:
    chosen = view_named(view)
    rng = np.random.default_rng(4)
    tables = []
    for share in (1.0, 0.6):
        marks = {
            m.key: Mark(*rng.uniform(0, 900, 2).tolist())
            for m in chosen.landmarks
            if rng.uniform() <= share or m.key in chosen.axis  # which is of what both have
        }
        tables.append(picture_points(chosen, picture(marks))[1])
    for alone, both in zip(
        [measure_table(chosen, one) for one in tables], measure_tables(chosen, tables), strict=True
    ):
        assert np.array_equal(alone.ok, both.ok)
        assert alone.values == pytest.approx(both.values)
        assert alone.gradients == pytest.approx(both.gradients)
        assert alone.missing == both.missing


def test_gradients_over_marks_are_slopes_of_the_values() -> None:
    """Central differences through marks, points and formulas together; choices stay as they are."""
    marks = figure_marks()
    sight, points = picture_points(VIEW, picture(marks))
    table = measure_table(VIEW, points)
    step = 1e-4
    for at in range(0, len(sight.keys), 5):
        for axis in range(2):
            ends = []
            for sign in (1.0, -1.0):
                xy = sight.xy.copy()
                xy[at, axis] += sign * step
                shifted = type(points)(points.weights @ xy, points.present, points.weights)
                ends.append(measure_table(VIEW, shifted).values)
            slope = (ends[0] - ends[1]) / (2 * step)
            assert table.gradients[:, at, axis] == pytest.approx(slope, abs=1e-5)


def test_balance_says_which_way_the_weight_falls_and_that_it_crossed() -> None:
    """A figure whose upper body hangs over to one side, drawn hanging over to the other."""

    def leaning(by: float) -> dict[str, Mark]:
        upright = figure_marks(Pose())
        return {k: Mark(m.x + by * (820 - m.y), m.y, "seen", 0.5) for k, m in upright.items()}

    found = assess(study_of(leaning(0.1), leaning(-0.1))).reading("balance.feet")
    assert found.reference > 0.2
    assert found.drawing == pytest.approx(-found.reference, abs=1e-6)
    assert (found.verdict, found.note) == ("over", "falls to the other side")
    assert found.percent is None
    assert found.unit == "head"
    nearer = assess(study_of(leaning(0.1), leaning(0.02))).reading("balance.feet")
    assert (nearer.verdict, nearer.note) == ("under", "")
    turned = assess(study_of(figure_marks(POSE), moved(figure_marks(POSE), 2.0, (9, 9))))
    assert turned.reading("balance.feet").error == pytest.approx(0.0, abs=1e-9)
