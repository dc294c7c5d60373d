"""What the sightings tell so far: how surely each skill's checks are known of the figure."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.measures.verdict import tolerance_of
from bralto.core.readings import UNITS
from bralto.core.sightings.implied import Implied
from bralto.core.sightings.next_sighting import check_doubts
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import View

__all__ = ["SHOWN", "Told", "known_marks", "told_so_far"]

SHOWN = ("heights", "widths", "tilts", "lengths", "plumb", "fractions")
"""Skills in the order of the work."""

_KNOWN, _FARTHEST = 0.5, {"figure": 0.35, "part": 0.1}
"""Share of its first variance that a mark may have left, and its standard deviation at most, heads,
for the figure to show it (chosen here, no source)."""


@dataclass(frozen=True, slots=True)
class Told:
    """One skill.

    Attributes:
        u: the middle one of its checks' standard uncertainties, in ``unit``.
        share: of its checks that can be told at this grade.
    """

    skill: str
    u: float
    unit: str
    share: float


def told_so_far(view: View, implied: Implied, grade: Grade) -> tuple[Told, ...]:
    """Of each skill that the view has checks of."""
    doubts = check_doubts(view, implied, grade)
    out = []
    for skill in SHOWN:
        specs = [one for one in view.measures if one.skill == skill and one.id in doubts]
        if not specs:
            continue
        sizes = np.array([doubts[one.id] for one in specs])
        each = [doubts[one.id] * tolerance_of(one.kind, grade) for one in specs]
        # A verdict is clear where its expanded doubt leaves room beside the tolerance.
        share = float(np.mean(COVERAGE * sizes <= 2.0))
        out.append(Told(skill, float(np.median(each)), UNITS[specs[0].kind], share))
    return tuple(out)


def known_marks(view: View, implied: Implied, *, down_alone: bool = False) -> frozenset[str]:
    """Marks that the sightings tell: what is only usual is not among them. The head is the unit.

    Args:
        down_alone: it is enough that their height is told.
    """
    if not implied.items:
        return frozenset()
    n, of = len(implied.marks.keys), slice(1, 2) if down_alone else slice(0, 2)
    after = np.diag(implied.cov).reshape(n, 2)[:, of]
    before = np.diag(implied.prior.cov).reshape(n, 2)[:, of]
    known = after.sum(axis=1) <= _KNOWN * np.maximum(before.sum(axis=1), 1e-6)
    known &= after.max(axis=1) <= _FARTHEST[view.size] ** 2
    head = frozenset(view.head)
    told = frozenset(key for key, one in zip(implied.marks.keys, known, strict=True) if one)
    return told | (head & frozenset(implied.marks.keys))
