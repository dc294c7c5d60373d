"""A push: the pose or a part meant otherwise than it is seen, before a line is drawn.

A caricature, a stylised figure, or only the advice to overdo the action: the reference's marks are
moved by what is meant, with the very moves that corrections are made of, and everything is held
against where they come to lie.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from bralto.core.corrections.candidates.composing import compose
from bralto.core.corrections.candidates.moves import Move, MoveKind
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks, image_points, sight_marks
from bralto.core.study.pairing import Pair
from bralto.core.study.values import PUSH, Intent, Picture
from bralto.core.views.model import View

__all__ = [
    "POSE", "Pushes", "push_intent", "push_label", "pushable", "pushed_pair", "pushed_picture",
    "pushes_of",
]  # fmt: skip

Pushes = Mapping[str, float]
"""Factors by the name of a move, ``MOVE:PART`` as `corrected.name_of` has it."""

POSE = "straighten:whole"
"""The push of all leans and tilts, and of the bend of a sweep."""

_WAYS: tuple[MoveKind, ...] = ("scale", "lengthen", "widen")
"""Moves by which a part can be pushed, the first that it has."""


def pushes_of(intents: Sequence[Intent]) -> Pushes:
    """The pushes among what is meant; the rest are measures that were meant after all."""
    return {
        one.measure.removeprefix(PUSH): one.factor
        for one in intents
        if one.measure.startswith(PUSH)
    }


def push_intent(name: str, factor: float) -> Intent:
    """The push of a move by a factor, as a study keeps it."""
    return Intent(PUSH + name, factor)


def pushable(view: View, keys: tuple[str, ...]) -> dict[str, str]:
    """What can be pushed with these marks: names and labels, the pose first, pairs before sides."""
    found = _by_name(view, keys) if keys else {}
    parts = [(name, move) for name, move in found.items() if name != POSE]
    parts.sort(key=lambda one: (one[1].depth, not one[1].several, one[1].rank))
    pose = {POSE: "the pose, its leans and bend"} if POSE in found else {}
    return pose | {name: move.label for name, move in parts}


def push_label(view: View, name: str) -> str:
    """A push in words."""
    if name == POSE:
        return "the pose, its leans and bend"
    part = name.partition(":")[2]
    for limb in view.limbs:
        for alike in (limb.pair, limb.own_pair, limb.group):
            if alike and alike[0] == part:
                return alike[1]
        if part in (limb.key, limb.alone):
            return limb.label if part == limb.key else limb.own
    return part.replace("_", " ")


def _by_name(view: View, keys: tuple[str, ...]) -> dict[str, Move]:
    """The move that stands for each push: one a part, and of the pose the fullest."""
    moves = moves_for(view, keys).moves
    found: dict[str, Move] = {}
    for move in moves:
        if move.kind == "straighten":
            name = POSE
            if name in found and len(found[name].turned) > len(move.turned):
                continue
        elif move.kind in _WAYS and move.part is not None:
            name = f"{move.kind}:{move.part}"
            better = (f"{way}:{move.part}" for way in _WAYS[: _WAYS.index(move.kind)])
            if any(one in found for one in better):
                continue
        else:
            continue
        found[name] = move
    return found


def pushed_marks(view: View, marks: SightMarks, pushes: Pushes) -> SightMarks:
    """The marks of a reference where they are meant; their doubts stay what they are."""
    known = _by_name(view, marks.keys)
    chosen = [(move, pushes[name]) for name, move in known.items() if name in pushes]
    if not chosen:
        return marks
    bound = [move.bound(marks.xy) for move, _ in chosen]
    amounts = [
        np.array([1.0 - factor if move.kind == "straighten" else factor - 1.0])
        for move, factor in chosen
    ]
    return replace(marks, xy=compose(bound, amounts, marks.xy)[0])


def pushed_pair(view: View, pair: Pair, pushes: Pushes) -> Pair:
    """Both pictures' marks with the reference's where they are meant."""
    return replace(pair, seen=pushed_marks(view, pair.seen, pushes)) if pushes else pair


def pushed_picture(view: View, picture: Picture, pushes: Pushes) -> Picture | NotMeasurable:
    """The reference with its marks where they are meant, image px; all else is as it was."""
    keys = tuple(one.key for one in view.landmarks if one.key in picture.placed())
    if not pushes or not keys:
        return picture
    marks = sight_marks(picture, keys)
    if isinstance(marks, NotMeasurable):
        return marks
    places = image_points(picture, pushed_marks(view, marks, pushes).xy)
    if isinstance(places, NotMeasurable):
        return places
    moved = {
        key: replace(picture.marks[key], x=x, y=y)
        for key, (x, y) in zip(keys, places.tolist(), strict=True)
    }
    return replace(picture, marks={**picture.marks, **moved})
