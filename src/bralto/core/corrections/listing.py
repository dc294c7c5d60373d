"""The corrections of one drawing: the marks of both pictures in, a list of moves in words out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.moves import Candidates, compose, moves_for
from bralto.core.corrections.search import Explained, explain
from bralto.core.corrections.wording import Correction, correction
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.units import Length
from bralto.core.pairing import Pair
from bralto.core.results import NotMeasurable
from bralto.core.study import Scale
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["FEWEST", "Laid", "lay_out", "list_corrections"]

_SEEN = 0.01
"""Heads; a mark that a move shifts by less stays where it is."""

FEWEST = 4
"""Marks that both pictures need: three are spent on where and how large the figure is."""


@dataclass(frozen=True, slots=True, eq=False)
class Laid:
    """Both pictures in the reference's heads, and what may have gone wrong between them.

    Attributes:
        seen, drawn: (n, 2) of the marks that both have. ``sd`` (n,) of placing either, heads.
        unit: drawing units a head.
        whole_scale: whether the size of the whole may be wrong (the sight-size school).
    """

    candidates: Candidates
    seen: Floats
    drawn: Floats
    sd: Floats
    unit: float
    whole_scale: bool


def lay_out(
    view: View,
    pair: Pair,
    fit: Similarity | NotMeasurable,
    head: Length | NotMeasurable,
    scale: Scale,
) -> Laid | NotMeasurable:
    """Make two pictures ready for `search.explain`.

    Where the figure lies and, but for the sight-size school, how large it is are no faults. The
    other schools give one list: a head drawn too big is one move under each of them.
    """
    if pair.shared < FEWEST:
        return NotMeasurable(f"corrections need at least {FEWEST} marks that both pictures have")
    if isinstance(head, NotMeasurable):
        return head
    if isinstance(fit, NotMeasurable):
        return fit
    held = scale.school == "sight-size"
    shared = pair.shared_only()
    size = head.value if held else fit.scale * head.value
    candidates = moves_for(view, shared.seen.keys, whole_scale=held)
    p, q = shared.seen.xy / head.value, shared.drawn.xy / size
    return Laid(candidates, p, q, pair.placing_sd() / size, size, held)


def list_corrections(
    view: View,
    pair: Pair,
    fit: Similarity | NotMeasurable,
    head: Length | NotMeasurable,
    scale: Scale,
    grade: Grade,
) -> tuple[Correction, ...] | NotMeasurable:
    """The shortest list of moves, greatest first (measurement, section 7)."""
    laid = lay_out(view, pair, fit, head, scale)
    if isinstance(laid, NotMeasurable):
        return laid
    p, unit = laid.seen, laid.unit
    beside, found = explain(
        laid.candidates, p, laid.drawn, laid.sd, grade.head, whole_scale=laid.whole_scale
    )
    shared = pair.shared_only()
    mm = unit if shared.drawn.unit == "mm" else None
    return tuple(
        replace(
            correction(view, one, p, beside, mm),
            shifts=_shifts(laid.candidates, found, one, p, beside * unit, shared.seen.keys),
        )
        for one in found
    )


def _shifts(
    candidates: Candidates,
    found: Sequence[Explained],
    one: Explained,
    p: Floats,
    unit: float,
    keys: Sequence[str],
) -> dict[str, tuple[float, float]]:
    """How each mark goes once a move is put right and the others are not, in drawing units.

    Args:
        p: (n, 2) array, the reference in heads; ``unit``, drawing units a head.
    """
    order = sorted(found, key=lambda other: candidates.moves.index(other.move))
    rest = [other for other in order if other is not one]
    now, then = (
        compose([m.move for m in moves], [m.parameter for m in moves], p)[0]
        for moves in (order, rest)
    )
    away = unit * (then - now)
    far = np.hypot(away[:, 0], away[:, 1]) > _SEEN * unit
    return {
        key: (float(dx), float(dy))
        for key, (dx, dy), moved in zip(keys, away, far, strict=True)
        if moved
    }
