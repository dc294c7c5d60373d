"""What an evening is made of, which poses are due again, and the calendar."""

from __future__ import annotations

import json
from datetime import UTC, date, datetime, timedelta, timezone

import pytest
import vobject
from tests.core.test_selection import counted
from tests.core.test_traits import course

from bralto.core.longitudinal.focus import KIND, focus_document
from bralto.core.longitudinal.practice import (
    DONE,
    PLAN,
    Due,
    Plan,
    done_document,
    done_on,
    plan_document,
    plan_of,
    today,
    week_of,
)
from bralto.core.longitudinal.told import habits_told
from bralto.exchange.calendar_file import plan_calendar
from bralto.store.record.due_again import due_again
from bralto.store.record.todays import todays

NOW = datetime(2026, 5, 6, 19, 0, tzinfo=UTC)  # a Wednesday


def again(number: int, first: str, miss: float) -> object:
    one = counted(number)
    tracked = one.summary.tracked._replace(value=miss)
    return one._replace(
        facts=one.facts._replace(again=first), summary=one.summary._replace(tracked=tracked)
    )


@pytest.mark.parametrize("minutes", [5, 10, 15, 20, 30, 45, 60, 120, 240])
@pytest.mark.parametrize("trains", [False, True])
@pytest.mark.parametrize("sights", ["", "lengths are too long"])
@pytest.mark.parametrize("number", range(4))
def test_the_minutes_of_a_day_are_what_was_chosen(
    minutes: int, trains: bool, sights: str, number: int
) -> None:
    train = ("Train heads", "five heads", ("at-rest",)) if trains else None
    due = (Due("s1", "Rope coiler", date(2026, 5, 1)),)
    items = today(Plan(minutes), train=train, sight=sights, due=due, number=number)
    spent = sum(one.minutes for one in items)
    assert spent <= max(minutes, 2)
    assert spent >= 0.8 * minutes
    assert len({one.key for one in items}) == len(items)
    assert any(one.key == "quick" for one in items)
    if minutes >= 30:
        assert items[0].key == "warm-up"
        assert (any(one.key == "drill" for one in items)) == trains
        assert items[-1].study == "s1"
    if minutes >= 30:  # there is time for a sitter, and for what is drawn then
        assert [one.detail for one in items if one.key == "sight"] == ([sights] if sights else [])
        assert items[-1].minutes >= 8


def test_without_a_pose_that_is_due_there_is_one_measured_study() -> None:
    items = today(Plan(60), train=None, due=(), number=0)
    assert items[-1].key == "study"


def test_a_plan_is_the_one_noted_last_and_nonsense_is_passed_over() -> None:
    noted = [
        ("2026-05-01T10:00:00Z", PLAN, plan_document(Plan(45, (5, 6), "09:15"))),
        ("2026-05-02T10:00:00Z", PLAN, '{"minutes": "many"}'),
        ("2026-05-02T10:00:00Z", PLAN, "["),
        ("2026-05-02T10:00:00Z", DONE, done_document("quick", date(2026, 5, 2))),
    ]
    assert plan_of(noted) == Plan(45, (5, 6), "09:15")
    assert plan_of([]) == Plan()
    assert plan_of([("", PLAN, json.dumps({"minutes": 9999, "weekdays": [9, 1, 1], "at": "7:05"}))]
                   ) == Plan(240, (1,), "07:05")  # fmt: skip
    assert done_on(noted) == {date(2026, 5, 2): frozenset({"quick"})}


def test_a_week_counts_days_and_never_scolds() -> None:
    plan = Plan(30, (0, 2, 4))
    wednesday = date(2026, 5, 6)
    assert week_of(plan, wednesday, []).words == "0 of 3 days this week, with room for 3 more"
    assert week_of(plan, date(2026, 5, 9), []).left == 2
    assert "with room for 2 more" in week_of(plan, date(2026, 5, 9), []).words
    done = [date(2026, 5, 4), date(2026, 5, 5), date(2026, 5, 6)]
    assert week_of(plan, wednesday, done).words == "3 of 3 days this week: as you meant to"
    sunday = week_of(plan, date(2026, 5, 10), [date(2026, 5, 10)])
    assert "begins anew on Monday" in sunday.words


def test_a_pose_is_due_again_once_its_gap_is_over() -> None:
    """The gap grows with tries that came out close (the rule of the package `fsrs`)."""
    tries = [counted(0), again(1, "s0", 0.10), again(20, "s0", 0.05)]
    gaps = []
    for many in (2, 3):
        last = tries[many - 1].when
        for days in range(1, 200):
            if due_again(tries[:many], last + timedelta(days=days)):
                gaps.append(days)
                break
    assert gaps[1] > 2 * gaps[0]
    assert due_again(tries, tries[-1].when) == ()
    assert due_again([counted(0)], NOW) == ()  # nobody is asked to repeat everything
    assert due_again([], NOW) == ()


def test_heads_that_miss_by_little_do_not_make_figures_hard() -> None:
    tries = [counted(0), again(1, "s0", 0.10), again(20, "s0", 0.05)]
    heads = [counted(30 + i, view="head-front") for i in range(9)]
    later = tries[-1].when + timedelta(days=200)
    assert due_again([*tries, *heads], later) == due_again(tries, later)
    renamed = tries[-1]._replace(title="Heron, by the quay")
    (found,) = due_again([*tries[:-1], renamed], later)
    assert found.title == "Heron, by the quay"


def test_a_clock_that_was_set_back_does_no_harm() -> None:
    tries = [counted(9), again(3, "s9", 0.1), again(3, "s9", 0.1)]
    (found,) = due_again(tries, NOW + timedelta(days=400))
    assert found.title == "Study 9"


def test_today_is_the_day_of_the_learners_own_clock() -> None:
    late = datetime(2026, 5, 6, 23, 30, tzinfo=timezone(timedelta(hours=9)))
    drawn = counted(0)._replace(when=datetime(2026, 5, 6, 14, 0, tzinfo=UTC))  # 23:00 there
    found = todays([], [drawn], None, late)
    assert found.day == date(2026, 5, 6)
    assert date(2026, 5, 6) in found.week.practised


def test_what_is_worked_on_is_what_is_trained() -> None:
    studies = [counted(i) for i in range(12)]
    traits = {one.id: t for one, t in zip(studies, course(12, 31, {"head": 1.12}), strict=True)}
    told = habits_told(studies, traits)
    found = todays([], studies, told, NOW)
    drill = next(one for one in found.items if one.key == "drill")
    assert drill.title == "Train heads"  # the largest habit
    noted = [("2026-05-01T10:00:00Z", KIND, focus_document("tilts", "figure", on=True))]
    drill = next(one for one in todays(noted, studies, told, NOW).items if one.key == "drill")
    assert drill.title == "Train tilts"
    assert drill.poses == ("weight-right", "weight-left")


def test_the_calendar_is_read_by_another_reader() -> None:
    """vobject validates it against RFC 5545; the first event is on the first chosen day."""
    made = plan_calendar(Plan(45, (1, 5), "07:05"), date(2026, 5, 6), NOW).decode()
    read = vobject.readOne(made)
    read.validate()
    event = read.vevent
    assert event.dtstart.value == datetime(2026, 5, 9, 7, 5)  # a Saturday, floating
    assert event.rrule.value == "FREQ=WEEKLY;BYDAY=TU,SA"
    assert event.duration.value == timedelta(minutes=45)
    assert event.valarm.trigger.value == timedelta(minutes=-10)
    assert "\r\n" in made
    empty = plan_calendar(Plan(45, ()), date(2026, 5, 6), NOW).decode()
    assert "VEVENT" not in empty
