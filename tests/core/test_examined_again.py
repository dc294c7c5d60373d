"""An examination is given back for the very same marks, and for nothing else."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest
from tests.core.test_kept_advice import CHANGES, big_head
from tests.studies import figure_marks

from bralto.core.examination import examine as examining
from bralto.core.examination.examine import examine
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import notes_of, with_notes
from bralto.core.study.values import Guess, Picture, State, Study
from bralto.core.words.lengths import WAYS, in_force, say_in


def _copy(study: Study) -> Study:
    """Equal, of other objects, as it is read from the library again."""
    return study.with_pictures(lambda _, picture: replace(picture, marks=dict(picture.marks)))


def test_what_was_examined_is_given_back(monkeypatch: pytest.MonkeyPatch) -> None:
    study = big_head()
    before = examine(study)
    monkeypatch.setattr(examining, "measured", pytest.fail)
    assert examine(_copy(study), before=before) is before
    noted = with_notes(_copy(study), notes_of(study).spend("landmarks", 7.0))
    assert notes_of(noted) != notes_of(study)
    assert examine(noted, before=before) is before


OTHERS: dict[str, Callable[[Study], Study]] = {
    **CHANGES,
    "its name": lambda one: replace(one, title="another"),
    "a guess": lambda one: replace(one, guesses=(Guess("span.figure", 7.0),)),
    "a state more": lambda one: replace(one, states=(*one.states, State("later", one.reference))),
}


@pytest.mark.parametrize("change", OTHERS)
def test_anything_else_is_examined(change: str) -> None:
    study = big_head()
    before = examine(study)
    other = OTHERS[change](study)
    after = examine(other, before=before)
    assert after is not before
    assert after.study == other
    fresh = examine(other)
    assert after.assessment.readings == fresh.assessment.readings
    assert (after.seen.picture, after.seen.view) == (fresh.seen.picture, fresh.seen.view)


def test_words_in_another_unit_are_told_anew() -> None:
    study, unit = big_head(), in_force()
    before = examine(study)
    try:
        say_in(next(way for way in WAYS if way != unit))
        assert examine(study, before=before) is not before
    finally:
        say_in(unit)
    assert examine(study, before=before) is before


def test_an_empty_list_that_waits_is_no_examination() -> None:
    study = big_head()
    bare = examine(study).without_list()
    after = examine(study, before=bare)
    assert after is not bare
    assert after.corrections


def test_where_the_search_failed_it_is_tried_again() -> None:
    study = big_head()
    found = examine(study)
    found.take_advice(found.assessment)  # as the bench does then
    assert not found.corrections
    assert examine(study, before=found).corrections


def test_what_stands_in_the_reference_s_place_counts() -> None:
    """What is known of a drawing alone goes on being known beside another figure."""
    study = replace(big_head(), reference=None, canon="eight-heads")
    first, other = (Picture("", 400, 900, figure_marks(scale=by)) for by in (100.0, 110.0))
    before = examine(study, reference=first)
    after = examine(study, reference=other, before=before)
    assert after is not before
    assert after.drawn is before.drawn
    assert not isinstance(after.seen.shape, NotMeasurable)
    assert after.seen.picture == other
