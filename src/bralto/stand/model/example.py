"""A whole study of the model by a simulated learner: known habits, known marks, known places."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from PIL import Image

from bralto.core.errors import UserError
from bralto.core.figure.setting import Setting
from bralto.core.study import Mark, Picture, Sheet, State, Study
from bralto.core.views.library import view_named
from bralto.stand.model.habits import Habits
from bralto.stand.model.pencil_view import Page, PageDrawing, drawn_by
from bralto.stand.model.study import modelled
from bralto.stand.phone_camera import PhoneShot
from bralto.stand.photographed import photographed

__all__ = ["KNOWN", "Simulated", "simulated", "state_of"]

KNOWN = "known_faults"
"""Key of a study's extra data that holds what the learner was told to do wrong."""

_DRAWN = "drawn by Bralto: a simulated learner"


@dataclass(frozen=True, slots=True, eq=False)
class Simulated:
    """A study with its pictures, which it names by `file`."""

    study: Study
    pictures: dict[str, Image.Image]


def simulated(
    setting: Setting,
    document: Mapping[str, Any],
    habits: Habits,
    *,
    seed: int = 1,
    size: tuple[int, int] = (900, 1200),
    page: Page = Page(),  # noqa: B008 - frozen
    files: tuple[str, str] = ("model.png", "drawing.png"),
    shot: PhoneShot | None = None,
) -> Simulated:
    """Draw the model, let a learner draw it, and mark both.

    Args:
        document: the setting as plain data (`exchange.pose_file`).
        size: of the reference picture, px.
        files: names of reference and drawing.
        shot: how the drawing is photographed; without it, it is scanned.

    Raises:
        UserError: what stands there is no figure.
    """
    if setting.subject != "figure":
        raise UserError("a simulated learner draws the figure; this is " + setting.subject)
    made = modelled(setting, document, files[0], size)
    drawing = drawn_by(made.stage, made.view, view_named(made.key.view), habits, page, seed)
    assert made.study.reference is not None
    state = state_of(drawing, made.study.reference.marks, page, habits, files[1], seed)
    image = drawing.image
    if shot is not None:
        picture, image = photographed(state.picture, image, shot, files[1], seed)
        state = replace(state, picture=picture)
    extra = {**made.study.extra, KNOWN: habits.document()}
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
    return State("first", picture)
