"""Figures from life, sighted by a simulated pencil: how well they are known, and what is found.

`make sightings` prints the tables and writes them to bench/SIGHTINGS.md; with a number of figures
it only prints. Bodies and poses come from the script that made the typical places, by other chance:
real bodies may be known less surely than these tables say.
"""

from __future__ import annotations

import sys
import time
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from bench.bodies import Body, Places, seen
from bench.faults import figure_kinds
from bralto.core.arrays import Floats
from bralto.core.assessment import assess
from bralto.core.frames import SightMarks
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.pose import STAND
from bralto.core.mannequin.poses import pose_by_chance
from bralto.core.mannequin.setting import Setting
from bralto.core.measures.points import PointTable, point_table
from bralto.core.results import NotMeasurable
from bralto.core.sightings.contradictions import contradictions
from bralto.core.sightings.formulas import Sighter
from bralto.core.sightings.implied import Implied, imply
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.sightings.orders import order_named
from bralto.core.sightings.sighting import Sighting, Sightings, Sort, doubt_of, sighting_of
from bralto.core.study import Mark, Picture, State, Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named

HERE = Path(__file__).parent
VIEW = "figure-front"
HEAD_PX, PLACING_PX, HAND = 135.0, 1.5, 0.012
STEPS = (10, 12, 20)
GRADE = "developing"
CHOSEN = "chosen"

_FRONTAL = 20.0
"""Degrees to either side by which a sitter is turned from the front."""

FAULTS: dict[str, tuple[str, float]] = {
    "head 15 %": ("head big", 0.15),
    "legs 15 %": ("both legs", 0.15),
    "one arm 15 %": ("one arm", 0.15),
    "shoulders 8 degrees": ("shoulders tilted", 8.0),
    "hips 8 degrees": ("hips tilted", 8.0),
}
"""What is drawn wrong, by the name and size of `bench.faults`."""


@dataclass(frozen=True, eq=False)
class Sitter:
    """A figure that is sighted: its true marks, heads, y up, and the points of its view."""

    body: Body
    points: PointTable
    marks: Places


def sitters(many: int, seed: int = 77) -> list[Sitter]:
    from tools.typical_places import build_by_chance

    view, rng = view_named(VIEW), np.random.default_rng(seed)
    out = []
    while len(out) < many:
        build = build_by_chance(rng)
        pose = pose_by_chance(build, int(rng.integers(1, 4)), int(rng.integers(1 << 30)))
        pose = replace(pose, turns=dict(pose.turns) | {STAND: 0.0})
        camera = Camera(
            float(rng.uniform(2.5, 7.0)), float(rng.uniform(1.0, 1.7)),
            float(rng.uniform(-_FRONTAL, _FRONTAL)),
        )  # fmt: skip
        out.append(_sitter(view, seen(view, Setting(build=build, pose=pose, camera=camera))))
    return out


def _sitter(view: View, body: Body) -> Sitter:
    xy = np.array([body.marks[key] for key in body.keys])
    marks = SightMarks(body.keys, xy, np.zeros((len(xy), 2, 2)), "head")
    return Sitter(body, point_table(view, marks, frozenset(body.keys)), body.marks)


def taken(view: View, sitter: Sitter, one: Sighting, rng: np.random.Generator) -> Sighting:
    """A sighting as the arm takes it: the truth with its doubt."""
    at = Sighter(view, sitter.points).on(one)
    assert at is not None
    scatter = doubt_of(view, replace(one, value=at.value))
    value = at.value + scatter * float(rng.normal())
    return replace(one, value=value, u=doubt_of(view, replace(one, value=value)))


def evening(
    view: View, sitter: Sitter, order: str, most: int, rng: np.random.Generator
) -> list[tuple[tuple[Sighting, ...], Implied]]:
    """What is known after each sighting, from none on."""
    items: tuple[Sighting, ...] = ()
    implied = imply(view, items)
    assert not isinstance(implied, NotMeasurable)
    known = [(items, implied)]
    usual = iter(() if order == CHOSEN else order_named(view, order))
    while len(items) < most:
        if order == CHOSEN:
            one = most_telling(view, implied, view.grade(GRADE), most=1)[0].sighting
        else:
            spec = next(usual, None)
            asked = None if spec is None else sighting_of(view, spec, 0.0)
            if asked is None:
                break
            one = asked
        items = (*items, taken(view, sitter, one, rng))
        implied = imply(view, items)
        assert not isinstance(implied, NotMeasurable)
        known.append((items, implied))
    return known


