"""Moves: what can have gone wrong with the whole, a limb or one mark, as maps of all marks.

A move of family ``G`` about a joint maps the n marks X (n, 2) of a figure to X + C X (A - 1)^T:
``C`` (n, n) says which marks go along with which others, relative to the joint; A is a scaling, a
turn, a stretch or a lean by one parameter. A shift adds b theta^T. So any list of moves composes,
from what hangs deepest up to the whole, and its derivatives come by the chain rule.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal, get_args

import numpy as np

from bralto.core.arrays import Floats, Ints

__all__ = ["MOVES", "Candidates", "Move", "MoveKind", "Stage", "Step", "Turned"]

MoveKind = Literal[
    "scale", "eye", "face", "nod", "tip", "stretch", "lean", "turn", "straighten", "twist",
    "lengthen", "swing", "widen", "tilt", "shift",
]  # fmt: skip
MOVES: tuple[MoveKind, ...] = get_args(MoveKind)
"""Names of the moves in the fix order of ties. ``scale`` and ``turn`` take a limb with all that
hangs from it; ``lengthen`` and ``swing`` only the part itself, what hangs from it goes along and
keeps its size and direction; ``widen`` and ``tilt`` are the same for a girdle; ``stretch`` is in
width, ``lean`` of the verticals, both of the whole figure, which ``turn`` may take too; ``eye`` has
it all seen from another height, which is known of the model alone; ``face``, ``nod`` and ``tip``
have a head that is known as a solid turned about its upright axis, raised, or tipped on its neck;
``straighten`` draws all leans and tilts at a share of what is seen, ``twist`` how trunk and head
are twisted against the pelvis, which is known of the model alone."""

_QUARTER = np.array([[0.0, -1.0], [1.0, 0.0]])
_TURNING: frozenset[MoveKind] = frozenset({"turn", "swing", "tilt"})
_ALONG_AXIS: frozenset[MoveKind] = frozenset({"lengthen", "widen"})
_GENERATOR: dict[MoveKind, Floats] = {
    "scale": np.eye(2),
    "stretch": np.diag([1.0, 0.0]),
    "lean": np.array([[0.0, 1.0], [0.0, 0.0]]),
    **dict.fromkeys(_TURNING, _QUARTER),
    **dict.fromkeys(_ALONG_AXIS, np.eye(2)),
}
"""A' at rest; what is done along an axis is so in both directions where that has no length."""

_SLIGHT = 1e-9
_SPATIAL: frozenset[MoveKind] = frozenset({"eye", "face", "nod", "tip", "twist"})
"""Moves of what is known in space."""

_SPATIAL_RANK = 2.0
"""As that of the stretch and the lean of the whole (`tree`)."""


@dataclass(frozen=True, eq=False)
class Turned:
    """What a straightened pose turns in one limb: ``along`` (n, n) as of a move, by how far its
    line ``ends`` leans from the axis of the figure, or from square to it where ``level``."""

    along: Floats
    ends: tuple[Floats, Floats]
    level: bool


@dataclass(frozen=True, eq=False)
class Step:
    """One of the maps that a move does one after the other: X + C X (A - 1)^T.

    Attributes:
        along: (n, n) array C.
        generator: (2, 2) array, A' at rest; ``turning``, whether A is a turn.
        by: share of the move's amount.
    """

    along: Floats
    generator: Floats
    turning: bool
    by: float = 1.0

    def change(self, theta: float) -> Floats:
        """A - 1, (2, 2), for an amount of the move; radians."""
        amount = self.by * theta
        if not self.turning:
            return amount * self.generator
        c, s = math.cos(amount), math.sin(amount)
        return np.array([[c - 1.0, -s], [s, c - 1.0]])


@dataclass(frozen=True, eq=False)
class Stage:
    """What one of a move's parameters does: a step, or a way that marks go.

    Attributes:
        column: which of the move's parameters.
        step: None where marks go a ``way``: (2, n, 2) array, by the amount and by its square.
    """

    column: int
    step: Step | None
    way: Floats | None = None


