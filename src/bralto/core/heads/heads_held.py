"""A drawn head held against the one that was seen: is it turned and raised as that is?"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.discover.constructions import Form
from bralto.core.discover.figures import Figure
from bralto.core.discover.levels import USUAL, Standpoint
from bralto.core.heads.head_forms import head_forms
from bralto.core.heads.head_in_space import HeadInSpace, head_in_space, same_head
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board

__all__ = ["HeadPair", "head_of", "heads_of"]


@dataclass(frozen=True, eq=False)
class HeadPair:
    """The head of either picture; of the drawing as the same head that was seen."""

    seen: HeadInSpace | NotMeasurable
    drawn: HeadInSpace | NotMeasurable

    def forms(self, board: Board, school: str) -> tuple[Form, ...]:
        """The big forms of the head on a board; none where it is not known how it stands."""
        head = self.seen if board == Board.REFERENCE else self.drawn
        return () if isinstance(head, NotMeasurable) else head_forms(head, school)

    def error(self, angle: int) -> tuple[float, float] | None:
        """By how many degrees the drawing is turned or raised further than was seen, and the
        standard uncertainty of that; None where it is not known of both."""
        if isinstance(self.seen, NotMeasurable) or isinstance(self.drawn, NotMeasurable):
            return None
        error = float(self.drawn.angles[angle] - self.seen.angles[angle])
        return error, float(self.drawn.u[angle])


def head_of(seen: Figure | NotMeasurable, stood: Standpoint | None) -> HeadInSpace | NotMeasurable:
    """How the head that was seen stands.

    Args:
        stood: from where it was seen, where that is known.
    """
    if isinstance(seen, NotMeasurable):
        return seen
    return head_in_space(seen, (stood or USUAL).heads)


def heads_of(
    head: HeadInSpace | NotMeasurable, seen: Figure | NotMeasurable, drawn: Figure | NotMeasurable
) -> HeadPair:
    """How the heads of both pictures stand; ``head`` is that of ``seen``."""
    if isinstance(head, NotMeasurable):
        return HeadPair(head, head)
    if isinstance(seen, NotMeasurable):
        return HeadPair(seen, seen)
    if isinstance(drawn, NotMeasurable):
        return HeadPair(head, drawn)
    placed: Mapping[str, float] = dict(zip(drawn.marks.keys, drawn.sd.tolist(), strict=True))
    own = dict(zip(seen.marks.keys, seen.sd.tolist(), strict=True))
    sd = np.array([math.hypot(own[key], placed.get(key, 0.0)) for key in head.keys])
    return HeadPair(head, same_head(head, drawn, sd))
