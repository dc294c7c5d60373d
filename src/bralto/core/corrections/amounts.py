"""How large the amounts of moves may be: several times what is common in beginners' drawings."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.candidates.moves import Move, MoveKind

__all__ = ["usual_amounts"]

_USUAL: dict[MoveKind, float] = {
    "scale": 0.3, "lengthen": 0.3, "widen": 0.3, "straighten": 0.3, "stretch": 0.2,
    "lean": 0.4, "tilt": 0.15, "face": 0.2, "nod": 0.2, "tip": 0.2,
}  # fmt: skip
"""SD about 0: relative sizes, the share of all leans and tilts, the tangent of a lean, radians of a
girdle's tilt and of a head in space (chosen here). A tilt is held closer than a lean: else a
leaning drawing would be one that is turned, with both girdles tilted back."""

_TURN, _TURN_WHOLE = 0.5, 0.4
"""Radians likewise that a part, and the whole, may be turned."""


def usual_amounts(moves: Sequence[Move], shift: float) -> Floats:
    """(k,) array: SD about 0 of every parameter of the moves, each in its own unit.

    Args:
        shift: of where a part may stand, heads.
    """
    return np.array([_usual(move, shift) for move in moves for _ in range(move.size)])


def _usual(move: Move, shift: float) -> float:
    if move.kind == "shift":
        return shift
    return _USUAL.get(move.kind, _TURN_WHOLE if move.part is None else _TURN)
