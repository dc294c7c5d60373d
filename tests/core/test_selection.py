"""What the record counts, and what a habit that is worked on comes to."""

from __future__ import annotations

import random
from datetime import UTC, datetime, timedelta

import pytest
from tests.core.test_traits import course

from bralto.core.examination.summary import NO_FACTS, MissFigure, SkillFigure, Summary
from bralto.core.longitudinal.advice_outcome import AFTER, outcome
from bralto.core.longitudinal.columns import Columns
from bralto.core.longitudinal.course import Course, SkillColumns, courses, trend_words, units_said
from bralto.core.longitudinal.focus import KIND, focus_document, focuses, worked_on
from bralto.core.longitudinal.selection import (
    ALL,
    ASPECTS,
    Counted,
    tries_of,
)
from bralto.core.longitudinal.statistics.trend import Trend
from bralto.core.results import NotMeasurable

START = datetime(2026, 3, 1, 12, tzinfo=UTC)


def counted(number: int, **other: object) -> Counted:
    miss = MissFigure(0.2 * 0.95**number, 0.01, 0.02, 14)
    skills = (SkillFigure("tilts", "degree", 3.0, 0.3, 0.5, 9),)
    facts = NO_FACTS._replace(school="head", grade="developing", source="model")
    made = Counted(
        f"s{number}", f"Study {number}", START + timedelta(days=number), "figure-front",
        "observed", (), 900.0, facts, Summary(miss, miss, skills),
    )  # fmt: skip
    return made._replace(**other)


def test_observed_figures_of_one_school_are_counted_first() -> None:
    studies = [counted(i) for i in range(5)]
    studies += [counted(10 + i, kind="traced") for i in range(9)]
    studies += [counted(30 + i, view="head-front") for i in range(3)]
    studies += [
        counted(40 + i, facts=studies[0].facts._replace(school="envelope")) for i in range(2)
    ]
    columns = Columns(studies)
    what = columns.first_choice(columns.chosen({}))
    assert what == {
        "subject": "figure",
        "kind": "observed",
        "school": "head",
        "shown": "whole",
    }
    assert {one.id for one in columns.of(columns.chosen(what))} == {f"s{i}" for i in range(5)}


def test_options_say_how_many_they_leave() -> None:
    studies = [counted(i, seconds=300.0 if i % 3 else 2400.0) for i in range(9)]
    studies[4] = studies[4]._replace(tags=("net loft", "rope"))
    columns = Columns(studies)
    what = columns.first_choice(columns.chosen({}))
    time = next(one for one in ASPECTS if one.key == "time")
    assert columns.options_of(what, time) == [
        (ALL, "all", 9), ("short", "under 10 minutes", 6), ("long", "over 30 minutes", 3),
    ]  # fmt: skip
    tag = next(one for one in ASPECTS if one.key == "tag")
    assert {(value, many) for value, _, many in columns.options_of(what, tag)} == {
        (ALL, 9), ("net loft", 1), ("rope", 1),
    }  # fmt: skip


def test_a_choice_that_nothing_is_left_of_is_still_among_the_options() -> None:
    studies = [counted(i) for i in range(3)]
    view = next(one for one in ASPECTS if one.key == "view")
    found = Columns(studies).options_of({"view": "figure-back"}, view)
    assert ("figure-back", "figure back", 0) in found


def test_tries_of_a_pose_are_a_series_of_their_own() -> None:
    facts = counted(0).facts
    studies = [counted(i) for i in range(3)]
    studies += [counted(5, facts=facts._replace(again="s1"))]
    studies += [counted(7, facts=facts._replace(again="s1"))]
    (series,) = tries_of(studies)
    assert [one.id for one in series] == ["s1", "s5", "s7"]


def test_a_course_leaves_out_what_was_not_measured() -> None:
    lacking = Summary(NotMeasurable("the short set lacks crown"), NotMeasurable("few"), ())
    studies = [counted(i) for i in range(8)] + [counted(9, summary=lacking)]
    found = courses(studies)
    assert len(found["miss"].points) == len(found["tilts"].points) == 8
    assert found["heights"].points == ()
    assert found["heights"].now is None
    assert trend_words(found["heights"]) == ("too few studies to tell a course", "")
    words, way = trend_words(found["miss"])
    assert way == "closer"
    assert words == "40 to 40 % closer over ten studies"  # 0.95 ** 10 is 0.599
    assert trend_words(found["tilts"])[0] == "no change over ten studies"


def test_a_course_is_told_in_what_its_own_studies_are_counted_in() -> None:
    """Of a chair in quarters of its height, whichever study is the newest."""
    quarters = counted(0).summary._replace(unit="quarter")
    studies = [counted(i) for i in range(3)]
    studies.insert(1, counted(9, view="object", summary=quarters))
    columns, skills = Columns(studies), SkillColumns(studies)
    told = {
        subject: skills.courses(columns.chosen({"subject": subject}))["miss"].unit
        for subject in ("figure", "object", "hand")
    }
    assert told == {"figure": "head", "object": "quarter", "hand": ""}
    assert [units_said(one) for one in ("head", "quarter", "fraction")] == [
        "heads", "quarters", "parts",
    ]  # fmt: skip


