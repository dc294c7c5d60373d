"""The cards' pictures that the shelf showed first, pixel by pixel: the next start reads them in one
go, where the decoders of twenty JPEG files take a twentieth of it.

A cache, no document: anything that is not plainly right in it counts as not there. Each picture
stands under the name of its card's file, which says what it shows and how it was laid.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from stat import S_ISREG

from bralto.disk.private import write_private

__all__ = ["FirstScreen", "Laid"]

Laid = tuple[str, int, int, bytes]
"""Name of a card's file, width, height, and 4 bytes a pixel: blue, green, red, nothing."""

_LARGEST = 24_000_000
"""Bytes of the file at most: some sixty cards of a screen of twice the px."""

_MOST_PX = 4096


class FirstScreen:
    """The file of one library."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def read(self) -> dict[str, tuple[int, int, memoryview]]:
        """Width, height and pixels by name; nothing where the file is not whole."""
        try:
            raw = self._raw()
            data, at = memoryview(raw), raw.index(b"\n") + 1
            found = {}
            for name, wide, high in json.loads(raw[:at]):
                if not (0 < wide <= _MOST_PX and 0 < high <= _MOST_PX):
                    return {}
                found[str(name)] = (wide, high, data[at : at + 4 * wide * high])
                at += 4 * wide * high
        except (ValueError, TypeError, RecursionError):
            return {}
        return found if at == len(data) else {}

    def _raw(self) -> bytes:
        """What stands in the file; nothing where it is too large, or cannot be read."""
        try:
            there = self._path.stat()
            if there.st_size > _LARGEST or not S_ISREG(there.st_mode):  # a pipe never ends
                return b""
            return self._path.read_bytes()
        except OSError:
            return b""

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
        with suppress(OSError):  # the next start takes a little longer
            if self._raw() != whole:
                write_private(self._path, whole)

    def forget(self) -> None:
        """Keep nothing: one of the pictures may be gone for good."""
        with suppress(OSError):
            self._path.unlink(missing_ok=True)
