"""A whole study of the model by a simulated learner: known habits, known marks, known places."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from PIL import Image

from bralto.core.errors import UserError
from bralto.core.mannequin.setting import Setting
from bralto.core.study.stages import FIRST
from bralto.core.study.values import Mark, Picture, Sheet, State, Study
from bralto.core.terms import Visibility
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.habits import LEARNERS, Habits
from bralto.stand.model.model_study import modelled
from bralto.stand.model.pencil_view import Page, PageDrawing, drawn_by
from bralto.stand.model.portrait import HEAD_LEARNERS, HeadHabits, portrait_by
from bralto.stand.phone_aim import PhoneShot
from bralto.stand.photographed import photo_of, photographed

__all__ = ["KNOWN", "Simulated", "learner_named", "simulated", "state_of"]

KNOWN = "known_faults"
"""Key of a study's extra data that holds what the learner was told to do wrong."""

_DRAWN = "drawn by Bralto: a simulated learner"


@dataclass(frozen=True, slots=True, eq=False)
class Simulated:
    """A study with its pictures, which it names by `file`."""

    study: Study
    pictures: dict[str, Image.Image]


def learner_named(name: str, subject: str = "figure") -> Habits | HeadHabits:
    """The habits of a learner of the figure, or of heads.

    Raises:
        UserError: there is none of that name, or nobody draws what stands there.
    """
    learners: dict[str, Mapping[str, Habits | HeadHabits]] = {
        "figure": LEARNERS, "head": HEAD_LEARNERS,
    }  # fmt: skip
    if subject not in learners:
        raise UserError("a simulated learner draws the figure or a head; this is " + subject)
    try:
        return learners[subject][name]
    except KeyError:
        known = ", ".join(learners[subject])
        raise UserError(
            f"there is no learner '{name}' of the {subject}; there are {known}"
        ) from None


def simulated(
    setting: Setting,
    document: Mapping[str, Any],
    habits: Habits | HeadHabits,
    *,
    seed: int = 1,
    size: tuple[int, int] | None = None,
    page: Page = Page(),  # noqa: B008 - frozen
    files: tuple[str, str] = ("model.png", "drawing.png"),
    shot: PhoneShot | None = None,
) -> Simulated:
    """Draw the model, let a learner draw it, and mark both.

    Args:
        document: the setting as plain data (`exchange.pose_file`).
        size: of the reference picture, px; None as suits what stands there.
        files: names of reference and drawing.
        habits: of the figure, or of the head where that stands there (`learner_named`).
        shot: how the drawing is photographed; without it, it is scanned.

    Raises:
        UserError: what stands there is no figure and no head, or habits of the other are given.
    """
    known, hand = habits.document(), habits
    if isinstance(hand, HeadHabits):
        hand = hand.hand
    if setting.subject != ("head" if isinstance(habits, HeadHabits) else "figure"):
        raise UserError("these habits are not of drawing what stands there: " + setting.subject)
    made = modelled(setting, document, files[0], size)
    stage, view, marked = made.stage, made.view, view_named(made.key.view)
    if isinstance(habits, HeadHabits):
        drawing = portrait_by(stage, view, marked, made.key, habits, page, seed)
    else:
        drawing = drawn_by(stage, view, marked, habits, page, seed)
    assert made.study.reference is not None
    state = state_of(drawing, made.study.reference.marks, page, hand, files[1], seed)
    image = drawing.image
    if shot is not None:
        image = photo_of(image, state.picture, shot, seed)
        state = replace(state, picture=photographed(state.picture, shot, files[1]))
    extra = {**made.study.extra, KNOWN: known}
    whole = replace(made.study, states=(state,), extra=extra)
    return Simulated(whole, {files[0]: made.image, files[1]: image})


def state_of(
    drawing: PageDrawing,
    seen: Mapping[str, Mark],
    page: Page,
    habits: Habits,
    file: str,
    seed: int,
) -> State:
    """The drawing as a scan of its whole sheet, marked with the learner's care.

    Args:
        seen: the reference's marks; what is hidden or absent there is so here.
    """
    rng = np.random.default_rng([seed, 2])
    spread = habits.marks_mm * page.px_mm
    marks = {}
    for key, at in drawing.marks.items():
        x, y = at + rng.normal(0.0, spread, 2)
        marks[key] = Mark(round(float(x), 3), round(float(y), 3), seen[key].visibility, spread)
    width, height = page.size
    corners = ((0.0, 0.0), (float(width), 0.0), (float(width), float(height)), (0.0, float(height)))
    picture = Picture(
        file, width, height, marks, sheet=Sheet(corners, page.size_mm), permission=_DRAWN
    )
    absent = {key: one for key, one in seen.items() if one.visibility == Visibility.ABSENT}
    return State(FIRST, replace(picture, marks=marks | absent))