def test_a_course_of_a_choice_is_that_of_its_studies() -> None:
    """Whatever the order of the studies, and whichever of them tell the skill."""
    lacking = Summary(NotMeasurable("few"), NotMeasurable("few"), ())
    studies = [counted(i, view="head-front" if i % 3 else "figure-front") for i in range(20)]
    studies[4] = studies[4]._replace(summary=lacking)
    dice = random.Random(3)
    dice.shuffle(studies)
    columns, skills = Columns(studies), SkillColumns(studies)
    left = columns.chosen({"subject": "head"})
    assert [one.view for one in columns.of(left)] == ["head-front"] * 13
    assert skills.courses(left) == courses(columns.of(left))
    assert [int(one[1:]) for one in skills.courses(left)["miss"].studies] == [
        i for i in range(20) if i % 3 and i != 4
    ]


def test_of_values_that_as_many_have_the_first_studies_has_it() -> None:
    studies = [counted(i, view=view) for i, view in enumerate(["head-front", "figure-front"] * 2)]
    columns = Columns(studies)
    left = columns.chosen({})
    assert columns.first_choice(left)["subject"] == "head"
    left[0] = False  # then it is two against one
    assert columns.first_choice(left)["subject"] == "figure"
    left[1] = False  # one of each, and the head is the newer one
    assert columns.first_choice(left)["subject"] == "head"


def test_a_tag_that_a_study_has_twice_counts_once() -> None:
    columns = Columns([counted(0, tags=("rope", "rope")), counted(1)])
    tag = next(one for one in ASPECTS if one.key == "tag")
    assert columns.options_of({}, tag) == [(ALL, "all", 2), ("rope", "rope", 1)]


def test_what_is_worked_on_is_read_back_in_order() -> None:
    noted = [
        ("2026-03-01T10:00:00Z", KIND, focus_document("head", "figure", on=True)),
        ("2026-03-02T10:00:00Z", "something else", "{}"),
        ("2026-03-03T10:00:00Z", KIND, focus_document("tilts", "figure", on=True)),
        ("2026-03-05T10:00:00Z", KIND, focus_document("head", "figure", on=False)),
        ("no day", KIND, focus_document("legs", "figure", on=True)),
        ("2026-03-06T10:00:00Z", KIND, "[]"),
        ("2026-03-06T10:00:00Z", KIND, focus_document("no such trait", "figure", on=True)),
    ]
    head, tilts = focuses(noted)
    assert (head.trait.key, head.until.day) == ("head", 5)
    assert (tilts.trait.key, tilts.until) == ("tilts", None)
    assert [one.trait.key for one in worked_on(noted, "figure")] == ["tilts"]
    assert worked_on(noted, "head") == ()


@pytest.mark.parametrize(("after", "words"), [(1.01, "it helped"), (1.12, "no change")])
def test_after_six_studies_it_is_told_whether_it_helped(after: float, words: str) -> None:
    studies = course(10, 21, {"head": 1.12}) + course(AFTER, 22, {"head": after})
    dated = [(START + timedelta(days=i), one) for i, one in enumerate(studies)]
    when = (START + timedelta(days=10)).isoformat()
    (focus,) = focuses([(when, KIND, focus_document("head", "figure", on=True))])
    early = outcome(focus, dated[:13])
    assert (early.studies, early.left) == (3, 3)
    assert early.words == "taken up; 3 more studies tell whether it helped"
    found = outcome(focus, dated)
    assert found.words.startswith(words)
    assert found.change.low < after / 1.12 - 1.0 < found.change.high


def test_nothing_before_it_cannot_tell_whether_it_helped() -> None:
    studies = [(START + timedelta(days=i), one) for i, one in enumerate(course(8, 23, {}))]
    (focus,) = focuses([(START.isoformat(), KIND, focus_document("head", "figure", on=True))])
    assert "too few studies before it" in outcome(focus, studies).words


@pytest.mark.parametrize(
    ("low", "high", "said"),
    [
        (-0.002, 0.004, "no change over ten studies, or less than 4 %"),
        (0.0, 0.0, "no change over ten studies"),
        # A tenth and more over ten studies is left on one side: nothing is settled by that.
        (-0.018, 0.001, "no change told yet; one more study should settle it"),
        (-0.03, 0.02, "no change told yet; 19 more studies should settle it"),
    ],
)
def test_a_course_is_settled_once_no_change_worth_telling_is_left(
    low: float, high: float, said: str
) -> None:
    """The last by pencil and paper: half of the interval is 0.25 over ten studies, in logarithms; a
    tenth (0.0953) wants it 2.62 times narrower, so 2.62^(2/3) = 1.902 times 20 studies: 39."""
    trend = Trend(0.5 * (low + high), low, high, 9.5, -2.0, 0.01, 20)
    course = Course("miss", "head", (), (), (), (), (), 0.1, trend)
    assert trend_words(course)[0] == said
