"""Answers to sightings as a learner says them, read into their values."""

from __future__ import annotations

import math
import re
import unicodedata
from dataclasses import replace

from bralto.core.errors import UserError
from bralto.core.measures.kinds import fold_degrees, wrap_degrees
from bralto.core.study.taken import Sighting, Sort, doubt_of
from bralto.core.views.model import View

__all__ = ["read_value"]

_MIXED = re.compile(r"(?P<whole>\d+(?:\.\d+)?)?\s*(?:(?P<over>\d+)\s*/\s*(?P<under>\d+))?")
_RATIO = re.compile(r"(\d+(?:\.\d+)?)\s*(?::|to)\s*(\d+(?:\.\d+)?)")
_CLOCK = re.compile(r"(half|quarter|five|ten|twenty|twenty-five|\d+)\s+(to|past)\s+\w+")
_TIME = re.compile(r"\d{1,2}:(\d{2})")
_MINUTES = {"half": 30, "quarter": 15, "five": 5, "ten": 10, "twenty": 20, "twenty-five": 25}
_PARTS = re.compile(r"\b(?:(a|one|two|three) )?(half|third|quarter)s?(?: of)?(?: a)?\b")
_MANY = {"a": 1, "one": 1, "two": 2, "three": 3}
_COUNT = ("nought", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
_OF = {"half": 2, "third": 3, "quarter": 4}
_LITTLE = 0.05
"""Heads that *a little* is (chosen here, no source)."""

_ANSWERS = {"yes": 1.0, "y": 1.0, "no": -1.0, "n": -1.0, "alike": 0.0, "same": 0.0, "a": 0.0,
            "=": 0.0}  # fmt: skip


def read_value(view: View, one: Sighting, text: str, *, about: float = 0.0) -> Sighting:
    """The sighting with the value that was said.

    Lengths and fractions: `2.3`, `2,3`, `2 1/3`, `2 and a third`, `2 : 3`, with `less a little` or
    `and a little`; tilts in degrees (`-8`) or by the long hand of a clock (`five to three`,
    `2:55`); beside a plumb or level line `0.2 left`, `above 0.1`, `0`; answers `yes`, `no`,
    `alike`. What `value_said` says of a sighting is read too.

    Args:
        about: degrees; of a line that a clock gives without its ends the way nearer to this.

    Raises:
        UserError: it is none of these.
    """
    said = _tidy(text)
    value = _read(one, said, about)
    if value is None or not math.isfinite(value):
        raise UserError(f"'{text}' is no answer; {_WANTED[one.sort]}")
    most, unit = _most(view, one)
    if abs(value) > most:
        raise UserError(
            f"'{text}' is more than can be, {most:g}{unit} at most; is its point missing?"
        )
    if one.sort is Sort.LENGTH and value <= 0.0:
        raise UserError(f"'{text}': a length is more than nothing")
    found = replace(one, value=value, said=text.strip())
    return replace(found, u=doubt_of(view, found))


_SIGNS = re.compile(r"(?<=\d)(?=[\u00bc-\u00be\u2150-\u215e])")
"""Between a number and a fraction that is one sign: 2\u00bd."""


def _tidy(text: str) -> str:
    """In small letters with single spaces; signs and commas as the rest expects them."""
    plain = unicodedata.normalize("NFKC", _SIGNS.sub(" ", text)).lower()
    plain = plain.replace("\u2212", "-").replace("\u2044", "/")
    return " ".join(re.sub(r"(?<=\d),(?=\d)", ".", plain).split())


def _most(view: View, one: Sighting) -> tuple[float, str]:
    """More than this is a slip of the pencil or of a key, whatever is sighted (chosen here, no
    source), and its unit."""
    if one.sort is Sort.TILT:
        return 360.0, "°"
    if one.sort is Sort.FRACTION or one.of:
        return 20.0, ""
    return (2000.0, " mm") if one.in_mm else (20.0, f" {view.unit}s")


_WANTED = {
    Sort.LENGTH: "say it as 2.3, 2 1/3, 2 : 3 or '4 less a little'",
    Sort.FRACTION: "say it as 1/2, 0.52 or '1/3 and a little'",
    Sort.TILT: "say 'R up 8', '5 up left', '12 left' of plumb, level, plumb, degrees, or the long "
    "hand of a clock: 'five to three'",
    Sort.PLUMB: "say heads and the side: '0.2 left', or 0",
    Sort.LEVEL: "say heads and the side: '0.2 above', or 0",
    Sort.LONGER: "say yes, no or alike",
    Sort.HIGHER: "say yes, no or alike",
    Sort.LEFT: "say yes, no or alike",
}


def _read(one: Sighting, said: str, about: float) -> float | None:
    if one.sort.is_answer:
        return _ANSWERS.get(said)
    if one.sort is Sort.TILT:
        return _read_tilt(said, about)
    if one.sort in {Sort.PLUMB, Sort.LEVEL}:
        ways = {"left": -1.0, "right": 1.0} if one.sort is Sort.PLUMB else {
            "above": -1.0, "below": 1.0}  # fmt: skip
        if said == "on the line":
            return 0.0
        words = said.split()
        if words and words[0] in ways:
            words = [*words[1:], words[0]]
        way = ways.get(words[-1], 0.0) if words else 0.0
        number = _number(" ".join(words[:-1]) if way else said.lstrip("-"))
        sign = way or (-1.0 if said.startswith("-") else 1.0)
        return None if number is None else sign * number
    more = 0.0
    for ending, by in (("less a little", -_LITTLE), ("and a little", _LITTLE)):
        if said.endswith(ending):
            said, more = said.removesuffix(ending).strip(), by
    value = _number(said)
    return None if value is None else value + more


def _number(said: str) -> float | None:
    """A number, a mixed fraction, or a ratio."""
    said = _PARTS.sub(lambda found: f"{_MANY[found[1] or 'a']}/{_OF[found[2]]}", said)
    said = " ".join(str(_COUNT.index(one)) if one in _COUNT else one for one in said.split())
    said = re.sub(r"(\d) and (\d)", r"\1 \2", said)
    if ratio := _RATIO.fullmatch(said):
        return float(ratio[1]) / float(ratio[2]) if float(ratio[2]) else None
    said = said.removesuffix("heads").removesuffix("head").removesuffix("mm").strip()
    if said and (only := re.fullmatch(r"(\d+)\s*/\s*(\d+)", said)):
        return int(only[1]) / int(only[2]) if int(only[2]) else None
    found = _MIXED.fullmatch(said)
    if not said or found is None:
        return None
    value = float(found["whole"] or 0.0)
    if found["under"]:
        if not int(found["under"]):
            return None
        value += int(found["over"]) / int(found["under"])
    return value


def _read_tilt(said: str, about: float) -> float | None:
    said = said.replace("°", "").replace(" degrees", "").strip()
    minutes: float | None = None
    if clock := _CLOCK.fullmatch(said):
        by = _MINUTES.get(clock[1], int(clock[1]) if clock[1].isdigit() else 0)
        minutes = by if clock[2] == "past" else 60 - by
    elif time := _TIME.fullmatch(said):
        minutes = int(time[1])
    if minutes is None:
        if words := _TILTED.fullmatch(said):
            return _by_words(words, about)
        try:
            return float(said)
        except ValueError:
            return None
    # A clock shows a line; which of its ends is which, the figure says.
    return _nearer(fold_degrees(90.0 - 6.0 * minutes), about)


_TILTED = re.compile(
    r"(?P<side>[rl]|right|left) up (?P<up>\d+(?:\.\d+)?)|"
    r"(?P<off>\d+(?:\.\d+)?) (?:off plumb, foot )?(?P<foot>left|right)|(?P<plain>level|plumb)|"
    r"(?P<rise>\d+(?:\.\d+)?) up (?:to your )?(?P<end>left|right)"
)


def _by_words(words: re.Match[str], about: float) -> float:
    """`R up 8` of a line across, `5 up left` of any, `12 left` of one that runs down, its foot to
    your left of its head, `level` or `plumb`."""
    if words["plain"]:
        return _nearer(0.0 if words["plain"] == "level" else 90.0, about)
    if words["rise"]:
        return _nearer(float(words["rise"]) * (1.0 if words["end"] == "right" else -1.0), about)
    if words["off"]:
        off = float(words["off"])
        return wrap_degrees(-90.0 + (off if words["foot"] == "right" else -off))
    up = float(words["up"]) * (-1.0 if words["side"][0] == "r" else 1.0)
    # It runs from the model's right: from your left where the model faces you.
    return up if abs(about) < 90.0 else wrap_degrees(180.0 - up)


def _nearer(line: float, about: float) -> float:
    turned = wrap_degrees(line + 180.0)
    return line if abs(wrap_degrees(line - about)) <= abs(wrap_degrees(turned - about)) else turned
