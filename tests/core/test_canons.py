"""Canons as data, and pictures held against them."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.studies import figure_marks, study_of

from bralto.core.assessment import assess
from bralto.core.canons.compare import against_canon
from bralto.core.canons.library import canon_keys, canon_named
from bralto.core.errors import UserError
from bralto.core.results import NotMeasurable
from bralto.core.study import Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.library import view_named

FIGURE = view_named("figure-front")
PICTURE = Picture("", 4000, 4000, figure_marks())


@pytest.mark.parametrize("key", [k if k != "child" else "child-at-3" for k in canon_keys()])
def test_a_canon_says_its_source_and_speaks_of_measures_that_exist(key: str) -> None:
    canon = canon_named(key)
    assert canon.source
    assert canon.values
    for name in canon.values:
        assert view_named(canon.view).measure(name) is not None, name


def test_a_child_has_fewer_heads_the_younger_it_is() -> None:
    """Between the ages of the table in a straight line: halfway from 2 to 6 it is 5 1/2."""
    heads = [canon_named(f"child-at-{age}").values["span.figure"] for age in (0, 2, 4, 12, 18)]
    assert heads == [4.0, 5.0, 5.5, 7.0, 7.5]
    for wrong in ("child", "child-at-19", "child-at-", "grown-up"):
        with pytest.raises(UserError, match="canon"):
            canon_named(wrong)


def test_a_picture_is_more_or_less_than_a_canon_within_its_own_doubt() -> None:
    found = against_canon(FIGURE, canon_named("eight-heads"), PICTURE, GRADES["developing"])
    whole = next(r for r in found if r.spec.id == "span.figure")
    own = assess(study_of(figure_marks(), figure_marks())).reading("span.figure")
    assert (whole.reference, whole.drawing) == (8.0, pytest.approx(own.drawing))
    assert whole.u == pytest.approx(own.u / 2**0.5)  # one picture doubts, the canon does not
    assert whole.verdict == "under"
    unsaid = next(r for r in found if r.spec.id == "tilt.hips")
    assert (unsaid.verdict, unsaid.error) == ("not measured", None)
    assert "says nothing" in unsaid.reason


def test_a_drawing_from_imagination_is_held_against_its_canon_alone() -> None:
    marks = figure_marks()
    study = replace(study_of(marks, marks), reference=None, canon="eight-heads", kind="imagined")
    found = assess(study, corrections=True)
    assert found.reading("span.figure").reference == 8.0
    assert found.unit.drawing_px == pytest.approx(100.0)
    for nothing in (found.fit, found.miss, found.short_miss, found.corrections):
        assert isinstance(nothing, NotMeasurable)
        assert "only the canon eight-heads" in nothing.reason
    with pytest.raises(UserError, match="name one of antique-eight-heads"):
        assess(replace(study, canon=None))
    with pytest.raises(UserError, match="one of head-front, not of figure-front"):
        assess(replace(study, canon="face-thirds"))


def test_what_lacks_the_head_is_still_held_where_heads_do_not_count() -> None:
    marks = {k: m for k, m in figure_marks().items() if k != "chin"}
    found = against_canon(
        FIGURE, canon_named("eight-heads"), Picture("", 9, 9, marks), GRADES["learning"]
    )
    by_id = {r.spec.id: r for r in found}
    assert by_id["fraction.crotch_half"].error is not None
    assert by_id["height.crotch"].error is None
    assert "lacks the mark 'chin'" in by_id["height.crotch"].reason
