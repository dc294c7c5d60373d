"""The one demo drawing that was photographed on a table twice while it was made."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PIL import Image

from bralto.core.study import Mark, Picture, Sheet, State
from bralto.stand.phone_camera import PhoneShot, photograph

__all__ = ["SHOTS", "photographed"]

SHOTS: dict[str, PhoneShot] = {
    "block-in": PhoneShot(
        size=(1200, 1600), slant_deg=30, around_deg=-28, roll_deg=-3, fill=0.92, bow=-0.002,
        table="wood", shadow=0.3, uneven=0.25, grain=2.5, quality=92,
    ),
    "evening": PhoneShot(
        size=(1200, 1600), slant_deg=20, around_deg=24, roll_deg=2, fill=0.94, bow=-0.002,
        table="cloth", uneven=0.2, grain=2.5, quality=92,
    ),
}  # fmt: skip
"""How the two photos were taken."""

_SPREAD = 0.6  # px, of corners found by themselves


def photographed(
    name: str, flat: Picture, drawing: Image.Image, size_mm: tuple[float, float], taken: str | None
) -> tuple[State, Image.Image]:
    """A state whose picture is a phone's photo of a flat drawing, its marks with it.

    Args:
        name: one of `SHOTS`; it names the state and its file too.
        flat: the drawing's picture with its marks, px of the flat drawing.
    """
    photo = photograph(drawing, size_mm, SHOTS[name], seed=sum(name.encode()))
    fine = np.array(size_mm) / np.array([flat.width, flat.height])
    keys = list(flat.marks)
    places = photo.to_photo(np.array([[flat.marks[k].x, flat.marks[k].y] for k in keys]) * fine)
    step = photo.to_photo(np.array([size_mm]) / 2.0 + np.array([[0.0, 0.0], [0.5, 0.0]]))
    scale = 2.0 * float(np.hypot(*(step[1] - step[0]))) * float(fine[0])  # photo px a drawing px
    marks = {
        key: Mark(round(float(x), 2), round(float(y), 2), "seen", flat.marks[key].spread * scale)
        for key, (x, y) in zip(keys, places, strict=True)
    }
    a, b, c, d = ((round(float(x), 2), round(float(y), 2)) for x, y in photo.corners)
    picture = replace(
        flat,
        file=f"drawing-{name}.jpg",
        width=photo.image.width,
        height=photo.image.height,
        marks=marks,
        sheet=Sheet((a, b, c, d), size_mm, _SPREAD),
    )
    return State(name, picture, taken), photo.image.convert("RGB")
