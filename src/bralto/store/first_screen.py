"""The cards' pictures that the shelf showed first, pixel by pixel: the next start reads them in one
go, where the decoders of twenty JPEG files take a twentieth of it.

A cache, no document: anything that is not plainly right in it counts as not there. Each picture
stands under the name of its card's file, which says what it shows and how it was laid.
"""

from __future__ import annotations

import json
import os
from collections.abc import Callable, Sequence
from contextlib import suppress
from io import BufferedReader
from pathlib import Path
from typing import TypeVar

from bralto.core.errors import UserError
from bralto.disk.private import write_private
from bralto.disk.regular import open_regular, read_bytes

__all__ = ["FirstScreen", "Laid"]

Laid = tuple[str, int, int, bytes]
"""Name of a card's file, width, height, and 4 bytes a pixel: blue, green, red, nothing."""

_LARGEST = 24_000_000
"""Bytes of the file at most: some sixty cards of a screen of twice the px."""

_WHAT = "a first screen"
_MOST_PX = 4096

_LONGEST_HEAD = 100_000
"""Bytes of the line with the names: a thousand of them."""


Picture = TypeVar("Picture")


class FirstScreen:
    """The file of one library."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def read(self, blank: Callable[[int, int], tuple[Picture, memoryview]]) -> dict[str, Picture]:
        """The pictures by name, read right into where they are shown from; nothing where the file
        is not whole.

        Args:
            blank: makes a picture of a width and a height, and gives its 4 bytes a pixel too, which
                are written.
        """
        try:
            with open_regular(self._path, _WHAT, _LARGEST) as file:
                return _read(file, blank)
        except (UserError, OSError, ValueError, TypeError, RecursionError):
            return {}

    def keep(self, cards: Sequence[Laid]) -> None:
        """Keep these for the next start, as many as there is room for, unless just these are
        kept."""
        kept: list[Laid] = []
        room = _LARGEST // 2
        for card in cards:
            room -= len(card[3])
            if room < 0:
                break
            kept.append(card)
        head = json.dumps([card[:3] for card in kept]).encode("ascii") + b"\n"
        whole = head + b"".join(card[3] for card in kept)
        with suppress(UserError):
            if read_bytes(self._path, _WHAT, _LARGEST) == whole:
                return
        with suppress(OSError):  # the next start takes a little longer
            write_private(self._path, whole)

    def forget(self) -> None:
        """Keep nothing: one of the pictures may be gone for good."""
        with suppress(OSError):
            self._path.unlink(missing_ok=True)


def _read(
    file: BufferedReader, blank: Callable[[int, int], tuple[Picture, memoryview]]
) -> dict[str, Picture]:
    head = file.readline(_LONGEST_HEAD)
    cards = [(str(name), wide, high) for name, wide, high in json.loads(head)]
    if not all(0 < side <= _MOST_PX for card in cards for side in card[1:]):
        return {}
    size = len(head) + sum(4 * wide * high for _, wide, high in cards)
    if size != os.fstat(file.fileno()).st_size:
        return {}
    found = {}
    for name, wide, high in cards:
        found[name], pixels = blank(wide, high)
        if file.readinto(pixels) != len(pixels):
            return {}
    return found
