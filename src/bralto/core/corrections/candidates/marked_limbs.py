"""The limbs of a view over the marks that two pictures have: what goes along with what."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.views.limb_tree import Limb
from bralto.core.views.model import View

__all__ = ["MarkedLimbs"]


class MarkedLimbs:
    """The limbs of a view over the marks that are there."""

    def __init__(self, view: View, keys: tuple[str, ...]) -> None:
        self.view, self.n = view, len(keys)
        self._row = {key: i for i, key in enumerate(keys)}
        self._by_key = {limb.key: limb for limb in view.limbs}

    def mark(self, key: str) -> Floats | None:
        """(n,) weights of one mark, or None where it is missing."""
        return np.eye(self.n)[self._row[key]] if key in self._row else None

    def joint(self, limb: Limb) -> Floats | None:
        """(n,) weights of the joint of a limb, or None where a mark of it is missing."""
        weights = np.zeros(self.n)
        for keys, each in (
            (limb.root, limb.weights),
            (limb.instead, (1.0 / max(1, len(limb.instead)),) * len(limb.instead)),
        ):
            if keys and all(key in self._row for key in keys):
                weights[[self._row[key] for key in keys]] = each
                return weights
        return None

    def mean(self, key: str) -> Floats | None:
        """(n,) weights of a landmark, or of the middle of what a derived point has of its marks."""
        derived = next((point for point in self.view.points if point.key == key), None)
        marks = (key,) if derived is None else derived.marks
        found = [one for mark in marks if (one := self.mark(mark)) is not None]
        return np.mean(found, axis=0) if found else None

    def rows(self, keys: Iterable[str]) -> list[int]:
        """Rows of those of some marks that there are."""
        return [self._row[key] for key in keys if key in self._row]

    def own(self, limb: Limb) -> list[int]:
        """Rows of a limb's own marks."""
        return self.rows(limb.marks)

    def below(self, limb: Limb) -> list[Limb]:
        """What hangs from a limb directly."""
        return [one for one in self.view.limbs if one.parent == limb.key]

    def above(self, limb: Limb) -> Iterable[Limb]:
        """What a limb hangs from, the nearest first."""
        while limb.parent is not None:
            limb = self._by_key[limb.parent]
            yield limb

    def hanging(self, limb: Limb) -> list[int]:
        """Rows of all marks that hang from a limb, without its own."""
        rows = [row for one in self.below(limb) for row in self.own(one) + self.hanging(one)]
        return sorted(set(rows) - set(self.own(limb)))

    def depth(self, limb: Limb) -> int:
        """How many limbs it hangs from."""
        return sum(1 for _ in self.above(limb))

    def following(self, limb: Limb) -> Floats:
        """(n, n) array: own marks move themselves, the rest as the joint it hangs from moves."""
        moved = np.zeros((self.n, self.n))
        own = self.own(limb)
        moved[own, own] = 1.0
        for child in self.below(limb):
            joint = self.joint(child)
            rows = [r for r in self.own(child) + self.hanging(child) if r not in own]
            if joint is not None and rows:
                carried = np.zeros(self.n)
                carried[own] = joint[own]
                moved[rows] = carried
        return moved

    def apart(self, limb: Limb) -> Floats:
        """(n, n) array: what hangs from a limb moves as its own middle does and keeps its size."""
        moved = self.following(limb)
        for child in self.below(limb):
            joint, rows = self.joint(child), self.own(child) + self.hanging(child)
            if joint is not None:
                moved[rows] = joint
        return moved

    def rigid(self, limb: Limb) -> Floats:
        """(n, n) array: own marks and all that hangs from them move themselves."""
        moved = np.zeros((self.n, self.n))
        rows = self.own(limb) + self.hanging(limb)
        moved[rows, rows] = 1.0
        return moved

    def about(self, limb: Limb) -> Floats | None:
        """(n, n) array that takes marks to where they lie from a limb's joint."""
        joint = self.joint(limb)
        return None if joint is None else np.eye(self.n) - np.outer(np.ones(self.n), joint)

    def axis(self) -> tuple[Floats, Floats] | None:
        """From the figure's lower edge to its upper one."""
        bottom, top = self.mean(self.view.edges[1]), self.mean(self.view.edges[0])
        return None if bottom is None or top is None else (bottom, top)

    def ends(self, limb: Limb) -> tuple[Floats, Floats]:
        """What a limb's size is measured between: its span, or from its joint to its end."""
        span = [self.mark(key) for key in limb.span]
        if len(span) == 2 and span[0] is not None and span[1] is not None:
            return span[0], span[1]
        joint, own = self.joint(limb), self.own(limb)
        assert joint is not None
        return joint, np.eye(self.n)[own[0]]
