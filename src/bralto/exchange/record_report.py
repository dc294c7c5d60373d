"""The record as the text, JSON and CSV that `bralto record` and `bralto habits` print."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence
from datetime import UTC
from typing import Any

from bralto.core.longitudinal.course import SKILL_TITLES, Course, trend_words, units_said
from bralto.core.longitudinal.selection import Choices, Counted
from bralto.core.longitudinal.told import HabitsTold
from bralto.core.longitudinal.traits.habit_words import (
    change_words,
    habit_figure,
    habit_title,
    note_words,
    range_words,
)
from bralto.core.longitudinal.traits.trait_habits import Habit
from bralto.core.sightings.how_sighted import Sense
from bralto.core.sightings.sense_words import bias_words, scatter_words
from bralto.core.words.phrases import how_many

__all__ = [
    "habits_csv", "habits_document", "habits_text", "record_csv",
    "record_document", "record_text",
]  # fmt: skip


_LEVELLED = "size, width, lean and turn of the whole are taken out first"


def _when(study: Counted) -> str:
    return study.when.astimezone(UTC).isoformat().replace("+00:00", "Z")


def record_text(courses: Mapping[str, Course], studies: Sequence[Counted], what: Choices) -> str:
    """Each skill: how it stands now, and where it goes."""
    said = ", ".join(f"{key} {value}" for key, value in what.items() if value)
    lines = [f"{how_many(len(studies), 'study')} on record: {said}", f"skills: {_LEVELLED}", ""]
    for key, course in courses.items():
        if course.now is None:
            continue
        unit = units_said(course.unit)
        digits = 1 if course.unit == "degree" else 3
        now = f"{course.now:.{digits}f} {unit}"
        words = trend_words(course)[0]
        lines.append(f"  {SKILL_TITLES[key]:<14} {now:<20} {len(course):>4}  {words}")
    if len(lines) == 3:
        lines.append("  nothing measured yet")
    return "\n".join(lines)


def record_document(
    courses: Mapping[str, Course], studies: Sequence[Counted], what: Choices
) -> dict[str, Any]:
    """The same as JSON data, with every study's figure."""
    titles = {one.id: one.title for one in studies}
    return {
        "chosen": {key: value for key, value in what.items() if value},
        "studies": len(studies),
        "levelled": _LEVELLED,
        "skills": [
            {
                "skill": key,
                "unit": course.unit,
                "now": course.now,
                "trend": _trend(course),
                "words": trend_words(course)[0],
                "points": [
                    {
                        "study": one.study,
                        "title": titles.get(one.study, ""),
                        "made": one.when.astimezone(UTC).isoformat().replace("+00:00", "Z"),
                        "value": one.value,
                        "u": one.u,
                        "mark_limit": one.limit,
                    }
                    for one in course.points
                ],
            }
            for key, course in courses.items()
            if len(course)
        ],
    }


def _trend(course: Course) -> dict[str, Any] | None:
    trend = course.trend
    if trend is None:
        return None
    low, high = trend.percent
    return {
        "percent_in_ten_low": low,
        "percent_in_ten_high": high,
        "told": trend.told,
        "n": trend.n,
    }


def record_csv(courses: Mapping[str, Course], studies: Sequence[Counted]) -> str:
    """One row a study and skill, ISO 8601 days, full precision."""
    by_id = {one.id: one for one in studies}
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(
        ["study", "title", "made", "view", "kind", "school", "grade", "source", "seconds", "skill",
         "value", "unit", "u", "mark_limit"]
    )  # fmt: skip
    for key, course in courses.items():
        for point in course.points:
            one = by_id[point.study]
            table.writerow(
                [one.id, one.title, _when(one), one.view, one.kind, one.facts.school,
                 one.facts.grade, one.facts.source, one.seconds, key, point.value, course.unit,
                 point.u, point.limit]
            )  # fmt: skip
    return out.getvalue()


