"""A plumb line hung from a mark: what crosses it on the reference, and what of that on the drawing.

A learner hangs one line where many points cross it and checks them all against it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from bralto.core.discover.figures import Figure
from bralto.core.discover.lines import SightLine
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import Grade

__all__ = ["Crossing", "crossings", "worst_of"]


@dataclass(frozen=True, slots=True)
class Crossing:
    """One mark near a plumb line.

    Attributes:
        seen, drawn: how far to the viewer's right of the line it stands, heads of its picture;
            ``drawn`` is None where the drawing lacks it or the line's anchor.
        u: standard uncertainty of their difference, heads.
        verdict: one of `Verdict`; more is further to the right.
    """

    key: str
    seen: float
    drawn: float | None
    u: float
    verdict: Verdict


def crossings(
    line: SightLine, seen: Figure, drawn: Figure | NotMeasurable, grade: Grade
) -> tuple[Crossing, ...]:
    """The marks of a plumb line but its anchor, from top to bottom."""
    rows = {key: i for i, key in enumerate(seen.marks.keys)}
    there = (
        {} if isinstance(drawn, NotMeasurable) else {k: i for i, k in enumerate(drawn.marks.keys)}
    )
    out = []
    for key in line.keys:
        if key == line.anchor or key not in rows or line.anchor not in rows:
            continue
        a, b = rows[line.anchor], rows[key]
        offset = float(seen.heads[b, 0] - seen.heads[a, 0])
        variance = float(seen.sd[a] ** 2 + seen.sd[b] ** 2)
        if isinstance(drawn, NotMeasurable) or key not in there or line.anchor not in there:
            out.append(Crossing(key, offset, None, variance**0.5, Verdict.NOT_MEASURED))
            continue
        c, d = there[line.anchor], there[key]
        other = float(drawn.heads[d, 0] - drawn.heads[c, 0])
        u = (variance + float(drawn.sd[c] ** 2 + drawn.sd[d] ** 2)) ** 0.5
        out.append(Crossing(key, offset, other, u, verdict_on(other - offset, u, grade.head)))
    return tuple(out)


def worst_of(found: Sequence[Crossing]) -> Crossing | None:
    """The crossing that strays most from where it was seen, of those that are off."""
    off = [one for one in found if one.verdict.off and one.drawn is not None]
    return max(off, key=lambda one: abs((one.drawn or 0.0) - one.seen), default=None)
