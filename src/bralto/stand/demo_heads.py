"""The demo's heads: four evenings with the bust, by the same learner, whose habits wear off."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

import numpy as np
from PIL import Image

from bralto.core.mannequin.body.builds import build_named
from bralto.core.mannequin.camera import Camera
from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.setting import set_up
from bralto.core.study.values import RENDERED, Mark, Picture, Sheet, State, Study
from bralto.core.terms import Visibility
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.answer import answer_key
from bralto.stand.model.example import KNOWN
from bralto.stand.model.habits import Habits
from bralto.stand.model.pencil_view import Page
from bralto.stand.model.picture import render
from bralto.stand.model.portrait import HeadHabits, portrait_by, portrait_marks
from bralto.stand.model.stage import Stage

__all__ = ["CELL", "HEADS", "head_study"]


@dataclass(frozen=True, slots=True)
class _Evening:
    """Days after the first evening, what was drawn from where, and how far habits had worn off.

    The net mender's head is shaven.
    """

    days: int
    title: str
    view: str
    around_deg: float
    tilt_deg: float
    build: str
    habits: HeadHabits
    hair: bool = False


_HAND = Habits(wobble=0.002)

HEADS: tuple[_Evening, ...] = (
    _Evening(
        24, "Net mender's head, first try", "head-front", 0.0, 0.0, "seven-and-a-half",
        HeadHabits(eyes_high=0.06, face_wide=1.12, mouth_deg=8.0, hand=_HAND),
    ),
    _Evening(
        38, "Bell ringer's head, first try", "head-three-quarter", 40.0, 0.0, "slender",
        HeadHabits(eyes_high=0.05, features=1.12, ears_low=0.06, hand=_HAND), hair=True,
    ),
    _Evening(
        49, "Net mender's head, in profile", "head-profile", 88.0, 0.0, "seven-and-a-half",
        HeadHabits(eyes_high=0.045, ears_low=0.05, hand=_HAND),
    ),
    _Evening(
        63, "Net mender's head, second try", "head-front", 0.0, 9.0, "seven-and-a-half",
        HeadHabits(eyes_high=0.03, face_wide=1.05, mask_aside=0.03, upright=0.5, hand=_HAND),
    ),
)  # fmt: skip
"""Evenings between those of the figure (`demo.demo_studies`)."""

_SIZE = (480, 640)
CELL = 0.09
"""Edge of a cell of the model's mesh, heads, before a bust's are made smaller."""

_PAGE = Page(px_mm=4 / 3, fill=0.72)


def head_study(
    number: int, first: datetime, seed: int, *, pictures: bool = True
) -> tuple[Study, dict[str, Image.Image], datetime]:
    """One of `HEADS` with its pictures, which the study names by `file`, and when it was drawn.

    Args:
        first: the evening on which the course begins.
        pictures: whether they are made, or only the marks.
    """
    one = HEADS[number]
    rng = np.random.default_rng([seed, number, 5])
    view, camera = view_named(one.view), Camera(1.6, 0.20, one.around_deg)
    bust = set_up("head")
    turns = dict(bust.pose.turns) | {"neck.lean": 0.4 * one.tilt_deg, "head.lean": one.tilt_deg}
    setting = replace(
        bust, camera=camera, build=build_named(one.build), pose=replace(bust.pose, turns=turns),
        hair=one.hair,
    )  # fmt: skip
    stage = Stage.of(setting, CELL)
    looked = stage.view(*_SIZE)
    key = answer_key(stage, looked, view)
    seeds = [int(s) for s in rng.integers(0, 2**31, 3)]
    made = {}
    files = (f"head-{number:02d}.jpg", f"head-drawing-{number:02d}.jpg")
    if pictures:
        drawing = portrait_by(stage, looked, view, key, one.habits, _PAGE, seeds[0])
        made = dict(zip(files, (render(stage, looked).image, drawing.image), strict=True))
        drawn = drawing.marks
    else:
        drawn = portrait_marks(stage, looked, view, key, one.habits, _PAGE, seeds[0])
    # As `exchange.pose_file` would write it, which is not known here.
    document = {
        "subject": "head", "build": one.build, "turns": turns, "hair": one.hair,
        "camera": {name: getattr(camera, name) for name in ("distance_m", "eye_m", "around_deg")},
    }  # fmt: skip
    stands = {mark.key: [round(float(v), 5) for v in mark.place] for mark in key.marks}
    seen = {mark.key: mark.seen for mark in key.marks}
    places = {mark.key: np.asarray(mark.px) for mark in key.marks}

    def placed(at: dict[str, np.ndarray], hand: np.random.Generator) -> dict[str, Mark]:
        marks = {}
        for mark in (one for one in view.placing if one in at):
            x, y = at[mark] + hand.normal(0.0, _SPREAD, 2)
            state = Visibility.SEEN if seen[mark] else Visibility.INFERRED
            marks[mark] = Mark(round(float(x), 2), round(float(y), 2), state, _SPREAD)
        return marks | {mark: Mark(0.0, 0.0, Visibility.ABSENT) for mark in key.absent}

    hands = [np.random.default_rng(seed) for seed in seeds[1:]]
    width, height = _PAGE.size
    corners = ((0.0, 0.0), (float(width), 0.0), (float(width), float(height)), (0.0, float(height)))
    taken = (first + timedelta(days=one.days, minutes=int(rng.integers(0, 50)))).astimezone(UTC)
    study = Study(
        title=one.title,
        view=view.key,
        reference=Picture(files[0], *_SIZE, placed(places, hands[0]), permission=RENDERED),
        states=(
            State(
                "evening",
                Picture(
                    files[1], width, height, placed(drawn, hands[1]),
                    sheet=Sheet(corners, _PAGE.size_mm), permission="my own drawing",
                ),
                taken.isoformat().replace("+00:00", "Z"),
            ),
        ),
        extra={KNOWN: one.habits.document(), MODEL: {"setting": document, "places": stands}},
    )  # fmt: skip
    return study, made, taken


_SPREAD = 0.6
"""px: marks set with care, zoomed in."""
