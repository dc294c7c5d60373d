"""Every move that the marks of two pictures can tell, made from a view's limb tree."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.moves import Candidates, Move, MoveKind, Turned
from bralto.core.views.limb_tree import Limb
from bralto.core.views.model import View

__all__ = ["moves_for"]

_RANK = {"turn whole": 0.0, "straighten": 1.0, "stretch": 2.0, "lean": 2.0, "slide": 10.0,
         "shift root": 10.0, "shift": 20.0, "tilt": 30.0, "scale": 40.0, "lengthen": 41.0,
         "turn": 42.0, "swing": 43.0, "widen": 50.0, "mark": 60.0}  # fmt: skip
_PAIR_FIRST = 0.5
"""A pair comes before the single limb where both say as much."""

_SIDES = ("_r", "_l")
_FAR = "far_"


@lru_cache(maxsize=64)
def moves_for(view: View, keys: tuple[str, ...], *, whole_scale: bool = False) -> Candidates:
    """Every move that the marks ``keys`` can tell, deepest first.

    Args:
        view: with its limb tree.
        keys: the marks that both pictures have, in the order of the rows.
        whole_scale: the size of the whole is no nuisance but a finding (the sight-size school).
    """
    tree = _Tree(view, keys)
    single = {limb.key: _limb_moves(tree, limb) for limb in view.limbs}
    found: list[Move] = []
    for limb in reversed(view.limbs):
        found += single[limb.key]
        other = _other_side(view, limb)
        if other:
            found += _pairs(tree, limb, single[limb.key], single[other])
        found += _sockets(tree, limb)
    found += _marks(tree, keys)
    found += _straightened(tree, single)
    found += _whole(tree, whole_scale)
    # What is the same wherever the marks lie is made ready once.
    anywhere = np.zeros((len(keys), 2))
    return Candidates([one if one.follows_axis else one.bound(anywhere) for one in found])


class _Tree:
    """The limbs of a view over the marks that are there."""

    def __init__(self, view: View, keys: tuple[str, ...]) -> None:
        self.view, self.n = view, len(keys)
        self._row = {key: i for i, key in enumerate(keys)}
        self._by_key = {limb.key: limb for limb in view.limbs}

    def mark(self, key: str) -> Floats | None:
        """(n,) weights of one mark, or None where it is missing."""
        return np.eye(self.n)[self._row[key]] if key in self._row else None

    def joint(self, limb: Limb) -> Floats | None:
        """(n,) weights of the joint of a limb, or None where a mark of it is missing."""
        weights = np.zeros(self.n)
        for keys, each in (
            (limb.root, limb.weights),
            (limb.instead, (1.0 / max(1, len(limb.instead)),) * len(limb.instead)),
        ):
            if keys and all(key in self._row for key in keys):
                weights[[self._row[key] for key in keys]] = each
                return weights
        return None

    def mean(self, key: str) -> Floats | None:
        """(n,) weights of a landmark, or of the middle of what a derived point has of its marks."""
        derived = next((point for point in self.view.points if point.key == key), None)
        marks = (key,) if derived is None else derived.marks
        found = [one for mark in marks if (one := self.mark(mark)) is not None]
        return np.mean(found, axis=0) if found else None

    def rows(self, keys: Iterable[str]) -> list[int]:
        """Rows of those of some marks that there are."""
        return [self._row[key] for key in keys if key in self._row]

    def own(self, limb: Limb) -> list[int]:
        """Rows of a limb's own marks."""
        return self.rows(limb.marks)

    def below(self, limb: Limb) -> list[Limb]:
        """What hangs from a limb directly."""
        return [one for one in self.view.limbs if one.parent == limb.key]

    def above(self, limb: Limb) -> Iterable[Limb]:
        """What a limb hangs from, the nearest first."""
        while limb.parent is not None:
            limb = self._by_key[limb.parent]
            yield limb

    def hanging(self, limb: Limb) -> list[int]:
        """Rows of all marks that hang from a limb, without its own."""
        rows = [row for one in self.below(limb) for row in self.own(one) + self.hanging(one)]
        return sorted(set(rows) - set(self.own(limb)))

    def depth(self, limb: Limb) -> int:
        """How many limbs it hangs from."""
        return sum(1 for _ in self.above(limb))

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

    def apart(self, limb: Limb) -> Floats:
        """(n, n) array: what hangs from a limb moves as its own middle does and keeps its size."""
        moved = self.following(limb)
        for child in self.below(limb):
            joint, rows = self.joint(child), self.own(child) + self.hanging(child)
            if joint is not None:
                moved[rows] = joint
        return moved

    def rigid(self, limb: Limb) -> Floats:
        """(n, n) array: own marks and all that hangs from them move themselves."""
        moved = np.zeros((self.n, self.n))
        rows = self.own(limb) + self.hanging(limb)
        moved[rows, rows] = 1.0
        return moved

    def about(self, limb: Limb) -> Floats | None:
        """(n, n) array that takes marks to where they lie from a limb's joint."""
        joint = self.joint(limb)
        return None if joint is None else np.eye(self.n) - np.outer(np.ones(self.n), joint)

    def axis(self) -> tuple[Floats, Floats] | None:
        """From the figure's lower edge to its upper one."""
        bottom, top = self.mean(self.view.edges[1]), self.mean(self.view.edges[0])
        return None if bottom is None or top is None else (bottom, top)

    def ends(self, limb: Limb) -> tuple[Floats, Floats]:
        """What a limb's size is measured between: its span, or from its joint to its end."""
        span = [self.mark(key) for key in limb.span]
        if len(span) == 2 and span[0] is not None and span[1] is not None:
            return span[0], span[1]
        joint, own = self.joint(limb), self.own(limb)
        assert joint is not None
        return joint, np.eye(self.n)[own[0]]


