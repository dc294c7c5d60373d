"""A flat drawing as a phone's photo of it, its marks with it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PIL import Image

from bralto.core.study.values import Picture, Sheet
from bralto.stand.phone_aim import Aim, PhoneShot
from bralto.stand.phone_camera import photograph

__all__ = ["photo_of", "photographed"]

_CORNERS_PX = 0.6
"""Spread that corners are said to have, px: assumed, as of corners found by themselves."""


def photographed(flat: Picture, shot: PhoneShot, file: str) -> Picture:
    """The picture that a phone takes of a drawing that fills its sheet; `photo_of` is its image.

    Args:
        flat: the drawing's picture with its marks, px of the flat drawing, and its sheet.
        file: name of the photo.
    """
    assert flat.sheet is not None
    size_mm = flat.sheet.size_mm
    aim = Aim.at(size_mm, shot)
    fine = size_mm[0] / flat.width  # mm a px of the drawing
    keys = list(flat.marks)
    mm = fine * np.array([[flat.marks[k].x, flat.marks[k].y] for k in keys]).reshape(-1, 2)
    places, steps = aim.to_photo(mm), fine * aim.px_a_mm(mm)
    marks = {
        key: replace(
            flat.marks[key], x=round(float(x), 2), y=round(float(y), 2),
            spread=flat.marks[key].spread * float(step),
        )
        for key, (x, y), step in zip(keys, places, steps, strict=True)
    }  # fmt: skip
    a, b, c, d = ((round(float(x), 2), round(float(y), 2)) for x, y in aim.corners)
    width, height = shot.size
    return replace(
        flat, file=file, width=width, height=height, marks=marks,
        sheet=Sheet((a, b, c, d), size_mm, _CORNERS_PX),
    )  # fmt: skip


def photo_of(drawing: Image.Image, flat: Picture, shot: PhoneShot, seed: int) -> Image.Image:
    """The photo, RGB, of `photographed`: of a drawing that fills the sheet of ``flat``.

    Args:
        seed: of the photo's grain and of the table.
    """
    assert flat.sheet is not None
    return photograph(drawing, flat.sheet.size_mm, shot, seed).image.convert("RGB")
