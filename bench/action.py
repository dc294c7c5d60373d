"""Sweeps of a simulated learner who straightens by a known share, and what is told of it.

`make action` prints the table and writes it to bench/ACTION.md; with a number of figures it only
prints. The sweeps are those that the marks of the model by chance propose; the drawn one leans by
a share of what is seen and is set by a hand that scatters from point to point, or that wanders
slowly, which is the harder: what it leaves over looks like less than it is.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from bench.bodies import bodies
from bench.tables import table
from bralto.core.action.bend import bend_of
from bralto.core.action.bend_kept import Kept, kept_of
from bralto.core.action.curve import Curve, curve_through
from bralto.core.action.sweeps import sweep_sd
from bralto.core.arrays import Floats
from bralto.core.examination.sides import Side
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named

HERE = Path(__file__).parent
VIEW = "figure-front"
SHARES = (0.7, 1.0)
HANDS = (0.0, 0.01, 0.02, 0.03)
POINTS = (5, 7, 9)
CLICK = 0.009
"""SD of a click on either picture, heads."""
WANDERS = 0.8
"""Heads along a line within which a slow hand stays on one side."""
PX = 130.0
NUMBER = 600


@dataclass
class Tally:
    """What was told of many drawings alike."""

    held: list[bool] = field(default_factory=list)
    shares: list[float] = field(default_factory=list)
    widths: list[float] = field(default_factory=list)
    untold: int = 0


def sweeps(number: int) -> list[Floats]:
    """(401, 2) smooth sweeps of the model by chance, heads, from the points that are proposed."""
    view, out = view_named(VIEW), []
    for body in bodies(VIEW):
        marks = {k: Mark(PX * x + 2000.0, 2000.0 - PX * y) for k, (x, y) in body.marks.items()}
        side = Side(view, Picture("", 4000, 4000, marks), GRADES["developing"])
        found = side.proposed
        if isinstance(found, NotMeasurable):
            continue
        curve = curve_through(found * [1.0, -1.0] / PX, 0.01)
        if isinstance(curve, Curve) and bend_of(curve).bent:
            fine = np.linspace(0.0, len(curve.xy) - 1.0, 401)
            rows = np.arange(len(curve.xy))
            out.append(np.column_stack([np.interp(fine, rows, curve.xy[:, i]) for i in (0, 1)]))
        if len(out) == number:
            break
    return out


def leaning(xy: Floats, share: float) -> Floats:
    """The same sweep with every direction leaning by a share from the line between its ends."""
    steps = np.diff(xy, axis=0)
    angles = np.unwrap(np.arctan2(steps[:, 1], steps[:, 0]))
    about = np.arctan2(*(xy[-1] - xy[0])[::-1])
    about += 2.0 * np.pi * round(float((angles - about).mean()) / (2.0 * np.pi))
    turned = about + share * (angles - about)
    run = np.hypot(*steps.T)[:, None] * np.column_stack([np.cos(turned), np.sin(turned)])
    laid: Floats = xy[0] + np.concatenate([np.zeros((1, 2)), np.cumsum(run, axis=0)])
    return laid


def points_on(xy: Floats, many: int, hand: float, slow: bool, rng: np.random.Generator) -> Floats:
    """Points that a hand sets along a sweep."""
    at = np.linspace(0.0, 1.0, many)
    at[1:-1] += rng.uniform(-0.3, 0.3, many - 2) / (many - 1)
    rows = np.round(at * (len(xy) - 1)).astype(int)
    off = rng.normal(size=(many, 2))
    if slow:
        along = at * float(np.hypot(*np.diff(xy, axis=0).T).sum())
        alike = np.exp(-0.5 * np.square((along[:, None] - along[None]) / WANDERS))
        off = np.linalg.cholesky(alike + 1e-9 * np.eye(many)) @ off
    set_: Floats = xy[rows] + hand * off + rng.normal(0.0, CLICK, (many, 2))
    return set_


def run(number: int) -> str:
    """The table."""
    rng, sd = np.random.default_rng(20), sweep_sd(view_named(VIEW))
    known = sweeps(max(20, number // 4))
    rows = []
    for share in SHARES:
        for slow in (False, True):
            for hand in HANDS:
                cells = []
                for many in POINTS:
                    tally = Tally()
                    for _ in range(number):
                        xy = known[int(rng.integers(len(known)))]
                        seen = curve_through(points_on(xy, 7, 0.0, slow, rng), sd)
                        drawn = curve_through(
                            points_on(leaning(xy, share), many, hand, slow, rng), sd
                        )
                        found = (
                            kept_of(seen, drawn)
                            if isinstance(seen, Curve) and isinstance(drawn, Curve)
                            else None
                        )
                        if not isinstance(found, Kept):
                            tally.untold += 1
                            continue
                        tally.held.append(found.low <= share <= found.high)
                        tally.shares.append(found.share)
                        tally.widths.append(found.high - found.low)
                    held, middle = 100.0 * np.mean(tally.held), 100.0 * np.median(tally.shares)
                    wide = 50.0 * float(np.median(tally.widths))
                    untold = 100.0 * tally.untold / number
                    cells.append(f"{held:.1f} % ({middle:.0f} ± {wide:.0f}; {untold:.0f} % untold)")
                how = "wanders slowly" if slow else "from point to point"
                rows.append([f"{100 * share:.0f} %", how, f"{hand:g}", *cells])
    heads = ["leans drawn", "hand", "its SD, head", *(f"{n} points" for n in POINTS)]
    return table([heads, *rows])


HEAD = """# The bend that was kept

Printed by `make action`: how often the interval holds the true share (goal 93 to 97 %), and in
brackets the median of what is told with half its interval, and how often nothing is told, for
sweeps of the model by chance, clicks of {click} head on both pictures, {number} drawings a cell.

"""


def main() -> None:
    """Print the table, and write it where all were drawn."""
    number = int(sys.argv[1]) if len(sys.argv) > 1 else NUMBER
    text = run(number)
    if number >= NUMBER:
        head = HEAD.format(click=CLICK, number=number)
        (HERE / "ACTION.md").write_text(head + text + "\n", "utf-8")
    print(text)


if __name__ == "__main__":
    main()
