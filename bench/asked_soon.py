"""Marks of a photo set one after the other, and what is asked about them there and then.

The second table of `make accidents`. The bodies come from the script that made the typical places,
by other chances: bodies beyond the model are not in it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from tools.typical_places import places, resting, settings

from bench.tables import table
from bralto.core.doubts.at_once import ask_at_once
from bralto.core.mannequin.setting import Setting
from bralto.core.study.values import Mark, Picture
from bralto.core.terms import Visibility
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.core.views.typical import other_side

__all__ = ["asked_at_once"]

_FIGURES = ("figure-front", "figure-side", "figure-back")
_HEADS = ("head-front", "head-three-quarter", "head-profile")
_MODELS = {"one that stands": _FIGURES, "one that sits or kneels": _FIGURES,
           "one that lies": _FIGURES, "a head": _HEADS}  # fmt: skip

_HEAD_PX = {"figure": 100.0, "part": 700.0}
_HAND = {"figure": 0.012, "part": 0.004}
"""Scatter of a mark, heads, as an SD."""

_ASIDE = {"figure": (1.0, 2.0), "part": (0.2, 0.4)}
"""How far a mark that is set beside its place lies from it, heads."""

_APART = {"figure": 0.4, "part": 0.1}
"""Heads that two sides are apart at least, to be exchanged."""

_FIRST = 8
"""So many marks are set before any is set wrong."""


_COLUMNS = (
    "the model", "marks where they belong", "asked about", "on the other side: asked",
    "beside (1 to 2 heads; of a head a third): asked",
)  # fmt: skip


@dataclass
class Asked:
    """Of so many marks that were set where they belong, on the other side and beside their place,
    how many were asked about."""

    sound: int = 0
    doubted: int = 0
    exchanged: int = 0
    told_side: int = 0
    beside: int = 0
    told_beside: int = 0

    def row(self, name: str) -> tuple[str, ...]:
        return (
            name, str(self.sound), f"{self.doubted} ({100 * self.doubted / self.sound:.1f} %)",
            f"{self.told_side} of {self.exchanged}", f"{self.told_beside} of {self.beside}",
        )  # fmt: skip


def _seen(model: str, view: str, rng: np.random.Generator) -> Iterator[Setting]:
    if model == "one that sits or kneels":
        return resting(view, Stance.SEATED, rng)
    if model == "one that lies":
        return resting(view, Stance.LYING, rng)
    return settings(view, rng, standing=model == "one that stands")


def _marked(view: View, xy: np.ndarray, rng: np.random.Generator, out: Asked) -> None:
    """All marks of one body, in the order in which they are asked for."""
    keys = [one.key for one in view.landmarks]
    order = [*view.placing, *(key for key in keys if key not in view.placing)]
    head = _HEAD_PX[view.size]
    at = {key: head * (xy[i] + rng.normal(0.0, _HAND[view.size], 2)) for i, key in enumerate(keys)}

    def with_(picture: Picture, key: str, place: np.ndarray) -> Picture:
        x, y = place.tolist()
        return picture.with_mark(key, Mark(x, y, Visibility.SEEN, 1.0))

    def apart(one: str, two: str) -> bool:
        return float(np.hypot(*(at[one] - at[two]))) > head * _APART[view.size]

    def asked(shown: Picture, key: str) -> bool:
        return ask_at_once(view, shown, key) is not None

    middle = np.array([2000.0, 2000.0])
    picture = Picture("a photo.png", 4000, 4000)
    for number, key in enumerate(order):
        picture = with_(picture, key, middle + at[key])
        out.sound += 1
        out.doubted += asked(picture, key)
        if number < _FIRST:
            continue
        other = other_side(key)
        if other != key and other in picture.marks and apart(key, other):
            out.exchanged += 1
            wrong = with_(picture, key, middle + at[other])
            out.told_side += asked(with_(wrong, other, middle + at[key]), key)
        if number % 3 == 0:
            turn = float(rng.uniform(0.0, 2.0 * np.pi))
            away = head * float(rng.uniform(*_ASIDE[view.size]))
            beside = at[key] + away * np.array([np.cos(turn), np.sin(turn)])
            out.beside += 1
            out.told_beside += asked(with_(picture, key, middle + beside), key)


def asked_at_once(number: int, seed: int = 21) -> str:
    """So many bodies of each sort, a third of them in each of its views."""
    rows: list[tuple[str, ...]] = [_COLUMNS]
    for model, views in _MODELS.items():
        out = Asked()
        for name in views:
            view, rng = view_named(name), np.random.default_rng([seed, len(name), len(model)])
            source = _seen(model, name, rng)
            for _ in range(max(1, number // len(views))):
                _marked(view, places(name, next(source)), rng, out)
        rows.append(out.row(model))
    return table(rows)
