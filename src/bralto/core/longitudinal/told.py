"""All that the record tells of a choice of studies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import islice

from bralto.core.longitudinal.made_how import Told, questions_told
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.sighting_told import sighting_told
from bralto.core.longitudinal.traits.comparison import Change, compared, last_ten
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_habits import LAST, Habit, found_habits
from bralto.core.longitudinal.traits.trait_table import group_of
from bralto.core.sightings.how_sighted import Sense
from bralto.core.tolerances import GRADES, GRADES_OF, Grade
from bralto.core.views.shipped_views import view_keys, view_named

__all__ = ["BEFORE", "HabitsTold", "group_and_grade", "habits_told", "last_of"]


BEFORE = 40
"""Studies before the last ones in which a habit that is overcome by now is looked for."""


@dataclass(frozen=True, slots=True)
class HabitsTold:
    """Habits of one group of views, and what changed in the last ten studies.

    Attributes:
        studies: ids of those that habits were sought in, oldest first.
        overcome: habits of the studies before these that are none any more.
        questions: answers on how it was made that go with how close it came.
        sighting: how the reference is sighted, by family, where that was practised.
        misses: by mark, of each study that has it how far it lay from where it belongs, heads.
    """

    group: str
    grade: str
    studies: tuple[str, ...]
    habits: tuple[Habit, ...]
    changes: tuple[Change, ...]
    overcome: tuple[Change, ...]
    questions: tuple[Told, ...]
    sighting: tuple[Sense, ...]
    misses: Mapping[str, tuple[tuple[float, float], ...]]


def group_and_grade(studies: Sequence[Counted]) -> tuple[str, Grade]:
    """The group of views that studies are of, and the grade that most of the last ones were held
    to."""
    last = last_of(studies)
    groups = Counter(group_of(one.view) for one in last)
    group = groups.most_common(1)[0][0] if groups else ""
    grades = Counter(one.facts.grade for one in last if one.facts.grade in GRADES)
    name = grades.most_common(1)[0][0] if grades else "developing"
    return group, GRADES_OF[_size_of(group)][name]


@lru_cache
def _size_of(group: str) -> str:
    """How much of a body that group of views shows (`View.size`); a learner's own views as a
    figure."""
    sizes = (view_named(key).size for key in view_keys() if group_of(key) == group)
    return next(sizes, "figure")


def last_of(studies: Sequence[Counted]) -> list[Counted]:
    """The studies in which habits are sought and those before that they are held against, oldest
    first; what was only sighted has no drawing that could tell one."""
    newest = sorted(studies, key=lambda one: (one.when, one.id), reverse=True)
    drawn = (one for one in newest if not one.summary.only_sighted)
    return list(islice(drawn, LAST + BEFORE))[::-1]


def habits_told(studies: Sequence[Counted], traits: Mapping[str, StudyTraits]) -> HabitsTold:
    """Habits of the studies that are of one group of views.

    Args:
        studies: all that are chosen, in any order.
        traits: by study, of the last ones (`last_of`); one that has none does not count.
    """
    last = last_of(studies)
    group, grade = group_and_grade(last)
    kept = [one for one in last if one.id in traits and group_of(one.view) == group]
    every = [traits[one.id] for one in kept]
    found, kept = every[-LAST:], kept[-LAST:]
    misses: dict[str, list[tuple[float, float]]] = {}
    for one in found:
        for key, away in one.misses.items():
            misses.setdefault(key, []).append(away)
    habits = found_habits(group, found, grade)
    return HabitsTold(
        group, grade.name, tuple(one.id for one in kept), habits, last_ten(group, found),
        _overcome(group, every[:-LAST], found, habits, grade), questions_told(last),
        sighting_told(studies),
        {key: tuple(away) for key, away in misses.items()},
    )  # fmt: skip


def _overcome(
    group: str,
    before: Sequence[StudyTraits],
    now: Sequence[StudyTraits],
    habits: Sequence[Habit],
    grade: Grade,
) -> tuple[Change, ...]:
    """What was told of the studies before and is told no more, and has surely changed."""
    still = {one.trait.key for one in habits if one.state == "habit"}
    found = []
    for one in found_habits(group, before, grade):
        if one.state == "habit" and one.trait.key not in still:
            change = compared(group, one.trait, before[-LAST:], now)
            if change is not None and change.helped:
                found.append(change)
    return tuple(found)
