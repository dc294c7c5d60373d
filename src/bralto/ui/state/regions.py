"""Which region of a head is looked at in the pass of the likeness: one at a time."""

from __future__ import annotations

from collections.abc import Callable

from bralto.core.views.model import REGIONS

__all__ = ["Regions"]

Lacks = Callable[[str], bool]
"""Whether marks of a region are still asked for."""


class Regions:
    """The chosen region, and the one that is shown; both "" where there is none."""

    def __init__(self) -> None:
        self.chosen = self.shown = ""
        self._whole = False  # whether nothing was lacking when it was chosen

    def choose(self, name: str, lacks: Lacks) -> None:
        """Look at a region. One that lacks nothing is only looked at; one that becomes complete
        hands on to the next."""
        self.chosen, self._whole = name, not lacks(name)
        self.look(lacks)

    def look(self, lacks: Lacks) -> None:
        """Look again, after marks were set or put off: at the chosen one, else at the first that
        lacks a mark."""
        lacking = [one for one in REGIONS if lacks(one)]
        if self.chosen not in lacking and not self._whole:
            self.chosen = ""
        self.shown = self.chosen or next(iter(lacking), "")
