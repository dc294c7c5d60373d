"""What the record keeps of a study: its typical miss, its skills and its traits."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.discover.figures import figure_of
from bralto.core.examination.advice import Advised
from bralto.core.examination.assessment import Assessment, Measured
from bralto.core.examination.summary import MissFigure, SkillFigure, Summary
from bralto.core.fit.miss import Miss
from bralto.core.heads.heads_held import heads_of
from bralto.core.longitudinal.skills import skills_of
from bralto.core.longitudinal.traits.joint_fit import JointFit, fit_jointly
from bralto.core.longitudinal.traits.levelled import Levelled, level_out
from bralto.core.longitudinal.traits.study_traits import (
    OF_HEAD,
    SeenDrawn,
    StudyTraits,
    read_traits,
)
from bralto.core.measures.shapes import ShapeReading
from bralto.core.measures.units import Length
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Guess

__all__ = ["Kept", "keep_of"]


@dataclass(frozen=True, slots=True)
class Kept:
    """Of one study. ``traits`` are a reason where there are none: a canon stands in the reference's
    place, there are too few marks, or they cannot be of one figure; then there is no ``levelled``
    drawing either."""

    summary: Summary
    traits: StudyTraits | NotMeasurable
    levelled: Levelled | None


def keep_of(
    measured: Measured, guesses: Sequence[Guess] = (), besides: Sequence[SkillFigure] = ()
) -> Kept:
    """Skills and traits of a measured study.

    Args:
        guesses: what the learner's eye said before any figure was shown.
        besides: what is told without marks of the drawing (`skills_besides`).
    """
    found = measured.assessment
    levelled: Levelled | None = None
    traits: StudyTraits | NotMeasurable
    if measured.on is None:
        traits = NotMeasurable("a canon stands in the reference's place")
    else:
        laid = _joint(measured.on)
        if isinstance(laid, NotMeasurable):
            traits = laid
        else:
            levelled, traits = _traits(measured.on, laid, found)
    shapes = [shape for shape in found.shapes if isinstance(shape, ShapeReading)]
    unit = found.view.unit
    skills = (*skills_of(levelled, shapes, unit), *besides, *_seeing_and_hand(found, guesses))
    summary = Summary(_miss(found.short_miss), _miss(found.miss), skills, unit)
    return Kept(summary, traits, levelled)


def _joint(on: Advised) -> JointFit | NotMeasurable:
    laid = on.laid_out(on.pair, on.fit)
    if isinstance(laid, NotMeasurable):
        return laid
    return fit_jointly(on.view, laid, on.pair.seen.keys[: on.pair.shared], on.grade)


def _traits(
    on: Advised, joint: JointFit, found: Assessment
) -> tuple[Levelled | None, StudyTraits | NotMeasurable]:
    assert isinstance(on.head, Length)  # else nothing could be laid out
    levelled = level_out(on, on.head, joint, found)
    if isinstance(levelled, NotMeasurable):
        return None, levelled
    readings = levelled.by_id()
    as_drawn = {one.spec.id: one for one in found.readings if one.spec.id in readings}
    if joint.in_space.any():
        # A head turned in space takes its cross lines along: they were not straightened.
        still = level_out(on, on.head, joint, found, leaning=True)
        as_drawn = {} if isinstance(still, NotMeasurable) else dict(still.by_id())
    meant = {intent.measure for intent in on.intents}
    return levelled, read_traits(
        joint, on.view, readings, as_drawn, levelled.doubts(), levelled.misses, meant, _in_space(on)
    )


def _in_space(on: Advised) -> dict[str, SeenDrawn]:
    """How far a head is turned, raised and tipped, as it was seen and as it was drawn."""
    if on.solid is None:
        return {}
    pictures = (figure_of(on.view, picture) for picture in on.pictures)
    pair = heads_of(on.solid, *pictures)
    found = {}
    for name, angle in OF_HEAD.items():
        error = pair.error(angle)
        if error is None:
            return {}
        seen, (off, u) = float(on.solid.angles[angle]), error
        # What a sitter is by nature is in both; the rest of the doubt belongs to either by halves.
        own = u / math.sqrt(2.0)
        found[name] = SeenDrawn(seen, seen + off, own, own)
    return found


def _miss(miss: Miss | NotMeasurable) -> MissFigure | NotMeasurable:
    if isinstance(miss, NotMeasurable):
        return miss
    return MissFigure(miss.value, miss.u, miss.limit, miss.marks)


def _seeing_and_hand(found: Assessment, guesses: Sequence[Guess]) -> list[SkillFigure]:
    """How far off the eye was, and how far the hand from what the eye said, in tolerances: guesses
    are of lengths, tilts and fractions alike."""
    seeing, hand, doubts = [], [], []
    for guess in guesses:
        one = found.reading(guess.measure)
        if one is None or one.reference is None or one.drawing is None:
            continue
        seeing.append(abs(guess.value - one.reference) / one.tolerance)
        hand.append(abs(one.drawing - guess.value) / one.tolerance)
        doubts.append((one.u or 0.0) / one.tolerance)
    if not seeing:
        return []
    u = float(np.sqrt(np.square(doubts).sum())) / len(doubts)
    return [
        SkillFigure(name, "tolerance", float(np.mean(sizes)), u, 0.0, len(sizes))
        for name, sizes in (("seeing", seeing), ("hand", hand))
    ]
