"""What the record counts: also a pose that was only sighted for practice."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.core.sightings.sitters import picture, places, sighted
from tests.studies import figure_marks, study_of

from bralto.core.longitudinal.course import courses, trend_words
from bralto.core.longitudinal.told import habits_told, last_of
from bralto.core.results import NotMeasurable
from bralto.core.study.taken import Sightings
from bralto.core.study.values import Study
from bralto.exchange.record_report import habits_document, habits_text
from bralto.store.library import Library
from bralto.store.record.recorded import counted_studies

NAMES = ("height.navel", "height.crotch", "span.figure", "span.shoulders", "span.thigh_r")


def practised(percent: float) -> Study:
    """The first length right, the next longer by that much, and so on in even steps."""
    seen = places("figure-front")
    items = [
        replace(one, value=one.value * (1.0 + step * percent / 100.0))
        for step, one in enumerate(sighted("figure-front", seen, *NAMES))
    ]
    return Study("Practice", "figure-front", picture(seen), (), sightings=Sightings(tuple(items)))


def test_sighting_has_a_course_and_a_trend(library: Library) -> None:
    errors = [5.0, 4.6, 4.1, 3.9, 3.2, 3.0, 2.6, 2.2, 1.8, 1.5]
    for day, percent in enumerate(errors, start=1):
        library.add(practised(percent), {}, f"2026-10-{day:02}T10:00:00Z")
    counted = counted_studies(library)
    assert len(counted) == len(errors)
    assert all(isinstance(one.summary.tracked, NotMeasurable) for one in counted)
    found = courses(counted)
    course = found["sighting"]
    assert course.unit == "tolerance"
    # The mean of 0 to 4 steps is two of them; the grade *developing* allows 3 % (GRADES).
    assert course.values == pytest.approx([2.0 * one / 3.0 for one in errors])
    assert course.trend is not None
    assert trend_words(course)[1] == "closer"
    assert len(found["miss"]) == 0


def test_a_drawing_that_was_sighted_too_has_both(library: Library) -> None:
    seen = figure_marks()
    drawn = study_of(seen, seen)
    items = practised(3.0).sightings
    library.add(replace(drawn, sightings=items), {}, "2026-10-01T10:00:00Z")
    library.add(study_of(seen, {}), {}, "2026-10-02T10:00:00Z")
    skills = {figure.skill for one in counted_studies(library) for figure in one.summary.skills}
    assert {"sighting", "heights"} <= skills


def test_a_pose_that_waits_to_be_drawn_is_not_counted(library: Library) -> None:
    library.add(replace(practised(3.0), sightings=None), {}, "2026-10-01T10:00:00Z")
    assert counted_studies(library) == []


def test_how_one_sights_is_told_over_sitters_and_printed(library: Library) -> None:
    """Each time 0, 1, 2, 3 and 4 steps too long: two on average, here 6 to 8 %."""
    for day, percent in enumerate((3.0, 3.5, 4.0), start=1):
        library.add(practised(percent), {}, f"2026-10-{day:02}T10:00:00Z")
    told = habits_told(counted_studies(library), {})
    assert told.habits == ()
    (lengths,) = told.sighting
    assert (lengths.sitters, lengths.many) == (3, 15)
    assert lengths.bias == pytest.approx(7.0)
    # The steps 0 to 4 have a sum of squares of 10 about their mean.
    squares = 10.0 * (3.0**2 + 3.5**2 + 4.0**2)
    assert lengths.scatter == pytest.approx((squares / 12.0) ** 0.5)
    text = habits_text(told)
    assert "lengths    +7.0 ±" in text
    assert "%, too long; scatter 5.6 (" in text
    assert "15 sightings of 3 sitters" in text
    (row,) = habits_document(told)["sighting"]
    assert (row["family"], row["unit"], row["n"], row["sitters"]) == ("lengths", "percent", 15, 3)
    assert row["low"] < row["bias"] < row["high"]


def test_practice_takes_no_drawings_place_where_habits_are_sought(library: Library) -> None:
    """However often one has sighted since: the drawings before tell the habits."""
    seen = figure_marks()
    for day in range(1, 5):
        library.add(study_of(seen, seen), {}, f"2026-08-{day:02}T10:00:00Z")
    for day in range(1, 29):
        library.add(practised(3.0), {}, f"2026-09-{day:02}T10:00:00Z")
        library.add(practised(4.0), {}, f"2026-10-{day:02}T10:00:00Z")
    counted = counted_studies(library)
    assert len(counted) == 60
    assert [one.when.month for one in last_of(counted)] == [8] * 4
