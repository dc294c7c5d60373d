"""How lengths are said: in mm, or in inches with decimals or sixteenths. Files keep mm.

One way is in force for the whole program, as a language would be: `say_in` at its start.
"""

from __future__ import annotations

import re

from bralto.core.words.phrases import plain

__all__ = [
    "INCH", "WAYS", "bare_length", "in_force", "length", "mm_of", "say_in", "short_unit", "size",
]  # fmt: skip

INCH = 25.4
"""mm in an inch (international yard and pound agreement, 1959; exact)."""

WAYS = {"mm": "millimetres", "in": "inches, decimals", "sixteenths": "inches, sixteenths"}
"""Ways to say a length."""

_SIXTEENTHS = 16
_way = "mm"


def say_in(way: str) -> None:
    """Say all lengths in a way of `WAYS` from here on."""
    global _way
    _way = way if way in WAYS else "mm"


def in_force() -> str:
    """The way in which lengths are said."""
    return _way


def short_unit() -> str:
    """The unit as it stands behind a figure."""
    return "mm" if _way == "mm" else "in"


def bare_length(mm: float, decimals: int = 0) -> str:
    """A length without its unit.

    Args:
        decimals: of mm; inches have two more, which is a quarter of a mm for none.
    """
    inches = mm / INCH
    if _way != "sixteenths":
        value, places = (mm, decimals) if _way == "mm" else (inches, decimals + 2)
        return plain(value, places)
    sign, parts = ("−" if inches < 0.0 else ""), round(abs(inches) * _SIXTEENTHS)
    if parts == 0:
        return "0" if abs(mm) < 0.05 else "under 1/16"
    whole, rest = divmod(parts, _SIXTEENTHS)
    of = _SIXTEENTHS
    while rest and rest % 2 == 0:
        rest, of = rest // 2, of // 2
    fraction = f"{rest}/{of}" if rest else ""
    return sign + " ".join(part for part in (str(whole) if whole else "", fraction) if part)


def length(mm: float, decimals: int = 0) -> str:
    """A length with its unit."""
    return f"{bare_length(mm, decimals)} {short_unit()}"


def size(wide: float, high: float, decimals: int = 0) -> str:
    """Two sides with their unit, mm."""
    return f"{bare_length(wide, decimals)} × {length(high, decimals)}"


_TYPED = re.compile(r"(?P<figures>[^a-z\"]*?)\s*(?P<unit>mm|cm|in|inch|inches|\")?")
_UNITS = {"mm": 1.0, "cm": 10.0, "in": INCH, "inch": INCH, "inches": INCH, '"': INCH}


def mm_of(words: str) -> float | None:
    """What was typed, as mm: a figure, or inches and a fraction (*8 1/2*), in the unit that stands
    behind it, else in the one in force; None for anything else."""
    typed = _TYPED.fullmatch(words.replace(",", ".").replace("−", "-").strip().lower())
    if typed is None or not typed["figures"]:
        return None
    try:
        size = 0.0
        for part in typed["figures"].split():
            above, _, below = part.partition("/")
            size += float(above) / float(below) if below else float(above)
    except (ValueError, ZeroDivisionError):
        return None
    in_mm = _UNITS[typed["unit"] or short_unit()] * size
    return in_mm if abs(in_mm) < 1e6 else None
