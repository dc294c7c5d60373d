"""The half year of the demo: its truth is written down, and the record finds it."""

from __future__ import annotations

import numpy as np
import pytest

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.traits.comparison import compared
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_habits import found_habits
from bralto.core.longitudinal.traits.trait_table import trait_named
from bralto.core.tolerances import GRADES
from bralto.stand.evening_class import demo_study
from bralto.stand.half_year import SITTINGS, half_year_habits


@pytest.fixture(scope="module")
def traits() -> list[StudyTraits]:
    """Of all twenty-one, oldest first."""
    out = []
    for number in range(len(SITTINGS)):
        study = demo_study("half year", number, pictures=False).study
        kept = keep_of(measured(study)).traits
        assert isinstance(kept, StudyTraits)
        out.append(kept)
    return out


@pytest.mark.parametrize(("kind", "number"), [("half year", 4), ("figure", 3), ("head", 0)])
def test_marks_are_the_same_with_pictures_and_without(kind: str, number: int) -> None:
    whole, marks = demo_study(kind, number), demo_study(kind, number, pictures=False)
    assert marks.study == whole.study
    assert marks.pictures == {}
    assert set(whole.pictures) == {one.file for one in whole.study.pictures().values()}


def test_the_record_finds_the_three_habits_that_were_told(traits: list[StudyTraits]) -> None:
    told = {one.trait.key: one for one in found_habits("figure", traits[:11], GRADES["developing"])}
    truth = [half_year_habits(number) for number in range(11)]
    head = np.mean([one.parts["head"] for one in truth]) - 1.0
    width = np.mean([one.width for one in truth]) - 1.0
    straight = np.mean([one.straight for one in truth])
    for key, true in (("head", head), ("width", width)):
        assert told[key].state == "habit"
        assert told[key].value == pytest.approx(true, abs=0.02)
    assert told["counter_tilt"].low < straight < told["counter_tilt"].high
    assert {key for key, one in told.items() if one.state == "habit"} <= {
        "head", "width", "tilts", "counter_tilt", "leans",
    }  # fmt: skip


def test_one_of_them_is_overcome_by_july(traits: list[StudyTraits]) -> None:
    assert half_year_habits(len(SITTINGS) - 1).width == 1.0
    change = compared("figure", trait_named("width"), traits[:8], traits[-8:])
    assert change.told
    assert change.helped
    before, after = (
        np.mean([half_year_habits(n).width for n in some]) for some in (range(8), range(13, 21))
    )
    assert change.low < after / before - 1.0 < change.high
    head = compared("figure", trait_named("head"), traits[:8], traits[-8:])
    assert not head.told  # that one stays


def test_there_is_a_pause_in_summer_and_a_second_view() -> None:
    days = [days for days, *_ in SITTINGS]
    assert days == sorted(days)
    assert days[-1] < 140  # from 3 March on: the loft is closed in August
    assert {view for *_, view in SITTINGS} == {"figure-front", "figure-back"}
