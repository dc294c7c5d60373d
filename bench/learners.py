"""Learners by chance over many studies: is a habit told that is none, is one that is there found?

`make learners` prints the tables and writes them to bench/LEARNERS.md, and so do two numbers of
learners, without a habit and with one; one number prints only. Bodies and faults are those of
`make simulate`, which know neither limb tree nor traits.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from scipy.stats import nct
from scipy.stats import t as student

from bench.bodies import Body, bodies
from bench.faults import figure_kinds
from bench.faulty import study_of
from bench.tables import table
from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.longitudinal.traits.trait_habits import LAST, Habit, found_habits
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import GRADES

HERE = Path(__file__).parent
VIEW = "figure-front"
GRADE = GRADES["developing"]
HAND = 0.012
"""SD of the hand at each mark, heads, new in every drawing."""

SWAYS = {
    "head big": 0.03, "trunk long": 0.03, "both legs": 0.02, "both arms": 0.03,
    "shoulders wide": 0.03, "width": 0.02, "lean": 1.0, "shoulders tilted": 1.5, "hips tilted": 1.5,
}  # fmt: skip
"""SD by which a fault comes and goes from study to study (shares, degrees): the learner's own
scatter, which no marking tells."""


@dataclass(frozen=True)
class Truth:
    """A habit that a simulated learner has: which trait tells it, by which fault it is made, how
    large it is (a share; of a straightened pose, what is lost of every tilt)."""

    trait: str
    fault: str
    size: float


def drawn(
    body: Body, truths: Sequence[Truth], rng: np.random.Generator
) -> StudyTraits | NotMeasurable:
    """One study of a learner with those habits."""
    kinds = {kind.title: kind for kind in figure_kinds(body, rng)}
    sizes = {title: float(rng.normal(0.0, sd)) for title, sd in SWAYS.items()}
    for one in truths:
        sizes[one.fault] = sizes.get(one.fault, 0.0) + one.size
    marks = body.marks
    # What is a pose comes first, then parts, as a hand would.
    for title in sorted(sizes, key=lambda title: title != "pose straightened"):
        by = kinds[title].change(body, sizes[title])
        marks = {key: at + by[key] - body.marks[key] for key, at in marks.items()}
    study = study_of(body, marks, HAND, rng)
    return keep_of(measured(study)).traits


def learner(truths: Sequence[Truth], studies: int, seed: int) -> tuple[Habit, ...]:
    """What the record tells of a learner after so many studies."""
    rng = np.random.default_rng(seed)
    pool = bodies(VIEW)
    kept: list[StudyTraits] = []
    while len(kept) < studies:
        found = drawn(pool[int(rng.integers(len(pool)))], truths, rng)
        if not isinstance(found, NotMeasurable):
            kept.append(found)
    return found_habits("figure", kept, GRADE)


def _one(order: tuple[Sequence[Truth], int, int]) -> tuple[Habit, ...]:
    return learner(*order)


def many(truths: Sequence[Truth], studies: int, number: int) -> list[tuple[Habit, ...]]:
    """What is told of many learners, in several processes."""
    orders = [(tuple(truths), studies, 100_000 * studies + seed) for seed in range(number)]
    with ProcessPoolExecutor() as pool:
        return list(pool.map(_one, orders, chunksize=8))


NONE = (6, 12, LAST)
"""Studies of learners without a habit."""

HABITS = tuple(
    Truth(trait, fault, size)
    for trait, fault, base in (
        ("head", "head big", 0.03), ("trunk", "trunk long", 0.03), ("legs", "both legs", 0.03),
        ("shoulders", "shoulders wide", 0.03), ("width", "width", 0.03),
    )
    for size in (0.5 * base, base, 2.0 * base)
)  # fmt: skip
"""Half a tolerance, one and two, of the grade *developing*."""

STUDIES = 12
STRAIGHT = Truth("tilts", "pose straightened", 0.28)
WHERE = (8, 12, 16, LAST)


def false_habits(number: int) -> str:
    """Learners without any habit."""
    rows: list[Sequence[str]] = [("studies", "learners", "told a habit", "habits told", "of them")]
    for studies in NONE:
        told = [[one.trait.key for one in each if one.state == "habit"]
                for each in many((), studies, number)]  # fmt: skip
        names = Counter(key for each in told for key in each)
        most = ", ".join(f"{key} {count}" for key, count in names.most_common(3))
        share = float(np.mean([bool(each) for each in told]))
        rows.append(
            (str(studies), str(number), f"{100 * share:.1f} %", str(sum(names.values())), most)
        )
    return table(rows)


def theory(size: float, sd: float, n: int) -> float:
    """Power of the two-sided t test at 5 % (Cohen 1988, 2.2; noncentral t)."""
    reach, away = student.ppf(0.975, n - 1), size / sd * np.sqrt(n)
    return float(nct.sf(reach, n - 1, away) + nct.cdf(-reach, n - 1, away))


def power(number: int) -> str:
    """Learners with one habit."""
    rows: list[Sequence[str]] = [
        ("habit", "size", "learners", "SD of one study", "interval leaves 0 out", "by theory",
         "told", "interval holds it", "another told")
    ]  # fmt: skip
    for truth in HABITS:
        said = many((truth,), STUDIES, number)
        ones = [next(h for h in each if h.trait.key == truth.trait) for each in said]
        scatter = float(np.mean([(h.high - h.low) for h in ones])) / 2.0
        sd = scatter / student.ppf(0.975, STUDIES - 1) * np.sqrt(STUDIES)
        away = np.mean([h.low > 0.0 or h.high < 0.0 for h in ones])
        held = np.mean([h.low <= truth.size <= h.high for h in ones])
        told = np.mean([h.state == "habit" for h in ones])
        other = np.mean(
            [any(h.state == "habit" and h.trait.key != truth.trait for h in each) for each in said]
        )
        shares = (away, theory(truth.size, sd, STUDIES), told, held, other)
        rows.append(
            (truth.fault, f"{100 * truth.size:.1f} %", str(number), f"{100 * sd:.1f} %",
             *(f"{100 * one:.1f} %" for one in shares))
        )  # fmt: skip
    return table(rows)


def straightened(number: int) -> str:
    """Learners who draw 72 % of every tilt of pelvis and shoulders, and of the trunk's lean."""
    rows: list[Sequence[str]] = [
        ("studies", "learners", "trait", "mean slope", "interval holds 72 %", "told")
    ]
    for studies in WHERE:
        said = many((STRAIGHT,), studies, number)
        for key in ("tilts", "counter_tilt"):
            ones = [h for each in said for h in each if h.trait.key == key]
            held = np.mean([h.low <= 1.0 - STRAIGHT.size <= h.high for h in ones])
            told = np.mean([h.state == "habit" for h in ones])
            rows.append(
                (str(studies), str(len(ones)), key, f"{np.mean([h.value for h in ones]):.3f}",
                 f"{100 * held:.1f} %", f"{100 * told:.1f} %")
            )  # fmt: skip
    return table(rows)


