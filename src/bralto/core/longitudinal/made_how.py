"""How a drawing was made, set against how close it came, where the data can carry it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.statistics.discovery import discoveries
from bralto.core.longitudinal.statistics.random_effects import LEVEL
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import CHECKS
from bralto.core.student import quantile, two_sided

__all__ = ["FEWEST_EACH", "Told", "questions_told"]

FEWEST_EACH = 6
"""Studies with yes, and as many with no, that a question wants before anything is told (chosen
here)."""

_QUESTIONS = {key: question for key, question, _ in CHECKS}


@dataclass(frozen=True, slots=True)
class Told:
    """A question whose answer goes with how close a drawing came. That is no proof that it is the
    cause.

    Attributes:
        question: its words. low, high: by how much drawings with yes miss less than those with no,
            percent; below 0 is further off.
        yes, no: studies with either answer.
    """

    question: str
    low: float
    high: float
    yes: int
    no: int

    @property
    def words(self) -> str:
        """*Was it checked on a plumb line? With yes 12 to 40 % closer.*"""
        if self.high > 0.0 and self.low > 0.0:
            return f"{self.question} With yes {self.low:.0f} to {self.high:.0f} % closer."
        return f"{self.question} With yes {-self.high:.0f} to {-self.low:.0f} % further off."


def questions_told(studies: Sequence[Counted]) -> tuple[Told, ...]:
    """Welch's t on the logarithms of the typical miss, yes against no; of all that could be asked
    at most a tenth is false (Benjamini and Hochberg). *Partly* counts for neither."""
    found: list[tuple[float, Told]] = []
    for key, question in _QUESTIONS.items():
        misses: dict[str, list[float]] = {"yes": [], "no": []}
        for one in studies:
            tracked = one.summary.tracked
            answer = dict(one.answers).get(key)
            if answer in misses and not isinstance(tracked, NotMeasurable) and tracked.value > 0.0:
                misses[answer].append(math.log(tracked.value))
        yes, no = (np.array(misses[answer]) for answer in ("yes", "no"))
        if min(len(yes), len(no)) < FEWEST_EACH:
            continue
        variance = [float(np.var(one, ddof=1)) / len(one) for one in (yes, no)]
        error = math.sqrt(sum(variance))
        if error == 0.0:
            continue
        freedom = sum(variance) ** 2 / sum(
            v * v / (len(one) - 1) for v, one in zip(variance, (yes, no), strict=True)
        )
        by, reach = float(yes.mean() - no.mean()), quantile(LEVEL, freedom) * error
        ends = sorted(-100.0 * math.expm1(by + side * reach) for side in (-1.0, 1.0))
        told = Told(question, ends[0], ends[1], len(yes), len(no))
        found.append((two_sided(by / error, freedom), told))
    kept = discoveries(np.array([p for p, _ in found]))
    return tuple(
        one for (_, one), yes in zip(found, kept, strict=True) if yes and one.low * one.high > 0.0
    )
