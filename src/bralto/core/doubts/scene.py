"""Both pictures' shared marks, and how well one explains the other."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from bralto.core.arrays import Floats, median
from bralto.core.measures.own_frame import OwnFrame, own_frames
from bralto.core.measures.points import point_table
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.model import View

__all__ = ["Scene", "missed"]

_ROUNDS = 4

_TILTED = np.radians(45.0)
"""A head that is turned further lies on its side, or stands on its crown."""

_PLAUSIBLE = 2.5
"""A head may be so many times larger or smaller against its figure before it is not believed."""


def missed(p: Floats, q: Floats) -> float:
    """Typical miss of q after the best scale and shift of p, in units of p.

    Counted against the drawing's own extent, so that marks that have nothing to do with each other
    miss by the reference's whole extent, not by nothing because the scale is nothing.

    Args:
        p, q: (n, 2) arrays of the same marks.
    """
    p, q = p - p.mean(axis=0), q - q.mean(axis=0)
    own, drawn = float(np.sum(p * p)), float(np.sum(q * q))
    if own <= 0.0 or drawn <= 0.0:
        return 0.0
    along = max(0.0, float(np.sum(p * q)))
    share = max(0.0, 1.0 - along * along / (own * drawn))
    return float(np.sqrt(share * own / len(p)))


@dataclass(frozen=True)
class Scene:
    """What doubts are looked for in.

    Attributes:
        keys: the marks that both pictures have, in the order of ``p`` and ``q``.
        p, q: (n, 2) arrays, reference and drawing in their sight frames, y up.
    """

    view: View
    seen: Picture
    drawn: Picture
    keys: tuple[str, ...]
    p: Floats
    q: Floats

    @staticmethod
    def of(view: View, seen: Picture, drawn: Picture, pair: Pair) -> Scene:
        """From a pair's shared marks; of a head the drawing's as though it were tilted as the
        reference is, since a face tilted the other way looks like one in a mirror."""
        shared = pair.shared_only()
        p, q = shared.seen.xy, shared.drawn.xy
        tables = [point_table(view, one, pair.common) for one in (shared.seen, shared.drawn)]
        frames = own_frames(view, tables)
        if frames is not None:
            apart = frames[1].radians - frames[0].radians
            apart = (apart + np.pi) % (2.0 * np.pi) - np.pi
            if abs(apart) < _TILTED:
                q = OwnFrame(apart, np.zeros_like(q)).upright(q)
        return Scene(view, seen, drawn, shared.seen.keys, p, q)

    @cached_property
    def row(self) -> dict[str, int]:
        """Row of each mark."""
        return {key: i for i, key in enumerate(self.keys)}

    @cached_property
    def head(self) -> float:
        """A head of the reference, in units of ``p``; what it would be on an average where the
        marks of one cannot be those of a head."""
        extent = float(np.ptp(self.p, axis=0).max())
        nominal = extent / self.view.tall
        top, bottom = self.view.head
        if top in self.row and bottom in self.row:
            away = self.p[self.row[top]] - self.p[self.row[bottom]]
            found = float(np.hypot(*away)) / self.view.heads
            if nominal / _PLAUSIBLE <= found <= nominal * _PLAUSIBLE:
                return found
        return nominal

    @cached_property
    def size(self) -> float:
        """How much smaller than of a figure what counts as far is here: heads and parts are drawn
        larger."""
        return self.view.grade("developing").head / GRADES["developing"].head

    @cached_property
    def before(self) -> float:
        """Typical miss as the marks are, heads."""
        return self.miss(self.p, self.q)

    def miss(self, p: Floats, q: Floats) -> float:
        """Typical miss of some marks, heads."""
        return missed(p, q) / self.head

    @cached_property
    def away(self) -> Floats:
        """(n, 2) array: how far each mark lies from where the others put it, heads.

        By a robust scale and shift: several rounds of least squares on the marks within twice the
        middle miss, so that a few wild ones have no say.
        """
        keep = np.ones(len(self.p), dtype=np.bool_)
        for _ in range(_ROUNDS):
            p, q = self.p - self.p[keep].mean(axis=0), self.q - self.q[keep].mean(axis=0)
            scale = float(np.sum(p[keep] * q[keep])) / max(float(np.sum(p[keep] ** 2)), 1e-12)
            if scale <= 0.0:
                scale = float(np.sqrt(np.sum(q**2) / max(float(np.sum(p**2)), 1e-12)))
            rest: Floats = q / max(scale, 1e-12) - p
            far = np.hypot(rest[:, 0], rest[:, 1])
            keep = far <= max(2.0 * median(far), 1e-12)
        return rest / self.head

    def to(self, one: str, other: str) -> Floats:
        """(2,) how far it is from a mark to another on the reference, heads."""
        away: Floats = (self.p[self.row[other]] - self.p[self.row[one]]) / self.head
        return away

    @cached_property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """Marks of both sides: ``_r`` and ``_l``."""
        return tuple(
            (key, f"{key[:-2]}_l")
            for key in self.keys
            if key.endswith("_r") and f"{key[:-2]}_l" in self.row
        )
