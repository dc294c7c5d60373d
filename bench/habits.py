"""End to end: the model drawn with two known habits, photographed, its sheet found, measured.

`make habits` prints the tables and writes them to bench/HABITS.md; a number of runs prints only,
`--missed` says what was found instead, `--heads` looks at heads alone. Model, learner, phone and
measuring are the product's own; what they are told is compared with what comes out at the far end.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np

from bench.certain import certain
from bench.head_habits import HEADS, heads
from bench.photographed_sheets import PAGE, SIZE, Photographed, marked, taken
from bralto.core.corrections.candidates.moves import Move
from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.fitting import (
    LAST_ROUNDS,
    covariances,
    hand_of,
    pose_problem,
    refit,
)
from bralto.core.corrections.laying_out import lay_out
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.posing.poses import named_poses
from bralto.core.mannequin.setting import set_up
from bralto.core.results import NotMeasurable
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.values import Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import answer_key
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.habits import Habits
from bralto.stand.model.model_study import model_study
from bralto.stand.model.pencil_view import drawn_by
from bralto.stand.model.stage import Stage

HERE = Path(__file__).parent
HANDS = (0.0, 0.004)
"""SD of the hand's slow wandering, heads: what is told alone, and a fault of every length more."""

COVER = 2.0
LARGE = 8.0
"""In u: habits that should be named."""
PARTS = ("head", "arm_r", "arm_l", "forearm_r", "forearm_l", "leg_r", "leg_l")


@dataclass(frozen=True)
class Habit:
    """A habit that is told to the learner; ``size`` relative, or degrees of a lean."""

    kind: str
    part: str | None
    size: float


def drawn_habits(rng: np.random.Generator) -> tuple[Habit, Habit]:
    """Two different habits of 7 to 16 %, or a lean of 2 to 5 degrees."""
    kinds = rng.choice([*PARTS, "width", "lean"], 2, replace=False)
    out = []
    for kind in kinds:
        size = float(rng.uniform(0.07, 0.16) * rng.choice([-1.0, 1.0]))
        if kind == "width":
            out.append(Habit("stretch", None, 0.7 * size))
        elif kind == "lean":
            out.append(Habit("lean", None, float(rng.uniform(2.0, 5.0) * rng.choice([-1, 1]))))
        else:
            out.append(Habit("scale", str(kind), size))
    return out[0], out[1]


def as_habits(told: Sequence[Habit], wobble: float) -> Habits:
    """What the learner is told."""
    habits = Habits(wobble=wobble)
    for one in told:
        if one.kind == "scale":
            habits = replace(habits, parts={**habits.parts, str(one.part): 1.0 + one.size})
        elif one.kind == "stretch":
            habits = replace(habits, width=1.0 + one.size)
        else:
            habits = replace(habits, lean_deg=one.size)
    return habits


def photographed(told: Sequence[Habit], pose: str, wobble: float, seed: int) -> Photographed:
    """Draw, photograph, find the sheet."""
    stage = Stage.of(set_up(pose), COARSE)
    view = stage.view(*SIZE)
    key = answer_key(stage, view, view_named("figure-front"))
    study = model_study(pose, key, "model.png", SIZE, {})
    drawing = drawn_by(stage, view, view_named(key.view), as_habits(told, wobble), PAGE, seed)
    return taken(study, drawing, seed)


