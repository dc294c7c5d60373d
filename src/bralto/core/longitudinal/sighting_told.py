"""How a learner sights, out of all that was sighted for practice."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from bralto.core.examination.summary import SkillFigure
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.statistics.random_effects import mean_over
from bralto.core.longitudinal.traits.trait_habits import LAST
from bralto.core.sightings.how_sighted import FEWEST, SIGHTED, UNITS, Sense, scatter_range

__all__ = ["sighting_told"]


def sighting_told(studies: Sequence[Counted]) -> tuple[Sense, ...]:
    """By family, the bias over the last `LAST` sitters and the scatter about each one's own;
    nothing of a family that fewer than `FEWEST` of them tell.

    One sitter's bias is taken to differ from another's (random effects): an arm is not as stiff
    every evening.
    """
    sighted = [one for one in studies if one.summary.skill("sighting") is not None]
    last = sorted(sighted, key=lambda one: (one.when, one.id))[-LAST:]
    found = []
    for family, name in SIGHTED.items():
        biases = [bias for one in last if (bias := one.summary.skill(name)) is not None]
        if len(biases) >= FEWEST:
            found.append(_sense(family, biases))
    return tuple(found)


def _sense(family: str, biases: Sequence[SkillFigure]) -> Sense:
    many = np.array([one.measures for one in biases], dtype=np.float64)
    # u is s / sqrt(n) of each sitter: their squares about their own means, put together.
    squares = float((np.square([one.u for one in biases]) * many * (many - 1.0)).sum())
    freedom = int(many.sum()) - len(biases)
    scatter = math.sqrt(squares / freedom)
    u = np.maximum(scatter / np.sqrt(many), _LEAST_U)
    mean = mean_over(np.array([one.value for one in biases]), u)
    least, most = scatter_range(squares, freedom)
    return Sense(
        family, UNITS[family], int(many.sum()), mean.value, mean.low, mean.high, scatter, least,
        most, len(biases),
    )  # fmt: skip


_LEAST_U = 1e-4
"""In the unit of a family: sightings that agree to the last digit are no surer than that."""
