"""How the masses of a standing figure weigh against each other, and what the pit of the neck does.

Flat, in the picture plane, as `discover.balance` is: a first look, no statics.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.action.sweeps import table_of
from bralto.core.arrays import Floats
from bralto.core.discover.balance import likely_bearing
from bralto.core.discover.figures import Figure
from bralto.core.measures.masses import ENOUGH, mass_weights
from bralto.core.measures.posture import NO_FEET, STANDS, posture
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import Grade

__all__ = ["Weighing", "weighing_of"]


@dataclass(frozen=True, slots=True)
class Weighing:
    """All in heads along level, + to the viewer's right.

    Attributes:
        bears: ``r`` or ``l``, the leg that most likely bears the weight, or ``both``.
        beside: by name how far each big mass stands beside the gravity line, which falls from the
            centre of mass: what goes out on one side is weighed up on the other; empty where too
            little of the body is marked for that.
        pit: how far the plumb from the view's plumb mark misses the heel that bears; None where
            both legs bear, or that heel is not marked.
        hip: how much higher the model's right hip stands than the left, heads; None where they are
            not marked.
        marks: what each of them rests on, by name.
    """

    bears: str
    beside: dict[str, Doubted]
    pit: Doubted | None
    hip: Doubted | None
    marks: dict[str, tuple[str, ...]]


def weighing_of(figure: Figure, grade: Grade) -> Weighing | NotMeasurable:
    """Weigh the masses of one picture's figure."""
    if posture(figure.view, figure.marks) != STANDS:
        return NotMeasurable(NO_FEET)
    table = table_of(figure.view)
    if not table.ribs:
        return NotMeasurable("this view shows no ribcage on a pelvis")
    weights, mass = mass_weights(figure.view, figure.marks.keys)
    at = {key: i for i, key in enumerate(figure.marks.keys)}
    named = {
        "head": figure.view.head,
        "ribcage": table.ribs[:2],
        "pelvis": table.pelvis[:2],
    }
    beside, marks = {}, {}
    for name, keys in named.items():
        if mass >= ENOUGH and set(keys) <= set(at):
            beside[name] = _aside(figure, _mean(at, keys) - weights)
            marks[name] = tuple(keys)
    bears, plumb = likely_bearing(figure, grade), figure.view.plumb
    pit = hip = None
    heel = f"heel_{bears}"
    if {plumb, heel} <= set(at):
        pit = _aside(figure, _mean(at, (plumb,)) - _mean(at, (heel,)))
    if set(table.pelvis[:2]) <= set(at):
        right, left = (_mean(at, (key,)) for key in table.pelvis[:2])
        rise = (right - left) @ figure.heads[:, 1]
        hip = Doubted(float(rise), _doubt(figure, right - left))
    if not beside and pit is None and hip is None:
        return NotMeasurable("nothing of the trunk and the feet is marked")
    return Weighing(bears, beside, pit, hip, marks)


def _mean(at: dict[str, int], keys: tuple[str, ...]) -> Floats:
    """(n,) weights of the mean of some marks."""
    weights = np.zeros(len(at))
    weights[[at[key] for key in keys]] = 1.0 / len(keys)
    return weights


def _aside(figure: Figure, weights: Floats) -> Doubted:
    return Doubted(float(weights @ figure.heads[:, 0]), _doubt(figure, weights))


def _doubt(figure: Figure, weights: Floats) -> float:
    return float(np.sqrt(np.square(weights * figure.sd).sum()))
