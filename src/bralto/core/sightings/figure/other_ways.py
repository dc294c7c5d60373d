"""Other ways in which limbs may lie than those that were reached first.

A length tells how far a wrist is from its elbow, not to which side. Of a figure that stands arms
and legs hang, of one that sits or lies they may point either way, and the sightings so far may suit
both. Where a whole limb lies in quite another way no small step leads there: it is taken from a
body of another kind.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.study.taken import Sighting, Sort
from bralto.core.views.limb_tree import Limb
from bralto.core.views.model import View

__all__ = ["hanging", "hung_as", "pointing_otherwise", "whole_limbs"]

_HARDLY = 8.0
"""-log of the odds, by the typical places alone, beyond which no limb points the other way."""

_ALIKE = 0.8
"""Heads within which all marks of a limb lie of two bodies that have it alike (chosen: with 0.3 as
much is found on the sitters that were tried, with 1.2 less)."""


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
            moved = hanging(view, keys, limb)
            turned[moved] = 2.0 * about - xy[moved]
            yield turned.ravel()


def whole_limbs(view: View) -> Iterator[Limb]:
    """Arms and legs: what something hangs from, and what hangs from no such limb itself."""
    limbs = {one.key for one in view.limbs if one.work == "limb"}
    hung_from = {one.parent for one in view.limbs}
    for one in view.limbs:
        if one.key in limbs & hung_from and one.parent not in limbs:
            yield one


def hung_as(
    view: View, keys: Sequence[str], limb: Limb, kinds: Floats, at: Floats
) -> Iterator[Floats]:
    """The marks with a limb as each kind of body has it, hung at its own joint.

    Args:
        kinds: (k, 2n) marks of each kind; ``at``, (2n,) the marks.
    """
    row = {key: i for i, key in enumerate(keys)}
    moved = hanging(view, keys, limb)
    if not moved or not row.keys() >= {*limb.root}:
        return
    joint = np.zeros(len(keys))
    joint[[row[key] for key in limb.root]] = limb.weights
    xy, known = at.reshape(-1, 2), [at.reshape(-1, 2)[moved]]
    for kind in kinds.reshape(len(kinds), -1, 2):
        hung = joint @ xy + kind[moved] - joint @ kind
        if min(np.hypot(*(hung - one).T).max() for one in known) > _ALIKE:
            known.append(hung)
            body = xy.copy()
            body[moved] = hung
            yield body.ravel()


def hanging(view: View, keys: Sequence[str], limb: Limb) -> list[int]:
    """Rows of its marks and those of all that hangs from it, among ``keys``; a parent stands before
    its children."""
    of, found = {limb.key}, list(limb.marks)
    for one in view.limbs:
        if one.parent in of:
            of.add(one.key)
            found += one.marks
    row = {key: i for i, key in enumerate(keys)}
    return [row[key] for key in found if key in row]
