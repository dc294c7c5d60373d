"""A sitter by chance: possible, another each time, and such as a life class has them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

import pytest

from bralto.core.mannequin.setting import Setting
from bralto.core.mannequin.sitter_by_chance import sitter_by_chance


@pytest.fixture(scope="module")
def many() -> Sequence[Setting]:
    return [sitter_by_chance(seed) for seed in range(120)]


@pytest.mark.parametrize("number", range(0, 120, 8))
def test_it_is_possible_and_the_same_for_the_same_seed(
    many: Sequence[Setting], number: int
) -> None:
    assert many[number].checked() == sitter_by_chance(number)
    assert many[number].subject == "figure"


def test_it_is_seldom_the_one_before(many: Sequence[Setting]) -> None:
    """Half stand as chance has it, none of them twice; the others are known poses."""
    titles = Counter(one.title for one in many)
    # 60 of 120 are expected; 4 SD of a fair coin are 22.
    assert titles["By chance"] == pytest.approx(60, abs=22)
    turns = [tuple(one.pose.turns.items()) for one in many if one.title == "By chance"]
    assert len(set(turns)) == titles["By chance"]
    assert len(titles) > 15
    assert len({one.build.key for one in many}) == 5


def test_they_sit_and_lie_too_and_are_grown_up(many: Sequence[Setting]) -> None:
    titles = " ".join(one.title for one in many)
    for how in ("Sitting", "Kneeling", "Lying", "back"):
        assert how in titles
    assert all(1.6 < one.build.height_m < 1.9 for one in many)
