"""Every move that the marks of two pictures can tell, made from a view's limb tree."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.candidates.marked_limbs import MarkedLimbs
from bralto.core.corrections.candidates.moves import Candidates, Move, MoveKind, Turned
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
    tree = MarkedLimbs(view, keys)
    single = {limb.key: _limb_moves(tree, limb) for limb in view.limbs}
    found: list[Move] = []
    for limb in reversed(view.limbs):
        found += single[limb.key]
        other = _other_side(view, limb)
        if other:
            found += _pairs(tree, limb, single[limb.key], single[other])
        found += _group(tree, limb, single)
        found += _sockets(tree, limb)
    found += _marks(tree, keys)
    found += _straightened(tree, single)
    found += _whole(tree, whole_scale)
    # What is the same wherever the marks lie is made ready once.
    anywhere = np.zeros((len(keys), 2))
    return Candidates([one if one.follows_axis else one.bound(anywhere) for one in found])


def _limb_moves(tree: MarkedLimbs, limb: Limb) -> list[Move]:
    own, hanging, about = tree.own(limb), tree.hanging(limb), tree.about(limb)
    if not own or about is None:
        return []
    rigid, follow = tree.rigid(limb) @ about, tree.following(limb) @ about
    carried = tree.rigid(limb).sum(axis=1)
    ends, depth = tree.ends(limb), tree.depth(limb)

    def move(kind: MoveKind, along: Floats | None, label: str, part: str = limb.key) -> Move:
        axis = ends if kind in {"lengthen", "widen"} else None
        # What grows on all sides ends nowhere.
        far = hanging or (limb.grows == "larger" and not limb.span)
        reach = tuple(own + hanging) if far and kind in {"scale", "turn"} else ()
        return Move(
            kind, part, label, _RANK[kind], limb.work, depth, along, carried, ends, reach,
            axis=axis, usual=_is_usual(tree, limb, kind),
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


def _is_usual(tree: MarkedLimbs, limb: Limb, kind: MoveKind) -> bool:
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


def _pairs(tree: MarkedLimbs, limb: Limb, right: list[Move], left: list[Move]) -> list[Move]:
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


def _group(tree: MarkedLimbs, first: Limb, single: dict[str, list[Move]]) -> list[Move]:
    """Limbs side by side all too large, or turned, by one amount; with the first of them."""
    limbs = [limb for limb in tree.view.limbs if limb.group and limb.group == first.group]
    if not limbs or limbs[0].key != first.key:
        return []
    out, (key, words) = [], first.group
    for kind in ("scale", "turn"):
        members = tuple(move for limb in limbs for move in single[limb.key] if move.kind == kind)
        if len(members) < _FEWEST_IN_GROUP:
            continue
        out.append(
            replace(
                members[0], part=key, label=words, rank=members[0].rank - _PAIR_FIRST, along=None,
                carried=np.sum([one.carried for one in members], axis=0), members=members,
            )
        )  # fmt: skip
    return out


_FEWEST_IN_GROUP = 3
"""Of two limbs side by side each is told by itself."""


def _sockets(tree: MarkedLimbs, limb: Limb) -> list[Move]:
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


def _marks(tree: MarkedLimbs, keys: tuple[str, ...]) -> list[Move]:
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


def _straightened(tree: MarkedLimbs, single: dict[str, list[Move]]) -> list[Move]:
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


def _whole(tree: MarkedLimbs, whole_scale: bool) -> list[Move]:
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
