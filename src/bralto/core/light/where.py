"""Where in a picture a figure lies, by its marks: what its shadows are looked for in."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.constructions import Form, convex_hull
from bralto.core.discover.figures import Figure
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.values import OUTLINE, Picture

__all__ = ["figure_area", "figure_forms"]

_AIR = 0.35
"""Heads about a figure's marks within which its shadows are looked for: marks lie on joints, and
flesh and hair reach beyond them (common practice, no source)."""


def figure_area(picture: Picture, figure: Figure) -> Floats | NotMeasurable:
    """(n, 2) polygon about a figure, image px: its outline where one is drawn, else about its marks
    with some air."""
    if len(picture.polygons.get(OUTLINE, ())) > 2:
        return np.array(picture.polygons[OUTLINE], dtype=np.float64)
    turn = np.linspace(0.0, 2.0 * np.pi, 16, endpoint=False)
    about = _AIR * np.column_stack([np.cos(turn), np.sin(turn)])
    air = (figure.heads[:, None] + about[None]).reshape(-1, 2)
    return image_points(picture, convex_hull(air) * figure.head.value)


def figure_forms(picture: Picture, figure: Figure, forms: Sequence[Form]) -> list[Floats]:
    """The big forms of a figure that surely lie on it, as polygons (n, 2), image px."""
    out = []
    for form in forms:
        if form.kind in {"line", "envelope"}:
            continue
        places = image_points(picture, form.outline * figure.head.value)
        if not isinstance(places, NotMeasurable):
            out.append(places)
    return out
