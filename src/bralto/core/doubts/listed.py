"""Doubts that the list of corrections itself raises: it may be the photo, or a mark."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.corrections.correction_words import Correction
from bralto.core.doubts.doubt import Doubt
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["doubts_of_list"]

_TURNED = 2.0
"""Degrees by which the whole must be turned for the photo to be doubted."""

_HAIRLINE = (0.81, 0.90)
"""Chin to hairline against chin to crown: the hairline lies about an eighth of the head below the
crown (on the model of this program, and common practice, no source)."""


def _hairline(one: Correction) -> bool:
    """Whether a correction makes a head larger, or moves its crown up, by what lies above the
    hairline."""
    low, high = _HAIRLINE
    if (one.move, one.part) == ("scale", "head"):
        return one.factor is not None and low <= one.factor <= high
    if (one.move, one.part) != ("shift", "crown") or one.up is None or one.across is None:
        return False
    return low <= 1.0 - one.up <= high and abs(one.across) < 0.5 * one.up


def doubts_of_list(view: View, drawn: Picture, listed: Sequence[Correction]) -> tuple[Doubt, ...]:
    """What corrections of the whole or of the head may mean instead.

    Args:
        drawn: the drawing's picture.
    """
    out = []
    for one in listed:
        what = (one.move, one.part)
        # Where the sheet is known the photo's own turn is taken out already.
        if what == ("turn", None) and drawn.sheet is None and abs(one.amount) >= _TURNED:
            way = "counter-clockwise" if one.amount > 0.0 else "clockwise"
            size = f"{abs(one.amount):.1f}°"
            words = f"The photo of the drawing may be turned by {size}: it tilts as it leans."
            button = f"Turn the picture {size} {way}"
            out.append(
                Doubt("tilted-photo", (), Board.DRAWING, "turn", words, button, amount=one.amount)
            )
        if "crown" in view.head and _hairline(one):
            words = (
                "The drawing's crown may stand at the hairline: the head is small by just what "
                "lies above it."
            )
            button = "Look at the crown again"
            out.append(Doubt("crown-at-hairline", ("crown",), Board.DRAWING, "look", words, button))
    return tuple(out)
