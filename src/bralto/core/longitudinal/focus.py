"""Habits that are worked on, as they were noted."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from bralto.core.longitudinal.traits.trait_table import TraitSpec, trait_named
from bralto.core.study.instants_read import instant_of

__all__ = ["KIND", "Focus", "focus_document", "focuses", "worked_on"]

KIND = "focus"
"""Of what is noted on practising (`store.library.Library.note_practice`)."""


@dataclass(frozen=True, slots=True)
class Focus:
    """A trait that is worked on since an instant, until another, or still (None)."""

    trait: TraitSpec
    group: str
    since: datetime
    until: datetime | None = None


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
            body, when = json.loads(document), instant_of(at)
            trait, group, on = trait_named(body["trait"]), str(body["group"]), bool(body["on"])
        except (ValueError, KeyError, TypeError):
            continue
        if trait is None or when is None:
            continue
        for row, one in enumerate(found):
            if one.until is None and (one.trait.key, one.group) == (trait.key, group):
                found[row] = Focus(trait, group, one.since, when)
        if on:
            found.append(Focus(trait, group, when))
    return tuple(found)


def worked_on(noted: Iterable[tuple[str, str, str]], group: str) -> tuple[Focus, ...]:
    """What of a group of views is worked on now."""
    return tuple(one for one in focuses(noted) if one.until is None and one.group == group)
