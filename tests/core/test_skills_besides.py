"""The bend that was kept, as the record counts it: without a mark, pushed, of each state."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import study_of

from bralto.core.action.sweeps import WHOLE
from bralto.core.corrections.push import POSE, push_intent
from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.skills_besides import bend_of_study
from bralto.core.study.values import Point, State, Study


def arc(turn_deg: float, at: float = 500.0) -> tuple[Point, ...]:
    """Seven points on an arc 1,500 px long that stands upright, image px (closed form)."""
    turn = np.radians(turn_deg)
    angles = np.linspace(-0.5 * turn, 0.5 * turn, 7)
    radius = 1500.0 / turn
    return tuple(
        (float(at + radius * (1.0 - np.cos(a))), float(2000.0 + radius * np.sin(a))) for a in angles
    )


def stroked(seen: tuple[Point, ...], *drawn: tuple[Point, ...]) -> Study:
    """A study without a mark, with a sweep on the reference and on each state."""
    bare = study_of({}, {})
    assert bare.reference is not None
    picture = bare.states[0].picture
    states = tuple(
        State(f"state {i}", replace(picture, curves={WHOLE: line} if line else {}))
        for i, line in enumerate(drawn)
    )
    return replace(bare, reference=replace(bare.reference, curves={WHOLE: seen}), states=states)


def test_without_a_mark_a_straightened_sweep_is_so_far_from_all_of_its_bend() -> None:
    # Leans at 70 % make of an arc of 60 degrees one of 42: 30 % of the bend are lost.
    study = stroked(arc(60.0), arc(42.0))
    found = bend_of_study(study)
    assert found is not None
    assert (found.skill, found.unit) == ("bend", "fraction")
    assert found.value == pytest.approx(0.30, abs=0.01)
    assert 0.0 < found.u < 0.2
    summary = keep_of(measured(study), study.guesses, (found,)).summary
    assert summary.skill("bend") == found
    overdone = bend_of_study(stroked(arc(60.0), arc(78.0)))
    assert overdone is not None
    assert overdone.value == pytest.approx(0.30, abs=0.02)


def test_it_is_held_against_what_is_meant() -> None:
    study = replace(stroked(arc(40.0), arc(60.0)), intents=(push_intent(POSE, 1.5),))
    found = bend_of_study(study)
    assert found is not None
    assert found.value == pytest.approx(0.0, abs=0.02)


def test_each_state_has_its_own_and_without_both_sweeps_there_is_none() -> None:
    study = stroked(arc(60.0), arc(30.0), arc(60.0), ())
    values = [bend_of_study(study, state) for state in study.states]
    assert [None if one is None else round(one.value, 1) for one in values] == [0.5, 0.0, None]
    assert bend_of_study(study) is None  # the latest
    assert bend_of_study(replace(study, reference=None)) is None
