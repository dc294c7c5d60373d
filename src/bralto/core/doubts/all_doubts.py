"""All doubts about a pair of pictures, cheapest first (measurement, section 7a)."""

from __future__ import annotations

import numpy as np

from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.exchanged import exchanged
from bralto.core.doubts.keystone import how_taken
from bralto.core.doubts.scene import Scene
from bralto.core.doubts.single import misplaced, unexplained, wild_mark
from bralto.core.doubts.whole import same_picture, whole_picture
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["FEWEST", "find_doubts"]

FEWEST = 4
"""Marks that both pictures need before anything can be doubted."""


def find_doubts(view: View, seen: Picture, drawn: Picture, pair: Pair) -> tuple[Doubt, ...]:
    """What may be wrong with the marks or pictures rather than with the drawing.

    Args:
        seen, drawn: the pictures; ``pair``, their marks in the sight frames.
    """
    if pair.shared < FEWEST:
        return ()
    scene = Scene.of(view, seen, drawn, pair)
    if not (scene.head > 0.0 and np.ptp(scene.q, axis=0).any()):
        return ()
    same = same_picture(scene)
    if same:
        return tuple(same)
    whole = whole_picture(scene)
    if whole is not None:
        return (whole,)
    found = exchanged(scene) or misplaced(scene) or [*wild_mark(scene), *how_taken(scene)]
    return tuple(found or unexplained(scene))
