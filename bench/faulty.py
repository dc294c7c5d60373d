"""Drawings with known faults, and what is said of them."""

from __future__ import annotations

import time
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from bench.bodies import Body, Places, bodies
from bench.faults import Kind, figure_kinds, head_kinds
from bralto.core.corrections.corrected import corrected_marks
from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import Assessment, assess
from bralto.core.fit.similarity import fit_similarity
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture, Scale, State, Study
from bralto.core.terms import Visibility

__all__ = [
    "GRADE", "HANDS", "HAND_OF", "PAPERS", "Drawn", "Fault", "Paper", "drawing", "faulty", "misses",
    "study_of",
]  # fmt: skip

GRADE = "developing"
HANDS = (0.0, 0.01, 0.02, 0.03)
_MIDDLE = 2000.0


@dataclass(frozen=True)
class Paper:
    """How large a head is on both pictures, px, and the SD of placing a mark, px."""

    head: float
    placing: float = 1.5


PAPERS = {"figure": Paper(135.0), "head": Paper(700.0)}
HAND_OF = {"figure": 1.0, "head": 1.0 / 3.0}
"""A head is drawn larger, so that the same hand misses by less of it."""

TOLERANCES = {"figure": 0.05, "head": 0.015}
"""Heads, of the grade *developing*."""


@dataclass(frozen=True)
class Fault:
    """A fault that was made, with its size."""

    kind: Kind
    size: float


@dataclass(frozen=True, eq=False)
class Drawn:
    """A faulty drawing and what is said of it."""

    faults: tuple[Fault, ...]
    study: Study
    said: Assessment
    took: float

    @property
    def moves(self) -> tuple[Correction, ...]:
        """The list, or nothing."""
        found = self.said.corrections
        return () if isinstance(found, NotMeasurable) else found


def sort_of(body: Body) -> str:
    return "head" if body.view.key.startswith("head") else "figure"


def displaced(body: Body, marks: Places) -> np.ndarray:
    """(n, 2) what a change does to the marks beside scale and place, heads."""
    p = np.array([body.marks[k] for k in body.keys])
    q = np.array([marks[k] for k in body.keys])
    fit = fit_similarity(p, q, np.ones(len(p)), robust=False)
    assert not isinstance(fit, NotMeasurable)
    return fit.residuals


def drawn_size(kind: Kind, body: Body, hand: float, rng: np.random.Generator) -> float | None:
    """A size at which the fault shows: some mark out of tolerance by half, and five times what
    placing and hand alone make of it; None where it cannot."""
    way = float(rng.choice([-1.0, 1.0])) if kind.both_ways else 1.0
    paper = PAPERS[sort_of(body)]
    hand *= HAND_OF[sort_of(body)]
    scatter = float(np.hypot(np.sqrt(2.0) * paper.placing / paper.head, hand))
    for _ in range(4):
        size = way * float(rng.uniform(*kind.sizes))
        away = displaced(body, kind.change(body, size))
        shows = np.hypot(*away.T).max() > 1.5 * TOLERANCES[sort_of(body)]
        if shows and np.linalg.norm(away) > _CLEAR * scatter:
            return size
    return None


_CLEAR = 5.0


def one_of(kinds: Sequence[Kind], title: str | None, rng: np.random.Generator) -> Kind:
    chosen = [one for one in kinds if one.title == title] or list(kinds)
    return chosen[int(rng.integers(len(chosen)))]


def faulty(
    body: Body, titles: Sequence[str | None], hand: float, rng: np.random.Generator
) -> tuple[tuple[Fault, ...], Places]:
    """Faults of those titles (None: any), none on the same part, made one after the other."""
    for _ in range(12 * len(titles) ** 2 + 1):
        kinds = head_kinds(body, rng) if sort_of(body) == "head" else figure_kinds(body, rng)
        faults: list[Fault] = []
        for title in titles:
            kind = one_of(kinds, title, rng)
            size = drawn_size(kind, body, hand, rng)
            if size is None or any(kind.parts & one.kind.parts for one in faults):
                break
            faults.append(Fault(kind, size))
        if len(faults) == len(titles):
            break
    else:
        raise ValueError(f"{titles} cannot be made in {body.view.key}")
    marks = body.marks
    # What is a pose comes first, then parts, the whole last, as a hand would.
    for fault in sorted(faults, key=lambda f: (not f.kind.pose, -f.kind.order)):
        by = fault.kind.change(body, fault.size)
        if fault.kind.order == 0 and not fault.kind.pose:
            marks = fault.kind.change(replace(body, marks=marks), fault.size)
        else:
            marks = {k: at + by[k] - body.marks[k] for k, at in marks.items()}
    return tuple(faults), marks


def as_marks(places: Places, paper: Paper, sd: float, rng: np.random.Generator) -> dict[str, Mark]:
    middle = np.mean(list(places.values()), axis=0)
    out = {}
    for key, at in places.items():
        x, y = paper.head * (at - middle) * [1.0, -1.0] + rng.normal(0.0, sd, 2) + _MIDDLE
        out[key] = Mark(float(x), float(y), Visibility.SEEN, paper.placing)
    return out


def study_of(body: Body, places: Places, hand: float, rng: np.random.Generator) -> Study:
    paper = PAPERS[sort_of(body)]
    hand *= HAND_OF[sort_of(body)]
    hand_px = float(np.hypot(paper.placing, hand * paper.head))
    seen = as_marks(body.marks, paper, paper.placing, rng)
    drawn = as_marks(places, paper, hand_px, rng)
    size = int(2 * _MIDDLE)
    return Study(
        title="simulated", view=body.view.key, reference=Picture("a.png", size, size, seen),
        states=(State("first", Picture("b.png", size, size, drawn)),),
        scale=Scale(body.view.school), grade=GRADE,
    )  # fmt: skip


def drawing(
    view: str, titles: Sequence[str | None], hand: float, rng: np.random.Generator
) -> Drawn:
    pool = list(bodies(view))
    for _ in range(4):
        body = pool[int(rng.integers(len(pool)))]
        try:
            faults, places = faulty(body, titles, hand, rng)
        except ValueError:
            continue
        study = study_of(body, places, hand, rng)
        begun = time.perf_counter()
        said = assess(study, corrections=True)
        return Drawn(faults, study, said, time.perf_counter() - begun)
    raise ValueError(f"no pose of {view} shows {titles}")


def misses(one: Drawn) -> tuple[float, float, float]:
    """Typical miss before and after the list is followed to the letter, and its u."""
    miss = one.said.miss
    assert not isinstance(miss, NotMeasurable)
    if not one.moves:
        return miss.value, miss.value, miss.u
    state = one.study.states[0]
    marks = corrected_marks(state.picture, one.moves)
    assert not isinstance(marks, NotMeasurable)
    after = replace(
        one.study, states=(replace(state, picture=replace(state.picture, marks=marks)),)
    )
    again = assess(after).miss
    assert not isinstance(again, NotMeasurable)
    return miss.value, again.value, miss.u
