"""Heads from end to end: a sitter by chance, drawn with two known habits, photographed, measured.

Part of `make habits` (`habits.py`).
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from bench.photographed_sheets import PAGE, SIZE, marked, taken
from bralto.core.examination.assessment import assess
from bralto.core.mannequin.body.face import PLAIN
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.setting import Setting, set_up
from bralto.core.results import NotMeasurable
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import answer_key
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.habits import Habits
from bralto.stand.model.model_study import model_study
from bralto.stand.model.portrait import HeadHabits, portrait_by
from bralto.stand.model.stage import Stage

__all__ = ["HEADS", "heads"]

CARE = 0.3
"""SD of a mark, mm on the sheet: a head on A3 is some 200 mm high, and marked from near by."""

_AROUND = {"head-front": 0.0, "head-three-quarter": 42.0, "head-profile": 88.0}
_ALL = tuple(_AROUND)
_FRONT = ("head-front",)
_TURNED = ("head-front", "head-three-quarter")


@dataclass(frozen=True)
class Kind:
    """A habit: its field of `HeadHabits`, sizes to either side of none, what names it, and the
    views in which it can be seen."""

    title: str
    field: str
    none: float
    sizes: tuple[float, float]
    moves: tuple[tuple[str, str | None], ...]
    views: tuple[str, ...]
    both_ways: bool = False


KINDS = (
    Kind("eyes high", "eyes_high", 0.0, (0.035, 0.07), (("shift", "eye_band"),), _ALL),
    Kind("face wide or narrow", "face_wide", 1.0, (0.08, 0.15), (("widen", "face_sides"),
         ("widen", "outline")), _FRONT, True),
    Kind("features large or small", "features", 1.0, (0.10, 0.20), (("scale", "mask"),), _ALL,
         True),
    Kind("mask aside", "mask_aside", 0.0, (0.035, 0.06), (("shift", "mask"),), _FRONT, True),
    Kind("mouth tilted", "mouth_deg", 0.0, (9.0, 14.0), (("tilt", "lips"),), _TURNED, True),
    Kind("ears low", "ears_low", 0.0, (0.05, 0.09), (("shift", "ears"),), _ALL),
    Kind("turned to the front", "to_front", 0.0, (6.0, 11.0), (("face", None),),
         ("head-three-quarter", "head-profile")),
    Kind("drawn upright", "upright", 1.0, (-0.7, -0.4), (("turn", None),), _ALL),
)  # fmt: skip


@dataclass
class Counted:
    """Of a kind of habit, or of all drawings: how many there were, and what became of them."""

    drawings: int = 0
    named: int = 0
    more: int = 0
    missed: Counter[str] = field(default_factory=Counter)


def sitter(view: str, rng: np.random.Generator) -> Setting:
    """The bust by chance: nine factors of a tenth up or down, with hair or without, a little
    tilted."""
    start = set_up("head")
    face = {f"face.{name}": float(rng.uniform(0.9, 1.1)) for name in PLAIN.figures()}
    lean = float(rng.uniform(-18.0, 18.0))
    pose = replace(start.pose, turns={"head.lean": lean, "neck.lean": 0.3 * lean})
    return replace(
        start, build=start.build.with_figures(**face), pose=pose, hair=bool(rng.random() < 0.5),
        camera=Camera(1.6, 0.2, _AROUND[view]),
    )  # fmt: skip


def told_to(view: str, setting: Setting, rng: np.random.Generator) -> tuple[list[Kind], HeadHabits]:
    """Two kinds that this view shows, and the habits that they come to."""
    leans = abs(setting.pose["head.lean"]) > 12.0 and view != "head-profile"
    able = [k for k in KINDS if view in k.views and (k.field != "upright" or leans)]
    chosen = [able[i] for i in rng.choice(len(able), 2, replace=False)]
    sizes = {}
    for kind in chosen:
        way = float(rng.choice([-1.0, 1.0])) if kind.both_ways else 1.0
        sizes[kind.field] = kind.none + way * float(rng.uniform(*kind.sizes))
    return chosen, HeadHabits(**sizes, hand=Habits(wobble=0.001))


def heads(number: int, seed: int = 3) -> str:
    """The table."""
    rng = np.random.default_rng(seed)
    counted = {kind.title: Counted() for kind in KINDS}
    whole = Counted()
    for i in range(number):
        view = view_named(_ALL[i % len(_ALL)])
        setting = sitter(view.key, rng)
        chosen, habits = told_to(view.key, setting, rng)
        stage = Stage.of(setting, COARSE)
        camera = stage.view(*SIZE)
        key = answer_key(stage, camera, view)
        study = model_study(view.key, key, "model.png", SIZE, {})
        drawing = portrait_by(stage, camera, view, key, habits, PAGE, 1000 * seed + i)
        one = taken(study, drawing, 1000 * seed + i)
        if isinstance(one.sheet, str):
            whole.missed[one.sheet] += 1
            continue
        got = assess(marked(one, CARE), corrections=True).corrections
        found = () if isinstance(got, NotMeasurable) else got
        _count(counted, whole, chosen, [(c.move, c.part) for c in found], view.key)
    if "--missed" in sys.argv:
        print(*(f"{n} x {words}" for words, n in whole.missed.most_common(40)), sep="\n")
    rows = [
        (title, str(c.drawings), f"{100 * c.named / max(1, c.drawings):.1f} %", "-")
        for title, c in counted.items()
    ]
    share = 100.0 / max(1, whole.drawings)
    rows.append((
        "both of a drawing", str(whole.drawings), f"{share * whole.named:.1f} %",
        f"{share * whole.more:.1f} %",
    ))  # fmt: skip
    head = ("habit", "drawings", "named", "a move too many")
    return "\n".join("| " + " | ".join(row) + " |" for row in (head, ("---",) * 4, *rows))


def _count(
    counted: dict[str, Counted], whole: Counted, chosen: Sequence[Kind],
    found: Sequence[tuple[str, str | None]], view: str,
) -> None:  # fmt: skip
    named = [any(move in found for move in kind.moves) for kind in chosen]
    for kind, is_named in zip(chosen, named, strict=True):
        counted[kind.title].drawings += 1
        counted[kind.title].named += is_named
    whole.drawings += 1
    whole.named += all(named)
    whole.more += len(found) > len(chosen)
    if not all(named) or len(found) > len(chosen):
        told = ", ".join(kind.title for kind in chosen)
        whole.missed[f"{view}, {told}: {', '.join(f'{m} {p}' for m, p in found)}"] += 1


HEADS = f"""

## Heads

A sitter by chance (nine factors of the face from 0.9 to 1.1, with hair or bald, tilted up to 18
degrees) in one of three views is drawn with two of the habits below by a steady hand, photographed
likewise, marked with an SD of {CARE} mm, all marks of the view. *Named*: the corrections have its
move; *a move too many*: lists that are longer than two.

"""
