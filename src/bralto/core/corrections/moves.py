"""Moves: what can have gone wrong with the whole, a limb or one mark, as maps of all marks.

A move of family ``G`` about a joint maps the n marks X (n, 2) of a figure to X + C X (A - 1)^T:
``C`` (n, n) says which marks go along with which others, relative to the joint; A is a scaling, a
turn, a stretch or a lean by one parameter. A shift adds b theta^T. So any list of moves composes,
from what hangs deepest up to the whole, and its derivatives come by the chain rule.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.views.model import Limb, View

__all__ = ["MOVES", "Candidates", "Move", "compose", "moves_for"]

MOVES = ("scale", "stretch", "lean", "turn", "lengthen", "swing", "widen", "tilt", "shift")
"""Names of the moves in the fix order of ties. ``scale`` and ``turn`` take a limb with all that
hangs from it; ``lengthen`` and ``swing`` only the part itself, what hangs from it goes along and
keeps its size and direction; ``widen`` and ``tilt`` are the same for a girdle; ``stretch`` is in
width, ``lean`` of the verticals, both of the whole figure."""

_GENERATOR: dict[str, Floats] = {
    "scale": np.eye(2),
    "lengthen": np.eye(2),
    "widen": np.eye(2),
    "turn": np.array([[0.0, -1.0], [1.0, 0.0]]),
    "swing": np.array([[0.0, -1.0], [1.0, 0.0]]),
    "tilt": np.array([[0.0, -1.0], [1.0, 0.0]]),
    "stretch": np.diag([1.0, 0.0]),
    "lean": np.array([[0.0, 1.0], [0.0, 0.0]]),
}
_TURNING = frozenset({"turn", "swing", "tilt"})


@dataclass(frozen=True, eq=False)
class Move:
    """One candidate.

    Attributes:
        kind: one of `MOVES`.
        part: key of a limb or a mark, or None for the whole figure.
        label: the part in words.
        rank: place in the fix order, the whole before big parts before marks.
        along: (n, n) array C, or None for a shift.
        carried: (n,) array b of a shift, 1 for each mark that goes along.
        ends: two (n,) arrays of weights over marks; their distance is the part's size.
    """

    kind: str
    part: str | None
    label: str
    rank: int
    along: Floats | None
    carried: Floats
    ends: tuple[Floats, Floats]

    @property
    def size(self) -> int:
        """Number of parameters: two for a shift, else one."""
        return 2 if self.along is None else 1


def _affine(kind: str, theta: float) -> tuple[Floats, Floats]:
    """A - 1 and dA / d theta, (2, 2) each; angles in radians, counter-clockwise."""
    generator = _GENERATOR[kind]
    if kind not in _TURNING:
        return theta * generator, generator
    c, s = np.cos(theta), np.sin(theta)
    turn = np.array([[c, -s], [s, c]])
    return turn - np.eye(2), generator @ turn


def compose(
    moves: Sequence[Move], parameters: Sequence[Floats], start: Floats
) -> tuple[Floats, Floats]:
    """Apply moves in order and differentiate.

    Args:
        moves: deepest first, see `moves_for`.
        parameters: one (1,) or (2,) array a move.
        start: (n, 2) array of marks.

    Returns:
        The moved marks (n, 2) and d(marks) / d(parameter), (k, n, 2), in the order of the moves.
    """
    at, done = start, 0
    slopes = np.zeros((sum(move.size for move in moves), *start.shape))
    for move, theta in zip(moves, parameters, strict=True):
        if move.along is None:
            at = at + np.outer(move.carried, theta)
            slopes[done, :, 0] = slopes[done + 1, :, 1] = move.carried
            done += 2
            continue
        change, slope = _affine(move.kind, float(theta[0]))
        if done:
            slopes[:done] += move.along @ slopes[:done] @ change.T
        moved = move.along @ at
        slopes[done] = moved @ slope.T
        at = at + moved @ change.T
        done += 1
    return at, slopes


class Candidates:
    """All moves of some marks, deepest first, with what is the same for every drawing of them."""

    def __init__(self, moves: Sequence[Move], n: int) -> None:
        self.moves = tuple(moves)
        self.sizes: Ints = np.array([move.size for move in moves], dtype=np.intp)
        self._columns = np.cumsum(self.sizes) - self.sizes
        affine = [i for i, move in enumerate(moves) if move.along is not None]
        self._at = self._columns[affine]
        self._along = np.array([moves[i].along for i in affine]).reshape(-1, n, n)
        self._generators = np.array([_GENERATOR[moves[i].kind] for i in affine]).reshape(-1, 2, 2)
        self._fixed = np.zeros((int(self.sizes.sum()), n, 2))
        for move, column in zip(moves, self._columns, strict=True):
            if move.along is None:
                self._fixed[column, :, 0] = self._fixed[column + 1, :, 1] = move.carried

    def tangents(self, start: Floats) -> Floats:
        """(k, n, 2) array, d(marks) / d(parameter) of every single move at rest."""
        fields = self._fixed.copy()
        fields[self._at] = self._along @ start @ self._generators.transpose(0, 2, 1)
        return fields


@lru_cache(maxsize=64)
def moves_for(view: View, keys: tuple[str, ...], *, whole_scale: bool = False) -> Candidates:
    """Every move that the marks ``keys`` can tell, deepest first.

    Args:
        view: with its limb tree.
        keys: the marks that both pictures have, in the order of the rows.
        whole_scale: the size of the whole is no nuisance but a finding (the sight-size school).
    """
    tree = _Tree(view, keys)
    found = [move for limb in reversed(view.limbs) for move in _limb_moves(tree, limb)]
    n = len(keys)
    for at, key in zip(np.eye(n), keys, strict=True):
        found.append(Move("shift", key, view.point_label(key), 60, None, at, (at, at)))
    whole = np.eye(n) - np.full((n, n), 1.0 / n)
    top, bottom = tree.point(view.edges[0]), tree.point(view.edges[1])
    ends = (top, bottom) if top is not None and bottom is not None else _extremes(n)
    kinds = ("scale", "stretch", "lean") if whole_scale else ("stretch", "lean")
    found += [Move(kind, None, "whole", 0, whole, np.ones(n), ends) for kind in kinds]
    return Candidates(found, n)


def _extremes(n: int) -> tuple[Floats, Floats]:
    return np.eye(n)[0], np.eye(n)[-1]


class _Tree:
    """The limbs of a view over the marks that are there."""

    def __init__(self, view: View, keys: tuple[str, ...]) -> None:
        self._view, self.n = view, len(keys)
        self._row = {key: i for i, key in enumerate(keys)}

    def mark(self, key: str) -> Floats | None:
        """(n,) weights of one mark, or None where it is missing."""
        return np.eye(self.n)[self._row[key]] if key in self._row else None

    def joint(self, limb: Limb) -> Floats | None:
        """(n,) weights of the joint of a limb, or None where a mark of it is missing."""
        if not all(key in self._row for key in limb.root):
            return None
        weights = np.zeros(self.n)
        weights[[self._row[key] for key in limb.root]] = limb.weights
        return weights

    def point(self, key: str) -> Floats | None:
        """(n,) weights of a landmark, or of the first mark there is of a derived point."""
        derived = next((point for point in self._view.points if point.key == key), None)
        marks = (key,) if derived is None else derived.marks
        return next((found for one in marks if (found := self.mark(one)) is not None), None)

    def own(self, limb: Limb) -> list[int]:
        """Rows of a limb's own marks."""
        return [self._row[key] for key in limb.marks if key in self._row]

    def below(self, limb: Limb) -> list[Limb]:
        """What hangs from a limb directly."""
        return [one for one in self._view.limbs if one.parent == limb.key]

    def hanging(self, limb: Limb) -> list[int]:
        """Rows of all marks that hang from a limb, without its own."""
        rows = [row for one in self.below(limb) for row in self.own(one) + self.hanging(one)]
        return sorted(set(rows) - set(self.own(limb)))

    def following(self, limb: Limb) -> Floats:
        """(n, n) array: own marks move themselves, the rest as the joint it hangs from moves."""
        moved = np.zeros((self.n, self.n))
        own = self.own(limb)
        moved[own, own] = 1.0
        for child in self.below(limb):
            joint = self.joint(child)
            rows = [r for r in self.own(child) + self.hanging(child) if r not in own]
            if joint is not None and rows:
                carried = np.zeros(self.n)
                carried[own] = joint[own]
                moved[rows] = carried
        return moved


