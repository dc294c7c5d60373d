"""Figures in words: one way to write a value, an error and its uncertainty, everywhere.

No figure without its unit; + is further down, further from plumb, longer, steeper; the minus sign
is the typographic one so that it is as wide as a plus.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from bralto.core.fit.affine import AffineReading
from bralto.core.measures.readings import Reading
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import decimals_beside, how_many, plain, signed, spread, with_doubt

__all__ = [
    "doubt_text",
    "error_text",
    "excess_text",
    "simple_ratio",
    "unit_words",
    "value_text",
    "whole_words",
]

_WAYS = {
    ("height", ""): ("lower", "higher"),
    ("offset", ""): ("further out", "nearer"),
    ("span", ""): ("longer", "shorter"),
    ("span", "level"): ("wider", "narrower"),
    ("ratio", ""): ("more", "less"),
    ("tilt", ""): ("steeper", "flatter"),
    ("angle", ""): ("wider open", "less open"),
    ("balance", ""): ("further from the feet's middle", "nearer to the feet's middle"),
    ("alignment", ""): ("further apart", "nearer"),
}
"""For more and for less than the reference, by kind and direction."""

_SIMPLE = 8
"""The largest number in a simple fraction (measurement, section 4)."""


@dataclass(frozen=True, slots=True)
class _Shape:
    """How figures of a unit are written: factor, digits, and the word behind one and many."""

    factor: float
    digits: int
    one: str
    many: str


_HEADS = _Shape(1.0, 2, " head", " heads")
_DEGREES = _Shape(1.0, 1, "°", "°")
_PERCENT = _Shape(100.0, 1, " %", " %")
_VALUES = {"head": _HEADS, "degree": _DEGREES, "fraction": _PERCENT}
_ERRORS = _VALUES | {"ratio": _PERCENT}


def simple_ratio(value: float) -> str:
    """The nearest ratio of small whole numbers, such as `2 : 3`."""
    # Of a ratio above 1 its inverse is taken, so that no number is larger than `_SIMPLE`.
    near = Fraction(value if value <= 1.0 else 1.0 / value).limit_denominator(_SIMPLE)
    parts = (near.numerator, near.denominator)
    first, second = parts if value <= 1.0 else parts[::-1]
    return f"{first} : {second}"


def value_text(reading: Reading, value: float | None) -> str:
    """A value of the reading's measure with its unit."""
    if value is None:
        return "not marked"
    if reading.unit == "ratio":
        return f"{value:.2f} : 1, about {simple_ratio(value)}"
    shape = _VALUES[reading.unit]
    figure = plain(value * shape.factor, shape.digits)
    return figure + _counted(reading, shape.many)


def error_text(reading: Reading, *, uncertainty: bool = True, unit: bool = True) -> str:
    """The reading's error with its expanded uncertainty (k = 2); + is more than the reference.

    ``unit`` is False only where the unit stands over the whole column.
    """
    if reading.error is None or reading.u is None:
        return "not measured"
    shape = _ERRORS[reading.unit]
    size = abs(reading.error) * shape.factor
    error, doubt = size if reading.more else -size, COVERAGE * reading.u * shape.factor
    text = (
        with_doubt(error, doubt, shape.digits, sign=True)
        if uncertainty
        else signed(error, shape.digits)
    )
    return text + _counted(reading, shape.one) if unit else text


def whole_words(affine: AffineReading) -> str:
    """Width against height and to which side it leans and tilts, as said of *the whole*: what
    stands out from what the marks leave open."""
    wide, u = affine.too_wide_percent, affine.too_wide_percent_u
    said = ["as wide as it should be" + (f" (± {spread(COVERAGE * u, 1)} %)" if u else "")]
    if _tells(wide, u):
        said = [f"{_size(wide, u)} % too {'wide' if wide > 0.0 else 'narrow'} for its height"]
    for degrees, u, what, ways in (
        (affine.verticals_lean_deg, affine.verticals_lean_deg_u, "its verticals lean",
         ("left", "right")),
        (affine.levels_tilt_deg, affine.levels_tilt_deg_u, "its levels rise", ("right", "left")),
    ):  # fmt: skip
        if _tells(degrees, u):
            side = ways[0] if degrees > 0.0 else ways[1]
            said.append(f"{what} {_size(degrees, u)}° to your {side}")
    return ", ".join(said)


def _tells(value: float, u: float) -> bool:
    """Whether it is not nothing to one decimal, and more than its doubt."""
    return abs(value) >= max(0.05, COVERAGE * u)


def _size(value: float, u: float) -> str:
    return with_doubt(abs(value), COVERAGE * u, 1) if u else f"{abs(value):.1f}"


def unit_words(percent: float, many: int, unit: str) -> str:
    """What the unit itself makes of ``many`` figures, being so much longer than all marks say."""
    way, looks = ("long", "short") if percent > 0.0 else ("short", "long")
    return (
        f"Your {unit} is {abs(percent):.0f} % {way}, within what a correction is worth: it makes "
        f"{how_many(many, 'figure')} look{'s' * (many == 1)} {looks}."
    )


def _plain(key: str) -> str:
    """A landmark's key as words."""
    return key.removesuffix("_r").removesuffix("_l").replace("_", " ")


def _counted(reading: Reading, word: str) -> str:
    """The word of the unit, where the view counts in something else than heads."""
    return word.replace("head", reading.spec.counted)


def doubt_text(reading: Reading) -> str:
    """The expanded uncertainty (k = 2) of the reading's error, a bare figure."""
    shape = _ERRORS[reading.unit]
    return spread(COVERAGE * (reading.u or 0.0) * shape.factor, shape.digits)


def excess_text(reading: Reading) -> str:
    """What is off in the trade's words: how far, which way."""
    if reading.error is None:
        return "not measured"
    shape = _ERRORS[reading.unit]
    one = _counted(reading, shape.one)
    digits = decimals_beside(COVERAGE * (reading.u or 0.0) * shape.factor, shape.digits)
    amount = f"{abs(reading.error) * shape.factor:.{digits}f}{one}"
    if reading.note:
        return f"{amount}, {reading.note}"
    if reading.spec.kind == "fraction":
        upper, _, lower = reading.spec.points
        return f"{amount} nearer to the {_plain(lower if reading.more else upper)}"
    more, less = _WAYS.get((reading.spec.kind, reading.spec.along)) or _WAYS[reading.spec.kind, ""]
    if reading.spec.kind == "span" and reading.spec.skill == "widths":
        more, less = _WAYS["span", "level"]
    return f"{amount} {more if reading.more else less}"
