"""All that the record tells of a choice of studies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bralto.core.longitudinal.comparison import Change, last_ten
from bralto.core.longitudinal.course import Course, courses
from bralto.core.longitudinal.habits import LAST, Habit, found_habits
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.study_traits import StudyTraits
from bralto.core.longitudinal.trait_table import group_of
from bralto.core.tolerances import GRADES, GRADES_OF, Grade

__all__ = ["HabitsTold", "group_and_grade", "habits_told", "last_of", "skills_told"]


@dataclass(frozen=True, slots=True)
class HabitsTold:
    """Habits of one group of views, and what changed in the last ten studies.

    Attributes:
        studies: ids of those that have traits, oldest first.
        misses: by mark, of each study that has it how far it lay from where it belongs, heads.
    """

    group: str
    grade: str
    studies: tuple[str, ...]
    habits: tuple[Habit, ...]
    changes: tuple[Change, ...]
    misses: Mapping[str, tuple[tuple[float, float], ...]]


def skills_told(studies: Sequence[Counted]) -> dict[str, Course]:
    """Every skill over time."""
    return courses(studies)


def group_and_grade(studies: Sequence[Counted]) -> tuple[str, Grade]:
    """The group of views that studies are of, and the grade that most of the last ones were held
    to."""
    last = last_of(studies)
    groups = Counter(group_of(one.view) for one in last)
    group = groups.most_common(1)[0][0] if groups else ""
    grades = Counter(one.facts.grade for one in last if one.facts.grade in GRADES)
    name = grades.most_common(1)[0][0] if grades else "developing"
    table = GRADES_OF["figure" if group == "figure" else "part"]
    return group, table[name]


def last_of(studies: Sequence[Counted]) -> list[Counted]:
    """The studies in which habits are sought, oldest first."""
    return sorted(studies, key=lambda one: (one.when, one.id))[-LAST:]


def habits_told(studies: Sequence[Counted], traits: Mapping[str, StudyTraits]) -> HabitsTold:
    """Habits of the studies that are of one group of views.

    Args:
        traits: by study; one that has none does not count.
    """
    group, grade = group_and_grade(studies)
    kept = [one for one in last_of(studies) if one.id in traits and group_of(one.view) == group]
    found = [traits[one.id] for one in kept]
    misses: dict[str, list[tuple[float, float]]] = {}
    for one in found:
        for key, away in one.misses.items():
            misses.setdefault(key, []).append(away)
    return HabitsTold(
        group, grade.name, tuple(one.id for one in kept), found_habits(group, found, grade),
        last_ten(group, found), {key: tuple(away) for key, away in misses.items()},
    )  # fmt: skip
