"""A drawing of the model on its sheet, photographed from nearby, and its marks set on the photo."""

from __future__ import annotations

from collections.abc import Sequence
from copy import deepcopy
from dataclasses import dataclass, replace

import numpy as np

from bench.certain import certain
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture, Sheet, State, Study
from bralto.imaging.find_sheet import find_sheet
from bralto.stand.model.pencil_view import Page, PageDrawing
from bralto.stand.phone_camera import PhonePhoto, photograph, random_shot

__all__ = ["PAGE", "SIZE", "Photographed", "marked", "taken"]

PAGE = Page(px_mm=1.6)
SIZE = (900, 1200)
"""Of the model's picture, px."""


@dataclass(frozen=True)
class Photographed:
    """A drawing of known habits: its study without it, its true marks, px, and the photo.

    Attributes:
        sheet: as it was found, with the doubt of the finder; or why it was not.
        rng: from which the marks' errors are drawn.
    """

    study: Study
    drawn: dict[str, np.ndarray]
    photo: PhonePhoto
    sheet: Sheet | str
    rng: np.random.Generator


def taken(study: Study, drawing: PageDrawing, seed: int) -> Photographed:
    """Photograph a drawing of a study, and find its sheet."""
    rng = np.random.default_rng([seed, 9])
    shot = random_shot(rng, (1600, 1200))
    shot = replace(shot, hand=False, second=False, slant_deg=min(shot.slant_deg, 25.0))
    photo = photograph(drawing.image, PAGE.size_mm, shot, seed)
    found = find_sheet(np.asarray(photo.image.convert("RGB")))
    if isinstance(found, NotMeasurable):
        return Photographed(study, drawing.marks, photo, f"no sheet: {found.reason}", rng)
    a, b, c, d = turned_like(found.corners, photo.corners.tolist()).tolist()
    sheet = Sheet((a, b, c, d), PAGE.size_mm, found.spread)
    return Photographed(study, drawing.marks, photo, sheet, rng)


def marked(one: Photographed, marks_mm: float) -> Study:
    """The photo's marks, set with that care (mm on the sheet), beside the model's."""
    assert isinstance(one.sheet, Sheet)
    keys = list(one.drawn)
    mm = np.array([one.drawn[k] for k in keys]) / PAGE.px_mm
    # The same throw for every care: only its size differs.
    off = deepcopy(one.rng).normal(0.0, 1.0, mm.shape)
    noisy = one.photo.to_photo(mm + marks_mm * off)
    spread = marks_mm * one.photo.aim.px_a_mm(mm)
    seen = certain(one.study.reference).marks
    marks = {
        k: Mark(float(at[0]), float(at[1]), seen[k].visibility, float(s))
        for k, at, s in zip(keys, noisy, spread, strict=True)
    }
    picture = Picture(
        "photo.jpg", one.photo.image.width, one.photo.image.height, marks, sheet=one.sheet
    )
    return replace(one.study, states=(State("first", picture),))


def turned_like(found: np.ndarray, true: Sequence[tuple[float, float]]) -> np.ndarray:
    """The found corners begun at the one that is the drawing's top left, as a learner turns it."""
    truth = np.array(true)
    turns = [np.roll(found, k, axis=0) for k in range(4)]
    return min(turns, key=lambda one: float(np.abs(one - truth).sum()))
