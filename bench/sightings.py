"""Figures from life, sighted by a simulated pencil: how well they are known, and what is found.

`make sightings` prints the tables and writes them to bench/SIGHTINGS.md; with a number of figures
it only prints, unless `--write` stands behind it. Bodies and poses come from the script that made
the typical places, by other chance: real bodies may be known less surely than these tables say.
"""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Iterable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np

from bench.bodies import Body, Places, seen
from bench.faults import Kind, figure_kinds
from bench.tables import table
from bralto.core.arrays import Floats
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.body.pose import STAND
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.posing.poses import pose_by_chance
from bralto.core.mannequin.setting import Setting
from bralto.core.measures.points import PointTable, point_table
from bralto.core.results import NotMeasurable
from bralto.core.sightings.contradictions import contradictions
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.figure.implied import Implied, imply
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.sightings.orders import order_named
from bralto.core.study.anchored import placed
from bralto.core.study.frames import SightMarks
from bralto.core.study.taken import Sighting, Sightings, Sort, doubt_of, sighting_of
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.core.terms import Visibility
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance

HERE = Path(__file__).parent
VIEW = "figure-front"
HEAD_PX, PLACING_PX, HAND = 135.0, 1.5, 0.012
STEPS = (10, 12, 20)
GRADE = "developing"
CHOSEN = "chosen"
ORDERS = (CHOSEN, "heads", "tilts")
NUMBER = 500
_BATCH, _RESTING = 10, 3
TURNED = "turned"
STANCES = {"sits": Stance.SEATED, "lies": Stance.LYING}

_ARM, _WITH_HAND = "one arm 15 %", "its hand with it"
"""The hand itself is seldom sighted: an arm is named whether or not its hand is said to be larger
too, and how often it is with its hand is told apart."""

FAULTS: dict[str, tuple[str, float]] = {
    "head 15 %": ("head big", 0.15),
    "legs 15 %": ("both legs", 0.15),
    _ARM: ("one arm", 0.15),
    "shoulders 8 degrees": ("shoulders tilted", 8.0),
    "hips 8 degrees": ("hips tilted", 8.0),
}
"""What is drawn wrong, by the name and size of `bench.faults`."""

NAMED = (*list(FAULTS)[:3], _WITH_HAND, *list(FAULTS)[3:])
"""What is counted of it, in the order of the columns."""

_FRONTAL = 20.0
"""Degrees to either side by which a sitter is turned from the front."""

_COUNTED = 1.5
"""Heads; a length from which on a pencil is stepped, and may be counted a head wrong."""


@dataclass(frozen=True, eq=False)
class Sitter:
    """A figure that is sighted: its true marks, heads, y up, and the points of its view."""

    body: Body
    points: PointTable
    marks: Places


def sitters(many: int, seed: int) -> Iterator[Sitter]:
    """Adults of many proportions in balanced poses by chance, seen about from the front."""
    from tools.typical_places import build_by_chance

    view, rng = view_named(VIEW), np.random.default_rng(seed)
    for _ in range(many):
        build = build_by_chance(rng)
        pose = pose_by_chance(build, int(rng.integers(1, 4)), int(rng.integers(1 << 30)))
        pose = replace(pose, turns=dict(pose.turns) | {STAND: 0.0})
        camera = Camera(
            float(rng.uniform(2.5, 7.0)), float(rng.uniform(1.0, 1.7)),
            float(rng.uniform(-_FRONTAL, _FRONTAL)),
        )  # fmt: skip
        yield sitter_of(view, seen(view, Setting(build=build, pose=pose, camera=camera)))


def like_the_places(many: int, seed: int) -> Iterator[Sitter]:
    """Sitters as the typical places were made from: turned by up to 40 degrees, in hard poses."""
    from tools.typical_places import settings

    view, source = view_named(VIEW), settings(VIEW, np.random.default_rng(seed), standing=True)
    for _ in range(many):
        yield sitter_of(view, seen(view, next(source)))


