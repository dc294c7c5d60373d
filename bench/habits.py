"""End to end: the model drawn with two known habits, photographed, its sheet found, measured.

`make habits` prints the table and writes it to bench/HABITS.md; a number of runs prints only, and
`--missed` says what was found instead. Model, learner, phone and measuring are the product's own;
what they are told is compared with what comes out at the far end.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from bralto.core.assessment import assess
from bralto.core.corrections.wording import Correction
from bralto.core.figure.poses import named_poses
from bralto.core.figure.setting import set_up
from bralto.core.results import NotMeasurable
from bralto.core.study import Mark, Picture, Sheet, State, Study
from bralto.core.views.library import view_named
from bralto.imaging.find_sheet import find_sheet
from bralto.stand.model.answer import answer_key
from bralto.stand.model.habits import Habits
from bralto.stand.model.mesh import COARSE
from bralto.stand.model.pencil_view import Page, drawn_by
from bralto.stand.model.stage import Stage
from bralto.stand.model.study import model_study
from bralto.stand.phone_camera import photograph, random_shot

HERE = Path(__file__).parent
PAGE = Page(px_mm=1.6)
SIZE = (900, 1200)
WOBBLE = 0.004
"""SD of the hand's slow wandering, heads."""

COVER = 2.0
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


def as_habits(told: Sequence[Habit], marks_mm: float) -> Habits:
    """What the learner is told."""
    habits = Habits(wobble=WOBBLE, marks_mm=marks_mm)
    for one in told:
        if one.kind == "scale":
            habits = replace(habits, parts={**habits.parts, str(one.part): 1.0 + one.size})
        elif one.kind == "stretch":
            habits = replace(habits, width=1.0 + one.size)
        else:
            habits = replace(habits, lean_deg=one.size)
    return habits


def one_run(
    told: Sequence[Habit], pose: str, marks_mm: float, seed: int
) -> tuple[Correction, ...] | str:
    """Draw, photograph, find the sheet, mark, measure; the corrections, or why there are none."""
    stage = Stage.of(set_up(pose), COARSE)
    view = stage.view(*SIZE)
    key = answer_key(stage, view, view_named("figure-front"))
    study = model_study(pose, key, "model.png", SIZE, {})
    drawing = drawn_by(stage, view, view_named(key.view), as_habits(told, marks_mm), PAGE, seed)
    rng = np.random.default_rng([seed, 9])
    shot = random_shot(rng, (1600, 1200))
    shot = replace(shot, hand=False, second=False, slant_deg=min(shot.slant_deg, 25.0))
    photo = photograph(drawing.image, PAGE.size_mm, shot, seed)
    found = find_sheet(np.asarray(photo.image.convert("RGB")))
    if isinstance(found, NotMeasurable):
        return f"no sheet: {found.reason}"
    return measured(study, drawing.marks, photo, found.corners, marks_mm, rng)


def measured(study, drawn, photo, corners, marks_mm, rng):
    """The photo's marks, set with that care (mm on the sheet), held against the model's."""
    keys = list(drawn)
    mm = np.array([drawn[k] for k in keys]) / PAGE.px_mm
    px_mm = photo.image.width / 420.0
    noisy = photo.to_photo(mm + rng.normal(0.0, marks_mm, mm.shape))
    spread = marks_mm * px_mm
    seen = study.reference.marks
    marks = {
        k: Mark(float(x), float(y), seen[k].visibility, spread)
        for k, (x, y) in zip(keys, noisy, strict=True)
    }
    quad = turned_like(np.array(corners), photo.corners)
    sheet = Sheet(tuple((float(x), float(y)) for x, y in quad), PAGE.size_mm, 0.6)
    picture = Picture("photo.jpg", photo.image.width, photo.image.height, marks, sheet=sheet)
    whole: Study = replace(study, states=(State("first", picture),))
    corrections = assess(whole, corrections=True).corrections
    return corrections.reason if isinstance(corrections, NotMeasurable) else corrections


