"""Spans of the reference that are a simple part of another: what a thumb on a pencil can carry."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from bralto.core.discover.figures import Figure
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.uncertainty import propagate
from bralto.core.views.typical import other_side

__all__ = ["SIMPLE", "NiceFraction", "nice_fractions"]

SIMPLE: tuple[tuple[int, int], ...] = ((1, 1), (1, 2), (2, 3), (3, 4))
"""Parts that the eye halves and thirds (measurement, section 8)."""


@dataclass(frozen=True, slots=True)
class NiceFraction:
    """``part`` is about ``numerator : denominator`` of ``whole``, two spans by measure id.

    Attributes:
        error_percent: 100 (part : whole through the simple fraction - 1).
        u_percent: its standard uncertainty.
    """

    part: str
    whole: str
    numerator: int
    denominator: int
    error_percent: float
    u_percent: float


def nice_fractions(figure: Figure, grade: Grade, most: int = 8) -> tuple[NiceFraction, ...]:
    """Pairs of spans near a simple fraction, the surest first; spans without a common kind of
    direction (straight, plumb, level) are not held against each other. Of pairs that differ only in
    their sides (forearm and thigh) one stands for all: on one side, where there is such a one."""
    view, table = figure.view, figure.table
    spans = [
        i
        for i, spec in enumerate(view.measures)
        if spec.kind == "span" and table.ok[i] and table.values[i] > 0.0
    ]
    found = []
    for a, b in combinations(spans, 2):
        if view.measures[a].along != view.measures[b].along:
            continue
        part, whole = (a, b) if table.values[a] <= table.values[b] else (b, a)
        if _same_limb(view.measures[part].id, view.measures[whole].id):
            continue
        ratio = float(table.values[part] / table.values[whole])
        numerator, denominator = min(SIMPLE, key=lambda f: abs(math.log(ratio * f[1] / f[0])))
        error = 100.0 * (ratio * denominator / numerator - 1.0)
        gradient = (
            table.gradients[part] / table.values[part]
            - table.gradients[whole] / table.values[whole]
        )
        u = (
            100.0
            * (1.0 + error / 100.0)
            * float(np.sqrt(propagate(gradient[None], figure.marks.cov)[0]))
        )
        if abs(error) <= grade.percent and COVERAGE * u <= 2.0 * grade.percent:
            found.append(
                NiceFraction(
                    view.measures[part].id, view.measures[whole].id,
                    numerator, denominator, error, u,
                )
            )  # fmt: skip
    found.sort(key=lambda one: (_crosses(one), _unsure(one)))
    once: dict[tuple[object, ...], NiceFraction] = {}
    for one in found:
        limbs = frozenset(min(key, other_side(key)) for key in (one.part, one.whole))
        once.setdefault((limbs, one.numerator, one.denominator), one)
    return tuple(sorted(once.values(), key=_unsure)[:most])


def _unsure(one: NiceFraction) -> float:
    return abs(one.error_percent) + COVERAGE * one.u_percent


def _crosses(one: NiceFraction) -> bool:
    """Whether it holds a limb of one side against one of the other."""
    return {one.part[-2:], one.whole[-2:]} == {"_r", "_l"}


def _same_limb(a: str, b: str) -> bool:
    """Right against left of one limb: a check of its own, not a fraction to carry."""
    return a != b and other_side(a) == b
