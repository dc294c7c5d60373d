"""The picture that lies on a board: its sizes, another look of it, or why there is none."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtGui import QImage

from bralto.imaging.tones.looks import LOOKS
from bralto.ui.boards.pyramid import level_of

__all__ = ["ShownPicture"]

_LOOK_PX = 1200  # longer side at which a picture is squinted at
_OPENING = "Opening the picture …"


class ShownPicture:
    """A part of `PictureBoard`."""

    def __init__(self, changed: Callable[[], None], painted_anew: Callable[[], None]) -> None:
        """``changed`` is called where another picture is to be painted, ``painted_anew`` where only
        the message is another."""
        self._changed, self._painted_anew = changed, painted_anew
        self.message = _OPENING
        """Why there is no picture, or "" where there is one."""
        self.look_name = LOOKS[0]
        self._levels: tuple[QImage, ...] = ()
        self._looked: QImage | None = None

    def take(self, levels: tuple[QImage, ...]) -> None:
        """Take the decoded picture, full size first; a preview that comes late changes nothing, nor
        where the picture is so small that it is as wide."""
        if self._levels and _fineness(levels) < _fineness(self._levels):
            return
        self._levels, self.message = levels, ""
        self._looked = None
        self._changed()

    def empty(self) -> None:
        """Another picture is coming."""
        self._levels, self._looked, self.message = (), None, _OPENING
        self._changed()

    def whole(self, wide: int) -> QImage | None:
        """The picture as fine as it is, where it is ``wide`` px wide; None while it is opened."""
        whole = self._levels[0] if self._levels else None
        return whole if whole is not None and whole.width() >= wide else None

    def look_source(self) -> QImage | None:
        """The level that other ways of looking are made from: fine enough for a board, without the
        bends of its sheet (flat px)."""
        fine = [one for one in self._levels if max(one.width(), one.height()) >= _LOOK_PX]
        return fine[-1] if fine else (self._levels[0] if self._levels else None)

    def look_as(self, name: str, image: QImage | None) -> None:
        """Paint another look of the same picture in its place; None for the picture itself."""
        self.look_name, self._looked = name, image
        self._changed()

    def say(self, message: str) -> None:
        """Say in place why there is no picture."""
        self.message = message
        self._painted_anew()

    def level_for(self, wide: float) -> QImage | None:
        """The smallest level that is not coarser than the whole at ``wide`` px of the screen."""
        return self._looked if self._looked is not None else level_of(self._levels, wide)


def _fineness(levels: tuple[QImage, ...]) -> tuple[int, int]:
    """How wide the largest level is, and how many there are."""
    return levels[0].width(), len(levels)