def at_rest(many: int, seed: int, stance: Stance) -> Iterator[tuple[View, Sitter]]:
    """Sitters that sit or lie, as the typical places of that stance were made from, and the view
    of each: one that lies has its head at either end."""
    from tools.typical_places import resting

    view, source = view_named(VIEW), resting(VIEW, stance, np.random.default_rng(seed))
    for _ in range(many):
        body = seen(view, next(source))
        middle = float(np.mean([x for x, _ in body.marks.values()]))
        right = stance.is_lying and float(body.marks["crown"][0]) > middle
        own = placed(view, Stance.LYING_RIGHT if right else stance)
        yield own, sitter_of(own, body)


def sitter_of(view: View, body: Body) -> Sitter:
    """A body of the bench as one that is sighted."""
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


def can_be_told(view: View, sitter: Sitter, one: Sighting) -> bool:
    """Whether the learner can answer."""
    at = Sighter(view, sitter.points).on(one)
    return at is not None and one.can_be(at.value)


Known = list[tuple[tuple[Sighting, ...], Implied]]


def evening(view: View, sitter: Sitter, order: str, most: int, rng: np.random.Generator) -> Known:
    """What is known after each sighting, from none on."""
    items: tuple[Sighting, ...] = ()
    known: Known = [(items, figure_of(view, items))]
    usual = iter(() if order == CHOSEN else order_named(view, order))
    skipped: set[tuple[object, ...]] = set()
    while len(items) < most:
        if order == CHOSEN:
            grade = view.grade(GRADE)
            found = most_telling(view, known[-1][1], grade, most=1, skipped=skipped)
            one = found[0].sighting
            if not can_be_told(view, sitter, one):
                skipped.add(one.asks)
                continue
        else:
            spec = next(usual, None)
            asked = None if spec is None else sighting_of(view, spec, 0.0)
            if asked is None:
                break
            one = asked
        items = (*items, taken(view, sitter, one, rng))
        known.append((items, figure_of(view, items)))
    return known


def figure_of(view: View, items: tuple[Sighting, ...]) -> Implied:
    """What they imply, which there is."""
    found = imply(view, items)
    assert not isinstance(found, NotMeasurable)
    return found


def miss_of(view: View, sitter: Sitter, implied: Implied) -> tuple[float, Floats]:
    """Typical miss of the implied marks, heads; and each mark's in standard deviations."""
    keys = implied.marks.keys
    truth = np.array([sitter.marks[key] for key in keys]) - sitter.marks[view.plumb]
    away = implied.marks.xy - truth
    sd = np.sqrt(np.diag(implied.cov)).reshape(-1, 2)
    free = np.array([key != view.plumb for key in keys])
    return float(np.sqrt(np.square(away).sum(axis=1).mean())), (away / sd)[free].ravel()


def drawing_of(
    places: Places, rng: np.random.Generator, head_px: float = HEAD_PX, hand: float = HAND
) -> Picture:
    """A drawing of those marks by a hand that scatters by so much of a head, marked."""
    scatter = float(np.hypot(PLACING_PX, hand * head_px))
    marks = {}
    for key, (x, y) in places.items():
        dx, dy = rng.normal(0.0, scatter, 2)
        at = 2000.0 + head_px * x + dx, 2000.0 - head_px * y + dy
        marks[key] = Mark(*at, Visibility.SEEN, PLACING_PX)
    return Picture("drawing.png", 4000, 4000, marks)


def moves_of(view: View, items: Sequence[Sighting], drawn: Picture) -> set[tuple[str, str | None]]:
    """The corrections of a drawing that is held against sightings."""
    study = Study(
        "from life", view.key, None, (State("first", drawn),), grade=GRADE,
        sightings=Sightings(tuple(items), stance=view.stance),
    )  # fmt: skip
    found = assess(study, corrections=True).corrections
    return set() if isinstance(found, NotMeasurable) else {(one.move, one.part) for one in found}