def _limb_moves(tree: _Tree, limb: Limb) -> list[Move]:
    own, hanging, joint = tree.own(limb), tree.hanging(limb), tree.joint(limb)
    if not own or joint is None:
        return []
    eye = np.eye(tree.n)
    about = eye - np.outer(np.ones(tree.n), joint)  # X - joint
    rigid = np.zeros((tree.n, tree.n))
    rows = own + hanging
    rigid[rows, rows] = 1.0
    carried = rigid.sum(axis=1)
    span = [tree.mark(key) for key in limb.span]
    ends = (joint, eye[own[0]])
    if len(span) == 2 and span[0] is not None and span[1] is not None:
        ends = (span[0], span[1])
    depth = 10 if limb.parent is None else 20
    out = []
    if limb.girdle:
        follow = tree.following(limb) @ about
        out += [Move("widen", limb.key, limb.own, 50, follow, carried, ends)]
        out += [Move("tilt", limb.key, limb.own, 30, follow, carried, ends)]
    else:
        if hanging:
            follow = tree.following(limb) @ about
            out += [Move("lengthen", limb.key, limb.own, 41, follow, carried, ends)]
            out += [Move("swing", limb.key, limb.own, 43, follow, carried, ends)]
        if limb.rigid:
            out += [Move("scale", limb.key, limb.label, 40, rigid @ about, carried, ends)]
            out += [Move("turn", limb.key, limb.label, 42, rigid @ about, carried, ends)]
    if len(rows) > 1:  # else it is the shift of a mark
        out.append(Move("shift", limb.key, limb.label, depth, None, carried, ends))
    return out