@dataclass(frozen=True, eq=False)
class Move:
    """One candidate.

    Attributes:
        kind: one of `MOVES`.
        part: key of a limb, of a pair of limbs or a mark, or None for the whole figure.
        label: the part in words; ``both`` where it is a pair.
        rank: place in the fix order of ties, the whole before big parts before marks.
        work: one of `views.model.WORK`; ``depth``, how far out a limb hangs.
        along: (n, n) array C; of a shift None.
        carried: (n,) array b of a shift, 1 for each mark that goes along.
        ends: two (n,) arrays of weights over marks: the part's joint and the mark that ends it, or
            both sides of a girdle.
        reach: rows of marks: the farthest of them from the joint ends the part with all that hangs
            from it. Empty where that is what ``ends`` says.
        axis: two (n,) arrays of weights over marks, from one to the other: the line along which a
            part is lengthened or a girdle widened, or that a shift of one amount follows.
        across: a shift goes square to its axis.
        members: of a pair or a group, the moves of each; ``of_pair``, it hangs from another.
        usual: teachers see it often, whatever the drawing (common practice, no source).
        turned: what a straightened pose turns.
        steps, ways: what is known once the marks are (`bound`): of a shift its directions, (1 or
            2, 2), of what is known in space where each mark goes, (2, n, 2), by the amount and by
            its square, else what it does.
    """

    kind: MoveKind
    part: str | None
    label: str
    rank: float
    work: str
    depth: int
    along: Floats | None
    carried: Floats
    ends: tuple[Floats, Floats]
    reach: tuple[int, ...] = ()
    both: bool = False
    axis: tuple[Floats, Floats] | None = None
    across: bool = False
    members: tuple[Move, ...] = ()
    of_pair: bool = False
    usual: bool = False
    turned: tuple[Turned, ...] = ()
    steps: tuple[Step, ...] = ()
    ways: Floats | None = None

    @property
    def size(self) -> int:
        """Number of parameters: two for a shift that may go anywhere, else one."""
        return 2 if self.kind == "shift" and self.axis is None else 1

    @property
    def several(self) -> bool:
        """Whether it does the same to several parts."""
        return self.both or bool(self.members)

    @property
    def in_space(self) -> bool:
        """Whether it is of what is known in space."""
        return self.kind in _SPATIAL

    @property
    def follows_axis(self) -> bool:
        """Whether what it does depends on where the marks lie at rest."""
        return self.axis is not None or any(one.axis is not None for one in self.members)

    @cached_property
    def stages(self) -> tuple[Stage, ...]:
        """What it does, one after the other; of a move that is bound."""
        if self.ways is None:
            return tuple(Stage(0, step) for step in self.steps)
        if self.in_space:
            return (Stage(0, None, self.ways),)
        fields = [self.carried[:, None] * way for way in self.ways]
        still = np.zeros_like(fields[0])
        return tuple(Stage(i, None, np.array([one, still])) for i, one in enumerate(fields))

    def sizes_at(self, start: Floats) -> tuple[float, ...]:
        """Lengths or widths of the parts that it is about, of (n, 2) marks at rest and in their
        units; one but where several parts do the same."""
        if self.members:
            return tuple(size for one in self.members for size in one.sizes_at(start))
        joint = self.ends[0] @ start
        away = start[list(self.reach)] if self.reach else (self.ends[1] @ start)[None]
        return (float(np.hypot(*(away - joint).T).max()),)

    def bound(self, start: Floats) -> Move:
        """The move with what the (n, 2) marks at rest say about it."""
        if self.in_space:
            return self  # it is the same wherever they lie
        if self.kind == "shift":
            return replace(self, ways=np.eye(2) if self.axis is None else self._way(start)[None])
        if self.members:
            steps = tuple(step for one in self.members for step in one.bound(start).steps)
        elif self.kind == "straighten":
            steps = tuple(
                Step(one.along, _QUARTER, True, -by)
                for one in self.turned
                if (by := self._leans(one, start)) != 0.0
            )
        else:
            assert self.along is not None
            way = self._way(start) if self.kind in _ALONG_AXIS else np.zeros(2)
            generator = np.outer(way, way) if np.any(way) else _GENERATOR[self.kind]
            steps = (Step(self.along, generator, self.kind in _TURNING),)
        return replace(self, steps=steps)

    def _way(self, start: Floats) -> Floats:
        """(2,) unit vector along the axis, or across it; zeros where it has no length."""
        assert self.axis is not None
        line = self.axis[1] @ start - self.axis[0] @ start
        length = float(np.hypot(*line))
        if length <= _SLIGHT:
            return np.zeros(2)
        x, y = line / length
        return np.array([y, -x]) if self.across else np.array([x, y])

    def _leans(self, one: Turned, start: Floats) -> float:
        """Radians from the figure's axis, or from square to it, within a quarter turn."""
        line = one.ends[1] @ start - one.ends[0] @ start
        if float(np.hypot(*line)) <= _SLIGHT:
            return 0.0
        x, y = self._way(start)
        if y > _UPRIGHT:  # it leans from plumb, as the eye has it
            x, y = 0.0, 1.0
        from_axis = float(np.arctan2(x * line[1] - y * line[0], x * line[0] + y * line[1]))
        square = 0.5 * np.pi if one.level else 0.0
        leans = (from_axis + square + 0.5 * np.pi) % np.pi - 0.5 * np.pi
        return float(leans) if _LEAST_LEAN < abs(leans) < _AWAY else 0.0