def miss_of(sitter: Sitter, implied: Implied, view: View) -> tuple[float, Floats]:
    """Typical miss of the implied marks, heads; and each mark's in standard deviations."""
    keys = implied.marks.keys
    truth = np.array([sitter.marks[key] for key in keys])
    truth = truth - sitter.marks[view.plumb]
    away = implied.marks.xy - truth
    sd = np.sqrt(np.diag(implied.cov)).reshape(-1, 2)
    free = np.array([key != view.plumb for key in keys])
    return float(np.sqrt(np.square(away).sum(axis=1).mean())), (away / sd)[free].ravel()


def drawing_of(places: Places, rng: np.random.Generator) -> Picture:
    hand = float(np.hypot(PLACING_PX, HAND * HEAD_PX))
    marks = {}
    for key, (x, y) in places.items():
        dx, dy = rng.normal(0.0, hand, 2)
        marks[key] = Mark(2000.0 + HEAD_PX * x + dx, 2000.0 - HEAD_PX * y + dy, "seen", PLACING_PX)
    return Picture("drawing.png", 4000, 4000, marks)


def moves_of(items: Sequence[Sighting], drawn: Picture, view: View) -> list[tuple[str, str | None]]:
    study = Study(
        "from life", view.key, None, (State("first", drawn),), grade=GRADE,
        sightings=Sightings(tuple(items)),
    )  # fmt: skip
    found = assess(study, corrections=True).corrections
    return [] if isinstance(found, NotMeasurable) else [(one.move, one.part) for one in found]


def wrong_one(
    view: View, sitter: Sitter, items: Sequence[Sighting], rng: np.random.Generator
) -> int:
    """Which of them is planted wrong: a length counted a head off, or a tilt to the other side."""
    lengths = [i for i, one in enumerate(items)
               if (one.sort is Sort.LENGTH and not one.of and one.value > 1.5)]  # fmt: skip
    return int(rng.choice(lengths)) if lengths else -1


KINDS = {title: (name, size) for title, (name, size) in FAULTS.items()}


def tally(many: int) -> None:
    view, rng = view_named(VIEW), np.random.default_rng(5)
    orders = (CHOSEN, "heads", "tilts") if "-o" not in sys.argv else (CHOSEN,)
    misses, inside = defaultdict(list), defaultdict(list)
    named, clean, wild = defaultdict(list), defaultdict(list), defaultdict(list)
    spent = []
    for sitter in sitters(many):
        places = {}
        for title, (name, size) in FAULTS.items():
            kind = next(k for k in figure_kinds(sitter.body, rng) if k.title == name)
            places[title] = kind, drawing_of(kind.change(sitter.body, size), rng)
        exact = drawing_of(sitter.marks, rng)
        for order in orders:
            begun = time.perf_counter()
            known = evening(view, sitter, order, max(STEPS), rng)
            spent.append((time.perf_counter() - begun) / max(1, len(known) - 1))
            for step in STEPS:
                if step >= len(known):
                    continue
                items, implied = known[step]
                miss, sizes = miss_of(sitter, implied, view)
                misses[order, step].append(miss)
                inside[order, step] += (np.abs(sizes) < 2.0).tolist()
                if step == 10:
                    continue
                for title, (kind, drawn) in places.items():
                    found = moves_of(items, drawn, view)
                    named[title, order, step].append(bool(kind.names & set(found)))
                    if DEBUG and order == CHOSEN and step == 20 and not kind.names & set(found):
                        print(title, found)
                found = moves_of(items, exact, view)
                if DEBUG and found and step == 20 and order == CHOSEN:
                    print("clean", found)
                clean[order, step].append(bool(found))
                wild[order, step].append(bool(contradictions(view, items)))
    for key in misses:
        print(
            key,
            "miss",
            round(float(np.median(misses[key])), 3),
            "inside",
            round(100 * float(np.mean(inside[key])), 1),
            "clean moved",
            round(100 * float(np.mean(clean[key])), 1) if clean[key] else "",
            "false contradiction",
            round(100 * float(np.mean(wild[key])), 1) if clean[key] else "",
        )
    for key, value in named.items():
        print(key, round(100 * float(np.mean(value)), 1))
    print("ms", 1000 * np.median(spent))


DEBUG = "-d" in sys.argv

if __name__ == "__main__":
    tally(int(sys.argv[1]))
