"""A beginner's drawings: many small faults at once, and how much of what is off is explained."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from bench.bodies import bodies
from bench.faults import figure_kinds
from bench.faulty import Drawn, misses, study_of
from bench.tables import table
from bralto.core.examination.assessment import assess
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture, Study

DRAWN = (
    ("figure-front", False), ("figure-front", True), ("figure-back", False), ("figure-back", True),
)  # fmt: skip
"""Views of a beginner's drawings, with all marks or the short set alone."""

HEAD = """## A beginner's hand

All of these at once and none of them large: a head 2 to 16 % big, the pose drawn at 84 to 96 % of
its leans, legs up to 7 % short, 2 % narrow to 8 % wide, one mark 0.02 to 0.12 head off, a hand of
0.006 to 0.02 head. *Told nothing*: of those with twelve measures off and more, neither a move nor
the head as the unit. *Big head told*: of heads of 9 % and more, by a move or as the unit.
*Unexplained*: of the measures that are off, those that follow from nothing that is told. *The wrong
way*: a head made larger, legs shorter or a pose straighter."""

ROW = ("marks", "drawings", "told nothing", "big head told", "unexplained", "the wrong way",
             "miss rose by more than u")  # fmt: skip
_MANY_OFF, _BIG = 12, 0.09
_WRONG_WAY = {("scale", "head"): 1.0, ("scale", "legs"): -1.0, ("straighten", None): -1.0}


def drawing_of(
    view: str, *, short: bool, rng: np.random.Generator
) -> tuple[dict[str, float], Study] | None:
    """A drawing with many small faults, and how large each is; None in a pose that hides one."""
    pool = list(bodies(view))
    body = pool[int(rng.integers(len(pool)))]
    kinds = {kind.title: kind for kind in figure_kinds(body, rng)}
    sizes = {
        "pose straightened": float(rng.uniform(0.04, 0.16)),
        "head big": float(rng.uniform(0.02, 0.16)),
        "both legs": -float(rng.uniform(0.0, 0.07)),
        "one mark": float(rng.uniform(0.02, 0.12)),
    }
    wide, hand = float(rng.uniform(-0.02, 0.08)), float(rng.uniform(0.006, 0.02))
    if not sizes.keys() <= kinds.keys():
        return None
    marks = body.marks
    for title, size in sizes.items():
        by = kinds[title].change(body, size)
        marks = {key: at + by[key] - body.marks[key] for key, at in marks.items()}
    marks = kinds["width"].change(replace(body, marks=marks), wide)
    study = study_of(body, marks, hand, rng)
    if short:
        kept = {key for entry in body.view.short for key in entry}
        study = replace(
            study,
            reference=cut(study.reference, kept),
            states=(replace(study.states[0], picture=cut(study.states[0].picture, kept)),),
        )
    return sizes, study


def cut(picture: Picture | None, kept: set[str]) -> Picture:
    """A picture with those marks alone."""
    assert picture is not None
    return replace(picture, marks={k: m for k, m in picture.marks.items() if k in kept})


def row_of(view: str, short: bool, number: int, rng: np.random.Generator) -> Sequence[str]:
    """What a beginner's drawings in one view are told."""
    total = many = nothing = big = told = wrong = rose = 0
    unexplained: list[float] = []
    for _ in range(number):
        made = drawing_of(view, short=short, rng=rng)
        if made is None:
            continue
        sizes, study = made
        said = assess(study, corrections=True)
        total += 1
        moves = () if isinstance(said.corrections, NotMeasurable) else said.corrections
        unit, off = said.causes is not None and said.causes.unit_percent is not None, said.off()
        if len(off) >= _MANY_OFF:
            many += 1
            nothing += not moves and not unit
        if off:
            unexplained.append(float(np.mean([said.cause(one) is None for one in off])))
        if sizes["head big"] >= _BIG:
            big += 1
            told += unit or any(m.part == "head" and m.move in {"scale", "lengthen"} for m in moves)
        wrong += any(_WRONG_WAY.get((m.move, m.part), 0.0) * m.amount > 0.0 for m in moves)
        before, after, u = misses(Drawn((), study, said, 0.0))
        rose += after > before + u
    shares = (
        nothing / max(many, 1),
        told / max(big, 1),
        float(np.mean(unexplained)),
        wrong / total,
        rose / total,
    )
    name = f"{view}, {'short set' if short else 'all marks'}"
    return (name, str(total), *(f"{100.0 * one:.1f} %" for one in shares))


def beginners(number: int, seed: int = 7) -> str:
    """The table, with what it says."""
    rng = np.random.default_rng(seed)
    rows = [ROW, *(row_of(view, short, number, rng) for view, short in DRAWN)]
    return f"{HEAD}\n\n{table(rows)}"
