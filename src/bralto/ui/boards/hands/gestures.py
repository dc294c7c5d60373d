"""Mouse gestures on a board as a state machine that knows no Qt and no widget.

A click on the picture sets the prompted mark, also near another one; a drag beside all marks pans,
a drag that begins on a mark moves it. Where nothing is asked for, a click on a mark takes it in
hand. A slip of up to `SLOP` px is still a click.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

__all__ = ["SLOP", "Action", "Drag", "Drop", "Gesture", "Hold", "Pan", "SetMark"]

SLOP = 4.0
"""Screen px that the hand may slip during a click (common practice, no source)."""

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class SetMark:
    """A click on the picture."""

    at: Point


@dataclass(frozen=True, slots=True)
class Hold:
    """A mark was taken in hand without moving it."""

    key: str


@dataclass(frozen=True, slots=True)
class Drag:
    """A mark in hand is now here."""

    key: str
    at: Point


@dataclass(frozen=True, slots=True)
class Drop:
    """A mark was let go here; this ends the gesture."""

    key: str
    at: Point


@dataclass(frozen=True, slots=True)
class Pan:
    """The picture was dragged by so much since the last time."""

    by: Point


Action = SetMark | Hold | Drag | Drop | Pan | None


class Gesture:
    """Feed it presses, moves and releases; it answers with what they mean."""

    def __init__(self, hit: Callable[[Point], str | None]) -> None:
        self._hit = hit
        self._start: Point | None = None
        self._last: Point = (0.0, 0.0)
        self._grip: Point = (0.0, 0.0)
        self._key: str | None = None
        self._moving = False
        self._pan_only = self._sets = False

    @property
    def key(self) -> str | None:
        """The mark in hand."""
        return self._key

    @property
    def active(self) -> bool:
        """Whether a button is down."""
        return self._start is not None

    def press(
        self, at: Point, grip: Point | None = None, *, pan: bool = False, sets: bool = False
    ) -> None:
        """A button went down.

        Args:
            grip: where the mark under it lies.
            pan: it was the middle button.
            sets: a mark is asked for here: a click sets it, whatever lies under it.
        """
        self._start = self._last = at
        self._sets = sets
        self._moving, self._pan_only = False, pan
        self._key = None if pan else self._hit(at)
        self._grip = (grip[0] - at[0], grip[1] - at[1]) if grip and self._key else (0.0, 0.0)

    def move(self, at: Point) -> Action:
        """The pointer moved."""
        if self._start is None:
            return None
        if not self._moving and math.dist(at, self._start) < SLOP:
            return None
        self._moving = True
        by = (at[0] - self._last[0], at[1] - self._last[1])
        self._last = at
        return Drag(self._key, self._held(at)) if self._key is not None else Pan(by)

    def release(self, at: Point) -> Action:
        """The button went up."""
        if self._start is None:
            return None
        key, moving, start = self._key, self._moving, self._start
        self._start, self._key, self._moving = None, None, False
        if key is not None and (moving or not self._sets):
            return Drop(key, self._held(at)) if moving else Hold(key)
        return None if moving or self._pan_only else SetMark(start)

    def cancel(self) -> str | None:
        """Forget the gesture; gives the mark that was in hand, so that it can be put back."""
        key = self._key if self._moving else None
        self._start, self._key, self._moving = None, None, False
        return key

    def _held(self, at: Point) -> Point:
        """Where the mark itself is, not the pointer that holds it a little beside."""
        return (at[0] + self._grip[0], at[1] + self._grip[1])
