"""Doubts about single marks: one that is wild, a heel that stands at the ankle or the toe."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.scene import Scene
from bralto.core.study.two_boards import Board

__all__ = ["misplaced", "unexplained", "wild_mark"]

_WILD, _ALONE = 0.5, 0.35
"""Heads by which a wild mark lies off, and share of that which any other mark may miss by."""

_NEAR = 0.45
"""Share of the way to another landmark that a mark may miss it by and still stand there."""

_SAME, _GONE = 0.15, 2.5
"""Share of that way within which it stands on the very spot: then the other landmark may itself lie
so many times that way from where the whole puts it, as where the leg is at fault too."""

_LEAST = 0.12
"""Heads: landmarks that are nearer than this are not told apart."""

_UNEXPLAINED = 0.6
"""Heads of typical miss beyond which there is no list without a doubt that explains it."""


def _far(scene: Scene) -> Floats:
    """(n,) array: how far each mark lies from where the others put it, heads."""
    far: Floats = np.hypot(scene.away[:, 0], scene.away[:, 1])
    return far


def wild_mark(scene: Scene) -> list[Doubt]:
    """One mark far from where all others put it."""
    far = _far(scene)
    if len(far) < 6:
        return []
    at = int(np.argmax(far))
    others = np.delete(far, at)
    if far[at] < _WILD * scene.size or float(others.max()) > _ALONE * float(far[at]):
        return []
    key = scene.keys[at]
    words = (
        f"{scene.view.point_label(key)} lies {far[at]:.1f} {scene.view.unit} from where all other "
        "marks put it."
    )
    label = scene.view.point_label(key)
    return [Doubt("wild-mark", (key,), Board.DRAWING, "look", words, f"Look at {label} again")]


def misplaced(scene: Scene) -> list[Doubt]:
    """Heels that stand where another landmark is."""
    out = []
    for end in ("_r", "_l", ""):
        heel = f"heel{end}"
        if heel not in scene.row:
            continue
        for other in (f"ankle{end}", f"toe{end}"):
            if other not in scene.row:
                continue
            way = scene.to(heel, other)
            length = float(np.hypot(*way))
            miss, there = scene.away[scene.row[heel]], scene.away[scene.row[other]]
            near = float(np.hypot(*(miss - there - way)))
            may_lie = _GONE if near <= _SAME * length else 0.5
            if length < _LEAST or near > _NEAR * length or np.hypot(*there) > may_lie * length:
                continue
            label, instead = (scene.view.point_label(key) for key in (heel, other))
            words = f"The drawing's {label} stands at the {instead}, not where it meets the floor."
            out.append(Doubt("heel-not-sole", (heel,), Board.DRAWING, "look", words,
                             f"Look at {label} again"))  # fmt: skip
            break
    return out


def unexplained(scene: Scene) -> list[Doubt]:
    """Marks that fit so badly that no list of corrections would be true."""
    if scene.before <= _UNEXPLAINED * scene.size:
        return []
    worst = np.argsort(-_far(scene))[:3]
    marks = tuple(scene.keys[i] for i in worst)
    names = ", ".join(scene.view.point_label(key) for key in marks)
    words = (
        f"The marks miss by {scene.before:.1f} {scene.view.unit} on the whole, which no correction "
        f"explains; those that fit worst are {names}."
    )
    return [Doubt("unexplained", marks, Board.DRAWING, "look", words, "Look at them again")]