def held(one: Habit, told: Sequence[Habit], corrections: Sequence[Correction]) -> tuple[bool, bool]:
    """Whether a habit is named, and whether its size lies within twice its uncertainty.

    A list may say both forearms at once, or the upper arm and the forearm with the hand instead of
    the arm and the forearm: a part is named by itself, as a pair or as the part alone, and its size
    is what all moves that it goes along with come to.
    """
    if one.kind != "scale":
        for c in corrections:
            if (c.move, c.part) == (one.kind, one.part):
                true = one.size if one.kind == "lean" else 100.0 * (1.0 / (1.0 + one.size) - 1.0)
                return True, abs(c.amount - true) <= COVER * c.u
        return False, False
    above = _with_pairs(one.part)
    itself = above[0]
    true = float(np.prod([1.0 + h.size for h in told if any(h.part in keys for keys in above)]))
    named, found, squares = False, 1.0, 0.0
    for c in corrections:
        along = c.move == "scale" and any(c.part in keys for keys in above)
        if not along and not (c.move == "lengthen" and c.part in itself):
            continue
        assert c.factor is not None
        named |= c.part in itself
        found *= c.factor
        # The amount goes with 1 / factor.
        squares += (c.u * c.factor * (1.0 / c.factor - 1.0) / c.amount) ** 2
    return named, named and abs(found - true) <= COVER * found * float(np.sqrt(squares))


def _with_pairs(part: str | None) -> list[set[str]]:
    """A limb and what it hangs from, each with the words for both sides of it."""
    limbs = {limb.key: limb for limb in view_named("figure-front").limbs}
    out = []
    while part in limbs and (limb := limbs[part]).parent is not None:
        out.append({limb.key, *limb.pair[:1], *limb.own_pair[:1]})
        part = limb.parent
    return out or [{part}] if part else []


def asked(told: Sequence[Habit], study: Study) -> list[tuple[float, float]]:
    """How far each habit's size is from the truth, and the truth itself, in u.

    The told moves alone are fitted: what a learner who suspects them can know from these marks.
    """
    found, state = assess(study), study.state()
    pair = pair_marks(found.view, certain(study.reference), certain(state).picture)
    assert isinstance(pair, Pair)
    laid = certain(lay_out(found.view, pair, found.fit, found.head, study.scale))
    tolerance = GRADES[study.grade].head
    problem = pose_problem(laid.seen, laid.drawn, laid.sd, tolerance, whole_scale=False)
    known = laid.candidates.moves
    by_name: dict[tuple[str, str | None], Move] = {(move.kind, move.part): move for move in known}
    # Deepest first, as moves compose.
    moves = sorted((by_name[one.kind, one.part] for one in told), key=known.index)
    fit = refit(problem, moves, [np.zeros(1)] * len(moves), LAST_ROUNDS)
    doubts, _ = covariances(problem, fit, moves, hand_of(problem, fit))
    out = []
    for one in told:
        at = moves.index(by_name[one.kind, one.part])
        size, u = float(fit.parameters[at][0]), float(np.sqrt(doubts[at][0, 0]))
        true = np.tan(np.radians(one.size)) if one.kind == "lean" else one.size
        out.append((abs(size - true) / u, abs(true) / u))
    return out


POSES = tuple(
    key
    for key, one in named_poses().items()
    if key
    in {"at-rest", "weight-right", "weight-left", "hand-on-hip", "reaching-aside", "carrying"}
)


CARES = (0.5, 0.0, 2.0)
"""SD of a mark, mm on the sheet."""


@dataclass
class Tally:
    """What came out of the runs with one care.

    Attributes:
        known: of each habit, whether it lies within 2 u where it is asked for.
        large: of each habit that is larger than `LARGE` u, whether it was named.
    """

    sheets: int = 0
    named: int = 0
    right: int = 0
    both: int = 0
    known: list[bool] = field(default_factory=list)
    large: list[bool] = field(default_factory=list)
    missed: Counter[str] = field(default_factory=Counter)

    def add(self, told: Sequence[Habit], pose: str, study: Study) -> None:
        """Measure one drawing and count what was found."""
        got = assess(study, corrections=True).corrections
        if isinstance(got, NotMeasurable):
            self.missed[got.reason] += 1
            return
        self.sheets += 1
        ends = [held(one, told, got) for one in told]
        self.named += sum(end[0] for end in ends)
        self.right += sum(end[1] for end in ends)
        self.both += all(end[1] for end in ends)
        said = "; ".join(f"{c.move} {c.part} {c.amount:.3f}±{2 * c.u:.3f}" for c in got)
        for one, end, (off, size) in zip(told, ends, asked(told, study), strict=True):
            self.known.append(off <= COVER)
            self.large += [end[0]] if size > LARGE else []
            if not end[1]:
                self.missed[f"{pose} {one.kind} {one.part} {one.size:+.3f}: {said}"] += 1

    def row(self, hand: float, care: float, number: int) -> tuple[str, ...]:
        """Of the table."""
        shares = (
            self.sheets / number, 0.5 * self.named / number, 0.5 * self.right / number,
            self.both / number, float(np.mean(self.known)), len(self.large) / len(self.known),
            float(np.mean(self.large)),
        )  # fmt: skip
        said = f"{hand:g} head" if hand else "steady"
        return (said, f"{care:g} mm", str(number), *(f"{100 * share:.1f} %" for share in shares))


