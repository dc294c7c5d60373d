"""The other way that a limb may point: where its length was sighted and not yet its direction.

A length tells how far a wrist is from its elbow, not to which side. Of a figure that stands arms
and legs hang, of one that sits or lies they may point either way, and the sightings so far may suit
both.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.sightings.taken import Sighting, Sort
from bralto.core.views.model import Limb, View

__all__ = ["pointing_otherwise"]

_HARDLY = 8.0
"""-log of the odds, by the typical places alone, beyond which no limb points the other way."""


def pointing_otherwise(
    view: View,
    keys: Sequence[str],
    usual: tuple[Floats, Floats],
    items: Sequence[Sighting],
    at: Floats,
) -> Iterator[Floats]:
    """The marks with one limb and all that hangs from it turned by half a turn about its joint, for
    each limb that may well point there.

    Args:
        usual: (2n,) mean and (2n, 2n) covariance of the marks before anything is sighted.
        at: (2n,) the marks as the sightings have them.
    """
    row = {key: i for i, key in enumerate(keys)}
    xy = at.reshape(-1, 2)
    long = {p for one in items if one.sort is Sort.LENGTH for p in (*one.points, *one.of)}
    aimed = [set(one.points) for one in items if one.sort is Sort.TILT]
    for limb in view.limbs:
        own = [key for key in limb.marks if key in row]
        if limb.girdle or not own or own[0] not in long or not row.keys() >= {*limb.root}:
            continue
        if any(own[0] in ends and ends & {*limb.root} for ends in aimed):
            continue
        joint = np.zeros(len(at) // 2)
        joint[[row[key] for key in limb.root]] = limb.weights
        about = joint @ xy
        reach = xy[row[own[0]]] - about
        size = float(np.hypot(*reach))
        if size <= 0.0:
            continue
        away = -joint
        away[row[own[0]]] += 1.0
        slope = np.outer(away, reach / size).ravel()
        mean, variance = float(slope @ usual[0]), float(slope @ usual[1] @ slope)
        if variance > 0.0 and 2.0 * size * mean / variance <= _HARDLY:
            turned = xy.copy()
            moved = [row[key] for key in _hanging(view, limb) if key in row]
            turned[moved] = 2.0 * about - xy[moved]
            yield turned.ravel()


def _hanging(view: View, limb: Limb) -> list[str]:
    """Its marks and those of all that hangs from it; a parent stands before its children."""
    of, found = {limb.key}, list(limb.marks)
    for one in view.limbs:
        if one.parent in of:
            of.add(one.key)
            found += one.marks
    return found
