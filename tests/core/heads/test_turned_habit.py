"""Who turns heads back to the front is told so by the record, and who does not is not."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
import pytest
from tests.core.heads.busts import bust_marks
from tests.core.heads.test_head_turned_in_a_drawing import study_of

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_habits import Habit, found_habits
from bralto.core.longitudinal.traits.trait_table import trait_named
from bralto.core.tolerances import GRADES

VIEW = "head-three-quarter"
Turns = Mapping[str, float]


def traits(around: float, share: float, rng: np.random.Generator) -> StudyTraits:
    """Of a sitter by chance, seen from there and drawn with that share of the turn by a hand of
    some 0.005 head; the share scatters by 0.04 from study to study."""
    face = {
        name: float(rng.uniform(0.94, 1.06))
        for name in ("width", "lower", "nose_out", "eyes_apart")
    }
    back = (1.0 - share - float(rng.normal(0.0, 0.04))) * around
    seen = bust_marks(VIEW, around, face=face, hand=0.7, rng=rng)
    drawn = bust_marks(VIEW, around, {"head.twist": back}, face=face, hand=2.5, rng=rng)
    found = keep_of(measured(study_of(VIEW, seen, drawn))).traits
    assert isinstance(found, StudyTraits)
    return found


def habit(share: float, seed: int) -> Habit:
    rng = np.random.default_rng(seed)
    studies = [traits(float(rng.uniform(28.0, 58.0)), share, rng) for _ in range(8)]
    return next(
        one for one in found_habits("head", studies, GRADES["developing"])
        if one.trait.key == "head_turn"
    )  # fmt: skip


def test_a_turn_drawn_at_four_fifths_is_a_habit_with_its_interval() -> None:
    found = habit(0.8, 5)
    assert found.state == "habit"
    assert found.low <= 0.8 <= found.high
    assert found.value == pytest.approx(0.8, abs=0.04)
    trait = trait_named("head_turn")
    assert trait is not None
    assert trait.less == "You turn heads back to the front"


def test_a_turn_drawn_as_it_is_seen_is_none() -> None:
    for seed in (1, 2):
        found = habit(1.0, seed)
        assert found.state in {"none", "slight", "open"}
        assert found.low <= 1.0 <= found.high


def habits(
    view: str, around: float, turns: Callable[[np.random.Generator], tuple[Turns, Turns]], seed: int
) -> dict[str, Habit]:
    """What eight heads say, each of a sitter by chance, seen and drawn as ``turns`` tells."""
    rng, studies = np.random.default_rng(seed), []
    for _ in range(8):
        face = {name: float(rng.uniform(0.94, 1.06)) for name in ("width", "lower", "nose_out")}
        seen_by, drawn_by = turns(rng)
        seen = bust_marks(view, around, seen_by, face=face, hand=0.7, rng=rng)
        drawn = bust_marks(view, around, drawn_by, face=face, hand=2.5, rng=rng)
        found = keep_of(measured(study_of(view, seen, drawn))).traits
        assert isinstance(found, StudyTraits)
        studies.append(found)
    return {one.trait.key: one for one in found_habits("head", studies, GRADES["developing"])}


VIEWS = [("head-front", 5.0), ("head-three-quarter", 44.0), ("head-profile", 90.0)]


@pytest.mark.parametrize(("view", "around"), VIEWS)
@pytest.mark.parametrize(("joint", "key"), [("nod", "head_raise"), ("lean", "head_tip")])
def test_heads_set_level_or_upright_are_told_with_their_share(
    view: str, around: float, joint: str, key: str
) -> None:
    """Seen raised, bowed or tipped by up to 25 degrees, drawn at seven tenths of it: that is one
    habit and no other."""

    def turns(rng: np.random.Generator) -> tuple[Turns, Turns]:
        by = float(rng.uniform(12.5, 25.0) * rng.choice([-1.0, 1.0]))
        return {f"head.{joint}": by}, {f"head.{joint}": 0.7 * by}

    found = habits(view, around, turns, 4)
    assert found[key].state == "habit"
    assert found[key].value == pytest.approx(0.7, abs=0.04)
    assert [one for one, habit in found.items() if habit.state == "habit"] == [key]


@pytest.mark.parametrize(("view", "around"), VIEWS)
@pytest.mark.parametrize("nod", [8.0, -8.0])
def test_a_chin_raised_or_dropped_is_one_habit(view: str, around: float, nod: float) -> None:
    """A head that nods takes crown, eyes, ears and chin along: no long chin, no high eyes, as its
    marks said in the picture's plane alone."""
    found = habits(
        view, around, lambda rng: ({}, {"head.nod": nod + float(rng.normal(0.0, 1.0))}), 4
    )
    forms = {"chin", "eyes", "ears", "nose", "skull", "features", "lower_face", "width", "lean"}
    told = {one for one, habit in found.items() if habit.state == "habit"}
    assert told & (forms | {"chin_up", "head_turn"}) == {"chin_up"}
    # The model's joint counts a bow as above 0.
    assert found["chin_up"].low - 0.5 <= -nod <= found["chin_up"].high + 0.5


def test_a_face_that_looks_at_you_is_told_by_degrees_and_not_by_its_share() -> None:
    """Seen 5 degrees from the front, a share of the turn would be nonsense."""
    found = habits("head-front", 5.0, lambda _: ({}, {"head.twist": 8.0}), 4)
    assert found["face_aside"].state == "habit"
    assert found["face_aside"].value == pytest.approx(8.0, abs=1.5)
    assert "head_turn" not in found
    assert [one for one, habit in found.items() if habit.state == "habit"] == ["face_aside"]


def test_a_study_says_how_far_the_head_was_seen_and_drawn_turned() -> None:
    ((one,),) = [traits(44.0, 0.75, np.random.default_rng(2)).pairs["head_turn"]]
    assert one.seen == pytest.approx(-44.0, abs=4.0)
    assert one.drawn / one.seen == pytest.approx(0.75, abs=0.1)
    assert 0.1 < one.u_drawn < 2.0