def run(number: int, seed: int = 1) -> str:
    """The table."""
    rng = np.random.default_rng(seed)
    tallies = {(hand, care): Tally() for hand in HANDS for care in CARES}
    for i in range(number):
        told, pose = drawn_habits(rng), POSES[i % len(POSES)]
        drawings = {hand: photographed(told, pose, hand, 1000 * seed + i) for hand in HANDS}
        for (hand, care), tally in tallies.items():
            one = drawings[hand]
            if isinstance(one.sheet, str):
                tally.missed[one.sheet] += 1
            else:
                tally.add(told, pose, marked(one, care))
    if "--missed" in sys.argv:
        for case, tally in tallies.items():
            print(case, *(f"{n} x {w}" for w, n in tally.missed.most_common(60)), sep="\n")
    rows = [tally.row(*case, number) for case, tally in tallies.items()]
    return "\n".join("| " + " | ".join(row) + " |" for row in (COLUMNS, RULE, *rows))


COLUMNS = (
    "hand", "marks placed within", "runs", "sheet found", "habits named", "size within 2 u", "both",
    "asked for, within 2 u", f"larger than {LARGE:g} u", "named of these",
)  # fmt: skip
RULE = ("---",) * len(COLUMNS)

HEAD = f"""# Habits found, from end to end

Printed by `make habits`: the model in one of {len(POSES)} standing poses is drawn in pencil on A3
by a simulated learner with two habits (head, arm, forearm or leg too large or small by 7 to 16 %,
the whole too wide or narrow by 5 to 11 %, leaning by 2 to 5 degrees) and a steady hand, or one
that wanders slowly, by {HANDS[1]} head, over the sheet; the drawing is photographed by the
simulated phone on one of its tables, the sheet is found by itself, the marks are set with the given
SD on the sheet, and the study is measured. A hand that wanders makes every length a little wrong
besides: that is in the drawing, and rightly not in the uncertainty of measuring it.

- *Habits named*: the corrections have a move of that part, by itself, as a pair, or as the part
  alone. *Size within 2 u*: and what all moves of it come to lies within twice the uncertainty that
  is shown. *Both*: of both habits of a drawing: 90 % where the
  intervals hold what they should, 95 % each.
- *Asked for*: the size of a habit that is looked for, whether it was named or not, lies within
  twice its uncertainty.
- *Larger than {LARGE:g} u*: so many habits are at least {LARGE:g} times the uncertainty of their
  size; *named of these*. What is smaller is often given to a neighbour (the hand instead of the
  forearm) or to nobody: the marks do not tell.

"""


if __name__ == "__main__":
    counts = [int(word) for word in sys.argv[1:] if word.isdigit()]
    printed = "" if "--heads" in sys.argv else run(counts[0] if counts else 200)
    of_heads = heads(counts[0] if counts else 150)
    print(printed, of_heads, sep="\n\n")
    if not counts:
        (HERE / "HABITS.md").write_text(HEAD + printed + HEADS + of_heads + "\n", "utf-8")
