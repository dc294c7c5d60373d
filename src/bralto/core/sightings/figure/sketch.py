"""The figure that sightings imply as a few strokes: which marks a line joins, and the whole small,
for a card on the shelf."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Collection, Sequence
from functools import lru_cache
from importlib import resources
from itertools import pairwise

import numpy as np

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.alone import shown_marks
from bralto.core.sightings.figure.implied import imply
from bralto.core.study.taken import Sighting
from bralto.core.views.model import View

__all__ = ["HEAD_WIDE", "Stroke", "bones", "sketch_of"]

Stroke = tuple[tuple[float, float], ...]
"""Places from end to end, y down; one place alone is a dot."""

HEAD_WIDE = 0.72
"""Width of a head by its height, crown to chin (common practice, no source: three quarters)."""

_LEAST_HEADS = 4.0
"""How many heads high a sketch of a figure is at least: a head of which alone is told something is
no portrait (chosen here, no source)."""

_EGG = 16
"""Places along the outline of the head."""


def bones(view: View, known: Collection[str]) -> list[tuple[str, str]]:
    """The lines by which the view measures its parts, as far as both their marks are known; of a
    head its outline and features, past the marks that are not. None is there twice."""
    if lines := _lines().get(view.key):
        told = [[key for key in line if key in known] for line in lines]
        pairs = [pair for line in told for pair in pairwise(line) if pair[0] != pair[1]]
        return [pair for i, pair in enumerate(pairs) if pair[::-1] not in pairs[:i]]
    spans = [span for part in view.parts for span in part.spans if span != view.head]
    return [(a, b) for a, b in spans if a in known and b in known]


@lru_cache(maxsize=1)
def _lines() -> dict[str, list[list[str]]]:
    """By view, marks that are joined by lines."""
    text = (resources.files(__package__) / "strokes.toml").read_text("utf-8")
    return {key: one["lines"] for key, one in tomllib.loads(text).items()}


def sketch_of(view: View, items: Sequence[Sighting]) -> tuple[Stroke, ...]:
    """What the sightings tell of the figure, its upper left corner at 0, 0; () where they tell
    nothing yet. It is 1 high, and lower only where it is less than ``_LEAST_HEADS`` of a figure."""
    implied = imply(view, items) if items else None
    if implied is None or isinstance(implied, NotMeasurable):
        return ()
    keys = shown_marks(view, implied)
    at = {
        key: (float(x), -float(y))
        for key, (x, y) in zip(implied.marks.keys, implied.marks.xy, strict=True)
        if key in keys
    }
    strokes: list[Stroke] = [(at[a], at[b]) for a, b in bones(view, at)]
    crown, chin = view.head
    if crown in at and chin in at and view.size == "figure":
        strokes.append(_egg(at[crown], at[chin]))
    told = {place for stroke in strokes for place in stroke}
    strokes += [(place,) for place in at.values() if place not in told]
    if not strokes:
        return ()
    every = np.array([place for stroke in strokes for place in stroke])
    low = every.min(axis=0)
    high = float(np.ptp(every[:, 1]))
    if view.size == "figure":
        high = max(high, _LEAST_HEADS)
    if high <= 0.0:
        return ()
    return tuple(
        tuple((round((x - low[0]) / high, 3), round((y - low[1]) / high, 3)) for x, y in stroke)
        for stroke in strokes
    )


def _egg(crown: tuple[float, float], chin: tuple[float, float]) -> Stroke:
    """The outline of the head between them, closed."""
    down = np.subtract(chin, crown)
    across = 0.5 * HEAD_WIDE * np.array([down[1], -down[0]])
    middle = 0.5 * np.add(crown, chin)
    turns = [2.0 * math.pi * i / _EGG for i in range(_EGG + 1)]
    places = [middle + 0.5 * math.cos(one) * down + math.sin(one) * across for one in turns]
    return tuple((float(x), float(y)) for x, y in places)
