"""What sightings tell, and how they were taken, as lines of words and figures."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import Implied
from bralto.core.sightings.figure.read_off import head_on_paper, on_paper
from bralto.core.sightings.how_sighted import Sense
from bralto.core.sightings.sense_words import bias_words, scatter_words
from bralto.core.sightings.sighting_words import implied_by_said
from bralto.core.sightings.told_skills import Told
from bralto.core.study.taken import Sightings
from bralto.core.tolerances import COVERAGE
from bralto.core.words.lengths import length

__all__ = ["Line", "implied_by", "sense_lines", "told_lines"]


class Line(NamedTuple):
    """A label, a figure in the colour of a ``role``, more ``words``, and the share of a bar."""

    label: str
    figure: str
    words: str = ""
    role: str = "ink"
    share: float | None = None


def told_lines(told: Sequence[Told]) -> tuple[Line, ...]:
    """Skill by skill how surely what was sighted is known, and how much of it was."""
    return tuple(
        Line(one.skill, _doubt(one), "", "ink" if one.sighted >= 0.5 else "ochre", one.sighted)
        for one in told
    )


def _doubt(one: Told) -> str:
    if one.u is None:
        return "not sighted yet"
    if one.unit == "degree":
        return f"± {COVERAGE * one.u:.0f}°"
    if one.unit == "head":
        return f"± {COVERAGE * one.u:.2f} head"
    return f"± {100.0 * COVERAGE * one.u:.0f} %"


def sense_lines(senses: Sequence[Sense]) -> tuple[Line, ...]:
    """Family by family the bias with its interval, and the scatter with its own."""
    return tuple(
        Line(
            f"{one.family}, {one.many}", bias_words(one), scatter_words(one),
            "red" if one.is_biased else "ink",
        )
        for one in senses
    )  # fmt: skip


def implied_by(kept: Sightings, implied: Implied | NotMeasurable, *, on_sheet: str) -> str:
    """How many sightings imply the figure; of sight-size, how large a head is on the paper, which
    ``on_sheet`` says."""
    head = None if isinstance(implied, NotMeasurable) else head_on_paper(implied, on_paper(kept))
    if head is None:
        return implied_by_said(len(kept.items))
    return f"{length(head[0])} a head{on_sheet}"
