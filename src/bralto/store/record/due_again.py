"""Which poses are due to be drawn again: at growing gaps, by the rule of the package `fsrs`.

A rule of thumb for what to draw next, not a science of drawing: it was made for things learnt by
heart. A try that came out closer than the learner's own middle, of heads or of figures, lengthens
the gap.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from statistics import median

from bralto.core.longitudinal.practice import Due
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.traits.trait_table import group_of
from bralto.core.results import NotMeasurable
from bralto.store.record.tries import pose_title

__all__ = ["due_again"]

_CLOSER, _FURTHER = 0.7, 1.3
"""Of the learner's own middle: a try that went easily, and one that went hard."""

_LONGEST_DAYS = 120


def due_again(studies: Sequence[Counted], now: datetime) -> tuple[Due, ...]:
    """Poses whose gap is over by ``now`` (aware), the longest due first.

    Only poses that were drawn twice count, or that were begun again: nobody is asked to repeat
    everything.
    """
    from fsrs import Card, Rating, Scheduler

    misses: dict[str, list[float]] = {}
    for one in studies:
        if not isinstance(one.summary.tracked, NotMeasurable):
            misses.setdefault(group_of(one.view), []).append(one.summary.tracked.value)
    middle = {group: median(values) for group, values in misses.items()}
    if not middle:
        return ()
    scheduler = Scheduler(
        learning_steps=(), relearning_steps=(), maximum_interval=_LONGEST_DAYS,
        enable_fuzzing=False,
    )  # fmt: skip
    series: dict[str, list[Counted]] = {}
    for one in sorted(studies, key=lambda one: one.when):
        series.setdefault(one.facts.again or one.id, []).append(one)
    found = []
    for tries in series.values():
        if len(tries) < 2:
            continue
        card, last = Card(), None
        for one in tries:
            # A clock that was set back must not make a try before the one before it.
            when = one.when.astimezone(UTC)
            when = when if last is None else max(when, last)
            tracked, rating = one.summary.tracked, Rating.Good
            if not isinstance(tracked, NotMeasurable):
                usual = middle[group_of(one.view)]
                share = tracked.value / usual if usual > 0.0 else 1.0
                if share <= _CLOSER:
                    rating = Rating.Easy
                elif share >= _FURTHER:
                    rating = Rating.Hard
            card, _ = scheduler.review_card(card, rating, when)
            last = when
        if card.due <= now:
            title = pose_title(tries[-1].title)
            found.append(Due(tries[-1].id, title, card.due.astimezone().date()))
    return tuple(sorted(found, key=lambda one: (one.since, one.title)))
