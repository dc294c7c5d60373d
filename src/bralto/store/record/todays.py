"""Today's practice out of the library: what was chosen, noted, drawn, and is told of habits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from bralto.core.longitudinal.focus import focuses
from bralto.core.longitudinal.practice import (
    Due,
    Item,
    Plan,
    Week,
    done_on,
    plan_of,
    today,
    week_of,
)
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.told import HabitsTold
from bralto.core.longitudinal.traits.trait_table import TraitSpec
from bralto.core.sightings.sense_words import sighting_check
from bralto.store.record.due_again import due_again

__all__ = ["Todays", "todays"]


@dataclass(frozen=True, slots=True)
class Todays:
    """A day of practice: its items, which of them are ticked, and the week it is in."""

    day: date
    plan: Plan
    items: tuple[Item, ...]
    done: frozenset[str]
    week: Week
    due: tuple[Due, ...]


def todays(
    noted: Sequence[tuple[str, str, str]],
    studies: Sequence[Counted],
    told: HabitsTold | None,
    now: datetime,
) -> Todays:
    """What to do today.

    Args:
        noted: all that was noted on practising. studies: all that count, of any subject.
        told: habits of what is counted now, or None where they are not worked out.
        now: aware; a day is that of its own clock.
    """
    plan, day = plan_of(noted), now.date()
    ticked = done_on(noted)
    drawn = {one.when.astimezone(now.tzinfo).date() for one in studies}
    due = due_again(studies, now)
    trait = _trained(noted, told)
    train = None if trait is None else (_title(trait), trait.drill, trait.poses)
    sight = "" if told is None else sighting_check(told.sighting)
    items = today(plan, train=train, sight=sight, due=due, number=day.toordinal())
    week = week_of(plan, day, drawn | set(ticked))
    return Todays(day, plan, items, ticked.get(day, frozenset()), week, due)


def _trained(noted: Sequence[tuple[str, str, str]], told: HabitsTold | None) -> TraitSpec | None:
    """What is worked on, the last taken up; or else the largest habit."""
    if told is None:
        return None
    working = [one for one in focuses(noted) if one.until is None and one.group == told.group]
    if working:
        return working[-1].trait
    return next((one.trait for one in told.habits if one.state == "habit"), None)


def _title(trait: TraitSpec) -> str:
    return f"Train {trait.what}"
