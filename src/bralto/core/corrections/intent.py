"""Changes that the learner means: a correction of what was changed on purpose is none."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.corrections.candidates.moves import MoveKind
from bralto.core.corrections.correction_words import Correction
from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.values import Intent
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import MeasureKind, View

__all__ = ["factor_of", "limb_measure", "measures_of", "without_intended"]

_SIZES: frozenset[MoveKind] = frozenset({"scale", "lengthen", "widen"})
_TURNS: frozenset[MoveKind] = frozenset({"turn", "swing", "tilt"})
_LIMBS = {"arm": "upper_arm", "leg": "thigh", "far_arm": "far_upper_arm", "far_leg": "far_thigh",
          "pelvis": "hips", "upper_body": "torso",
          "nostrils": "nose_width", "lips": "mouth", "face_sides": "face_width"}  # fmt: skip
"""Limbs whose measure has another name; all others share theirs."""

_LEVEL = 1.0
"""Degrees of a seen tilt below which no factor of it can be meant."""


def limb_measure(view: View, kind: MeasureKind, limb: str) -> str | None:
    """The measure of that kind (``span`` or ``tilt``) of a limb, or None where there is none."""
    stem, side = limb, ""
    if limb[-2:] in {"_r", "_l"} and limb[:-2] in _LIMBS:
        stem, side = limb[:-2], limb[-2:]
    name = f"{kind}.{_LIMBS.get(stem, stem)}{side}"
    return name if name in view.measure_rows else None


def measures_of(view: View, one: Correction) -> tuple[str, ...]:
    """The measures that a correction changes, so that it can be meant: of a pair one of each side;
    () where there are none."""
    if one.part is None or one.move not in _SIZES | _TURNS:
        return ()
    kind: MeasureKind = "span" if one.move in _SIZES else "tilt"
    found = [limb_measure(view, kind, limb) for limb in _limbs_of(view, one.part)]
    named = tuple(name for name in found if name is not None)
    return named if len(named) == len(found) else ()


def _limbs_of(view: View, part: str) -> list[str]:
    """Keys of the limbs that a correction's part stands for: all that are alike, the trunk's."""
    known = [limb.key for limb in view.limbs]
    alike = [limb.key for limb in view.limbs if part in limb.parts]
    return [part] if part in known or not alike else alike


def factor_of(one: Correction, reading: Reading | None) -> float | None:
    """How large the drawn is against the seen: of a length from the move itself, since a head has
    no error in its own heads; of a tilt from its reading."""
    if one.factor is not None:
        return one.factor
    if reading is None or reading.reference is None or reading.drawing is None:
        return None
    return reading.drawing / reading.reference if abs(reading.reference) > _LEVEL else None


def _as_meant(one: Correction, factor: float, reading: Reading, grade: Grade) -> bool:
    """Whether a correction only takes back what was meant by that factor of a measure."""
    if one.factor is None:
        return reading.verdict in {Verdict.INTENDED, Verdict.WITHIN}
    doubt = COVERAGE * one.u * abs(one.factor - 1.0) / max(abs(one.amount), 1e-9)
    away = abs(one.factor / factor - 1.0) if factor else 1.0
    return away <= max(grade.percent / 100.0, doubt)


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
        names = measures_of(view, one)
        if not names or not all(
            name in meant and _as_meant(one, meant[name], readings[view.measure_rows[name]], grade)
            for name in names
        ):
            kept.append(one)
    return tuple(kept)
