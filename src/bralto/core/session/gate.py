"""The gate before shading: what was checked, what was not, how the drawing came about, and five
questions on how it was made.

It opens by itself never and blocks never: it only says where the proportions stand.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from bralto.core.discover.envelope import EDGES
from bralto.core.examination.assessment import Assessment
from bralto.core.examination.order_of_states import Order, Settled, since
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import Notes
from bralto.core.session.passes import Progress
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import how_many, spread, with_doubt

__all__ = [
    "ANSWERS", "CHECKS", "Finding", "checked", "findings", "next_answer", "not_yet",
    "order_findings",
]  # fmt: skip

ANSWERS = ("yes", "partly", "no")

CHECKS: tuple[tuple[str, str, str], ...] = (
    ("placed", "Was the whole placed before any part?", "big before small"),
    ("measured", "Was each length held against another?", "the head, or one that is known"),
    ("plumb", "Was it checked on a plumb line?", "left and right go astray more"),
    ("gaps", "Were the gaps looked at too?", "a gap has no name to mislead the eye"),
    ("stepped", "Did you step back before the last lines?", "or look in the mirror: fresh eyes"),
)
"""Key, question and why it is asked. Of how the drawing was made, never of how it pleases
(common practice, no source)."""

_MOSTLY = 0.5
"""Share of its lines from which on a drawing is blocked in with straight ones (chosen, no
source)."""

_NAMED = 3
"""Measures of which it is said since when they are off, the worst first."""


@dataclass(frozen=True, slots=True)
class Finding:
    """One line of the gate: ``good`` is True, False, or None where it cannot be told yet."""

    words: str
    good: bool | None
    detail: str = ""


def next_answer(given: str | None) -> str | None:
    """What comes behind an answer when a question is turned: yes, partly, no, none."""
    order = (None, *ANSWERS)
    return order[(order.index(given) + 1) % len(order)] if given in order else ANSWERS[0]


def checked(notes: Notes, state: str) -> tuple[str, ...]:
    """Keys of the questions that were answered for a state."""
    given = notes.answers.get(state, {})
    return tuple(key for key, _, _ in CHECKS if given.get(key) in ANSWERS)


def not_yet(assessment: Assessment) -> str:
    """Why it is too early for light and shadow, or "" where the proportions hold: no shading before
    the likeness (common practice, no source)."""
    if isinstance(assessment.corrections, NotMeasurable):
        return "the marks do not tell yet whether the proportions hold"
    if assessment.doubts:
        return "the marks are in doubt"
    many = len(assessment.corrections)
    if many:
        return f"{how_many(many, 'correction')} would move what you are about to shade"
    return ""


def findings(assessment: Assessment, progress: tuple[Progress, ...]) -> tuple[Finding, ...]:
    """What the marks tell: which passes are open, the worst open error, how many cannot be told."""
    out = []
    for one in progress:
        if one.of.marks and one.of.asked:
            left = one.total - one.done
            detail = "" if not left else f"{how_many(left, 'mark')} to go"
            out.append(Finding(one.of.title, one.complete, detail))
    known, unsure = assessment.told(), len(assessment.unsure())
    off = assessment.off()
    if off:
        worst = off[0]
        times = f"{worst.severity:.1f} times what '{assessment.grade}' allows"
        label = worst.spec.label[:1].upper() + worst.spec.label[1:]
        out.append(Finding(f"{label} is the worst", False, times))
    elif known:
        out.append(Finding("Nothing is off", True, f"by more than '{assessment.grade}' allows"))
    else:
        out.append(Finding("Nothing is measured yet", None, "marks on both boards make measures"))
    if unsure:
        words = f"{unsure} of {len(known)} measures cannot be told"
        out.append(Finding(words, None, "place marks nearer, or take a nearer photo"))
    miss = assessment.short_miss
    if not isinstance(miss, NotMeasurable):
        unit = assessment.view.unit
        words = f"Typical miss {with_doubt(miss.value, COVERAGE * miss.u, 2)} {unit}"
        out.append(Finding(words, None, f"marks alone would give {spread(miss.limit, 2)}"))
    return tuple(out)


def order_findings(
    order: Order, off: Sequence[Reading], straight: tuple[str, float, float] | None
) -> tuple[Finding, ...]:
    """How the drawing was gone about, as its states show it.

    Args:
        off: measures that are off in the last state, the worst first.
        straight: of the state that was blocked in its name, the share of straight lines, and its
            standard uncertainty.
    """
    found = []
    if straight is not None:
        name, share, u = straight
        doubt = COVERAGE * u
        good = None if abs(share - _MOSTLY) <= doubt else share > _MOSTLY
        words = f"Straight lines early: {100.0 * share:.0f} % of '{name}'"
        detail = f"± {spread(100.0 * doubt, 0)}; big angles first, curves once they stand"
        found.append(Finding(words, good, detail))
    settled = order.settled
    if isinstance(settled, Settled) and max(settled.at[edge] for edge in EDGES if edge != "bottom"):
        detail = f"sides stand since '{settled.sides}', the top since '{settled.top}'"
        words = "Sides before top" if settled.sides_first else "The top before the sides"
        found.append(Finding(words, settled.sides_first, detail))
    if len(order.states) > 1:
        for reading in off[:_NAMED]:
            name = since(reading.spec.id, order.states)
            if name:
                label = reading.spec.label[:1].upper() + reading.spec.label[1:]
                found.append(Finding(f"{label}: off since '{name}'", False))
    return tuple(found)
