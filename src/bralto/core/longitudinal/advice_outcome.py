"""Whether working on a habit helped: advice is held to account."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from bralto.core.longitudinal.focus import Focus
from bralto.core.longitudinal.traits.comparison import Change, compared
from bralto.core.longitudinal.traits.habit_words import change_words
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_table import TraitSpec

__all__ = ["AFTER", "BEFORE", "Outcome", "outcome"]

AFTER = 6
"""Studies after which it is told whether it helped."""

BEFORE = 12
"""Studies before it was taken up that it is held against, the last ones."""


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