def _limb_moves(tree: _Tree, limb: Limb) -> list[Move]:
    own, hanging, about = tree.own(limb), tree.hanging(limb), tree.about(limb)
    if not own or about is None:
        return []
    rigid, follow = tree.rigid(limb) @ about, tree.following(limb) @ about
    carried = tree.rigid(limb).sum(axis=1)
    ends, depth = tree.ends(limb), tree.depth(limb)

    def move(kind: MoveKind, along: Floats | None, label: str, part: str = limb.key) -> Move:
        axis = ends if kind in {"lengthen", "widen"} else None
        return Move(
            kind, part, label, _RANK[kind], limb.work, depth, along, carried, ends, axis=axis,
            usual=_is_usual(tree, limb, kind),
        )  # fmt: skip

    out = []
    if limb.girdle:
        wide = tree.apart(limb) @ about if limb.apart else follow
        out += [move("widen", wide, limb.own), move("tilt", follow, limb.own)]
    else:
        if hanging:
            out.append(move("lengthen", follow, limb.own, limb.alone or limb.key))
            if limb.turns:
                out.append(move("swing", follow, limb.own))
        if limb.rigid and limb.sized:
            out.append(move("scale", rigid, limb.label))
        if limb.rigid and limb.turns:
            out.append(move("turn", rigid, limb.label))
        if limb.turns_as:
            out.append(move("turn", rigid, f"{limb.turns_as} on the neck", limb.turns_as))
    axis = tree.axis()
    if limb.slides and axis is not None:
        slide = move("shift", None, limb.label)
        out.append(replace(slide, rank=_RANK["slide"], axis=axis, across=True))
    elif len(own) + len(hanging) > 1:  # else it is the shift of a mark
        shift = move("shift", None, limb.label)
        rank = _RANK["shift root"] if limb.parent is None else _RANK["shift"]
        out.append(replace(shift, rank=rank))
    return out


def _is_usual(tree: _Tree, limb: Limb, kind: MoveKind) -> bool:
    """Of a figure the tilt of a girdle, the size of the head and of an arm; for pairs see there."""
    if tree.view.size != "figure" or kind not in {"tilt", "scale"}:
        return False
    above = next(iter(tree.above(limb)), None)
    whole = above is not None and (above.girdle or above.work == "mass")
    return kind == "tilt" or (whole and not limb.socket)


def _other_side(view: View, limb: Limb) -> str:
    """Key of the other limb of a pair, of its first one: left of right, far of near; or ''."""
    if limb.key.endswith(_SIDES[0]):
        return f"{limb.key[:-2]}{_SIDES[1]}"
    far = f"{_FAR}{limb.key}"
    return far if any(one.key == far for one in view.limbs) else ""


def _pairs(tree: _Tree, limb: Limb, right: list[Move], left: list[Move]) -> list[Move]:
    """Both sides of a limb too large or too long by one amount; of a figure that is usual but for
    hands and feet, and for upper arms and thighs alone."""
    of_pair = any(one.pair for one in tree.above(limb))
    limbs = tree.view.size == "figure" and limb.work != "end"
    by_kind = {move.kind: move for move in left}
    out = []
    for move in right:
        other, (key, words) = by_kind.get(move.kind), limb.pair or ("", "")
        if move.kind == "lengthen":
            key, words = limb.own_pair or ("", "")
        if other is None or not key or move.kind not in {"scale", "lengthen", "widen"}:
            continue
        members = (move, other)
        if move.kind == "widen":  # eyes grow in both directions
            members = (replace(move, kind="scale"), replace(other, kind="scale"))
        carried = move.carried + other.carried
        out.append(
            replace(
                members[0], part=key, label=words, rank=move.rank - _PAIR_FIRST, along=None,
                carried=carried, both=True, members=members, of_pair=of_pair,
                usual=limbs and (of_pair or move.kind == "scale"),
            )
        )  # fmt: skip
    return out


