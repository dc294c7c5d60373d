"""By which measure a correction can be checked, and whether there is one.

A teacher holds a thigh against the head, and not the distance of the heels, which only follows.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.corrections.candidates.moves import Move, MoveKind
from bralto.core.measures.readings import Reading
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import MeasureKind, MeasureSpec, View

__all__ = ["checks", "stands_out"]

_HALF = 0.5
"""Share of an error that a correction must take away for the measure to bear it out."""

_SUITS: dict[str, frozenset[MeasureKind]] = {
    **dict.fromkeys(("scale", "lengthen", "widen", "stretch"), frozenset({"span", "ratio"})),
    **dict.fromkeys(("turn", "swing", "tilt", "straighten"), frozenset({"tilt", "angle"})),
    **dict.fromkeys(
        ("eye", "face", "nod", "tip", "twist"),
        frozenset({"height", "offset", "span", "ratio", "fraction", "tilt", "angle", "alignment"}),
    ),
    "lean": frozenset({"tilt", "alignment"}),
    "turn whole": frozenset({"tilt", "angle", "alignment"}),
    "shift": frozenset({"alignment", "offset", "height", "fraction", "span", "ratio"}),
}
"""Kinds of measures by which a move is checked first: a size against a size, a turn by an angle."""

_TELLING = 2.0
"""How much a measure that lists name is preferred as the check."""

_LENGTHS: frozenset[MoveKind] = frozenset({"scale", "lengthen"})
_ALONE: frozenset[MoveKind] = frozenset({"lengthen", "swing", "widen", "tilt"})
"""Moves that make a part longer; and those of a part without what hangs from it."""

_ORIGIN: dict[MeasureKind, int] = {"height": 1, "offset": 1}
"""Points of a kind that only say where it is counted from: the mark that counts comes after."""


def stands_out(errors: Floats, readings: Sequence[Reading]) -> Bools:
    """Which errors, (m,) or (k, m), stand out from tolerance and doubt."""
    bounds = np.array([
        math.inf if one.error is None else max(one.tolerance, COVERAGE * (one.u or 0.0))
        for one in readings
    ])  # fmt: skip
    return np.asarray(np.abs(np.nan_to_num(errors)) > bounds)


def checks(
    view: View, keys: Sequence[str], moves: Sequence[Move], left_over: Floats, alone: Floats,
    readings: Sequence[Reading],
) -> tuple[MeasureSpec | None, ...]:  # fmt: skip
    """For each move the measure that bears it out; None where there is none.

    It is one of a point that the move shifts, off by itself once all other moves are put right, and
    for the larger part by this move. A head is also borne out by lengths that are counted in it.
    Of several it is the one that is nearest to the part: a thigh is held against the head, and not
    the distance of the heels, which only follows.

    Args:
        left_over: (m,) array, errors with all moves put right; ``alone`` (k, m), with each move
            alone left wrong.
    """
    moved = {key: i for i, key in enumerate(keys)}
    marks_of = {point.key: point.marks for point in view.points}
    made_by = alone - left_over
    most = np.abs(np.nan_to_num(made_by)) >= _HALF * np.abs(np.nan_to_num(alone))
    borne_by = stands_out(alone, readings) & (alone * made_by > 0.0) & most
    unit = [moved[key] for key in view.head if key in moved]
    out = []
    for row, move in enumerate(moves):
        ends = move.carried[unit]
        counted = bool(ends.any()) and not ends.all()
        of_unit = counted and move.kind == "scale" and view.size == "figure"
        suits = _SUITS.get(f"{move.kind} {move.part or 'whole'}", _SUITS[move.kind])
        part = _part_of(view, move.kind, move.part)
        best, worth, borne = None, (False, 0, 0, 0.0), False
        for at in np.nonzero(borne_by[row])[0].tolist():
            reading = readings[at]
            points = reading.spec.points[_ORIGIN.get(reading.spec.kind, 0) :]
            touched = {key for point in points for key in marks_of.get(point, (point,))}
            carried = [bool(move.carried[moved[key]]) for key in touched if key in moved]
            if not any(carried) and not (of_unit and reading.spec.kind == "span"):
                continue
            size = abs(float(alone[row, at])) / reading.tolerance
            size *= _TELLING if reading.spec.telling else 1.0
            suited, own = reading.spec.kind in suits, part.nearness(reading.spec, touched, marks_of)
            # What is of another kind tells only what lies on the part alone.
            bears = suited or (move.part is not None and all(carried))
            borne = borne or bears
            if own and reading.spec.kind == "fraction" and move.kind in _LENGTHS:
                suited = True  # a nose that is long: where it ends between the eyes and the chin
            rank = (suited, own, any(carried) + all(carried), size)
            if (bears or suited) and rank > worth:
                best, worth = reading.spec, rank
        out.append(best if borne else None)
    return tuple(out)


@dataclass(frozen=True, slots=True)
class _Part:
    """The marks by which a measure can be one of the very part that a move is about.

    Attributes:
        lines: both marks of each length or width that the move changes; ``ends``, what ends it;
            ``joints``, where it begins.
        own: marks that are its own; ``hanging``, that go along with these; ``near``, up to where a
            measure of it may reach besides.
    """

    lines: frozenset[frozenset[str]] = frozenset()
    ends: frozenset[str] = frozenset()
    joints: frozenset[str] = frozenset()
    own: frozenset[str] = frozenset()
    hanging: frozenset[str] = frozenset()
    near: frozenset[str] = frozenset()

    def nearness(
        self, spec: MeasureSpec, touched: set[str], marks_of: Mapping[str, tuple[str, ...]]
    ) -> int:
        """From 0, of other parts too, to 4, the line itself.

        Args:
            touched: marks that the measure is made of; ``marks_of``, of each point that is derived.
        """
        whole = self.own | self.hanging
        if not touched & whole:
            return 0
        if spec.kind == "fraction":  # what lies between what is above and what is below
            at = set(marks_of.get(spec.points[1], spec.points[1:2]))
            if at and (at <= self.ends or at <= self.joints):
                return 3
            return (
                0 if at & whole or spec.along == "level" else 2
            )  # what lies across tells no length
        if frozenset(touched) in self.lines:
            return 4
        if touched & self.own and touched <= self.own | self.near:
            return 3 if touched & self.ends and not touched <= self.own - self.joints else 1
        return int(touched <= whole | self.near)


@lru_cache(maxsize=512)
def _part_of(view: View, kind: MoveKind, part: str | None) -> _Part:
    """What a move is about; nothing where that is the whole, a mark, or where a part lies."""
    if kind not in _ALONE | {"scale", "turn"}:
        return _Part()
    limbs = [limb for limb in view.limbs if part in limb.parts]
    carried = {limb.key for limb in limbs}
    for limb in view.limbs:  # what hangs from others comes after them
        if limb.parent in carried and kind not in _ALONE:
            carried.add(limb.key)
    own = frozenset(key for limb in limbs for key in limb.marks)
    hanging = {key for limb in view.limbs if limb.key in carried for key in limb.marks} - own
    parents = {limb.parent for limb in limbs}
    joints = frozenset(key for limb in limbs for key in (*limb.root, *limb.instead))
    near = {key for limb in view.limbs if limb.key in parents for key in limb.marks}
    lines = [limb.span or (*limb.root, *limb.marks[:1]) for limb in limbs]
    return _Part(
        frozenset() if hanging else frozenset(map(frozenset, lines)),
        frozenset(key for limb in limbs for key in limb.span or limb.marks[:1]),
        joints,
        own,
        frozenset(hanging),
        joints | near,
    )
