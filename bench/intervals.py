"""How often the intervals of corrections hold, with enough drawings to tell.

`make intervals` prints the table and writes it to bench/INTERVALS.md; with a number of drawings a
row it only prints. Drawings and faults are those of `bench.simulate`, whose table has 300 a row and
so tells its own shares of intervals within 2.5 % only.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

from bench.bodies import VIEWS
from bench.faulty import HANDS, drawing
from bench.simulate import OF_KNOWN_SIZE, covered, titles_of
from bench.tables import table

HERE = Path(__file__).parent
NUMBER = 1500

Row = tuple[str, tuple[str | None, ...], tuple[str, ...], tuple[float, ...]]
"""Title, faults of one drawing (None: any), views and hands that take turns."""


def rows() -> list[Row]:
    """Every sort of drawing whose moves state a size as the fault was made."""
    found = titles_of(list(VIEWS))
    single: list[Row] = [
        (title, (title,), tuple(where), tuple(HANDS[:2]))
        for title, where in found.items()
        if title in OF_KNOWN_SIZE
    ]
    several: list[Row] = [
        (f"{many} at once, hand {hand:.2f}", (None,) * many, tuple(VIEWS), (hand,))
        for many in (2, 3)
        for hand in HANDS
    ]
    return single + several


def held(job: tuple[int, Row, int]) -> tuple[int, int]:
    """Of how many intervals how many hold the truth."""
    seed, (_, titles, views, hands), number = job
    rng = np.random.default_rng([17, seed])
    found: list[bool] = []
    for i in range(number):
        try:
            one = drawing(views[i % len(views)], titles, hands[(i // len(views)) % len(hands)], rng)
        except ValueError:
            continue
        found += covered(one)
    return len(found), sum(found)


def report(told: Sequence[Row], found: Sequence[tuple[int, int]]) -> str:
    """The table in words, and the whole below it."""
    lines = [("faults", "intervals", "hold the truth", "twice the standard error")]
    for (title, *_), (many, good) in zip(told, found, strict=True):
        if not many:  # of very few drawings none may have been told to have that fault
            lines.append((title, "0", "-", "-"))
            continue
        share = good / many
        doubt = 2.0 * (share * (1.0 - share) / many) ** 0.5
        lines.append((title, str(many), f"{100 * share:.1f} %", f"{100 * doubt:.1f} %"))
    many, good = (sum(column) for column in zip(*found, strict=True))
    return f"{table(lines)}\n\nAll together: {100 * good / max(many, 1):.1f} % of {many}."


HEAD = """# How often the intervals hold

Printed by `make intervals`: {number} drawings a row, made as those of `make simulate` (see
[SIMULATION.md](SIMULATION.md)); of every move that states a size or an angle as the fault was made,
whether its 95 % interval holds the truth (goal 93 to 97 %).

"""


def main() -> None:
    """Print the table, and write it where all drawings were made."""
    number = int(sys.argv[1]) if len(sys.argv) > 1 else NUMBER
    told = rows()
    jobs = [(seed, row, number) for seed, row in enumerate(told)]
    with ProcessPoolExecutor(max_workers=os.cpu_count()) as pool:
        found = list(pool.map(held, jobs))
    text = report(told, found)
    if number >= NUMBER:
        (HERE / "INTERVALS.md").write_text(HEAD.format(number=number) + text + "\n", "utf-8")
    print(text)


if __name__ == "__main__":
    main()