def turned_like(found: np.ndarray, true: Sequence[tuple[float, float]]) -> np.ndarray:
    """The found corners begun at the one that is the drawing's top left, as a learner turns it."""
    truth = np.array(true)
    turns = [np.roll(found, k, axis=0) for k in range(4)]
    return min(turns, key=lambda one: float(np.abs(one - truth).sum()))


def held(one: Habit, corrections: Sequence[Correction]) -> tuple[bool, bool]:
    """Whether a habit is named, and whether its size lies within twice its uncertainty."""
    for c in corrections:
        kind = {"lengthen": "scale"}.get(c.move, c.move)
        if (kind, c.part) != (one.kind, one.part):
            continue
        if one.kind == "scale":
            assert c.factor is not None
            true = c.amount * (1.0 / (1.0 + one.size) - 1.0) / (1.0 / c.factor - 1.0)
        elif one.kind == "stretch":
            true = 100.0 * (1.0 / (1.0 + one.size) - 1.0)
        else:
            true = one.size
        return True, abs(c.amount - true) <= COVER * c.u
    return False, False


POSES = tuple(
    key
    for key, one in named_poses().items()
    if key
    in {"at-rest", "weight-right", "weight-left", "hand-on-hip", "reaching-aside", "carrying"}
)


def run(number: int, seed: int = 1) -> str:
    """The table."""
    rows = []
    for marks_mm in (0.5, 0.0, 2.0):
        rng = np.random.default_rng(seed)
        named = right = both = sheets = 0
        missed: Counter[str] = Counter()
        for i in range(number):
            told = drawn_habits(rng)
            pose = POSES[i % len(POSES)]
            got = one_run(told, pose, marks_mm, 1000 * seed + i)
            if isinstance(got, str):
                missed[got] += 1
                continue
            sheets += 1
            ends = [held(one, got) for one in told]
            named += sum(end[0] for end in ends)
            right += sum(end[1] for end in ends)
            both += all(end[1] for end in ends)
            for one, end in zip(told, ends, strict=True):
                if not end[1]:
                    said = "; ".join(f"{c.move} {c.part} {c.amount:.3f}±{2 * c.u:.3f}" for c in got)
                    missed[f"{pose} {one.kind} {one.part} {one.size:+.3f}: {said}"] += 1
        share = [100.0 * n / (2 * number) for n in (named, right)]
        rows.append(
            (f"{marks_mm:g} mm", str(number), f"{100 * sheets / number:.1f} %",
             f"{share[0]:.1f} %", f"{share[1]:.1f} %", f"{100 * both / number:.1f} %")
        )  # fmt: skip
        if "--missed" in sys.argv:
            print(*(f"{n} x {what}" for what, n in missed.most_common(60)), sep="\n")
    head = ("marks placed within", "runs", "sheet found", "habits named", "size within 2 u", "both")
    return "\n".join("| " + " | ".join(row) + " |" for row in (head, ("---",) * len(head), *rows))


HEAD = f"""# Habits found, from end to end

Printed by `make habits`: the model in one of {len(POSES)} standing poses is drawn in pencil on A3
by a simulated learner with two habits (head, arm, forearm or leg too large or small by 7 to 16 %,
the whole too wide or narrow by 5 to 11 %, leaning by 2 to 5 degrees) and a hand that wanders by
{WOBBLE} head; the drawing is photographed by the simulated phone on one of its tables, the sheet
is found by itself, the marks are set with the given SD on the sheet, and the study is measured.
*Habits named*: the corrections have that move of that part. *Size within 2 u*: and its size lies
within twice the uncertainty that is shown. *Both*: of both habits of a drawing.

"""


if __name__ == "__main__":
    counts = [int(word) for word in sys.argv[1:] if word.isdigit()]
    printed = run(counts[0] if counts else 200)
    print(printed)
    if not counts:
        (HERE / "HABITS.md").write_text(HEAD + printed + "\n", "utf-8")
