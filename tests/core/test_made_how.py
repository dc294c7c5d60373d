"""Answers on how a drawing was made, against how close it came."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats
from tests.core.test_selection import counted

from bralto.core.longitudinal.made_how import FEWEST_EACH, questions_told
from bralto.core.longitudinal.selection import Counted


def studies(yes: float, no: float, many: int, seed: int = 1, key: str = "plumb") -> list[Counted]:
    """So many drawings with yes, and with no, that miss by about that much."""
    rng = np.random.default_rng(seed)
    out = []
    for number in range(2 * many):
        answer = "yes" if number % 2 else "no"
        one = counted(number)
        miss = (yes if answer == "yes" else no) * float(np.exp(rng.normal(0.0, 0.25)))
        tracked = one.summary.tracked._replace(value=miss)
        out.append(
            one._replace(answers=((key, answer),), summary=one.summary._replace(tracked=tracked))
        )
    return out


def test_what_goes_with_closer_drawings_is_told_with_its_interval() -> None:
    """The interval is Welch's, as SciPy has it."""
    found = studies(0.06, 0.10, 20)
    (told,) = questions_told(found)
    assert told.words.startswith("Was it checked on a plumb line? With yes ")
    assert told.words.endswith("% closer.")
    logs = {
        answer: [np.log(one.summary.tracked.value) for one in found
                 if dict(one.answers)["plumb"] == answer]
        for answer in ("yes", "no")
    }  # fmt: skip
    theirs = stats.ttest_ind(logs["yes"], logs["no"], equal_var=False).confidence_interval()
    ends = sorted(-100.0 * np.expm1([theirs.low, theirs.high]))
    assert (told.low, told.high) == pytest.approx(ends, rel=1e-6)
    assert told.low < 40.0 < told.high


def test_drawings_that_are_further_off_are_told_too() -> None:
    (told,) = questions_told(studies(0.12, 0.06, 20))
    assert "further off" in told.words
    assert "-" not in told.words


def test_what_the_data_cannot_carry_is_not_told() -> None:
    assert questions_told(studies(0.06, 0.10, FEWEST_EACH - 1)) == ()
    assert questions_told(studies(0.08, 0.08, 12)) == ()
    partly = [one._replace(answers=(("plumb", "partly"),)) for one in studies(0.06, 0.10, 20)]
    assert questions_told(partly) == ()
    assert questions_told([]) == ()
    alike = [one._replace(summary=counted(0).summary) for one in studies(0.06, 0.10, 20)]
    assert questions_told(alike) == ()


def test_of_many_questions_asked_of_nothing_hardly_one_is_told() -> None:
    told = sum(bool(questions_told(studies(0.08, 0.08, 10, seed))) for seed in range(200))
    assert told <= 25  # a tenth, and what chance makes of 200
