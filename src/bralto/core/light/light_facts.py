"""What is told of light and shadow, and of where the eye is led."""

from __future__ import annotations

import math

from bralto.core.action.bend import Doubted
from bralto.core.light.shadows_held import LightReading, Patch
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.words.fact import Fact
from bralto.core.words.phrases import how_many, with_doubt

__all__ = ["apart_words", "light_facts", "shape_words_of"]

_SOFT = 2.0
"""How many times the grade's percent the share of dark may be off: edges of shadow are soft (chosen
here, no source)."""

_TURNS = 1.5
"""How many times as often as the seen one a drawn edge may turn before it counts as restless
(chosen here, no source)."""

_FOCUS, _FOCUS_U = 10.0, 2.0
"""Tolerances of lengths within which a place of focus is there, and its standard uncertainty in
them: it is a region and no mark, half a head of a figure (chosen here, no source)."""


def light_facts(found: LightReading, grade: Grade) -> tuple[Fact, ...]:
    """Dark in all, overlap, the terminator, its corners."""
    share = found.drawn_share - found.seen_share
    u = found.overlap.u  # both are areas between the same edges
    verdict = verdict_on(share, u, _SOFT * grade.percent / 100.0)
    facts = [
        Fact("of the figure is dark", _percent(found.seen_share), _percent(found.drawn_share),
             verdict, share > 0.0),
        Fact("dark on dark", "", _alike(found.overlap)),
    ]  # fmt: skip
    if found.edge is not None:
        facts.append(_edge("shadow edge into the light", found.edge, grade))
    if found.edge_farthest is not None:
        facts.append(_edge("where it is farthest", found.edge_farthest[0], grade))
    facts.append(_corners(found))
    return tuple(facts)


def _edge(label: str, one: Doubted, grade: Grade) -> Fact:
    verdict = verdict_on(one.value, one.u, grade.head)
    drawn = with_doubt(one.value, COVERAGE * one.u, 2, sign=True)
    return Fact(label, "", drawn, verdict, one.value > 0.0)


def _corners(found: LightReading) -> Fact:
    """An edge that turns more often than the seen one is restless; fewer turns are a choice."""
    restless = found.drawn_corners > _TURNS * max(found.seen_corners, found.big_corners)
    seen = f"{found.seen_corners}, {found.big_corners} big"
    verdict = Verdict.OVER if restless else Verdict.WITHIN
    return Fact("its edge turns", seen, str(found.drawn_corners), verdict, restless)


def shape_words_of(patches: tuple[Patch, ...], lost: bool) -> str:
    """'2 shapes lost', with their size in heads squared."""
    areas = ", ".join(f"{one.area:.2f}" for one in patches[:3])
    return f"{how_many(len(patches), 'shape')} {'lost' if lost else 'invented'}: {areas} heads²"


def apart_words(
    named: tuple[float, float], place: tuple[float, float], head: float, grade: Grade
) -> tuple[str, Verdict]:
    """How far a place of focus lies from the one that was named, and its verdict.

    Args:
        named, place: image px of one picture. head: px there.
    """
    away = math.hypot(place[0] - named[0], place[1] - named[1]) / head
    verdict = verdict_on(away, _FOCUS_U * grade.head, _FOCUS * grade.head)
    there = "there" if verdict == Verdict.WITHIN else f"{away:.1f} heads off"
    return there, verdict


def _percent(value: float) -> str:
    return f"{100.0 * value:.0f} %"


def _alike(one: Doubted) -> str:
    return f"{_percent(one.value)} ± {math.ceil(100.0 * COVERAGE * one.u)}"
