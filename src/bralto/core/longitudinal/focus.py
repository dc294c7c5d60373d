"""A habit that is worked on, and whether it helped: advice is held to account."""

from __future__ import annotations

import json
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from bralto.core.longitudinal.comparison import Change, compared
from bralto.core.longitudinal.habit_words import change_words
from bralto.core.longitudinal.study_traits import StudyTraits
from bralto.core.longitudinal.trait_table import TraitSpec, trait_named

__all__ = ["AFTER", "BEFORE", "KIND", "Focus", "Outcome", "focus_document", "focuses", "outcome"]

KIND = "focus"
"""Of what is noted on practising (`store.library.Library.note_practice`)."""

AFTER = 6
"""Studies after which it is told whether it helped."""

BEFORE = 12
"""Studies before it was taken up that it is held against, the last ones."""


@dataclass(frozen=True, slots=True)
class Focus:
    """A trait that is worked on since an instant, until another, or still (None)."""

    trait: TraitSpec
    group: str
    since: datetime
    until: datetime | None = None


@dataclass(frozen=True, slots=True)
class Outcome:
    """Where a focus stands.

    Attributes:
        studies: since it was taken up. left: how many more until it is told.
        change: before and since, once it can be told.
        words: all that in a sentence.
    """

    studies: int
    left: int
    change: Change | None
    words: str


def focus_document(trait: str, group: str, *, on: bool) -> str:
    """What is noted when a trait is taken up, or let go."""
    return json.dumps({"trait": trait, "group": group, "on": on})


def focuses(noted: Iterable[tuple[str, str, str]]) -> tuple[Focus, ...]:
    """The focuses out of all that was noted (at, kind, document), in the order of noting; what of
    it cannot be understood counts as not there."""
    found: list[Focus] = []
    for at, kind, document in noted:
        if kind != KIND:
            continue
        try:
            body, when = json.loads(document), datetime.fromisoformat(at)
            trait, group, on = trait_named(body["trait"]), str(body["group"]), bool(body["on"])
        except (ValueError, KeyError, TypeError):
            continue
        if trait is None or when.tzinfo is None:
            continue
        for row, one in enumerate(found):
            if one.until is None and (one.trait.key, one.group) == (trait.key, group):
                found[row] = Focus(trait, group, one.since, when)
        if on:
            found.append(Focus(trait, group, when))
    return tuple(found)


def outcome(focus: Focus, studies: Sequence[tuple[datetime, StudyTraits]]) -> Outcome:
    """Whether working on it helped.

    Args:
        studies: of the focus's group, with when each was made, oldest first. A clock that was set
            back may put studies before the focus that were drawn after it; they count as before.
    """
    before = [one for when, one in studies if when < focus.since][-BEFORE:]
    after = [
        one
        for when, one in studies
        if when >= focus.since and (focus.until is None or when < focus.until)
    ]
    left = max(0, AFTER - len(after))
    if left:
        many = "one more study tells" if left == 1 else f"{left} more studies tell"
        words = f"taken up; {many} whether it helped"
        return Outcome(len(after), left, None, words)
    change = compared(focus.group, focus.trait, before, after)
    if change is None:
        return Outcome(len(after), 0, None, "too few studies before it to tell whether it helped")
    doubt = f"{_percent(change.high - change.by, focus.trait)}"
    said = f"{change_words(change)} (± {doubt})"
    if not change.told:
        return Outcome(len(after), 0, change, f"no change can be told: {said}")
    if change.helped:
        return Outcome(len(after), 0, change, f"it helped: {said}")
    return Outcome(len(after), 0, change, f"it did not help: {said}")


def _percent(size: float, trait: TraitSpec) -> str:
    if trait.unit == "degrees":
        return f"{abs(size):.1f}°"
    return f"{math.ceil(100.0 * abs(size)):d} %"