HEAD = f"""# Learners by chance

Printed by `{{command}}`. A learner draws one of the bodies of `make simulate` from the front, in
a pose by chance, with a hand of {HAND} head and the marks of `make simulate`. Proportions, tilts
and the lean of the whole come and go from study to study with the SDs in `bench/learners.py` (3 %
of a head, 1.5 degrees of a tilt), about 0 for one who has no habit. What the record would tell
after so many studies is compared with the truth. Grade *developing*: a tolerance is 3 %.

"""


def main() -> None:
    counts = [int(word) for word in sys.argv[1:] if word.isdigit()]
    none, some = (counts[0], counts[-1]) if counts else (2000, 400)
    tables: tuple[tuple[str, str, Callable[[], str]], ...] = (
        ("## No habit at all", "", lambda: false_habits(none)),
        (
            f"## One habit, {STUDIES} studies",
            "*By theory*: the power of a t test with that SD (the mean of the learners' own). "
            "*Told*: besides, its size must be above half a tolerance, and stand after Benjamini "
            "and Hochberg.\n\n",
            lambda: power(some),
        ),
        ("## Tilts straightened to 72 %", "", lambda: straightened(some)),
    )
    parts = []
    for title, words, made in tables:  # the whole takes an hour: each is printed when it is there
        parts.append(f"{title}\n\n{words}{made()}")
        print(parts[-1], end="\n\n", flush=True)
    printed = "\n\n".join(parts)
    if len(counts) != 1:
        typed = " ".join(["python -m bench.learners", *map(str, counts)])
        command = typed if counts else "make learners"
        (HERE / "LEARNERS.md").write_text(HEAD.format(command=command) + printed + "\n", "utf-8")


if __name__ == "__main__":
    main()
