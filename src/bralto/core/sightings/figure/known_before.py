"""What is known of a figure before it is worked out: how marks usually lie, what was sighted."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.points import PointTable, point_table
from bralto.core.measures.units import Length, reference_head
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.formulas import AtOnce, Sighter, parts_of
from bralto.core.study.frames import SightMarks
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.model import MeasureSpec, View
from bralto.core.views.typical import typical_of

__all__ = [
    "EXACT", "HEAD_ON_THE_WAY", "Effort", "Known", "Prior", "head_of", "prior_of", "scale_of",
    "told_head", "usable", "view_asked",
]  # fmt: skip

HEAD_ON_THE_WAY = (0.05, 0.002)
"""SD to which the head is one head long while the marks are looked for, first and then: a head may
be tilted any way, and who is held to its length at every step turns it slowly."""

EXACT = 1e-7
"""Least doubt of a sighting, in its own unit: one that is given without any is exact."""

_OF_ITS_OWN = 0.03
"""What a sighting that is of no measure costs besides, where a dozen that are cost 1 (measured)."""

_FEW, _ALL_BUT_EXACT = 40, 1e-4
"""Sightings, and the least doubt of one, in its own unit: beyond them equations of a row for each
sighting are no quicker, or lose digits."""

_BEYOND = {"figure": 0.04, "part": 0.02}
"""SD of a mark of a body about all that the model can be, heads (chosen here, no source)."""

_MOST_SCALE = 20.0
"""Bound of log(mm a head)."""


@dataclass(frozen=True, slots=True, eq=False)
class Prior:
    """What is known before anything is sighted: heads, y up, the view's plumb mark at 0, 0.

    Attributes:
        keys: marks of the view.
        mean: (2n,) array, x and y side by side.
        cov: (2n, 2n) array; ``root``, R with R^T R its inverse.
        starts: (k, 2n) array, other figures than the mean from which the most likely marks are
            looked for, where bodies differ much.
    """

    keys: tuple[str, ...]
    mean: Floats
    cov: Floats
    root: Floats
    starts: Floats


def head_of(view: View, points: PointTable) -> tuple[float, Floats]:
    """The head of the marks in heads, 1 but for rounding, and its slope over them."""
    return told_head(reference_head(view, points), 2 * points.weights.shape[1])


def told_head(head: Length | NotMeasurable, n: int) -> tuple[float, Floats]:
    """The same of n / 2 marks whose head is measured already."""
    if isinstance(head, NotMeasurable):  # both ends in one spot: no prior has that
        return 1.0, np.zeros(n)
    return head.value, head.gradient.ravel()


class _Asked:
    """What was sighted, as arrays of k.

    Attributes:
        value, u: in each sighting's own unit, ``u`` no less than `EXACT`.
        answers: which are answers but *alike*; ``tilts``, which are tilts.
        at_once: the order in which all are worked out on some marks.
        cost: of doing so, see `Effort`.
        are_few: whether they are few, none in mm, none exact: the marks that suit them best are
            found sooner then (`most_likely`).
    """

    def __init__(self, view: View, items: Sequence[Sighting]) -> None:
        self.at_once = AtOnce(view, items)
        self.cost = 1.0 + _OF_ITS_OWN * sum(not one.measure for one in items)
        self.value = np.array([one.value for one in items], np.float64)
        self.u = np.array([max(one.u, EXACT) for one in items], np.float64)
        self.answers = [i for i, one in enumerate(items) if one.sort.is_answer and one.value]
        self.tilts = [i for i, one in enumerate(items) if one.sort is Sort.TILT]
        exact = bool(self.u.min(initial=1.0) < _ALL_BUT_EXACT)
        self.are_few = len(items) <= _FEW and not len(self.at_once.on_pencil) and not exact


class Effort:
    """How much may still be tried to find one figure. A file may hold sightings of which none was
    taken from life: no figure suits them, however long it is looked for."""

    def __init__(self, left: float = math.inf) -> None:
        """``left``: about how often a figure of a dozen sightings may be reckoned (`linear`)."""
        self.left = left

    def spend(self, cost: float) -> None:
        """It is reckoned once more."""
        self.left -= cost

    @property
    def is_spent(self) -> bool:
        """Whether it is as good as it may be."""
        return self.left <= 0.0


@dataclass(frozen=True, eq=False)
class Known:
    """All that is known of a figure: how the marks of its view usually lie, what was sighted of it,
    to what SD the head is one head long, and how long it may be looked for."""

    view: View
    prior: Prior
    items: tuple[Sighting, ...]
    head: float = HEAD_ON_THE_WAY[0]
    effort: Effort = field(default_factory=Effort)

    @cached_property
    def asked(self) -> _Asked:
        """What was sighted, as arrays."""
        return _Asked(self.view, self.items)

    def points(self, at: Floats) -> PointTable:
        """The view's points of (2n,) marks."""
        n = len(self.prior.keys)
        marks = SightMarks(self.prior.keys, at.reshape(n, 2), np.zeros((n, 2, 2)), "head")
        return point_table(self.view, marks, frozenset(self.prior.keys))


