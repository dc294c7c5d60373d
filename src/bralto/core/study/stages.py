"""The stages of a drawing at which a photo tells most: where an error came in is then known."""

from __future__ import annotations

from collections.abc import Iterable

from bralto.core.views.pass_keys import PassKey

__all__ = ["FIRST", "STAGES", "stage_at", "stages_to_come"]

FIRST = "first"
"""Name of the first state of a drawing, which may show any stage."""

STAGES = ("action", "block-in", "straight lines", "before shading", "end")
"""In the order in which a drawing passes through them (common practice, no source)."""


_AT: dict[str, str] = {
    PassKey.ACTION: "action",
    PassKey.EDGES: "block-in",
    PassKey.TILTS: "straight lines",
    PassKey.LIGHT: "before shading",
    PassKey.VERDICT: "end",
}
"""By pass, the stage at which a drawing stands when it comes (common practice, no source)."""


def stage_at(key: str, states: Iterable[str]) -> str:
    """The stage whose photo is due in a pass; "" where it has none, or its stage is past."""
    stage = _AT.get(key, "")
    return stage if stage in stages_to_come(states) else ""


def stages_to_come(states: Iterable[str]) -> tuple[str, ...]:
    """The stages after the last one that a state is named after; all while none is."""
    taken = [STAGES.index(name) for name in states if name in STAGES]
    return STAGES[max(taken) + 1 :] if taken else STAGES
