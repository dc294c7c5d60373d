"""Changes that the learner means: a correction of what was changed on purpose is none."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.corrections.wording import Correction
from bralto.core.readings import Reading
from bralto.core.study import Intent
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import View

__all__ = ["factor_of", "limb_measure", "measure_of", "without_intended"]

_SIZES = frozenset({"scale", "lengthen", "widen"})
_TURNS = frozenset({"turn", "swing", "tilt"})
_LIMBS = {"arm": "upper_arm", "leg": "thigh", "pelvis": "hips", "upper_body": "torso",
          "nostrils": "nose_width", "lips": "mouth", "face_sides": "face_width"}  # fmt: skip
"""Limbs whose measure has another name; all others share theirs."""

_LEVEL = 1.0
"""Degrees of a seen tilt below which no factor of it can be meant."""


def limb_measure(view: View, kind: str, limb: str) -> str | None:
    """The measure of that kind (``span`` or ``tilt``) of a limb, or None where there is none."""
    stem, side = limb, ""
    if limb[-2:] in {"_r", "_l"} and limb[:-2] in _LIMBS:
        stem, side = limb[:-2], limb[-2:]
    name = f"{kind}.{_LIMBS.get(stem, stem)}{side}"
    return name if name in view.measure_rows else None


def measure_of(view: View, one: Correction) -> str | None:
    """The measure that a correction changes, so that it can be meant; None where there is none."""
    if one.part is None or one.move not in _SIZES | _TURNS:
        return None
    return limb_measure(view, "span" if one.move in _SIZES else "tilt", one.part)


def factor_of(one: Correction, reading: Reading | None) -> float | None:
    """How large the drawn is against the seen: of a length from the move itself, since a head has
    no error in its own heads; of a tilt from its reading."""
    if one.factor is not None:
        return one.factor
    if reading is None or reading.reference is None or reading.drawing is None:
        return None
    return reading.drawing / reading.reference if abs(reading.reference) > _LEVEL else None


def without_intended(
    view: View,
    found: Sequence[Correction],
    intents: Sequence[Intent],
    readings: Sequence[Reading],
    grade: Grade,
) -> tuple[Correction, ...]:
    """The corrections that are left once what was meant is taken as right.

    A length that was meant larger, but was drawn larger still, stays; it counts as meant within
    the grade's percent or what the marks can tell.
    """
    meant = {intent.measure: intent.factor for intent in intents}
    kept = []
    for one in found:
        name = measure_of(view, one)
        if name is not None and name in meant:
            if one.factor is not None:
                doubt = COVERAGE * one.u * abs(one.factor - 1.0) / max(abs(one.amount), 1e-9)
                away = abs(one.factor / meant[name] - 1.0) if meant[name] else 1.0
                if away <= max(grade.percent / 100.0, doubt):
                    continue
            elif readings[view.measure_rows[name]].verdict in {"intended", "within"}:
                continue
        kept.append(one)
    return tuple(kept)