def _sockets(tree: _Tree, limb: Limb) -> list[Move]:
    """The joints by which a limb and its other side hang set too high or low."""
    axis = tree.axis()
    second = limb.key.endswith(_SIDES[1]) or limb.key.startswith(_FAR)
    if not limb.socket or second or axis is None:
        return []
    sides = [one for one in tree.view.limbs if one.socket == limb.socket]
    # The far leg is marked where it is seen; without it the near one stands for both.
    sides = [one for one in sides if not one.key.startswith(_FAR) or tree.own(one)]
    if any(tree.joint(one) is None or not tree.own(one) for one in sides):
        return []
    carried = np.clip(sum(tree.rigid(one).sum(axis=1) for one in sides), 0.0, 1.0)
    at_them = tree.rows(key for one in sides for key in one.socket_marks)
    if not at_them:
        return []  # from the knees down alone it would be longer thighs
    carried[at_them] = 1.0
    return [
        Move(
            "shift", limb.socket, "legs at the hip joints", _RANK["slide"], "mass", 0, None,
            carried, axis, both=len(sides) > 1, axis=axis,
        )
    ]  # fmt: skip


def _marks(tree: _Tree, keys: tuple[str, ...]) -> list[Move]:
    """Single marks elsewhere; not those that are all there is of a limb that turns and grows."""
    ends = {
        limb.marks[0]
        for limb in tree.view.limbs
        if limb.work == "mass" and limb.rigid and len(limb.marks) == 1 and not tree.below(limb)
        and tree.joint(limb) is not None
    }  # fmt: skip
    out = []
    for at, key in zip(np.eye(tree.n), keys, strict=True):
        if key not in ends:
            limb = next((one for one in tree.view.limbs if key in one.marks), None)
            depth = 0 if limb is None else tree.depth(limb)
            work = "limb" if limb is None else limb.work
            label = tree.view.point_label(key)
            out.append(Move("shift", key, label, _RANK["mark"], work, depth, None, at, (at, at)))
    return out


_LEAST_TURNED = 3
"""Lines that a straightened pose wants at least: with fewer it is the turn of a part."""


def _straightened(tree: _Tree, single: dict[str, list[Move]]) -> list[Move]:
    """The pose stood straighter: its trunk alone, with the limbs that hang from the girdles as they
    are or turned with these, or with all limbs that do not reach out."""
    axis = tree.axis()
    if axis is None or tree.view.axis:  # a head has no pose: it is turned, or tilted
        return []

    def line(limb: Limb, stiff: bool) -> list[Turned]:
        kind = "tilt" if limb.girdle else "swing" if tree.hanging(limb) else "turn"
        found = next((m for m in single[limb.key] if m.kind == kind and m.part == limb.key), None)
        if found is None or found.along is None:
            return []
        along = found.along
        if stiff and limb.girdle:
            limbs = [one for one in tree.below(limb) if one.work == "limb"]
            rows = [row for one in limbs for row in tree.own(one) + tree.hanging(one)]
            follow, about = tree.following(limb), tree.about(limb)
            assert about is not None
            follow[rows] = np.eye(tree.n)[rows]
            along = follow @ about
        return [Turned(along, tree.ends(limb), limb.girdle)]

    trunk = [one for one in reversed(tree.view.limbs) if one.work in {"mass", "girdle"}]
    limbs = [one for one in reversed(tree.view.limbs) if one.work == "limb"]
    hang = {one.parent for one in limbs}
    lower = {one.key for one in trunk if one.parent is None}
    variants: list[tuple[list[Limb], set[str]]] = [(trunk, set())]
    if limbs:
        every = {one.key for one in trunk if one.girdle and one.key in hang}
        variants += [(trunk, one) for one in (every & lower, every - lower, every) if one]
        variants.append(([*limbs, *trunk], set()))
    out = []
    for members, stiff in variants:
        lines = [one for limb in members for one in line(limb, limb.key in stiff)]
        if len(lines) >= _LEAST_TURNED:
            nothing, all_of_it = np.zeros((tree.n, tree.n)), np.ones(tree.n)
            out.append(
                Move(
                    "straighten", None, "pose", _RANK["straighten"], "whole", 0, nothing,
                    all_of_it, axis, axis=axis, turned=tuple(lines),
                )
            )  # fmt: skip
    return out


def _whole(tree: _Tree, whole_scale: bool) -> list[Move]:
    n = tree.n
    whole = np.eye(n) - np.full((n, n), 1.0 / n)
    top, bottom = (tree.mean(key) for key in tree.view.edges)
    ends = (np.eye(n)[0], np.eye(n)[-1]) if top is None or bottom is None else (top, bottom)
    ranks: dict[MoveKind, float] = {"scale": 0.0} if whole_scale else {}
    ranks |= {"stretch": _RANK["stretch"], "lean": _RANK["lean"], "turn": 0.0}
    label = "head" if tree.view.axis else "whole"
    return [
        Move(kind, None, label, rank, "whole", 0, whole, np.ones(n), ends)
        for kind, rank in ranks.items()
    ]
