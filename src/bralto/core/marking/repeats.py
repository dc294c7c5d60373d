"""Repeated placings: the learner's own spread, pooled over marks (measurement, section 1)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.results import NotMeasurable

__all__ = ["KINDS", "PooledSpread", "by_kind", "kind_of", "pooled_spread", "together"]


KINDS = ("bony", "end", "soft")
"""Kinds of landmarks, by how they are found: where a bone lies under the skin, where something
ends, where flesh folds or turns (common practice, no source)."""

_BONY = frozenset(
    {
        "ankle", "ankle_in", "ankle_out", "cheek", "elbow", "hip_point", "index_knuckle", "jaw",
        "jaw_angle", "knee", "knuckle", "little_knuckle", "middle_joint", "middle_knuckle",
        "pit_of_neck", "ribcage_base", "ring_knuckle", "sacrum_base", "sacrum_dimple",
        "scapula_corner", "scapula_tip", "shoulder", "sternum_end", "temple", "thumb_knuckle",
        "trochanter", "wrist",
    }
)  # fmt: skip
_ENDS = frozenset(
    {
        "bottom", "chin", "chin_front", "crown", "fingertip", "hair_back", "hair_side", "hair_top",
        "heel", "index_tip", "left", "little_tip", "middle_tip", "nose_tip", "right", "ring_tip",
        "skull_back", "thumb_tip", "toe", "top",
    }
)  # fmt: skip


def kind_of(key: str) -> str:
    """The kind of a landmark, one of `KINDS`."""
    stem = key.removesuffix("_r").removesuffix("_l").removeprefix("near_").removeprefix("far_")
    return "bony" if stem in _BONY else "end" if stem in _ENDS else "soft"


@dataclass(frozen=True, slots=True)
class PooledSpread:
    """Standard deviation of placing a mark, a coordinate, in the unit of the placings.

    Attributes:
        degrees: degrees of freedom that it rests on.
        u: its standard uncertainty, spread / sqrt(2 degrees) (JCGM 100:2008, E.4.3).
    """

    spread: float
    degrees: int
    u: float


def pooled_spread(
    placings: Iterable[Sequence[tuple[float, float]]],
) -> PooledSpread | NotMeasurable:
    """Pool the scatter of marks that were placed several times, each about its own mean.

    Args:
        placings: for each mark its placings (x, y); a mark that was placed once says nothing.

    Both coordinates count alike: s^2 = sum of squares / (2 sum of (n - 1)).
    """
    squares, degrees = 0.0, 0
    for one in placings:
        xy = np.asarray(one, dtype=np.float64).reshape(-1, 2)
        if len(xy) > 1:
            squares += float(np.square(xy - xy.mean(axis=0)).sum())
            degrees += 2 * (len(xy) - 1)
    if not degrees:
        return NotMeasurable("the spread wants at least one mark that was placed twice")
    spread = math.sqrt(squares / degrees)
    return PooledSpread(spread, degrees, spread / math.sqrt(2.0 * degrees))


def by_kind(
    placings: Mapping[str, Sequence[tuple[float, float]]], unit: float
) -> dict[str, PooledSpread]:
    """The scatter of each kind of landmark that was placed several times.

    Args:
        placings: by landmark.
        unit: what to divide by: the head in px, so that it holds for other pictures.
    """
    out = {}
    for kind in KINDS:
        found = pooled_spread(at for key, at in placings.items() if kind_of(key) == kind)
        if isinstance(found, PooledSpread):
            spread = found.spread / unit
            out[kind] = PooledSpread(spread, found.degrees, found.u / unit)
    return out


def together(
    known: Mapping[str, tuple[float, int]], found: Mapping[str, PooledSpread]
) -> dict[str, tuple[float, int]]:
    """Spreads of one hand by kind with their degrees of freedom: what was known and what was found,
    pooled by their degrees."""
    out = dict(known)
    for kind, one in found.items():
        spread, degrees = out.get(kind, (0.0, 0))
        squares = degrees * spread**2 + one.degrees * one.spread**2
        both = degrees + one.degrees
        out[kind] = (math.sqrt(squares / both), both)
    return out
