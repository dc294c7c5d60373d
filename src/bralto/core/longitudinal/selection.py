"""What the record tells studies apart by (`columns` counts them by it).

Light on purpose, like `core.examination.summary`.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

from bralto.core.examination.summary import Facts, Summary

__all__ = [
    "ALL", "ASPECTS", "WHOLE", "Aspect", "Choices", "Counted", "group_words", "tries_of",
]  # fmt: skip

ALL = ""
"""The choice of an aspect that leaves nothing out."""


class Counted(NamedTuple):
    """A study that the record may count.

    Attributes:
        when: when it was made, aware. view, kind: of the study. seconds: spent on it.
        summary: what was measured. answers: on how it was made (`session.gate.CHECKS`).
    """

    id: str
    title: str
    when: datetime
    view: str
    kind: str
    tags: tuple[str, ...]
    seconds: float
    facts: Facts
    summary: Summary
    answers: tuple[tuple[str, str], ...] = ()


Choices = Mapping[str, str]
"""Of each aspect the value that is chosen; `ALL`, or no word of it, leaves nothing out."""


@dataclass(frozen=True, slots=True)
class Aspect:
    """What studies are told apart by.

    Attributes:
        key, title: id and words. values: what a study is of it, none or several.
        words: how a value is said. apart: whether studies of different values are never counted
            together, so that one is always chosen.
    """

    key: str
    title: str
    values: Callable[[Counted], tuple[str, ...]]
    words: Callable[[str], str]
    apart: bool = False


def _group(one: Counted) -> tuple[str, ...]:
    return (one.view.split("-", 1)[0],)


_GROUPS = {"figure": "figures", "head": "heads", "hand": "hands", "arm": "arms", "leg": "legs",
           "torso": "torsos", "object": "objects"}  # fmt: skip


def group_words(key: str) -> str:
    """Several of what a view shows, by the first word of its key."""
    return _GROUPS.get(key, "own views")


_SOURCES = {"model": "the model", "photo": "a photo", "life": "life", "canon": "imagination"}
_TIMES = (("short", "under 10 minutes", 600.0), ("middle", "10 to 30 minutes", 1800.0))
_LONG = "over 30 minutes"


def _time(one: Counted) -> tuple[str, ...]:
    if one.seconds <= 0.0:
        return ()
    return (next((key for key, _, most in _TIMES if one.seconds < most), "long"),)


def _known(value: str) -> tuple[str, ...]:
    return (value,) if value else ()


WHOLE = "whole"
"""Of a study whose figure is not cropped; it need not be said."""


def _as_it_is(value: str) -> str:
    return value


ASPECTS: tuple[Aspect, ...] = (
    Aspect("subject", "subject", _group, group_words, apart=True),
    Aspect("kind", "kind", lambda one: (one.kind,), _as_it_is, apart=True),
    Aspect("school", "scale school", lambda one: _known(one.facts.school), _as_it_is, apart=True),
    Aspect("shown", "how much is seen", lambda one: (one.facts.cropped or WHOLE,), _as_it_is,
           apart=True),
    Aspect("view", "view", lambda one: (one.view,), lambda value: value.replace("-", " ")),
    Aspect("source", "drawn from", lambda one: _known(one.facts.source),
           lambda value: _SOURCES.get(value, value)),
    Aspect("hard", "difficulty", lambda one: _known(str(one.facts.hard or "")),
           lambda value: f"{value} of 5"),
    Aspect("paper", "paper", lambda one: _known(one.facts.paper), _as_it_is),
    Aspect("time", "time taken", _time,
           lambda value: next((words for key, words, _ in _TIMES if key == value), _LONG)),
    Aspect("grade", "grade", lambda one: _known(one.facts.grade), _as_it_is),
    Aspect("tag", "tag", lambda one: one.tags, _as_it_is),
)  # fmt: skip
"""In the order of the menu."""


def tries_of(studies: Iterable[Counted]) -> list[list[Counted]]:
    """Studies of one pose that was drawn again, oldest first; the pose tried last comes first."""
    series: dict[str, list[Counted]] = {}
    for one in sorted(studies, key=lambda one: one.when):
        series.setdefault(one.facts.again or one.id, []).append(one)
    several = [each for each in series.values() if len(each) > 1]
    return sorted(several, key=lambda each: each[-1].when, reverse=True)
