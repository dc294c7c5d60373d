"""Advice that is kept: only of the very same marks, and it is what a search would find."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.corrections.push import POSE, push_intent
from bralto.core.examination import examine as examining
from bralto.core.examination.advice import Advice
from bralto.core.examination.assessment import assess
from bralto.core.examination.examine import examine
from bralto.core.examination.kept_advice import KeptAdvice, advised_by
from bralto.core.mannequin.known import MODEL
from bralto.core.study.values import Anchor, Guess, Mark, Scale, State, Study
from bralto.core.terms import School
from bralto.core.words.lengths import WAYS, in_force, say_in

pytestmark = pytest.mark.usefixtures("nothing_kept")


def big_head(by: float = 1.2) -> Study:
    """The figure with its head drawn too big, about the chin."""
    drawn = figure_marks()
    crown, chin = drawn["crown"], drawn["chin"]
    x, y = (c + by * (k - c) for k, c in ((crown.x, chin.x), (crown.y, chin.y)))
    return study_of(figure_marks(), drawn | {"crown": Mark(x, y, spread=1.5)})


def test_the_same_marks_are_not_searched_again(monkeypatch: pytest.MonkeyPatch) -> None:
    study = big_head()
    first = examine(study)
    assert not first.is_advised
    wanted = assess(study, corrections=True)  # this one keeps nothing
    assert not examine(study).is_advised
    assert first.corrections == wanted.corrections
    monkeypatch.setattr(examining, "advise", pytest.fail)
    again = examine(replace(study, title="another name", guesses=(Guess("span.figure", 7.0),)))
    assert again.is_advised
    assert again.corrections == wanted.corrections
    assert again.advised.title == "another name"
    assert again.advised.causes is first.advised.causes


def _moved(study: Study) -> Study:
    marks = dict(study.state().picture.marks)
    marks["navel"] = replace(marks["navel"], x=marks["navel"].x + 1e-9)
    return study.with_state(replace(study.states[0], picture=replace(
        study.states[0].picture, marks=marks)))  # fmt: skip


CHANGES: dict[str, Callable[[Study], Study]] = {
    "a mark by a hair": _moved,
    "the grade": lambda one: replace(one, grade="exacting"),
    "the school": lambda one: replace(one, scale=Scale(School.ENVELOPE)),
    "what is meant": lambda one: replace(one, intents=(push_intent(POSE, 1.2),)),
    "a point of one's own": lambda one: replace(one, anchors=(Anchor("own_1", "a button"),)),
    "the model's pose": lambda one: replace(one, extra={MODEL: {"pose": 1}}),
    "plumb": lambda one: replace(one, reference=replace(one.reference, plumb_deg=0.5)),
}


@pytest.mark.parametrize("change", CHANGES.values(), ids=CHANGES)
def test_whatever_advice_depends_on_is_searched_for_anew(change: Callable[[Study], Study]) -> None:
    study = big_head()
    assert advised_by(change(study), change(study).state()) != advised_by(study, study.state())


def test_neither_names_notes_nor_other_states_count() -> None:
    study = big_head()
    state = study.state()
    earlier = State("earlier", study.reference)
    other = replace(study, title="", states=(earlier, state), extra={"times": {"heights": 3.0}})
    assert advised_by(other, state) == advised_by(study, state)


def test_it_is_said_in_the_lengths_that_are_in_force() -> None:
    study, before = big_head(), in_force()
    found = []
    for way in WAYS:
        say_in(way)
        found.append(advised_by(study, study.state()))
    say_in(before)
    assert len(set(found)) == len(WAYS)


def test_what_was_asked_for_last_stays() -> None:
    kept, nothing = KeptAdvice(2), Advice((), ())
    kept.keep("a", nothing)
    kept.keep("b", nothing)
    assert kept.find("a") is nothing
    kept.keep("c", nothing)
    assert [kept.find(key) for key in "abc"] == [nothing, None, nothing]


def test_too_few_marks_need_no_search() -> None:
    three = {key: figure_marks()[key] for key in ("crown", "chin", "navel")}
    found = examine(study_of(figure_marks(), three))
    assert found.is_advised
    assert found.corrections == ()
    four = three | {"crotch": figure_marks()["crotch"]}
    assert not examine(study_of(figure_marks(), four)).is_advised


def test_until_a_list_is_known_none_is_shown() -> None:
    found = examine(big_head())
    bare = found.without_list()
    assert (bare.awaits_list, found.awaits_list) == (True, False)
    assert bare.is_advised
    assert bare.advised.doubts == ()
    assert bare.assessment is found.assessment
    assert not found.is_advised
