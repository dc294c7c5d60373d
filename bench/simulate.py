"""Simulation: known faults put into drawings, and what the list of corrections makes of them.

`make simulate` prints the tables and writes them to bench/SIMULATION.md; with a number of drawings
it only prints. `--missed` says what was taken for what, `--view KEY` takes one view alone.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from bench.beginner import beginners
from bench.bodies import VIEWS, bodies
from bench.faults import figure_kinds, head_kinds
from bench.faulty import HANDS, Drawn, Fault, drawing, misses
from bench.tables import table
from bralto.core.corrections.correction_words import Correction

HERE = Path(__file__).parent


def named(fault: Fault, moves: Sequence[Correction]) -> bool:
    if fault.kind.names & {(one.move, one.part) for one in moves}:
        return True
    # A part of one mark: its size and direction are that mark's place.
    ((_, key),) = list(fault.kind.names)[:1]
    return fault.kind.title == "one mark" and any(set(one.shifts) == {key} for one in moves)


def first_by_order(one: Drawn) -> bool:
    """Whether the list begins with a fault than which none comes earlier in the order of work."""
    if not one.moves:
        return False
    earliest = min(fault.kind.order for fault in one.faults)
    begins = (one.moves[0].move, one.moves[0].part)
    return any(begins in f.kind.names for f in one.faults if f.kind.order == earliest)


_SIZES = frozenset({"head big", "one arm", "both arms", "one forearm", "both forearms",
                    "both hands", "both shanks"})  # fmt: skip
_ANGLES = frozenset({"lean", "whole turned", "an elbow bent", "head turned in space",
                     "chin raised", "head tipped"})  # fmt: skip
OF_KNOWN_SIZE = _SIZES | _ANGLES | {"width"}
"""Faults of which some move states the size as it was made."""


def covered(one: Drawn) -> list[bool]:
    """Of each fault whose size a move states alike, whether the 95 % interval holds it."""
    out = []
    for fault in one.faults:
        for move in one.moves:
            if (move.move, move.part) not in fault.kind.names:
                continue
            u, size = move.u, fault.size
            if fault.kind.title in _SIZES and move.move == "scale" and move.factor is not None:
                whole = abs(move.amount / (move.factor - 1.0))
                out.append(abs(move.factor - 1.0 - size) <= 1.96 * u / whole)
            elif fault.kind.title == "width":
                out.append(abs(move.amount - 100.0 * (1.0 / (1.0 + size) - 1.0)) <= 1.96 * u)
            elif fault.kind.title in _ANGLES:
                # The lean's own amount says how it leans, not what undoes it.
                drawn = move.amount if fault.kind.title == "lean" else -move.amount
                out.append(abs(drawn - size) <= 1.96 * u)
    return out


@dataclass
class Tally:
    """What came of many drawings of one sort."""

    drawings: int = 0
    all_named: int = 0
    many: int = 0
    first: int = 0
    listed: int = 0
    fell: int = 0
    rose: int = 0
    intervals: int = 0
    held: int = 0
    missed: Counter[str] = field(default_factory=Counter)

    def add(self, one: Drawn) -> None:
        """Count one drawing."""
        self.drawings += 1
        hits = [named(fault, one.moves) for fault in one.faults]
        self.all_named += all(hits)
        self.many += len(one.moves) > len(one.faults)
        self.first += bool(one.faults) and first_by_order(one)
        inside = covered(one)
        self.intervals += len(inside)
        self.held += sum(inside)
        before, after, u = misses(one)
        self.listed += bool(one.moves)
        self.fell += bool(one.moves) and after < before
        self.rose += after > before + u
        said = ", ".join(f"{m.move} {m.part}" for m in one.moves) or "nothing"
        if all(hits) and len(one.moves) > len(one.faults):
            wanted = frozenset().union(*(fault.kind.names for fault in one.faults))
            extra = [f"{m.move} {m.part}" for m in one.moves if (m.move, m.part) not in wanted]
            made = ", ".join(fault.kind.title for fault in one.faults) or "none"
            self.missed[f"{one.said.view.key}: {made}: and {', '.join(extra)}"] += 1
        for fault, hit in zip(one.faults, hits, strict=True):
            if not hit:
                self.missed[f"{one.said.view.key}: {fault.kind.title}: {said}"] += 1

    def row(self, title: str, clean: bool) -> tuple[str, ...]:
        """The row of the table."""

        def of(count: int, whole: int) -> str:
            return f"{100 * count / whole:.1f} %" if whole else "-"

        return (
            title, str(self.drawings),
            "-" if clean else of(self.all_named, self.drawings),
            "-" if clean else of(self.first, self.drawings),
            of(self.many, self.drawings), of(self.fell, self.listed), of(self.rose, self.drawings),
            of(self.held, self.intervals),
        )  # fmt: skip


HEAD_ROW = ("faults", "drawings", "all named", "first by order", "moves too many", "miss fell",
            "miss rose by more than u", "95 % intervals")  # fmt: skip


def titles_of(views: Sequence[str]) -> dict[str, list[str]]:
    """Every kind of fault, with the views that have it."""
    rng = np.random.default_rng(0)
    out: dict[str, list[str]] = {}
    for view in views:
        kinds = head_kinds if view.startswith("head") else figure_kinds
        for kind in kinds(bodies(view)[0], rng):
            if view not in out.setdefault(kind.title, []):
                out[kind.title].append(view)
    return out


def run(number: int, views: Sequence[str], seed: int = 1) -> str:
    rng = np.random.default_rng(seed)
    took: list[float] = []
    missed: Counter[str] = Counter()

    def tallied(
        where: Sequence[str], titles: Sequence[str | None], hands: Sequence[float]
    ) -> Tally:
        """All views by turns, and then the next hand; ``None`` is a fault by chance."""
        tally = Tally()
        for i in range(number):
            round_, view = divmod(i, len(where))
            try:
                one = drawing(where[view], titles, hands[round_ % len(hands)], rng)
            except ValueError:
                continue
            took.append(one.took)
            tally.add(one)
        missed.update(tally.missed)
        return tally

    rows: list[Sequence[str]] = [HEAD_ROW]
    for hand in HANDS:
        clean = tallied(views, (), (hand,))
        rows.append(clean.row(f"none, hand {hand:.2f}", clean=True))
    for title, where in titles_of(views).items():
        single = tallied(where, (title,), HANDS[:2])
        rows.append(single.row(title, clean=False))
    for many in (2, 3):
        for hand in HANDS[:: 2 if many == 3 else 1]:
            several = tallied(views, (None,) * many, (hand,))
            rows.append(several.row(f"{many} at once, hand {hand:.2f}", clean=False))
    out = (
        table(rows) + f"\n\nMedian of one assessment with its list: {1e3 * np.median(took):.1f} ms."
    )
    if "--missed" in sys.argv:
        out += "\n" + "\n".join(f"{count} x {what}" for what, count in missed.most_common(60))
    return out


HEAD = """# What the corrections find

