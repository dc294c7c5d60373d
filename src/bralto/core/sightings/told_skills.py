"""What the sightings tell so far: how surely each skill's checks are known of the figure."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.measures.table import LENGTH_KINDS
from bralto.core.measures.verdict import tolerance_of
from bralto.core.measures.view_kinds import UNITS
from bralto.core.sightings.figure.implied import Implied, checks_of
from bralto.core.sightings.figure.stand_in import as_sighted
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.uncertainty import variances_of
from bralto.core.views.model import View

__all__ = ["SHOWN", "Told", "told_so_far"]

SHOWN = ("heights", "widths", "tilts", "lengths", "plumb", "fractions")
"""Skills in the order of the work."""


@dataclass(frozen=True, slots=True)
class Told:
    """One skill.

    Attributes:
        u: the middle one of the standard uncertainties of what was sighted, in ``unit``; None where
            nothing of it was.
        sighted: share of its checks that the sightings tell at all; ``clear``, that they tell to
            the tolerance of this grade.
    """

    skill: str
    u: float | None
    unit: str
    sighted: float
    clear: float


def told_so_far(view: View, implied: Implied, grade: Grade) -> tuple[Told, ...]:
    """Of each skill that the view has checks of."""
    table = checks_of(view, implied)
    seen = as_sighted(view, implied, table, 1.0)
    slopes = seen.gradients.reshape(len(seen.values), -1)
    variances = variances_of(slopes, implied.cov)
    sizes = np.sqrt(np.maximum(variances, 0.0))
    out = []
    for skill in SHOWN:
        rows = [
            i
            for i, one in enumerate(view.measures)
            if one.skill == skill
            and one.telling
            and table.ok[i]
            # A head's length is the unit itself.
            and not (one.kind in LENGTH_KINDS and set(one.points) <= set(view.head))
        ]
        if not rows:
            continue
        # A verdict is clear where its expanded doubt leaves room beside the tolerance.
        limits = np.array([tolerance_of(view.measures[i].kind, grade) for i in rows])
        told = seen.ok[rows]
        clear = told & (COVERAGE * sizes[rows] <= 2.0 * limits)
        u = float(np.median(sizes[rows][told])) if told.any() else None
        unit = UNITS[view.measures[rows[0]].kind]
        out.append(Told(skill, u, unit, float(told.mean()), float(clear.mean())))
    return tuple(out)
