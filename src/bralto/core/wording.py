"""Figures in words: one way to write a value, an error and its uncertainty, everywhere.

No figure without its unit; + is further down, further from plumb, longer, steeper; the minus sign
is the typographic one so that it is as wide as a plus.
"""

from __future__ import annotations

from bralto.core.readings import Reading
from bralto.core.tolerances import COVERAGE

__all__ = ["error_text", "excess_text", "signed", "value_text"]

_WAYS = {
    ("height", ""): ("lower", "higher"),
    ("offset", ""): ("further out", "nearer"),
    ("span", ""): ("longer", "shorter"),
    ("span", "level"): ("wider", "narrower"),
    ("fraction", ""): ("further along", "less far along"),
    ("fraction", "plumb"): ("lower", "higher"),
    ("tilt", ""): ("steeper", "flatter"),
}
"""For more and for less than the reference, by kind and direction."""

_UNIT = {"head": "head", "degree": "°", "fraction": "%"}
_DIGITS = {"head": 2, "degree": 1, "fraction": 1}
_FACTOR = {"head": 1.0, "degree": 1.0, "fraction": 100.0}


def signed(value: float, digits: int) -> str:
    """A number with its sign; nothing rounds to minus nought."""
    text = f"{value:+.{digits}f}"
    if not text.strip("+-0."):
        return text[1:]
    return text.replace("-", "−")


def value_text(reading: Reading, value: float | None) -> str:
    """A value of the reading's measure with its unit."""
    if value is None:
        return "not marked"
    text = f"{value * _FACTOR[reading.unit]:.{_DIGITS[reading.unit]}f}".replace("-", "−")
    return text + _spaced(reading.unit, plural=True)


def error_text(reading: Reading, *, uncertainty: bool = True) -> str:
    """The reading's error with its expanded uncertainty (k = 2); + is more than the reference."""
    if reading.error is None or reading.u is None:
        return "not measured"
    factor, digits = _FACTOR[reading.unit], _DIGITS[reading.unit]
    size = abs(reading.error) * factor
    text = signed(size if reading.more else -size, digits)
    if uncertainty:
        text += f" ± {COVERAGE * reading.u * factor:.{digits}f}"
    return text + _spaced(reading.unit, plural=False)


def excess_text(reading: Reading) -> str:
    """What is off in the trade's words: how far, which way."""
    if reading.error is None:
        return "not measured"
    unit = reading.unit
    amount = f"{abs(reading.error) * _FACTOR[unit]:.{_DIGITS[unit]}f}{_spaced(unit, plural=False)}"
    if reading.note:
        return f"{amount}, {reading.note}"
    more, less = _WAYS.get((reading.spec.kind, reading.spec.along)) or _WAYS[reading.spec.kind, ""]
    if reading.spec.kind == "span" and reading.spec.skill == "widths":
        more, less = _WAYS["span", "level"]
    return f"{amount} {more if reading.more else less}"


def _spaced(unit: str, *, plural: bool) -> str:
    name = _UNIT[unit]
    if name == "°":
        return name
    return f" {name}s" if plural and name == "head" else f" {name}"
