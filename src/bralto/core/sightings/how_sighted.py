"""How well a learner sights: what was sighted held against a figure that is known.

The seeing's own error, apart from the hand's: a picture whose marks are known stands in the room,
and each sighting is held against the same measure on it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from bralto.core.measures.kinds import wrap_degrees
from bralto.core.measures.points import picture_points
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import Sighter
from bralto.core.sightings.own_arm import FAMILIES, family_of
from bralto.core.sightings.stance import stance_seen
from bralto.core.student import quantile
from bralto.core.study.anchored import view_of
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.study.values import Picture, Study
from bralto.core.views.model import View

__all__ = [
    "FEWEST", "UNITS", "Sense", "errors_by_family", "for_practice", "how_sighted", "scatter_range",
]  # fmt: skip

FEWEST = 3
"""Sightings of one family from which on a bias is told, and of any from which on the record tells
how well they went."""

_LEVEL = 0.95
UNITS = {"lengths": "%", "tilts": "°", "plumbs": "head", "fractions": "%"}


@dataclass(frozen=True, slots=True)
class Sense:
    """One family of sightings.

    Attributes:
        unit: ``%`` of the length or of the axis, ``°`` or ``head``.
        many: how many were taken.
        bias: the mean error, + is longer, counter-clockwise, to the right, further down; ``low``
            and ``high``, its 95 % interval (Student's t).
        scatter: standard deviation about it; ``least`` and ``most``, its 95 % interval
            (chi-squared). Both intervals hold for independent normal errors.
        sitters: how many they were taken of.
    """

    family: str
    unit: str
    many: int
    bias: float
    low: float
    high: float
    scatter: float
    least: float
    most: float
    sitters: int = 1

    @property
    def is_biased(self) -> bool:
        """Whether 0 lies outside the interval of the bias."""
        return self.low > 0.0 or self.high < 0.0


def for_practice(study: Study) -> Study:
    """The study with its reference, which it must have, to be sighted for practice: nothing is
    sighted yet, and its marks show how the sitter is placed."""
    assert study.reference is not None
    stance = stance_seen(view_of(study), study.reference)
    return replace(study, sightings=Sightings(stance=stance))


def how_sighted(view: View, items: Sequence[Sighting], known: Picture) -> tuple[Sense, ...]:
    """By family, those with enough sightings; none where the picture's marks do not tell.

    Args:
        known: the picture that was sighted, marked.
    """
    errors = errors_by_family(view, items, known)
    return tuple(_sense(family, some) for family, some in errors.items() if len(some) >= FEWEST)


def errors_by_family(
    view: View, items: Sequence[Sighting], known: Picture
) -> dict[str, list[float]]:
    """By family, in its unit; empty where the picture's marks do not tell."""
    errors: dict[str, list[float]] = {family: [] for family in FAMILIES}
    found = picture_points(view, known, fewest=2)
    if isinstance(found, NotMeasurable):
        return errors
    sighter = Sighter(view, found[1])
    for one in items:
        at = None if one.in_mm or one.sort.is_answer else sighter.on(one)
        if at is not None:
            error = _error(one, at.value)
            if error is not None:
                errors[family_of(one)].append(error)
    return errors


def _error(one: Sighting, true: float) -> float | None:
    if one.sort is Sort.LENGTH:
        return None if true <= 0.0 else 100.0 * (one.value / true - 1.0)
    if one.sort is Sort.TILT:
        return float(wrap_degrees(one.value - true))
    return (one.value - true) * (100.0 if one.sort is Sort.FRACTION else 1.0)


def _sense(family: str, errors: Sequence[float]) -> Sense:
    n = len(errors)
    mean = sum(errors) / n
    squares = sum((one - mean) ** 2 for one in errors)
    scatter = math.sqrt(squares / (n - 1))
    half = quantile(_LEVEL, n - 1) * scatter / math.sqrt(n)
    least, most = scatter_range(squares, n - 1)
    return Sense(
        family, UNITS[family], n, mean, mean - half, mean + half, scatter, least, most
    )  # fmt: skip


def scatter_range(squares: float, freedom: int) -> tuple[float, float]:
    """The 95 % interval of a standard deviation, from a sum of squares and its degrees of freedom
    (chi-squared)."""
    from scipy.special import chdtri  # SciPy is loaded when it is first needed

    least, most = (
        math.sqrt(squares / float(chdtri(freedom, 0.5 * tail)))
        for tail in (1.0 - _LEVEL, 1.0 + _LEVEL)
    )
    return least, most
