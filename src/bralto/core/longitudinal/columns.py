"""A choice among studies, out of columns: thousands are gone through once, then every choice is a
few masks over them."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import compress

import numpy as np

from bralto.core.arrays import Bools
from bralto.core.longitudinal.selection import ALL, ASPECTS, WHOLE, Aspect, Choices, Counted
from bralto.core.terms import StudyKind

__all__ = ["Columns"]

_USUAL = {"kind": StudyKind.OBSERVED, "shown": WHOLE}


class Columns:
    """Studies that may be counted, and which of them have which value of an aspect.

    Attributes:
        studies: in the order in which they were given; every mask, (n,), is in this order.
    """

    def __init__(self, studies: Iterable[Counted]) -> None:
        self.studies = tuple(studies)
        self._values: dict[str, dict[str, Bools]] = {}

    def of(self, left: Bools) -> tuple[Counted, ...]:
        """The studies of a mask."""
        return tuple(compress(self.studies, left.tolist()))

    def chosen(self, choices: Choices, without: str | None = None) -> Bools:
        """Those that the choices leave; ``without`` names an aspect that is not looked at."""
        left = np.ones(len(self.studies), dtype=np.bool_)
        for aspect in ASPECTS:
            value = choices.get(aspect.key, ALL)
            if aspect.key != without and value != ALL:
                left &= self._having(aspect, value)
        return left

    def first_choice(self, left: Bools) -> dict[str, str]:
        """What is counted of some before anything is chosen: of aspects that are never mixed what
        most studies are, one after the other; observed studies before traced and exaggerated
        ones."""
        out = {}
        for aspect in ASPECTS:
            if aspect.apart:
                many = self.many(aspect, left)
                usual = _USUAL.get(aspect.key, ALL)
                value = usual if usual in many else max(many, key=many.__getitem__, default=ALL)
                out[aspect.key] = value
                left = left & self._having(aspect, value)
        return out

    def many(self, aspect: Aspect, left: Bools) -> dict[str, int]:
        """How many of some have each value, those first that the first studies have."""
        found = []
        for value, having in self._by_value(aspect).items():
            both = having & left
            if count := int(both.sum()):
                found.append((int(both.argmax()), value, count))
        return {value: count for _, value, count in sorted(found)}

    def options_of(self, choices: Choices, aspect: Aspect) -> list[tuple[str, str, int]]:
        """Value, words and how many studies it would leave, of every choice there is; more
        first."""
        left = self.chosen(choices, aspect.key)
        many = self.many(aspect, left)
        given = choices.get(aspect.key, ALL)
        if given != ALL:
            many.setdefault(given, 0)
        found = [(value, aspect.words(value), count) for value, count in many.items()]
        found.sort(key=lambda option: (-option[2], option[1]))
        return found if aspect.apart else [(ALL, "all", int(left.sum())), *found]

    def _having(self, aspect: Aspect, value: str) -> Bools:
        none = np.zeros(len(self.studies), dtype=np.bool_)
        return self._by_value(aspect).get(value, none)

    def _by_value(self, aspect: Aspect) -> dict[str, Bools]:
        if aspect.key not in self._values:
            rows: dict[str, list[int]] = {}
            values = aspect.values
            for row, one in enumerate(self.studies):
                for value in values(one):
                    rows.setdefault(value, []).append(row)
            masks = np.zeros((len(rows), len(self.studies)), dtype=np.bool_)
            for mask, having in zip(masks, rows.values(), strict=True):
                mask[having] = True
            self._values[aspect.key] = dict(zip(rows, masks, strict=True))
        return self._values[aspect.key]
