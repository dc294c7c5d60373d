"""Where a drawing's marks lie once corrections are put right: what a corrected picture shows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from bralto.core.corrections.correction_words import Correction
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points, sight_marks
from bralto.core.study.values import Mark, Picture
from bralto.core.views.model import View

__all__ = ["corrected_marks", "move_label", "name_of"]

_WHAT = {
    "scale": "size",
    "lengthen": "length",
    "widen": "width",
    "stretch": "width",
    "straighten": "leans",
    "twist": "twist",
    "lean": "lean",
    "turn": "direction",
    "swing": "direction",
    "tilt": "tilt",
    "shift": "place",
    "eye": "height of the eye",
    "face": "turn of the face",
    "nod": "rise of the chin",
    "tip": "tip of the head",
}


def name_of(one: Correction) -> str:
    """A correction's name, by which it is known again in another state."""
    return f"{one.move}:{one.part or 'whole'}"


def move_label(view: View, name: str) -> str:
    """'head: size' for the name of a correction."""
    kind, _, part = name.partition(":")
    limb = next((one.own for one in view.limbs if one.key == part), None)
    label = limb or view.point_label(part).replace("_", " ")  # a mark, a pair, or the whole
    return f"{label}: {_WHAT.get(kind, kind)}"


def corrected_marks(
    picture: Picture, chosen: Sequence[Correction]
) -> dict[str, Mark] | NotMeasurable:
    """All marks of a drawing, those that the chosen corrections move at their new places.

    Each correction says how its marks go when it alone is put right; together these add up to
    first order, which for the errors that drawings have is within a fraction of the marks' spread.
    """
    keys = sorted(picture.placed())
    marks = sight_marks(picture, keys)
    if isinstance(marks, NotMeasurable):
        return marks
    away = np.zeros((len(keys), 2))
    for one in chosen:
        for row, key in enumerate(keys):
            away[row] += one.shifts.get(key, (0.0, 0.0))
    places = image_points(picture, marks.xy + away)
    if isinstance(places, NotMeasurable):
        return places
    return {
        key: replace(picture.marks[key], x=x, y=y)
        for key, (x, y) in zip(keys, places.tolist(), strict=True)
    }
