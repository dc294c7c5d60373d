"""What a doubt is: an explanation of marks that cannot be true, and what to do about it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from bralto.core.study.two_boards import Board

__all__ = ["KINDS", "WHOLE_PICTURE", "Doubt", "DoubtKind", "Remedy"]

DoubtKind = Literal[
    "same-picture", "exchanged-sides", "mirrored", "turned", "order-shifted", "sheet-corners",
    "paper", "exchanged-limb", "exchanged-pair", "keystone", "tilted-photo", "wild-mark",
    "crown-at-hairline", "heel-not-sole", "unexplained",
]  # fmt: skip
KINDS: tuple[DoubtKind, ...] = get_args(DoubtKind)
"""All kinds, a contract (formats and commands)."""

Remedy = Literal[
    "exchange", "mirror", "turn", "reorder", "corners", "paper", "flatten", "choose", "look"
]
"""What settles a doubt; `remedies.remedied` can do the first six."""

WHOLE_PICTURE: frozenset[DoubtKind] = frozenset(
    {"mirrored", "turned", "exchanged-sides", "order-shifted", "sheet-corners", "paper",
     "unexplained"}
)  # fmt: skip
"""Kinds that touch every mark: no fault is sought before they are settled."""


@dataclass(frozen=True, slots=True)
class Doubt:
    """One doubt.

    Attributes:
        kind: one of `KINDS`.
        marks: the landmarks it is about; () where it is the whole picture.
        board: whose marks: ``reference`` or ``drawing``.
        remedy: what settles it.
        words: the doubt in one sentence; ``button``, what doing the remedy is called.
        amount: degrees of a turn, counter-clockwise; marks by which an order is shifted.
        corners: for each corner of the sheet which of the marked ones it is.
        size_mm: of the paper it may be.
    """

    kind: DoubtKind
    marks: tuple[str, ...]
    board: Board
    remedy: Remedy
    words: str
    button: str = ""
    amount: float = 0.0
    corners: tuple[int, int, int, int] = (0, 1, 2, 3)
    size_mm: tuple[float, float] | None = None

    @property
    def of_the_whole(self) -> bool:
        """Whether no correction may be listed before it is settled."""
        return self.kind in WHOLE_PICTURE
