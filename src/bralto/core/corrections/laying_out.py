"""Both pictures in the reference's heads, ready for the search for corrections."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.candidates.moves import Candidates, MoveKind
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.fit.similarity import Similarity
from bralto.core.heads.head_in_space import HeadInSpace
from bralto.core.mannequin.in_depth import InDepth
from bralto.core.measures.units import Length
from bralto.core.results import NotMeasurable
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Scale
from bralto.core.terms import School
from bralto.core.views.model import View

__all__ = ["ABOUT", "FEWEST", "Laid", "lay_out"]

ABOUT: dict[MoveKind, str] = {"face": "face", "nod": "face", "tip": "head"}
"""Turns of a head in space, and what they are about."""

FEWEST = 4
"""Marks that both pictures need: three are spent on where and how large the figure is."""


@dataclass(frozen=True, slots=True, eq=False)
class Laid:
    """Both pictures in the reference's heads, and what may have gone wrong between them.

    Attributes:
        candidates: moves of the marks that both have, bound to ``seen``.
        seen, drawn: (n, 2) of these marks. ``sd`` (n,) of placing either, heads.
        unit: drawing units a head.
        whole_scale: whether the size of the whole may be wrong (the sight-size school).
        implied: (2n, 2n) covariance of ``seen`` where sightings imply it, which ``sd`` then leaves
            out; else None.
    """

    candidates: Candidates
    seen: Floats
    drawn: Floats
    sd: Floats
    unit: float
    whole_scale: bool
    implied: Floats | None = None


def lay_out(
    view: View,
    pair: Pair,
    fit: Similarity | NotMeasurable,
    head: Length | NotMeasurable,
    scale: Scale,
    stand: InDepth = InDepth(),  # noqa: B008 - frozen
    solid: HeadInSpace | None = None,
    away: Floats | None = None,
) -> Laid | NotMeasurable:
    """Make two pictures ready for `search.Search`.

    Where the figure lies and, but for the sight-size school, how large it is are no faults. The
    other schools give one list: a head drawn too big is one move under each of them.

    Args:
        stand: where it is known, as of the model, where the landmarks lie before the eye.
        solid: of a head, how it stands in space.
        away: (n, 2) array, heads, how far the shared marks of the reference lie beside a body that
            moves are of, where sightings imply them; None where they are that body's own.
    """
    if pair.shared < FEWEST:
        return NotMeasurable(f"corrections need at least {FEWEST} marks that both pictures have")
    if isinstance(head, NotMeasurable):
        return head
    if isinstance(fit, NotMeasurable):
        return fit
    held = scale.school == School.SIGHT_SIZE
    shared = pair.shared_only()
    size = head.value if held else fit.scale * head.value
    p, q = shared.seen.xy / head.value, shared.drawn.xy / size
    if away is not None:
        p, q = p - away, q - away
    keys = shared.seen.keys
    candidates = moves_for(view, keys, whole_scale=held).bound(p)
    in_space: list[tuple[MoveKind, str, Floats]] = list(stand.moved(keys, p))
    if solid is not None:
        long = solid.unit / head.value
        turning = solid.turning(keys)
        known = [(kind, about) for kind, about in ABOUT.items() if kind in turning]
        in_space += [(kind, about, long * turning[kind]) for kind, about in known]
    if in_space:  # else the kept ones serve, with what was worked out about them
        candidates = candidates.with_depth(in_space)
    joint = shared.seen.joint
    if joint is not None:
        own = np.sqrt(np.einsum("nkk->n", shared.drawn.cov) / 2.0) / size
        return Laid(candidates, p, q, own, size, held, joint / head.value**2)
    return Laid(candidates, p, q, pair.placing_sd() / size, size, held)
