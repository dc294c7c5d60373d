"""What to practise today: minutes and days that the learner chose, made into a few things to do.

How an hour is split is common practice of drawing classes, no source: warm up, many quick poses,
one thing to train, one measured study. What was missed is not made up for: it moves on by itself.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta

from bralto.core.words.phrases import how_many, part_of

__all__ = [
    "DONE", "PLAN", "WEEKDAYS", "Due", "Item", "Plan", "Week", "done_document", "done_on",
    "plan_document", "plan_of", "today", "week_of",
]  # fmt: skip

PLAN, DONE = "plan", "done"
"""Kinds of what is noted on practising (`store.library.Library.note_practice`)."""

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")

_LEAST, _MOST = 5, 240


@dataclass(frozen=True, slots=True)
class Plan:
    """What the learner chose: minutes a day, on which weekdays (0 is Monday), from when on."""

    minutes: int = 30
    weekdays: tuple[int, ...] = (0, 2, 4)
    at: str = "18:30"


@dataclass(frozen=True, slots=True)
class Due:
    """A pose that is due to be drawn again: id and title of its last study, since which day."""

    study: str
    title: str
    since: date


@dataclass(frozen=True, slots=True)
class Item:
    """One thing to do.

    Attributes:
        key: what kind it is: ``warm-up``, ``quick``, ``drill``, ``sight``, ``again``, ``study``.
        detail: how. poses: of the model, by name, for ``quick`` and ``drill``; seconds: how long
            each is shown. study: id of what is drawn again.
    """

    key: str
    title: str
    detail: str
    minutes: int
    poses: tuple[str, ...] = ()
    seconds: float = 0.0
    study: str = ""


@dataclass(frozen=True, slots=True)
class Week:
    """Monday to Sunday: on which days something was done, how many were meant, how many are left
    today included."""

    days: tuple[date, ...]
    practised: frozenset[date] = field(default_factory=frozenset)
    meant: int = 0
    left: int = 0

    @property
    def words(self) -> str:
        """Where the week stands, without reproach."""
        done = len(self.practised)
        said = f"{part_of(done, self.meant, 'day')} this week"
        if done >= self.meant:
            return f"{said}: as you meant to"
        room = min(self.meant - done, self.left)
        if not room:
            return f"{said}; the week is over: it begins anew on Monday"
        return f"{said}, with room for {room} more"


def plan_document(plan: Plan) -> str:
    """What is noted when a plan is chosen."""
    return json.dumps({"minutes": plan.minutes, "weekdays": list(plan.weekdays), "at": plan.at})


def plan_of(noted: Iterable[tuple[str, str, str]]) -> Plan:
    """The plan that was noted last, or the usual one."""
    found = Plan()
    for _, kind, document in noted:
        if kind != PLAN:
            continue
        try:
            body = json.loads(document)
            days = tuple(sorted({int(one) for one in body["weekdays"] if 0 <= int(one) < 7}))
            at = datetime.strptime(str(body["at"]), "%H:%M")
            minutes = min(max(int(body["minutes"]), _LEAST), _MOST)
            found = Plan(minutes, days, f"{at:%H:%M}")
        except (ValueError, KeyError, TypeError):
            continue
    return found


def done_document(item: str, day: date) -> str:
    """What is noted when something was done."""
    return json.dumps({"item": item, "day": day.isoformat()})


def done_on(noted: Iterable[tuple[str, str, str]]) -> dict[date, frozenset[str]]:
    """What was ticked as done, by day."""
    found: dict[date, set[str]] = {}
    for _, kind, document in noted:
        if kind != DONE:
            continue
        try:
            body = json.loads(document)
            found.setdefault(date.fromisoformat(body["day"]), set()).add(str(body["item"]))
        except (ValueError, KeyError, TypeError):
            continue
    return {day: frozenset(items) for day, items in found.items()}


def week_of(plan: Plan, day: date, practised: Iterable[date]) -> Week:
    """The week of a day; ``practised``, all days on which something was drawn or ticked."""
    monday = day - timedelta(days=day.weekday())
    days = tuple(monday + timedelta(days=number) for number in range(7))
    there = frozenset(practised) & frozenset(days)
    left = sum(one >= day and one not in there for one in days)
    return Week(days, there, len(plan.weekdays), left)


_AGAIN = "the same pose at growing gaps: then hold both against each other"
_STUDY = "from the model or a picture: mark it, put the greatest right first"
_SWEEP_FIRST = "the sweep before any part; Action tells its bend from one stroke"
_WARM_UP = "loose lines from the shoulder: level, plumb and slanting ones, then egg shapes"


def today(
    plan: Plan,
    *,
    train: tuple[str, str, Sequence[str]] | None,
    sight: str = "",
    due: Sequence[Due],
    number: int,
) -> tuple[Item, ...]:
    """What the minutes of a day are made of.

    Args:
        train: what is trained (a habit that is worked on, or the largest): its title, its drill,
            and the poses of the model that have it in them.
        sight: how to look after what the pencil does every time; "" where nothing is told of it.
        due: poses that are due again, the longest due first.
        number: of the day, which turns from one set of quick poses to the next.
    """
    left = plan.minutes
    items: list[Item] = []

    def add(minutes: int, **what: object) -> None:
        nonlocal left
        items.append(Item(minutes=minutes, **what))  # type: ignore[arg-type]
        left -= minutes

    if plan.minutes >= 20:
        add(3 if plan.minutes < 45 else 5, key="warm-up", title="Warm up", detail=_WARM_UP)
    each, many = _QUICK[number % len(_QUICK)]
    if plan.minutes < _SHORT:
        many = max(2, int(60.0 * plan.minutes / each))  # there is time for nothing else
    else:
        many = max(2, min(many, int(60.0 * 0.4 * plan.minutes / each)))
    quick = max(1, round(each * many / 60.0))
    seconds = f"{each} seconds" if each < 60 else how_many(each // 60, "minute")
    add(quick, key="quick", title=f"{many} quick poses", seconds=float(each),
        detail=f"{seconds} each, {_SWEEP_FIRST}", poses=("",) * many)  # fmt: skip
    if train is not None and left >= 5:
        title, drill, poses = train
        add(5 if left < 25 else 8, key="drill", title=title, detail=drill, poses=tuple(poses))
    if sight and left >= _SIGHT + _DRAWN:
        add(_SIGHT, key="sight", title="Sight a sitter", detail=sight)
    if left >= _DRAWN:
        if due:
            one = due[0]
            add(left, key="again", title=f"{one.title}, once more", study=one.study,
                detail=_AGAIN)  # fmt: skip
        else:
            add(left, key="study", title="One measured study",
                detail=_STUDY)  # fmt: skip
    elif left > 0:  # too little for anything by itself
        items[-1] = replace(items[-1], minutes=items[-1].minutes + left)
    return tuple(items)


_SIGHT = 5
"""Minutes for a sitter, about a dozen sightings (chosen here, no source)."""

_DRAWN = 8
"""Minutes from which on something is drawn and measured."""

_SHORT = 15
"""Minutes below which a day is quick poses alone."""

_QUICK = ((60, 5), (30, 8), (120, 4), (60, 8))
"""Seconds a pose, and how many at most; a day's set after the other."""