_AWAY = np.radians(50.0)
"""A limb further than this from the figure's axis reaches out; it is not stood straighter."""

_LEAST_LEAN = np.radians(0.25)
"""What leans by less has no lean to lose (chosen here, no source): of a figure that stands quite
upright any lean of the drawing would be a thousand times what is seen, before all other moves."""

_UPRIGHT = np.cos(np.radians(30.0))
"""A figure whose axis is no further from plumb stands, or sits upright."""


class Candidates:
    """All moves of some marks, deepest first."""

    def __init__(self, moves: Sequence[Move], before: Candidates | None = None) -> None:
        """``before`` has the first of the moves, with what was worked out about them."""
        self.moves, self._before = tuple(moves), before
        self._at_rest: tuple[bytes, Floats] | None = None

    @cached_property
    def sizes(self) -> Ints:
        """(m,) array, parameters of each."""
        return np.array([move.size for move in self.moves], dtype=np.intp)

    def bound(self, start: Floats) -> Candidates:
        """The same, with what the (n, 2) marks at rest say about them."""
        return _bound(self, start.tobytes())

    def with_depth(self, known: Iterable[tuple[MoveKind, str, Floats]]) -> Candidates:
        """The same and what only who knows the depth of marks can tell, after all others: by a
        head that the eye goes up, a radian that a head turns, the share of a twist that is lost.

        Args:
            known: of each its kind, what it is about, and where each mark goes, (2, n, 2) heads:
                by its amount, and by the square of that.
        """
        more = []
        for kind, label, field in known:
            n = field.shape[1]
            top, bottom = np.zeros(n), np.zeros(n)
            top[0], bottom[-1] = 1.0, 1.0
            carried = (np.abs(field[0]).max(axis=1) > _SLIGHT).astype(np.float64)
            more.append(
                Move(
                    kind,
                    None,
                    label,
                    _SPATIAL_RANK,
                    "whole",
                    0,
                    None,
                    carried,
                    (top, bottom),
                    ways=field,
                )
            )
        return Candidates((*self.moves, *more), self)

    def tangents(self, start: Floats) -> Floats:
        """(k, n, 2) array, d(marks) / d(parameter) of every single bound move at rest; kept for the
        marks that were asked about last, not to be changed."""
        marks, kept = start.tobytes(), self._at_rest
        if kept is None or kept[0] != marks:
            known = 0 if self._before is None else len(self._before.moves)
            fields = _tangents(self.moves[known:], start)
            if self._before is not None:
                fields = np.concatenate([self._before.tangents(start), fields])
            kept = self._at_rest = marks, fields
        return kept[1]


def _tangents(moves: Sequence[Move], start: Floats) -> Floats:
    """See `Candidates.tangents`."""
    sizes = np.array([move.size for move in moves], dtype=np.intp)
    fields = np.zeros((int(sizes.sum()), *start.shape))
    firsts = np.cumsum(sizes) - sizes
    steps = [
        (first, step) for move, first in zip(moves, firsts, strict=True) for step in move.steps
    ]
    if steps:
        along = np.array([step.along for _, step in steps])
        generators = np.array([step.by * step.generator for _, step in steps])
        each = along @ start @ generators.transpose(0, 2, 1)
        np.add.at(fields, [first for first, _ in steps], each)
    for move, first in zip(moves, firsts, strict=True):
        if move.ways is not None and move.in_space:
            fields[first] = move.ways[0]
        elif move.ways is not None:
            fields[first : first + move.size] = move.carried[:, None] * move.ways[:, None, :]
    return fields


@lru_cache(maxsize=8)
def _bound(candidates: Candidates, marks: bytes) -> Candidates:
    """Kept, because a reference stays while a drawing of it is marked."""
    start = np.frombuffer(marks).reshape(-1, 2)
    return Candidates([one.bound(start) if one.follows_axis else one for one in candidates.moves])
