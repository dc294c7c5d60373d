"""A flat drawing as a phone's photo of it, its marks with it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PIL import Image

from bralto.core.study.values import Picture, Sheet
from bralto.stand.phone_camera import PhoneShot, photograph

__all__ = ["photographed"]

_CORNERS_PX = 0.6
"""Spread that corners are said to have, px: assumed, as of corners found by themselves."""


def photographed(
    flat: Picture, drawing: Image.Image, shot: PhoneShot, file: str, seed: int
) -> tuple[Picture, Image.Image]:
    """The picture that a phone takes of a drawing that fills its sheet, and the photo itself.

    Args:
        flat: the drawing's picture with its marks, px of the flat drawing, and its sheet.
        file: name of the photo.
        seed: of the photo's grain and of the table.
    """
    assert flat.sheet is not None
    size_mm = flat.sheet.size_mm
    photo = photograph(drawing, size_mm, shot, seed)
    fine = size_mm[0] / flat.width  # mm a px of the drawing
    keys = list(flat.marks)
    mm = fine * np.array([[flat.marks[k].x, flat.marks[k].y] for k in keys]).reshape(-1, 2)
    places, steps = photo.to_photo(mm), fine * photo.px_a_mm(mm)
    marks = {
        key: replace(
            flat.marks[key], x=round(float(x), 2), y=round(float(y), 2),
            spread=flat.marks[key].spread * float(step),
        )
        for key, (x, y), step in zip(keys, places, steps, strict=True)
    }  # fmt: skip
    a, b, c, d = ((round(float(x), 2), round(float(y), 2)) for x, y in photo.corners)
    picture = replace(
        flat, file=file, width=photo.image.width, height=photo.image.height, marks=marks,
        sheet=Sheet((a, b, c, d), size_mm, _CORNERS_PX),
    )  # fmt: skip
    return picture, photo.image.convert("RGB")