def habits_text(told: HabitsTold) -> str:
    """Habits first, then what cannot be told yet, then what is as it should be in a line."""
    lines = [f"{how_many(len(told.studies), 'study')}, grade {told.grade}", ""]
    heads = (
        ("habit", "Every time"), ("open", "Cannot tell yet"), ("slight", "A little every time"),
    )  # fmt: skip
    for state, title in heads:
        found = [one for one in told.habits if one.state == state]
        if found:
            lines.append(f"{title}:")
            lines += [_line(one) for one in found]
            lines.append("")
    fine = [one.trait.what for one in told.habits if one.state == "none"]
    if fine:
        lines += [f"As seen: {', '.join(fine)}.", ""]
    if told.overcome:
        said = "; ".join(change_words(one) for one in told.overcome)
        lines += [f"Overcome since the studies before: {said}.", ""]
    if told.changes:
        lines.append("Changed in the last ten studies against the ten before:")
        lines += [f"  {change_words(one)}" for one in told.changes]
        lines.append("")
    if told.sighting:
        lines.append("How you sight, where that was practised:")
        lines += [f"  {_sense_line(one)}" for one in told.sighting] + [""]
    if told.questions:
        lines += ["What goes with it, which is no proof of a cause:"]
        lines += [f"  {one.words}" for one in told.questions] + [""]
    if not told.habits:
        lines.append("At least four studies of one subject are wanted before a habit can be told.")
    return "\n".join(lines).rstrip()


def _line(habit: Habit) -> str:
    first = f"\n{'':13}first: {habit.trait.first}" if habit.state == "habit" else ""
    figure = f"{habit_figure(habit):>8}  ({range_words(habit)})"
    return f"  {figure:<26} {habit_title(habit)}; {note_words(habit)}{first}"


def habits_document(told: HabitsTold) -> dict[str, Any]:
    """The same as JSON data; relative sizes as shares, slopes as drawn a unit of seen."""
    return {
        "subject": told.group,
        "grade": told.grade,
        "studies": list(told.studies),
        "habits": [habit_row(one) for one in told.habits],
        "overcome": [one.trait.key for one in told.overcome],
        "changes": [
            {"trait": one.trait.key, "before": one.before, "after": one.after, "by": one.by,
             "low": one.low, "high": one.high}
            for one in told.changes
        ],
        "sighting": [_sense_row(one) for one in told.sighting],
    }  # fmt: skip


def _sense_line(one: Sense) -> str:
    taken = f"{how_many(one.many, 'sighting')} of {how_many(one.sitters, 'sitter')}"
    return f"{one.family:<10} {bias_words(one)}; {scatter_words(one)}; {taken}"


def _sense_row(one: Sense) -> dict[str, Any]:
    return {
        "family": one.family,
        "unit": _SENSE_UNITS.get(one.unit, one.unit),
        "bias": one.bias,
        "low": one.low,
        "high": one.high,
        "scatter": one.scatter,
        "scatter_low": one.least,
        "scatter_high": one.most,
        "n": one.many,
        "sitters": one.sitters,
    }


_SENSE_UNITS = {"%": "percent", "°": "degree"}


def habit_row(habit: Habit) -> dict[str, Any]:
    """One habit as plain data."""
    unit = "degree" if habit.trait.unit == "degrees" else "ratio"
    return {
        "trait": habit.trait.key,
        "state": habit.state,
        "title": habit_title(habit),
        "value": habit.value,
        "low": habit.low,
        "high": habit.high,
        "as_seen": habit.nothing,
        "unit": unit,
        "n": habit.n,
        "p": habit.p,
        "more_studies": habit.more,
        "first": habit.trait.first,
        "drill": habit.trait.drill,
    }


def habits_csv(told: HabitsTold) -> str:
    """One row a trait."""
    out = io.StringIO()
    rows = [habit_row(one) for one in told.habits]
    names = list(rows[0]) if rows else ["trait", "state", "value", "low", "high", "unit", "n"]
    table = csv.DictWriter(out, names, lineterminator="\n")
    table.writeheader()
    table.writerows(rows)
    return out.getvalue()
