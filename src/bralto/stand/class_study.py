"""One study of the figure by the simulated learner: set up, seen, drawn and marked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.setting import set_up
from bralto.core.study.values import RENDERED, Mark, Picture, Sheet, State, Study
from bralto.core.terms import Visibility
from bralto.core.views.model import View
from bralto.stand.demo_study import DemoStudy
from bralto.stand.model.answer import answer_key
from bralto.stand.model.example import KNOWN
from bralto.stand.model.habits import Habits
from bralto.stand.model.pencil_view import Page, drawn_by, marks_by
from bralto.stand.model.picture import render
from bralto.stand.model.stage import Stage

__all__ = ["Drawn", "class_study"]


@dataclass(frozen=True, slots=True)
class Drawn:
    """What is drawn, and how.

    Attributes:
        pose: its key. placing: which landmarks are marked. taken: ISO 8601, UTC.
        files: names of reference and drawing. size: of the reference, px.
        cell: edge of a cell of the model's mesh, heads.
        extra: what the study file keeps besides the habits.
    """

    title: str
    view: View
    pose: str
    habits: Habits
    placing: Sequence[str]
    taken: str
    files: tuple[str, str]
    size: tuple[int, int]
    page: Page
    cell: float
    extra: Mapping[str, Any] = field(default_factory=dict)


@lru_cache(maxsize=1)
def _set_up(pose: str, cell: float) -> Stage:
    """What stands there; of studies one after the other many are of one pose."""
    return Stage.of(set_up(pose), cell)


def class_study(one: Drawn, seeds: Sequence[int], *, pictures: bool = True) -> DemoStudy:
    """Draw it, on A3, and mark both pictures with a little scatter.

    Args:
        seeds: of the hand, of marking the reference and of marking the drawing.
        pictures: whether they are made, or only the marks.
    """
    stage = _set_up(one.pose, one.cell)
    looked = stage.view(*one.size)
    key = answer_key(stage, looked, one.view)
    made = {}
    if pictures:
        drawing = drawn_by(stage, looked, one.view, one.habits, one.page, seeds[0])
        marks = drawing.marks
        made = dict(zip(one.files, (render(stage, looked).image, drawing.image), strict=True))
    else:
        marks = marks_by(stage, looked, one.view, one.habits, one.page, seeds[0])
    width, height = one.page.size
    spread = 0.7 * one.size[1] / 640  # marks set with care, zoomed in to twice the picture's size
    seen = {mark.key: mark.seen for mark in key.marks}

    def placed(places: Mapping[str, Floats], seed: int) -> dict[str, Mark]:
        hand = np.random.default_rng(seed)
        found = {}
        for mark in one.placing:
            x, y = places[mark] + hand.normal(0.0, spread, 2)
            state = Visibility.SEEN if seen[mark] else Visibility.INFERRED
            found[mark] = Mark(round(float(x), 2), round(float(y), 2), state, spread)
        return found

    study = Study(
        title=one.title,
        view=one.view.key,
        reference=Picture(
            one.files[0], *one.size, placed({m.key: np.asarray(m.px) for m in key.marks}, seeds[1]),
            permission=RENDERED,
        ),
        states=(
            State(
                "evening",
                Picture(
                    one.files[1], width, height, placed(marks, seeds[2]),
                    sheet=Sheet(((0, 0), (width, 0), (width, height), (0, height)), (297, 420)),
                    permission="my own drawing",
                ),
                one.taken,
            ),
        ),
        extra={KNOWN: one.habits.document(), **one.extra},
    )  # fmt: skip
    return DemoStudy(study, made)
