"""What the measures of a view are, and what may have to be said of each."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.measures.table import LENGTH_KINDS
from bralto.core.measures.verdict import tolerance_of
from bralto.core.tolerances import Grade
from bralto.core.views.model import MeasureKind, View

__all__ = [
    "UNITS",
    "Kinds",
    "kinds_of",
]

UNITS: dict[MeasureKind, str] = {
    "height": "head",
    "offset": "head",
    "span": "head",
    "fraction": "fraction",
    "ratio": "ratio",
    "tilt": "degree",
    "angle": "degree",
    "alignment": "head",
    "balance": "head",
}
"""Unit of each kind. A fraction runs from 0 at the upper end to 1 at the lower; the error of a
ratio is relative, drawing / reference - 1."""


@dataclass(frozen=True, slots=True)
class _Notes:
    """What may have to be said of a measure: why it has no percentage, and what a sign means."""

    no_percent: str
    crossed: str


@dataclass(frozen=True, slots=True)
class Kinds:
    """(m,) arrays of what a view's measures are.

    Attributes:
        lengths, ratios, tilts: kinds of those names.
        turning: directions and angles, whose errors are wrapped.
        signed: values with a sign that the drawing may turn, tilts apart.
        shares: fractions and ratios; ``compared``, lengths that have a percentage.
        heads, degrees, parts: in which of a grade's tolerances each is held.
    """

    lengths: Bools
    ratios: Bools
    tilts: Bools
    turning: Bools
    signed: Bools
    shares: Bools
    compared: Bools
    notes: tuple[_Notes, ...]
    kinds: tuple[MeasureKind, ...]

    def tolerances(self, grade: Grade) -> Floats:
        """(m,) array, each measure's tolerance in its own unit."""
        by_kind = {kind: tolerance_of(kind, grade) for kind in UNITS}
        return np.array([by_kind[kind] for kind in self.kinds])


@lru_cache
def kinds_of(view: View) -> Kinds:
    """All of a view."""

    def of(kinds: Collection[str]) -> Bools:
        return np.array([spec.kind in kinds for spec in view.measures], dtype=np.bool_)

    notes = {
        kind: _Notes(
            f"a percentage says nothing of {_ARTICLE[kind]}"
            if kind in _ARTICLE
            else "a percentage of nothing: the reference's value is 0",
            _CROSSED.get(kind, ""),
        )
        for kind in UNITS
    }
    return Kinds(
        lengths=of(LENGTH_KINDS),
        ratios=of({"ratio"}),
        tilts=of({"tilt"}),
        turning=of({"tilt", "angle"}),
        signed=of(_CROSSED.keys() - {"tilt"}),
        shares=of({"fraction", "ratio"}),
        compared=of(UNITS.keys() - _ARTICLE.keys() - {"fraction", "ratio"}),
        notes=tuple(notes[spec.kind] for spec in view.measures),
        kinds=tuple(spec.kind for spec in view.measures),
    )


_ARTICLE = {
    "tilt": "a tilt",
    "offset": "an offset",
    "angle": "an angle",
    "alignment": "an alignment",
    "balance": "a balance",
}

_CROSSED = {
    "tilt": "leans to the other side",
    "offset": "on the other side of the plumb line",
    "alignment": "on the other side",
    "angle": "opens to the other side",
    "balance": "falls to the other side",
}
"""What is said of a signed value whose sign the drawing has turned."""
