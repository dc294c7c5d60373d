"""Schematic bodies on which each landmark of a view has its place: they show what is meant."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

from bralto.core.views.model import View

__all__ = ["Diagram", "diagram_of"]

_SIDES = ("_r", "_l")
Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Diagram:
    """A closed outline and the places of landmarks, heads from the midline and below the crown."""

    outline: tuple[Point, ...]
    places: dict[str, Point]


@lru_cache(maxsize=1)
def _all() -> dict[str, dict[str, object]]:
    text = (resources.files(__package__) / "diagrams.toml").read_text("utf-8")
    return tomllib.loads(text)


@lru_cache(maxsize=32)
def diagram_of(view: View) -> Diagram | None:
    """The diagram of a shipped view; None for a learner's own. Anchors have no place on it."""
    found = _all().get(view.key)
    if found is None:
        return None
    if "half" in found:
        right = [(float(x), float(y)) for x, y in found["half"]]  # type: ignore[attr-defined]
        outline = (*right, *((-x, y) for x, y in reversed(right) if x > 0.0))
    else:
        outline = tuple((float(x), float(y)) for x, y in found["outline"])  # type: ignore[attr-defined]
    known: dict[str, Point] = {k: (float(x), float(y)) for k, (x, y) in found["places"].items()}  # type: ignore[attr-defined]
    places = {}
    for mark in view.landmarks:
        stem, side = mark.key[:-2], mark.key[-2:]
        if mark.key in known:
            places[mark.key] = known[mark.key]
        elif side in _SIDES and stem in known:
            x, y = known[stem]
            # The model's left is at the viewer's right in a front view, at the left from behind.
            at_right = (side == "_l") == (view.seen_from != "back")
            places[mark.key] = (x if at_right else -x, y)
    return Diagram(outline, places)
