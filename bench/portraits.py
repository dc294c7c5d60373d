"""Portraits from life: heads sighted by a pencil that knows no frame of the tool's.

`make portraits` prints the table and writes it to bench/PORTRAITS.md; with a number of heads a view
it only prints.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path

import numpy as np

from bench.bodies import at_eye_level, seen, skull_upright
from bench.faults import head_kinds
from bench.pencil import told_by_pencil
from bench.sightings import (
    GRADE,
    Sitter,
    Tally,
    drawing_of,
    figure_of,
    miss_of,
    moves_of,
    percent,
    sitter_of,
)
from bench.tables import table
from bralto.core.arrays import Floats
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.setting import set_up
from bralto.core.measures.own_frame import own_frames
from bralto.core.sightings.contradictions import contradictions
from bralto.core.sightings.figure.implied import Implied
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.study.taken import Sighting, doubt_of
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named

HERE = Path(__file__).parent
VIEWS = ("head-front", "head-three-quarter", "head-profile")
STEPS = (6, 12, 20)
HEAD_PX, HAND = 700.0, 0.004
NUMBER, _BATCH = 120, 6

FAULTS = {
    "width": 0.1, "head tipped": 10.0, "features aside": 0.08, "features big": 0.2,
    "eyes and brows high": 0.08, "face long": 0.16, "face wide": 0.12, "outline wide": 0.12,
    "chin long": 0.4, "mouth tilted": 14.0,
}  # fmt: skip
"""What is drawn wrong, by the name and size of `bench.faults`, where the view has it."""


def portraits(view: View, many: int, seed: int) -> Iterator[tuple[Sitter, Floats]]:
    """Heads of many faces, tilted, nodded and turned by chance, each with the way up its skull."""
    from tools.typical_places import TURNED, build_by_chance, head_by_chance

    rng, base, (about, way) = np.random.default_rng(seed), set_up("at-rest"), TURNED[view.key]
    for _ in range(many):
        pose = head_by_chance(base.pose, rng)
        build = build_by_chance(rng)
        away, turn = float(rng.uniform(1.3, 3.0)), about + way * float(rng.uniform(-1.0, 1.0))
        setting = replace(base, build=build, pose=pose, camera=Camera(away, around_deg=turn))
        body = seen(view, at_eye_level(view, setting, float(rng.normal(0.0, 0.06))))
        yield sitter_of(view, body), skull_upright(body)


def evening(
    view: View, sitter: Sitter, up: Floats, most: int, rng: np.random.Generator
) -> list[tuple[tuple[Sighting, ...], Implied]]:
    """What is known after each sighting that the tool asks for and the pencil tells."""
    rows, xy = view.point_rows, sitter.points
    marks = {key: xy.xy[row] for key, row in rows.items() if xy.present[row]}
    items: tuple[Sighting, ...] = ()
    known: list[tuple[tuple[Sighting, ...], Implied]] = [(items, figure_of(view, items))]
    while len(items) < most:
        asked = most_telling(view, known[-1][1], view.grade(GRADE), most=1)[0].sighting
        true = told_by_pencil(asked, marks, up)
        assert true is not None
        value = true + doubt_of(view, replace(asked, value=true)) * float(rng.normal())
        items = (*items, replace(asked, value=value, u=doubt_of(view, replace(asked, value=value))))
        known.append((items, figure_of(view, items)))
    return known


Tallies = dict[tuple[str, int], Tally]


def _tallies() -> Tallies:
    return {
        (key, step): Tally(named={title: [] for title in FAULTS}) for key in VIEWS for step in STEPS
    }


def batch(seed: int) -> Tallies:
    """Some heads of each view."""
    out: Tallies = _tallies()
    for key in VIEWS:
        view, rng = view_named(key), np.random.default_rng([seed, 9])
        for sitter, up in portraits(view, _BATCH, seed):
            known = evening(view, sitter, up, max(STEPS), rng)
            kinds = {one.title: one for one in head_kinds(sitter.body, rng)}
            wrong = {
                title: drawing_of(kinds[title].change(sitter.body, size), rng, HEAD_PX, HAND)
                for title, size in FAULTS.items()
                if title in kinds
            }
            right = drawing_of(sitter.marks, rng, HEAD_PX, HAND)
            for step in STEPS:
                (items, implied), tally = known[step], out[key, step]
                miss, sizes = miss_of(view, sitter, implied)
                tally.misses.append(miss)
                tally.inside.append(float(np.mean(np.abs(sizes) < 2.0)))
                tally.cried.append(bool(contradictions(view, items)))
                tally.clean.append(bool(moves_of(view, items, right)))
                for title, drawn in wrong.items():
                    moves = moves_of(view, items, drawn)
                    tally.named[title].append(bool(set(kinds[title].names) & moves))
    return out


def aslant(view: View, seeds: Sequence[int]) -> Floats:
    """(n,) degrees by which the frame in which the tool measures each head is turned from the
    upright of its skull."""
    away = []
    for seed in seeds:
        for sitter, up in portraits(view, _BATCH, seed):
            frames = own_frames(view, [sitter.points])
            assert frames is not None
            away.append(np.degrees(frames[0].radians - np.arctan2(-up[0], up[1])))
    return np.array(away)


def report(found: Tallies, seeds: Sequence[int]) -> str:
    """The table as Markdown."""
    number = len(seeds) * _BATCH
    rows = [("view", "sightings", "typical miss", "marks within 2 SD", *FAULTS,
             "a clean drawing moved", "doubted without cause")]  # fmt: skip
    for (key, step), one in found.items():
        named = [percent(one.named[title]) for title in FAULTS]
        rows.append((key, str(step), f"{np.median(one.misses):.3f}", percent(one.inside), *named,
                     percent(one.clean), percent(one.cried)))  # fmt: skip
    sizes = ", ".join(
        f"{title} {size:g}{' degrees' if size > 1.0 else ''}" for title, size in FAULTS.items()
    )
    command = "make portraits" if number == NUMBER else f"python -m bench.portraits {number}"
    return "\n".join([
        "# Portraits from life",
        "",
        f"Printed by `{command}`: {number} heads a view, of many faces, leaning by 6.4 degrees",
        "(SD), nodding by 7.2, turned by up to 20 (14 in profile) about the view's own way, seen",
        "from 1.3 to 3 m. What the tool asks for is told by a pencil that hangs plumb, is held",
        "level and carries tilts over however the head is tilted (`bench/pencil.py`, by plane",
        "geometry), with 3 % of a length (0.015 head at least), 2 degrees, 0.015 head from a line;",
        f"drawings by a hand that scatters by {HAND} head, marked with 1.5 px where a head is",
        f"{HEAD_PX:.0f}; *developing*. Faces come from the script that made the typical places.",
        "",
        table(rows),
        "",
        "Faults in percent of drawings with that fault alone in which it is named; in heads, or",
        f"shares of what is drawn wrong: {sizes}.",
        "",
        "The frame in which the tool measures a head is turned from the upright of its skull by",
        "; ".join(
            f"{key} {np.mean(one):+.1f} degrees, SD {np.std(one):.1f}"
            for key in VIEWS
            for one in [aslant(view_named(key), seeds)]
        )
        + ".",
    ])  # fmt: skip


def main() -> None:
    """Print the table, and write it where all heads were sighted."""
    number = int(sys.argv[1]) if len(sys.argv) > 1 else NUMBER
    seeds = range(1, 1 + max(1, number // _BATCH))
    found: Tallies = _tallies()
    with ProcessPoolExecutor(max_workers=max(1, (os.cpu_count() or 1))) as pool:
        for done, some in enumerate(pool.map(batch, seeds), start=1):
            for key, one in some.items():
                found[key].add(one)
            print(f"{done * _BATCH} heads a view", file=sys.stderr, flush=True)
    text = report(found, seeds)
    if number >= NUMBER:
        (HERE / "PORTRAITS.md").write_text(text + "\n", "utf-8")
    print(text)


if __name__ == "__main__":
    main()