Printed by `make simulate`: known faults put into drawings of the model in six views and 29 poses,
by plain geometry on its own skeleton (`bench/faults.py`, which does not know the limb tree), each
mark of both pictures placed with an SD of 1.5 px (a head of 135 px, in views of the head 700 px),
grade *developing*. The rows of one fault take hands of 0 and 0.01 head by turns (of a third in
views of the head); those of several at once say theirs. A fault moves some mark out of its
tolerance by half and is five times what placing and hand alone make of it. *All named*: every
fault is on the list, by its part and kind of move. *First by order*: the list begins with the
fault that comes first in the order of work. *Moves too many*: lists longer than the faults. *Miss
fell*: of drawings with a list, those whose typical miss is smaller once the list is followed to
the letter. *95 % intervals*: those of sizes and angles that a move states as the fault was made.

"""


if __name__ == "__main__":
    words = sys.argv[1:]
    counts = [int(word) for word in words if word.isdigit()]
    chosen = [words[words.index("--view") + 1]] if "--view" in words else list(VIEWS)
    number = counts[0] if counts else 300
    printed = run(number, chosen) + ("\n\n" + beginners(number) if chosen == list(VIEWS) else "")
    print(printed)
    if not words:
        (HERE / "SIMULATION.md").write_text(HEAD + printed + "\n", "utf-8")
