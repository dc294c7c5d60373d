"""Benchmarks from life: how long one more sighting holds the window, where one before was wrong."""

from __future__ import annotations

import math
import time
from dataclasses import replace
from itertools import combinations
from pathlib import Path

import numpy as np
from PyQt6.QtWidgets import QApplication

from bench import gestures
from bench.bodies import seen
from bench.certain import certain
from bench.sightings import sitter_of, taken
from bench.timing import shown
from bralto.app import make_house
from bralto.core.mannequin.setting import set_up
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.study.anchored import placed
from bralto.core.study.taken import Sighting, Sightings, Sort, doubt_of, sighting_of
from bralto.core.study.values import Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.store.library import Library
from bralto.ui.house import House

__all__ = ["sight_rows"]

_SIGHTED, _EVENINGS, _MORE = 14, 6, 2
_MADE = "2026-01-01T10:00:00Z"


def sighted(view: View, pose: str, seed: int) -> list[Sighting]:
    """Telling measures of a model in a pose, in any order, each with the arm's doubt."""
    rng, sitter = np.random.default_rng(seed), sitter_of(view, seen(view, set_up(pose)))
    specs = [spec for spec in view.measures if spec.telling]
    items: list[Sighting] = []
    for row in rng.permutation(len(specs)):
        one = sighting_of(view, specs[row], 0.0)
        if one is not None and Sighter(view, sitter.points).on(one) is not None:
            items.append(taken(view, sitter, one, rng))
    return items[:_SIGHTED]


def compared(view: View, pose: str, seed: int) -> list[Sighting]:
    """Which of two parts of such a model is the longer, seen rightly; any parts, in any order."""
    rng, sitter = np.random.default_rng(seed), sitter_of(view, seen(view, set_up(pose)))
    sighter = Sighter(view, sitter.points)
    parts = [one.points for one in view.measures if one.kind == "span" and one.along == "straight"]
    pairs = [(a, b) for a, b in combinations(parts, 2) if not {*a} & {*b}]
    items: list[Sighting] = []
    for row in rng.permutation(len(pairs)):
        one = Sighting(Sort.LONGER, pairs[row][0], 1.0, 0.0, pairs[row][1])
        found = sighter.on(one)
        if found is not None:
            yes = math.copysign(1.0, found.value)
            items.append(replace(one, value=yes, u=doubt_of(view, one)))
    return items[: _SIGHTED // 2]


def miscounted(items: list[Sighting]) -> list[Sighting]:
    """The first length counted a head too many."""
    at = next(i for i, one in enumerate(items) if one.sort is Sort.LENGTH and not one.of)
    return [*items[:at], replace(items[at], value=items[at].value + 1.0), *items[at + 1 :]]


def settle(house: House) -> None:
    """Wait until all is worked out."""
    while house.busy:
        gestures.wait(5)
    gestures.wait(50)


def entered(
    scratch: Path, application: QApplication, lists: list[tuple[list[Sighting], Stance]]
) -> list[float]:
    """ms from each of the last sightings to the next question on screen."""
    found = []
    with Library.open(scratch) as library:
        for items, stance in lists:
            before = Sightings(tuple(items[:-_MORE]), stance=stance)
            study = Study("from life", "figure-front", None, (), sightings=before)
            study_id = library.add(study, {}, _MADE)
            house = make_house(library)
            house.window.resize(1280, 800)
            house.window.show()
            settle(house)
            house.open_study(study_id)
            settle(house)
            edits = certain(house.bench).study.sighted
            for one in items[-_MORE:]:
                begun = time.perf_counter()
                edits.take(one)
                application.processEvents()
                found.append(1e3 * (time.perf_counter() - begun))
                settle(house)
            house.window.close()
            house.window.deleteLater()
            application.processEvents()
    return found


def sight_rows(scratch: Path, application: QApplication) -> list[tuple[str, str, str]]:
    """One more sighting of one that stands and of one that kneels."""
    front, rows = view_named("figure-front"), []
    for number, (pose, stance) in enumerate(
        (("at-rest", Stance.STANDING), ("kneeling", Stance.SEATED))
    ):
        view = placed(front, stance)
        sound = [sighted(view, pose, seed) for seed in range(_EVENINGS)]
        half = _SIGHTED // 2
        evenings = {
            f"{_SIGHTED} sighted": sound,
            f"{_SIGHTED} sighted, a head miscounted": [miscounted(one) for one in sound],
            f"{half} sighted and {half} compared": [
                [*one[:half], *compared(view, pose, seed)] for seed, one in enumerate(sound)
            ],
        }
        for kind, (what, lists) in enumerate(evenings.items()):
            folder = scratch / f"from-life-{number}-{kind}"
            spent = entered(folder, application, [(one, stance) for one in lists])
            rows.append((f"from life, {pose}, {what}: the next question", shown(spent), "100 ms"))
    return rows
