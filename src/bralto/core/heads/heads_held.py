"""A drawn head held against the one that was seen: is it turned and raised as that is?"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.constructions import Form
from bralto.core.discover.figures import Figure
from bralto.core.discover.levels import USUAL, Standpoint
from bralto.core.heads.head_forms import head_forms, planes_seen
from bralto.core.heads.head_in_space import (
    RAISED,
    TURNED,
    HeadInSpace,
    head_in_space,
    same_head,
)
from bralto.core.measures.verdict import tolerance_of, verdict_on
from bralto.core.results import NotMeasurable
from bralto.core.session.facts import Fact
from bralto.core.tolerances import Grade
from bralto.core.wording import simple_ratio

__all__ = ["HeadPair", "head_facts", "heads_of"]


@dataclass(frozen=True, eq=False)
class HeadPair:
    """The head of either picture; of the drawing as the same head that was seen."""

    seen: HeadInSpace | NotMeasurable
    drawn: HeadInSpace | NotMeasurable

    def forms(self, board: str, school: str) -> tuple[Form, ...]:
        """The big forms of the head on a board; none where it is not known how it stands."""
        head = self.seen if board == "reference" else self.drawn
        return () if isinstance(head, NotMeasurable) else head_forms(head, school)

    def error(self, angle: int) -> tuple[float, float] | None:
        """By how many degrees the drawing is turned or raised further than was seen, and the
        standard uncertainty of that; None where it is not known of both."""
        if isinstance(self.seen, NotMeasurable) or isinstance(self.drawn, NotMeasurable):
            return None
        error = float(self.drawn.angles[angle] - self.seen.angles[angle])
        return error, float(self.drawn.u[angle])


def heads_of(
    seen: Figure | NotMeasurable, drawn: Figure | NotMeasurable, stood: Standpoint | None
) -> HeadPair:
    """How the heads of both pictures stand.

    Args:
        stood: from where the head was seen, where that is known.
    """
    if isinstance(seen, NotMeasurable):
        return HeadPair(seen, seen)
    head = head_in_space(seen, (stood or USUAL).heads)
    if isinstance(head, NotMeasurable):
        return HeadPair(head, head)
    if isinstance(drawn, NotMeasurable):
        return HeadPair(head, drawn)
    placed: Mapping[str, float] = dict(zip(drawn.marks.keys, drawn.sd.tolist(), strict=True))
    own = dict(zip(seen.marks.keys, seen.sd.tolist(), strict=True))
    sd = np.array([math.hypot(own[key], placed.get(key, 0.0)) for key in head.keys])
    return HeadPair(head, same_head(head, drawn, sd))


def head_facts(pair: HeadPair, grade: Grade) -> tuple[Fact, ...]:
    """How far either head is turned and raised, and how much of its front and side is seen."""
    if isinstance(pair.seen, NotMeasurable):
        return ()
    facts = [
        _angle_fact(pair, grade, angle, label, ways)
        for angle, label, ways in (
            (TURNED, "the head turned", ("right", "left")),
            (RAISED, "the head raised", ("up", "down")),
        )
    ]
    front, side = planes_seen(pair.seen)
    if min(front, side) > _BOTH * max(front, side):
        drawn = ""
        if not isinstance(pair.drawn, NotMeasurable):
            drawn = _front_to_side(pair.drawn)
        facts.append(Fact("front : side of the head", _front_to_side(pair.seen), drawn))
    return tuple(facts)


_BOTH = 0.2
"""Where less of either is seen, of the other, their ratio tells nothing."""


def _front_to_side(head: HeadInSpace) -> str:
    front, side = planes_seen(head)
    return simple_ratio(max(front, 1e-3) / max(side, 1e-3))


def _angle_fact(
    pair: HeadPair, grade: Grade, angle: int, label: str, ways: tuple[str, str]
) -> Fact:
    assert not isinstance(pair.seen, NotMeasurable)
    seen = float(pair.seen.angles[angle])
    found = pair.error(angle)
    if found is None:
        return Fact(label, _degrees(seen, ways), points=pair.seen.keys)
    error, u = found
    verdict = verdict_on(error, u, tolerance_of("angle", grade))
    # More is further the way that is seen.
    more = error * (1.0 if seen >= 0.0 else -1.0) > 0.0
    drawn = _degrees(seen + error, ways)
    return Fact(label, _degrees(seen, ways), drawn, verdict, more, pair.seen.keys)


def _degrees(value: float, ways: tuple[str, str]) -> str:
    whole = round(value)
    return f"{abs(whole)}° {ways[0] if whole > 0 else ways[1]}" if whole else "0°"
