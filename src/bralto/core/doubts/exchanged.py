"""Sides exchanged at single pairs, or a limb's marks with those of the other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.scene import Scene
from bralto.core.study.two_boards import Board

__all__ = ["exchanged", "wrong_board"]

_APART = 0.2
"""Heads by which a pair's marks must miss: nearer sides, such as feet side by side, do not tell."""

_BETTER = 0.4
"""Share of their miss that a pair's exchanged marks may keep."""

_SLIGHTLY = 0.6
"""Likewise of pairs of the same limb, together (chosen here)."""


def exchanged(scene: Scene) -> list[Doubt]:
    """Doubts about the sides of some marks."""
    left = [pair for pair in scene.pairs if _crossed(scene, pair)]
    out = []
    for limb in _limbs(scene):
        of_limb = [pair for pair in limb if pair in left]
        apart = [pair for pair in limb if _tells(scene, pair)]
        rest = [pair for pair in apart if pair not in of_limb]
        together = len(of_limb) >= 2 and all(a < b for b, a in _misses(scene, rest))
        if together or (of_limb and _slightly(scene, [p for p in limb if p not in of_limb])):
            out.append(_limb(scene, limb))
            left = [pair for pair in left if pair not in limb]
    return out + [_pair(scene, pair) for pair in left]


def _tells(scene: Scene, pair: tuple[str, str]) -> bool:
    """Whether the two sides lie so far apart on the reference that it would be seen."""
    return float(np.hypot(*scene.to(*pair))) > 1.5 * _APART * scene.size


def _slightly(scene: Scene, pairs: Sequence[tuple[str, str]]) -> bool:
    """Whether pairs that stand too near each other to tell one by one are better off together
    where they are exchanged, by more than marks scatter."""
    found = np.array(_misses(scene, pairs)).reshape(-1, 2)
    before, after = (float(one) for one in np.sqrt(np.square(found).sum(axis=0)))
    return before > 0.5 * _APART * scene.size and after < _SLIGHTLY * before


def _crossed(scene: Scene, pair: tuple[str, str]) -> bool:
    """Whether both marks lie far from their places, and each near the other's."""
    ((before, after),) = _misses(scene, [pair])
    return before > _APART * scene.size and after < _BETTER * before


def _misses(scene: Scene, pairs: Sequence[tuple[str, str]]) -> list[tuple[float, float]]:
    """Of each pair how far its marks lie from their own places, and from the other's, heads."""
    out = []
    for pair in pairs:
        right, left = (scene.away[scene.row[key]] for key in pair)
        across = scene.to(*pair)
        there = (right - across, left + across)
        before = float(np.sqrt((right @ right + left @ left) / 2.0))
        out.append((before, float(np.sqrt(sum(one @ one for one in there) / 2.0))))
    return out


def _limbs(scene: Scene) -> list[list[tuple[str, str]]]:
    """Pairs by limb with all that hangs from it: an arm with its hand, a leg with its foot."""
    limbs = {limb.key: limb for limb in scene.view.limbs}
    by_root: dict[str, list[tuple[str, str]]] = {}
    for pair in scene.pairs:
        limb = next((one for one in limbs.values() if pair[0] in one.marks), None)
        if limb is None or not limb.key.endswith("_r"):
            continue
        while limb.parent in limbs and limb.parent.endswith("_r"):
            limb = limbs[limb.parent]
        by_root.setdefault(limb.key, []).append(pair)
    order = {mark: i for i, limb in enumerate(scene.view.limbs) for mark in limb.marks}
    return [sorted(pairs, key=lambda pair: order[pair[0]]) for pairs in by_root.values()]


def _limb(scene: Scene, limb: Sequence[tuple[str, str]]) -> Doubt:
    marks = tuple(key for pair in limb for key in pair)
    board = wrong_board(scene, limb)
    names = _words([scene.view.point_label(key).removeprefix("R ") for key, _ in limb])
    words = f"On the {board} right and left are exchanged at {names}."
    return Doubt("exchanged-limb", marks, board, "exchange", words, "Exchange them")


def _pair(scene: Scene, pair: tuple[str, str]) -> Doubt:
    board = wrong_board(scene, [pair])
    label = scene.view.point_label(pair[0]).removeprefix("R ")
    words = f"On the {board} the right {label} stands where the left belongs."
    return Doubt("exchanged-pair", pair, board, "exchange", words, "Exchange them")


def _words(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def wrong_board(scene: Scene, pairs: Sequence[tuple[str, str]]) -> Board:
    """Whose sides lie against the view's: from the front the model's right is on your left."""
    way = {"front": 1.0, "back": -1.0}.get(scene.view.seen_from, 0.0)
    against = {}
    for board, xy in ((Board.REFERENCE, scene.p), (Board.DRAWING, scene.q)):
        across = [xy[scene.row[left], 0] - xy[scene.row[right], 0] for right, left in pairs]
        against[board] = sum(way * float(x) < 0.0 for x in across)
    return Board.REFERENCE if against[Board.REFERENCE] > against[Board.DRAWING] else Board.DRAWING
