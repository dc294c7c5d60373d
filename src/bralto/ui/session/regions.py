"""Which region of a head is looked at in the pass of the likeness: one at a time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from bralto.core.views.model import REGIONS

__all__ = ["Regions"]

Lacks = Callable[[str], bool]
"""Whether marks of a region are still asked for."""


@dataclass(frozen=True, slots=True)
class Regions:
    """The region that was chosen and the one that is shown, "" where there is none; ``whole`` says
    whether nothing was lacking when it was chosen."""

    chosen: str = ""
    shown: str = ""
    whole: bool = False

    def choose(self, name: str, lacks: Lacks) -> Regions:
        """Look at a region. One that lacks nothing is only looked at; one that becomes complete
        hands on to the next."""
        return Regions(name, self.shown, not lacks(name)).look(lacks)

    def look(self, lacks: Lacks) -> Regions:
        """Look again, after marks were set or put off: at the chosen one, else at the first that
        lacks a mark."""
        lacking = [one for one in REGIONS if lacks(one)]
        chosen = self.chosen if self.chosen in lacking or self.whole else ""
        return replace(self, chosen=chosen, shown=chosen or next(iter(lacking), ""))