def planted(
    view: View, sitter: Sitter, items: Sequence[Sighting], rng: np.random.Generator
) -> tuple[bool, bool] | None:
    """Whether a length that was counted a head wrong is among the first that are named: as it is,
    and once it was sighted again; None where no length was counted."""
    counted = [
        i
        for i, one in enumerate(items)
        if one.sort is Sort.LENGTH and not one.of and one.value > _COUNTED
    ]
    if not counted:
        return None
    at = int(rng.choice(counted))
    way = float(rng.choice([-1.0, 1.0])) if items[at].value > _COUNTED + 1.0 else 1.0
    wrong = list(items)
    wrong[at] = replace(items[at], value=items[at].value + way)
    twice = [*wrong, taken(view, sitter, items[at], rng)]
    found = [contradictions(view, some) for some in (wrong, twice)]
    return tuple(bool(one) and at in one[0].rows for one in found)  # type: ignore[return-value]


@dataclass
class Tally:
    """What came of many sitters in one order after so many sightings."""

    misses: list[float] = field(default_factory=list)
    inside: list[float] = field(default_factory=list)
    named: dict[str, list[bool]] = field(default_factory=lambda: {title: [] for title in NAMED})
    clean: list[bool] = field(default_factory=list)
    cried: list[bool] = field(default_factory=list)
    found: list[bool] = field(default_factory=list)
    twice: list[bool] = field(default_factory=list)

    def add(self, other: Tally) -> None:
        """Put others to these."""
        self.misses += other.misses
        self.inside += other.inside
        for title, values in other.named.items():
            self.named[title] += values
        self.clean += other.clean
        self.cried += other.cried
        self.found += other.found
        self.twice += other.twice


Tallies = dict[tuple[str, int], Tally]


def no_tallies(of: Iterable[str]) -> Tallies:
    """Of nobody yet, after each number of sightings."""
    return {(one, step): Tally() for one in of for step in STEPS}


def batch(seed: int) -> tuple[Tallies, Tallies, list[float]]:
    """Some sitters: tallies by order and sightings; of others by how they are placed, the sightings
    chosen; and seconds a question."""
    view, rng = view_named(VIEW), np.random.default_rng([seed, 5])
    out, others, spent = no_tallies(ORDERS), no_tallies((TURNED, *STANCES)), []
    for sitter in sitters(_BATCH, seed):
        drawings = drawn_wrong(sitter, rng)
        for order in ORDERS:
            begun = time.perf_counter()
            known = evening(view, sitter, order, max(STEPS), rng)
            if order == CHOSEN:
                spent.append((time.perf_counter() - begun) / max(STEPS))
            for step in STEPS:
                _tally(view, sitter, known[step], drawings, out[order, step], rng)
    placed_so = [(TURNED, view, sitter) for sitter in like_the_places(_BATCH, seed)]
    for title, stance in STANCES.items():
        placed_so += [(title, *one) for one in at_rest(_RESTING, seed, stance)]
    for title, own, sitter in placed_so:
        known = evening(own, sitter, CHOSEN, max(STEPS), rng)
        drawings = drawn_wrong(sitter, rng)
        for step in STEPS:
            _tally(own, sitter, known[step], drawings, others[title, step], rng)
    return out, others, spent


Drawings = tuple[dict[str, tuple[Kind, Picture]], Picture]
"""A drawing with each fault, and one without."""


def drawn_wrong(sitter: Sitter, rng: np.random.Generator) -> Drawings:
    """The drawings that are held against what was sighted of one sitter."""
    faulty = {}
    for title, (name, size) in FAULTS.items():
        kind = next(k for k in figure_kinds(sitter.body, rng) if k.title == name)
        faulty[title] = kind, drawing_of(kind.change(sitter.body, size), rng)
    return faulty, drawing_of(sitter.marks, rng)


def _tally(
    view: View,
    sitter: Sitter,
    known: tuple[tuple[Sighting, ...], Implied],
    drawings: Drawings,
    tally: Tally,
    rng: np.random.Generator,
) -> None:
    items, implied = known
    miss, sizes = miss_of(view, sitter, implied)
    tally.misses.append(miss)
    tally.inside.append(float(np.mean(np.abs(sizes) < 2.0)))
    tally.cried.append(bool(contradictions(view, items)))
    hit = planted(view, sitter, items, rng)
    if hit is not None:
        tally.found.append(hit[0])
        tally.twice.append(hit[1])
    for title, (kind, drawn) in drawings[0].items():
        moves, names = moves_of(view, items, drawn), set(kind.names)
        if title == _ARM:
            tally.named[_WITH_HAND].append(bool(names & moves))
            names |= {("lengthen", part) for _, part in names}
        tally.named[title].append(bool(names & moves))
    tally.clean.append(bool(moves_of(view, items, drawings[1])))


