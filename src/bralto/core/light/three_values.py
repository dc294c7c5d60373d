"""A picture in three values: how much of the figure is dark, half-tone and light."""

from __future__ import annotations

from dataclasses import dataclass

from bralto.core.measures.verdict import verdict_on
from bralto.core.study.values import Point
from bralto.core.tolerances import Grade
from bralto.core.words.fact import Fact

__all__ = ["ThreeValues", "value_facts"]

_NAMES = ("dark", "half-tone", "light")

_EDGE_U = 0.02
"""Standard deviation of a share of the figure: edges of tones are soft, and where three values part
is for the tones themselves to say (chosen here, no source)."""

_SOFT = 2.0
"""Times the grade's percent that a share may be off, as that of shadow (chosen here, no source)."""


@dataclass(frozen=True, slots=True)
class ThreeValues:
    """What was found of one picture.

    Attributes:
        shares: of the figure that is dark, half-tone and light.
        dark, half: outlines, image px, of dark, and of half-tone and dark together.
    """

    shares: tuple[float, float, float]
    dark: tuple[tuple[Point, ...], ...]
    half: tuple[tuple[Point, ...], ...]


def value_facts(
    seen: ThreeValues | None, drawn: ThreeValues | None, grade: Grade
) -> tuple[Fact, ...]:
    """The three shares of both pictures, as far as they were found."""
    facts = []
    for i, name in enumerate(_NAMES):
        there, here = (
            "" if one is None else f"{100.0 * one.shares[i]:.0f} %" for one in (seen, drawn)
        )
        if seen is None or drawn is None:
            facts.append(Fact(name, there, here))
            continue
        off = drawn.shares[i] - seen.shares[i]
        u = 2.0**0.5 * _EDGE_U
        verdict = verdict_on(off, u, _SOFT * grade.percent / 100.0)
        facts.append(Fact(name, there, here, verdict, off > 0.0))
    return tuple(facts)
