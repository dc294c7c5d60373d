"""Who turns heads back to the front is told so by the record, and who does not is not."""

from __future__ import annotations

import numpy as np
import pytest
from tests.core.heads.busts import bust_marks
from tests.core.heads.test_head_turned_in_a_drawing import study_of

from bralto.core.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.study_traits import StudyTraits
from bralto.core.longitudinal.trait_habits import Habit, found_habits
from bralto.core.longitudinal.trait_table import trait_named
from bralto.core.tolerances import GRADES

VIEW = "head-three-quarter"


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


def test_a_study_says_how_far_the_head_was_seen_and_drawn_turned() -> None:
    ((one,),) = [traits(44.0, 0.75, np.random.default_rng(2)).pairs["head_turn"]]
    assert one.seen == pytest.approx(-44.0, abs=4.0)
    assert one.drawn / one.seen == pytest.approx(0.75, abs=0.1)
    assert 0.1 < one.u_drawn < 2.0