def percent(values: Sequence[float]) -> str:
    return f"{100.0 * float(np.mean(values)):.1f}" if values else "-"


def report(found: Tallies, others: Tallies, spent: Sequence[float]) -> str:
    """The tables as Markdown."""
    rows = [("order", "sightings", "typical miss", "marks within 2 SD", *NAMED,
             "a clean drawing moved")]  # fmt: skip
    doubts = [("order", "sightings", "a head miscounted: named", "once it was sighted twice",
               "doubted without cause")]  # fmt: skip
    for (order, step), one in found.items():
        after = order, str(step)
        named = [percent(one.named[title]) for title in NAMED]
        miss = f"{np.median(one.misses):.2f}"
        rows.append((*after, miss, percent(one.inside), *named, percent(one.clean)))
        doubts.append((*after, percent(one.found), percent(one.twice), percent(one.cried)))
    many = len(found[CHOSEN, STEPS[0]].misses)
    placed_so = [("the model", "sightings", "typical miss", "marks within 2 SD", *NAMED,
                  "a clean drawing moved", "a head miscounted, sighted twice: named",
                  "doubted without cause")]  # fmt: skip
    for (title, step), one in others.items():
        named = [percent(one.named[fault]) for fault in NAMED]
        miss = f"{np.median(one.misses):.2f}"
        placed_so.append((title, str(step), miss, percent(one.inside), *named, percent(one.clean),
                          percent(one.twice), percent(one.cried)))  # fmt: skip
    turned, few = (len(others[title, STEPS[0]].misses) for title in (TURNED, next(iter(STANCES))))
    command = "make sightings"
    if many != NUMBER:
        command = f"python -m bench.sightings {many} --write"
    return "\n".join([
        "# Figures sighted from life",
        "",
        f"Printed by `{command}`: {many} figures of the model (adults of many proportions,",
        "balanced poses by chance of difficulty 1 to 3, within 20 degrees of the front), sighted",
        "with 3 % of a length (0.05 head at least), 2 degrees, 0.05 head from a line; drawings by",
        "a hand that scatters by 0.012 head, marked with 1.5 px where a head is 135; *developing*.",
        "Bodies come from the script that made the typical places, by other chance: real bodies",
        "may be known less surely.",
        "",
        table(rows),
        "",
        "Faults in percent of drawings with that fault alone in which it is named; an arm also",
        "where its hand, which is seldom sighted, is not said to be larger with it.",
        "",
        table(doubts),
        "",
        f"{turned} that stand as the typical places were made from, turned by up to 40 degrees and",
        f"in hard poses too, {few} that sit, kneel or crouch and {few} that lie, turned by up to",
        "50 and 30 degrees, the sightings chosen; how the model is placed is said. The doubts of",
        "what is implied are made for these: of those from about the front, above, more holds.",
        "",
        table(placed_so),
        "",
        f"A question takes {1000.0 * float(np.median(spent)):.0f} ms (median).",
    ])  # fmt: skip


def main() -> None:
    """Print the tables, and write them where all figures were sighted."""
    number = int(sys.argv[1]) if len(sys.argv) > 1 else NUMBER
    seeds = range(1, 1 + max(1, number // _BATCH))
    found, others = no_tallies(ORDERS), no_tallies((TURNED, *STANCES))
    spent: list[float] = []
    with ProcessPoolExecutor(max_workers=max(1, (os.cpu_count() or 1))) as pool:
        for done, (some, more, took) in enumerate(pool.map(batch, seeds), start=1):
            for tallies, added in ((found, some), (others, more)):
                for key, one in added.items():
                    tallies[key].add(one)
            spent += took
            print(f"{done * _BATCH} figures", file=sys.stderr, flush=True)
    text = report(found, others, spent)
    if number >= NUMBER or "--write" in sys.argv:
        (HERE / "SIGHTINGS.md").write_text(text + "\n", "utf-8")
    print(text)


if __name__ == "__main__":
    main()