def _first_scale(usual: Sighter, items: Sequence[Sighting]) -> float:
    """log(mm a head), as the typical figure would have it."""
    found = [
        math.log(one.value / at.value)
        for one in items
        if one.in_mm and one.value > 0.0
        and (at := usual.on(one)) is not None and at.value > 0.0
    ]  # fmt: skip
    return float(np.median(found)) if found else 0.0


def scale_of(at: Floats) -> float:
    """mm a head."""
    return math.exp(min(max(float(at[-1]), -_MOST_SCALE), _MOST_SCALE))


@lru_cache(maxsize=16)
def prior_of(view: View) -> Prior | NotMeasurable:
    """From the view's typical places, with the plumb mark at 0, 0."""
    typical = typical_of(view.key, view.stance, said=True)
    if typical is None or view.plumb not in typical.row:
        return NotMeasurable(
            f"nothing is known of how the marks of '{view.key}' usually lie, so that no figure "
            "follows from sightings; take a view of a whole figure or a head"
        )
    keys, n = typical.keys, len(typical.keys)
    up = np.tile([1.0, -1.0], n)
    mean = typical.mean.ravel() * up
    cov = typical.cov * np.outer(up, up) + np.eye(2 * n) * _BEYOND[view.size] ** 2
    hung = np.eye(2 * n)
    at = 2 * typical.row[view.plumb]
    hung[0::2, at] -= 1.0
    hung[1::2, at + 1] -= 1.0
    mean, cov = hung @ mean, hung @ cov @ hung.T
    # What hangs at 0, 0 has no doubt; a little of it keeps the matrix regular.
    cov = 0.5 * (cov + cov.T) + np.eye(2 * n) * 1e-12
    starts = (typical.starts.reshape(-1, 2 * n) * up) @ hung.T
    return Prior(keys, mean, cov, np.linalg.inv(np.linalg.cholesky(cov)), starts)


def usable(
    view: View, prior: Prior, sightings: Sequence[Sighting], effort: Effort
) -> tuple[Known, tuple[int, ...], float]:
    """All that is known, the rows of the sightings that can be used, and log(mm a head) to begin
    with."""
    asked = view_asked(view, sightings)
    usual = Sighter(asked, Known(asked, prior, ()).points(prior.mean))
    taken = [
        (row, one)
        for row, one in enumerate(sightings)
        if set(one.points) | set(one.of) <= view.point_rows.keys() and usual.on(one) is not None
    ]
    items = tuple(one for _, one in taken)
    known = Known(asked, prior, items, effort=effort)
    return known, tuple(row for row, _ in taken), _first_scale(usual, items)


def view_asked(view: View, sightings: Sequence[Sighting]) -> View:
    """The view with the measures that were sighted, and no others to be worked out; what was
    sighted that is of none of its measures is one there (`parts_of`)."""
    measures, own = set[str](), dict[str, MeasureSpec]()
    for one in sightings:
        if one.measure in view.measure_rows:
            measures.add(one.measure)
        if one.in_mm or one.measure not in view.measure_rows:
            own |= {part.id: part for part in parts_of(one)}
    parts = [part for part in own.values() if view.point_rows.keys() >= set(part.points)]
    return _only_asked(view, frozenset(measures), tuple(parts))


@lru_cache(maxsize=64)
def _only_asked(view: View, asked: frozenset[str], own: tuple[MeasureSpec, ...]) -> View:
    measures = tuple(spec for spec in view.measures if spec.id in asked)
    return replace(view, measures=measures + own)
