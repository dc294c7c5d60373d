"""Typical faults by name, when they occur: an explanation of what the eye does, never a scold.

What they are and why they happen is common practice of teaching, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.intent import limb_measure
from bralto.core.discover.figures import Figure
from bralto.core.discover.life import Life, life_of_pose
from bralto.core.examination.assessment import Assessment
from bralto.core.measures.kinds import fold_degrees
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture
from bralto.core.terms import Visibility
from bralto.core.tolerances import COVERAGE

__all__ = ["TypicalFault", "typical_faults"]

_AWAY = 20.0
"""Degrees from which on a limb counts as away from the torso."""
_LIVELY = 0.9
"""Slope of drawn tilts against seen ones below which a pose counts as straightened."""


@dataclass(frozen=True, slots=True)
class TypicalFault:
    """What happened, and why it happens to many."""

    key: str
    words: str
    why: str


def typical_faults(
    assessment: Assessment,
    corrections: tuple[Correction, ...],
    pictures: tuple[Picture, Picture],
    figures: tuple[Figure | NotMeasurable, Figure | NotMeasurable],
) -> tuple[TypicalFault, ...]:
    """The typical faults that a drawing has.

    Args:
        pictures, figures: reference and drawing.
    """
    found = [
        *_head(corrections),
        *_limbs(assessment, corrections),
        *_low(assessment),
        *_eyes(assessment),
        *_straightened(figures),
        *_heel(pictures),
    ]
    return tuple(found)


def _head(corrections: tuple[Correction, ...]) -> list[TypicalFault]:
    if any(c.part == "head" and c.move == "scale" and c.amount < 0.0 for c in corrections):
        why = "what we look at first and longest grows; half closed eyes make it small again"
        return [TypicalFault("head big", "The head came out large", why)]
    return []


def _limbs(assessment: Assessment, corrections: tuple[Correction, ...]) -> list[TypicalFault]:
    """A limb that reaches away from the torso and is to be made shorter."""
    out = []
    for one in corrections:
        if one.part is None or one.move not in {"scale", "lengthen"} or one.amount >= 0.0:
            continue
        reading = assessment.reading(limb_measure(assessment.view, "tilt", one.part) or "")
        if reading is None or reading.reference is None:
            continue
        # From plumb, or where the torso lies, from level.
        from_level = abs(fold_degrees(reading.reference))
        if (from_level if assessment.view.lies else 90.0 - from_level) > _AWAY:
            limb = next((x for x in assessment.view.limbs if x.key == one.part), None)
            words = f"The {limb.own if limb else one.part} came out long"
            why = "a limb away from the torso is followed outward, piece by piece; measure it whole"
            out.append(TypicalFault(f"long {one.part}", words, why))
    return out


def _low(assessment: Assessment) -> list[TypicalFault]:
    if assessment.view.lies:
        return []  # nothing hangs
    out = []
    crotch = assessment.reading("height.crotch")
    if crotch is not None and crotch.verdict == Verdict.OVER:
        why = "a torso drawn part by part grows on the way; set the half of the whole first"
        out.append(TypicalFault("legs low", "The legs begin too low", why))
    for side, name in (("r", "right"), ("l", "left")):
        ends = [assessment.reading(f"height.{part}_{side}") for part in ("fingertip", "wrist")]
        if any(one is not None and one.verdict == Verdict.OVER for one in ends):
            why = "an arm drawn from the shoulder down sums up its errors in the hand"
            out.append(TypicalFault(f"hand low {side}", f"The {name} hand hangs low", why))
    return out


def _eyes(assessment: Assessment) -> list[TypicalFault]:
    eyes = assessment.reading("fraction.eye_half")
    if eyes is not None and eyes.verdict == Verdict.UNDER:
        why = "the skull above the brow is plain, so the eye gives it less; halve the whole head"
        return [TypicalFault("eyes high", "The eyes sit high", why)]
    return []


def _straightened(
    figures: tuple[Figure | NotMeasurable, Figure | NotMeasurable],
) -> list[TypicalFault]:
    seen, drawn = figures
    if isinstance(seen, NotMeasurable) or isinstance(drawn, NotMeasurable):
        return []
    if isinstance(seen, NotMeasurable) or seen.view.axis:
        return []  # a head has no pose
    life = life_of_pose(seen, drawn)
    if isinstance(life, Life) and life.slope + COVERAGE * life.u < _LIVELY:
        words = f"The pose was straightened: tilts at {100.0 * life.slope:.0f} % of what is seen"
        why = "the mind knows the body as upright; overdo the tilt at first, then take back"
        return [TypicalFault("straightened", words, why)]
    return []


def _heel(pictures: tuple[Picture, Picture]) -> list[TypicalFault]:
    seen, drawn = pictures
    for side, name in (("r", "right"), ("l", "left")):
        key = f"heel_{side}"
        there = key in seen.placed() and seen.marks[key].visibility == Visibility.SEEN
        gone = key in drawn.marks and drawn.marks[key].visibility == Visibility.ABSENT
        if there and gone:
            why = "seen from the front the foot is short and its heel hides behind the ankle"
            return [TypicalFault("heel", f"The {name} heel is missing", why)]
    return []
