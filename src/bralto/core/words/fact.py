"""A figure of both pictures as it is told: one line of a pass."""

from __future__ import annotations

from dataclasses import dataclass

from bralto.core.measures.verdict_names import Verdict

__all__ = ["Fact"]


@dataclass(frozen=True, slots=True)
class Fact:
    """One line: ``seen`` on the reference, ``drawn`` on the drawing, "" where it is not known.

    Attributes:
        verdict: one of `measures.verdict.Verdict`.
        more: whether the drawing has more of it.
        points: marks that light up with it.
        down: whether more of it is further down, and not further to the right.
    """

    label: str
    seen: str
    drawn: str = ""
    verdict: Verdict = Verdict.NOT_MEASURED
    more: bool = False
    points: tuple[str, ...] = ()
    down: bool = False
