"""A picture at full size and halves of it, so that any zoom is painted from near its own size."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from bralto.imaging.load import open_upright

__all__ = ["Level", "Pyramid", "load_pyramid"]

_SMALLEST = 512


@dataclass(frozen=True, slots=True)
class Level:
    """One size of a picture: 4 bytes a pixel in the order blue, green, red, unused."""

    width: int
    height: int
    data: bytes


@dataclass(frozen=True, slots=True)
class Pyramid:
    """Levels from full size down, each half of the one before."""

    levels: tuple[Level, ...]


def load_pyramid(path: Path) -> Pyramid:
    """Decode a picture and halve it until its longer side is below 512 px.

    Raises:
        UserError: see `load.open_upright`.
    """
    image = open_upright(path)
    levels = []
    while True:
        levels.append(Level(image.width, image.height, image.tobytes("raw", "BGRX")))
        if max(image.size) < _SMALLEST:
            return Pyramid(tuple(levels))
        image = image.reduce(2)
