"""The short set: the marks that studies are compared by, and the typical miss over them."""

from __future__ import annotations

from collections.abc import Collection, Iterable

from bralto.core.fit.miss import Miss, typical_miss
from bralto.core.measures.units import Length
from bralto.core.results import NotMeasurable
from bralto.core.study.pairing import Pair
from bralto.core.views.model import View

__all__ = ["miss_of", "short_miss", "short_set_of"]

_FEWEST_SHORT = 6
"""Marks of the short set that a cropped figure must still show (chosen here, no source)."""


def short_set_of(
    view: View, placed: Iterable[str], absent: Collection[str] = frozenset()
) -> tuple[str, ...] | NotMeasurable:
    """The short set's marks among those placed, or which one is lacking.

    Args:
        absent: marks of which the learner said that they are not in the picture: the set is cut to
            what can be seen.
    """
    have = frozenset(placed)
    chosen = []
    for alternatives in view.short:
        key = next((k for k in alternatives if k in have), None)
        if key is None and any(k in absent for k in alternatives):
            continue
        if key is None:
            lacking = " or ".join(view.point_label(k) for k in alternatives)
            return NotMeasurable(f"the short set lacks {lacking}")
        chosen.append(key)
    if len(chosen) < min(_FEWEST_SHORT, len(view.short)):
        return NotMeasurable("too little of the short set is in the picture")
    return tuple(chosen)


def short_miss(
    view: View,
    pair: Pair,
    head: Length | NotMeasurable,
    absent: frozenset[str],
    placed: frozenset[str] | None = None,
) -> Miss | NotMeasurable:
    """Typical miss over the short set alone, with a best fit of its own.

    Args:
        placed: marks that count; all that both pictures have where None.
    """
    keys = short_set_of(view, pair.common if placed is None else placed, absent)
    return keys if isinstance(keys, NotMeasurable) else miss_of(pair, keys, head)


def miss_of(
    pair: Pair, keys: tuple[str, ...], head: Length | NotMeasurable
) -> Miss | NotMeasurable:
    """Typical miss over some shared marks, crown and chin among them, on which alone the head
    depends; with a best fit of their own."""
    if isinstance(head, NotMeasurable):
        return head
    some = pair.only(keys)
    fit = some.best_fit()
    if isinstance(fit, NotMeasurable):
        return fit
    rows = [pair.seen.keys.index(key) for key in keys]
    gradient = head.gradient[rows]
    return typical_miss(fit, some.seen.xy, some.seen.doubt, some.drawn.doubt, head.value, gradient)
