"""The stages of a drawing at which a photo tells most: where an error came in is then known."""

from __future__ import annotations

from collections.abc import Iterable

__all__ = ["STAGES", "stages_to_come"]

STAGES = ("action", "block-in", "straight lines", "before shading", "end")
"""In the order in which a drawing passes through them (common practice, no source)."""


def stages_to_come(states: Iterable[str]) -> tuple[str, ...]:
    """The stages after the last one that a state is named after; all while none is."""
    taken = [STAGES.index(name) for name in states if name in STAGES]
    return STAGES[max(taken) + 1 :] if taken else STAGES
