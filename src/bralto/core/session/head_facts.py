"""What a pass shows of how a head stands in space."""

from __future__ import annotations

from collections.abc import Collection

from bralto.core.heads.head_forms import planes_seen
from bralto.core.heads.head_in_space import RAISED, TURNED
from bralto.core.heads.heads_held import HeadPair
from bralto.core.measures.verdict import tolerance_of, verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import Grade
from bralto.core.words.fact import Fact
from bralto.core.words.wording import simple_ratio

__all__ = ["head_facts"]


def head_facts(pair: HeadPair, grade: Grade, listed: Collection[str]) -> tuple[Fact, ...]:
    """How far either head is turned and its chin raised, and how much of its front and side is
    seen.

    Args:
        listed: the kinds of the corrections. What else is off makes a head look turned: it is said
            to be off by that alone which is among them.
    """
    if isinstance(pair.seen, NotMeasurable):
        return ()
    facts = [
        _angle_fact(pair, grade, angle, label, ways, listed=kind in listed)
        for angle, kind, label, ways in (
            (TURNED, "face", "head turned", ("right", "left")),
            (RAISED, "nod", "chin raised", ("up", "down")),
        )
    ]
    front, side = planes_seen(pair.seen)
    if min(front, side) > _BOTH * max(front, side):
        drawn = "" if isinstance(pair.drawn, NotMeasurable) else _ratio(*planes_seen(pair.drawn))
        facts.append(Fact("front : side of the head", _ratio(front, side), drawn))
    return tuple(facts)


_BOTH = 0.2
"""Where less of either is seen, of the other, their ratio tells nothing (chosen here)."""


def _ratio(front: float, side: float) -> str:
    return simple_ratio(max(front, 1e-3) / max(side, 1e-3))


def _angle_fact(
    pair: HeadPair, grade: Grade, angle: int, label: str, ways: tuple[str, str], *, listed: bool
) -> Fact:
    assert not isinstance(pair.seen, NotMeasurable)
    seen = float(pair.seen.angles[angle])
    found = pair.error(angle)
    if found is None:
        return Fact(label, _degrees(seen, ways), points=pair.seen.keys)
    error, u = found
    # More is further the way that is seen.
    further = error if seen >= 0.0 else -error
    verdict = verdict_on(further, u, tolerance_of("angle", grade))
    if verdict.off and not listed:
        verdict = Verdict.CANNOT_TELL
    drawn = _degrees(seen + error, ways)
    return Fact(label, _degrees(seen, ways), drawn, verdict, further > 0.0, pair.seen.keys)


def _degrees(value: float, ways: tuple[str, str]) -> str:
    whole = round(value)
    return f"{abs(whole)}° {ways[0] if whole > 0 else ways[1]}" if whole else "0°"
