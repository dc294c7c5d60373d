"""What a mark is worth: how closely a hand sets it, by what it saw (measurement, section 12).

A pointer moves in whole px of the board whatever the loupe shows; the eye judges in px of what it
sees; neither can be finer than the picture itself.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from bralto.core.measures.readings import Reading
from bralto.core.measures.units import own_head_px
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Picture
from bralto.core.tolerances import COVERAGE, DEFAULT_SPREAD_PX
from bralto.core.views.model import View

__all__ = ["HAND_PX", "HIDDEN_TIMES", "Hanging", "placing_spread", "told_from", "worth_again"]

HAND_PX = 0.7
"""SD of a hand that sets a pointer as finely as it can, screen px (common practice, no source)."""

_EYE_PX = math.sqrt(DEFAULT_SPREAD_PX**2 - HAND_PX**2)
"""SD of judging a place, px of what is seen: without a loupe both make `DEFAULT_SPREAD_PX`."""

_NUDGED_PX = 0.5 / math.sqrt(12.0)
"""SD that is left of the hand where keys moved the mark by half a screen px (uniform)."""

_PICTURE_PX = 1.0 / math.sqrt(12.0)
"""SD of a place that is known to lie within one px of the picture (uniform; JCGM 100:2008,
F.2.2.1): however near, no mark is finer."""

HIDDEN_TIMES = 3.0
"""How much less closely a mark is known that is hidden and set where it is believed to be
(chosen here, no source)."""


def placing_spread(zoom: float, *, loupe: float = 1.0, nudged: bool = False) -> float:
    """Standard deviation of placing a mark, a coordinate, image px.

    Args:
        zoom: screen px that a px of the picture takes on its board.
        loupe: how many times larger the eye saw it than the board shows it.
        nudged: keys moved it to its place, not a pointer.
    """
    hand = _NUDGED_PX if nudged else HAND_PX
    return math.hypot(math.hypot(hand, _EYE_PX / loupe) / zoom, _PICTURE_PX)


def told_from(readings: Iterable[Reading]) -> float | None:
    """The error (heads) from which on half of the heights and widths can be told from none, as far
    as the marks go; None where there are none yet."""
    known = [
        COVERAGE * one.u
        for one in readings
        if one.u is not None and one.unit == "head" and one.spec.kind in {"height", "offset"}
    ]
    return float(np.median(known)) if known else None


@dataclass(frozen=True, slots=True)
class Hanging:
    """A mark on a board on whose doubt so many verdicts hang."""

    board: Board
    key: str
    verdicts: int


_HANGS = 0.25
"""Share of a verdict's variance from which on it hangs on a mark."""

_MOST = 3


def worth_again(
    view: View, seen: Picture, drawn: Picture, unsure: Iterable[Reading]
) -> tuple[Hanging, ...]:
    """The marks that are worth placing again, the one on which most verdicts hang first.

    Each measure that cannot be told is laid on the marks that it is made of, by their variances in
    heads; a length counts its distance in heads on crown and chin too, since they make the head.
    """
    units = {}
    for board, picture in zip(BOARDS, (seen, drawn), strict=True):
        if not all(key in picture.placed() for key in view.head):
            return ()
        units[board] = own_head_px(view, picture), picture
    derived = {point.key: point.marks for point in view.points}
    hang: dict[tuple[Board, str], int] = {}
    for one in unsure:
        parts: dict[tuple[Board, str], float] = {}
        far = abs(one.reference or 0.0) if one.unit == "head" else 0.0
        for board, (head, picture) in units.items():
            for point in one.spec.points:
                for key in derived.get(point, (point,)):
                    _add(parts, board, key, picture, head, 1.0)
            for key in view.head:
                _add(parts, board, key, picture, head, far * far)
        whole = sum(parts.values())
        for at, part in parts.items():
            if whole > 0.0 and part >= _HANGS * whole:
                hang[at] = hang.get(at, 0) + 1
    order = sorted(hang.items(), key=lambda item: -item[1])
    return tuple(Hanging(board, key, count) for (board, key), count in order[:_MOST] if count > 1)


def _add(
    parts: dict[tuple[Board, str], float],
    board: Board,
    key: str,
    picture: Picture,
    head: float,
    times: float,
) -> None:
    if key in picture.placed() and times > 0.0:
        share = times * (picture.marks[key].spread / head) ** 2
        parts[board, key] = parts.get((board, key), 0.0) + share
