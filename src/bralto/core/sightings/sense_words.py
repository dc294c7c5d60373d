"""How a learner sights, in words."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.sightings.how_sighted import Sense
from bralto.core.words.phrases import signed

__all__ = ["bias_words", "scatter_words", "sighting_check", "sighting_words"]

_WAYS = {
    "lengths": ("too long", "too short"),
    "tilts": ("to the left", "to the right"),
    "plumbs": ("to the right", "to the left"),
    "fractions": ("too low", "too high"),
}


def bias_words(one: Sense) -> str:
    """The bias with its interval, and to which side: *+3.1 ± 1.2 %, too long*."""
    digits = _digits(one)
    unit = one.unit if one.unit == "°" else f" {one.unit}"
    more, less = _WAYS[one.family]
    way = (more if one.bias > 0.0 else less) if one.is_biased else "none told"
    half = 0.5 * (one.high - one.low)
    return f"{signed(one.bias, digits)} ± {half:.{digits}f}{unit}, {way}"


def scatter_words(one: Sense) -> str:
    """The scatter with its interval: *scatter 2.9 (2.2 to 4.1)*."""
    values = (f"{value:.{_digits(one)}f}" for value in (one.scatter, one.least, one.most))
    return "scatter {} ({} to {})".format(*values)


def sighting_words(senses: Sequence[Sense]) -> str:
    """What is surely off over several sitters, in a sentence; "" where nothing was told."""
    if not senses:
        return ""
    sitters = max(one.sitters for one in senses)
    off = [f"{one.family} {bias_words(one)}" for one in senses if one.is_biased]
    fine = [one.family for one in senses if not one.is_biased]
    said = "; ".join(off)
    if fine:
        said += f"{'; ' if off else ''}of {' and '.join(fine)} no bias is told"
    return f"How you sight, {sitters} sitters: {said}."


_CHECKS = {
    "lengths": "hold the thumb on the chin and check the head again before it is stepped down",
    "tilts": "lay the stick along it, then look at the stick alone before it is read",
    "plumbs": "let the pencil hang from two fingers, one eye shut",
    "fractions": "find the half first, and halve again",
}
"""What to look after (common practice, no source)."""


def sighting_check(senses: Sequence[Sense]) -> str:
    """What to look after when sighting: of the family whose bias is told most surely; "" where
    none is."""
    off = [one for one in senses if one.is_biased]
    if not off:
        return ""
    worst = max(off, key=lambda one: abs(one.bias) / (one.high - one.low))
    return f"{worst.family} {bias_words(worst)}: {_CHECKS[worst.family]}"


def _digits(one: Sense) -> int:
    return 2 if one.unit == "head" else 1
