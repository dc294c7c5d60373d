"""How a learner sights: what the record keeps of a reference that was sighted for practice, and
what all of them tell."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from bralto.core.examination.summary import SkillFigure
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.statistics.random_effects import mean_over
from bralto.core.longitudinal.traits.trait_habits import LAST
from bralto.core.sightings.how_sighted import (
    FEWEST,
    UNITS,
    Sense,
    errors_by_family,
    scatter_range,
)
from bralto.core.sightings.own_arm import FAMILIES
from bralto.core.study.anchored import placed, view_of
from bralto.core.study.values import Study
from bralto.core.tolerances import Grade

__all__ = ["SIGHTED", "sighting_of_study", "sighting_told"]

SIGHTED = {family: f"sighting {family}" for family in FAMILIES}
"""Under which names the record keeps the bias of each family."""


def sighting_of_study(study: Study) -> tuple[SkillFigure, ...]:
    """How well the reference was sighted for practice; nothing where fewer than `FEWEST` were.

    The first is the mean size of all errors in tolerances of the grade in force, for they are of
    lengths, tilts and lines alike. Then by family (`SIGHTED`) the mean error with its sign, in the
    family's unit, where there are two at least. Each has the standard error of its mean.
    """
    if study.reference is None or study.sightings is None:
        return ()
    view = placed(view_of(study), study.sightings.stance)
    errors = errors_by_family(view, study.sightings.items, study.reference)
    grade = view.grade(study.grade)
    sizes = [abs(one) / _allowed(family, grade) for family, some in errors.items() for one in some]
    if len(sizes) < FEWEST:
        return ()
    biases = (
        _mean_of(SIGHTED[family], UNITS[family], some)
        for family, some in errors.items()
        if len(some) > 1
    )
    return (_mean_of("sighting", "tolerance", sizes), *biases)


def _mean_of(name: str, unit: str, values: Sequence[float]) -> SkillFigure:
    """The mean of n > 1 values with its standard error."""
    n = len(values)
    mean = sum(values) / n
    u = math.sqrt(sum((one - mean) ** 2 for one in values) / (n - 1) / n)
    return SkillFigure(name, unit, mean, u, 0.0, n)


def _allowed(family: str, grade: Grade) -> float:
    """The grade's tolerance in the unit of a family."""
    return {"%": grade.percent, "°": grade.degrees, "head": grade.head}[UNITS[family]]


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
