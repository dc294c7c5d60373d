"""Sightings in words: what is asked, how to take it, and values as practitioners say them."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from fractions import Fraction

from bralto.core.errors import UserError
from bralto.core.measures.kinds import fold_degrees, wrap_degrees
from bralto.core.sightings.figure.read_off import HeadChange
from bralto.core.study.taken import Sighting, Sort, doubt_of
from bralto.core.views.model import View
from bralto.core.words.phrases import spread
from bralto.core.words.wording import simple_ratio

__all__ = [
    "Asked", "asked", "doubt_said", "head_change_said", "heads_said", "label_of", "read_value",
    "value_said",
]  # fmt: skip

_PARTS = tuple(Fraction(*pair) for pair in ((0, 1), (1, 4), (1, 3), (1, 2), (2, 3), (3, 4), (1, 1)))
_NEAR = 0.025
"""Heads within which a length is a simple one."""


@dataclass(frozen=True, slots=True)
class Asked:
    """A question in big letters: ``text``, and ``how`` it is sighted."""

    text: str
    how: str


def heads_said(value: float) -> str:
    """`2 1/3`, or `4 less a little`: halves, thirds and quarters as the pencil tells them."""
    sign, size = ("−" if value < 0.0 else ""), abs(value)
    whole = int(size)
    part = min(_PARTS, key=lambda one: abs(whole + float(one) - size))
    near = whole + float(part)
    if part == 1:
        whole, part = whole + 1, Fraction(0)
    said = f"{whole} {part}" if whole and part else f"{part}" if part else f"{whole}"
    if abs(size - near) > _NEAR:
        said += " and a little" if size > near else " less a little"
    return sign + said


def _between(view: View, points: tuple[str, ...]) -> str:
    return " to ".join(view.point_label(key) for key in points)


def label_of(view: View, one: Sighting) -> str:
    """What was sighted, as a list names it."""
    spec = view.measure(one.measure) if one.measure else None
    if spec is not None and spec.kind != "height":
        return f"{spec.label}, tilt" if spec.kind == "tilt" else spec.label
    if one.sort is Sort.LENGTH and one.along == "plumb" and one.points[0] == view.head[0]:
        return view.point_label(one.points[1]) + " from the top"
    if one.sort is Sort.LENGTH:
        said = _between(view, one.points)
        return f"{said} : {_between(view, one.of)}" if one.of else said
    if one.sort is Sort.TILT:
        return f"tilt, {_between(view, one.points)}"
    if one.sort in {Sort.PLUMB, Sort.LEVEL}:
        way = "under" if one.sort is Sort.PLUMB else "level with"
        return f"{view.point_label(one.points[1])} {way} {view.point_label(one.points[0])}"
    if one.sort is Sort.FRACTION:
        return f"{view.point_label(one.points[1])} on {_between(view, one.points[::2])}"
    other = {Sort.LONGER: "longer than", Sort.HIGHER: "higher than", Sort.LEFT: "left of"}[one.sort]
    return f"{_between(view, one.points)} {other} {_between(view, one.of)}"


def head_change_said(found: HeadChange) -> str:
    """What a head that is another on the pencil comes from."""
    return (
        f"The head was {found.before:.0f} mm on the pencil and is {found.now:.0f} now: you stand, "
        "or hold it, otherwise. Carry the lengths over, or sight them again."
    )


def asked(view: View, one: Sighting) -> Asked:
    """The question, without anything that is expected."""
    found = _asked(view, one)
    sided = any(key.endswith(("_r", "_l")) for key in (*one.points, *one.of))
    return Asked(found.text, f"{found.how}; right and left are the model's") if sided else found


def _asked(view: View, one: Sighting) -> Asked:
    def name(key: str) -> str:
        return _spoken(view, key)

    if one.sort is Sort.LENGTH and one.of:
        return Asked(
            f"{_upper(_runs(view, one.points))}: how much of {_runs(view, one.of)}?",
            "thumb at the end of the second, then hold that length along the first",
        )
    if one.sort is Sort.LENGTH:
        unit, across = view.unit, one.along == "level"
        if one.in_mm:
            text = f"How many mm from {_runs(view, one.points)}, on the pencil?"
            return Asked(text, "arm straight, one eye closed, thumb at the end; read the pencil")
        # A head is measured down and across as it stands, however it is tilted.
        down, aside = (
            ("down the head as it is tilted", "across the head as it is tilted") if view.axis else
            ("straight down", "straight across")
        )  # fmt: skip
        if one.along == "plumb" and one.points[0] == view.head[0]:
            text = f"How many {unit}s down {_is_the(name(one.points[1]))}?"
            how = f"{_thumbed(view)}, then step down from the crown"
            return Asked(text, f"{how}, tilted as the head is" if view.axis else how)
        way = f", {aside}" if across else f", {down}" if one.along == "plumb" else ""
        text = f"How many {unit}s from {_runs(view, one.points)}{way}?"
        return Asked(text, f"{_thumbed(view)}, then lay that length along it")
    if one.sort is Sort.TILT:
        first, last = (_the(name(key)) for key in one.points)
        return Asked(
            f"Which way runs the line from {first} to {last}?",
            "lay the pencil along it, keep the arm stiff, carry it over",
        )
    if one.sort is Sort.PLUMB:
        first, last = (_the(name(key)) for key in one.points)
        return Asked(
            f"Hang a plumb line from {first}: how far beside it is {last}?",
            f"let the pencil hang; in {view.unit}s, to your left or right",
        )
    if one.sort is Sort.LEVEL:
        first, last = (_the(name(key)) for key in one.points)
        return Asked(
            f"Hold the pencil level at {first}: how far below it is {last}?",
            f"in {view.unit}s, above or below the pencil",
        )
    if one.sort is Sort.FRACTION:
        upper, lower = (_the(name(key)) for key in one.points[::2])
        way = "across" if _runs_across(view, one) else "down"
        # An arm may hang elsewhere than between the two.
        hangs = view.size == "figure" and one.points[1].endswith(("_r", "_l"))
        return Asked(
            f"Between {upper} and {lower}: how far {way} {_is_the(name(one.points[1]))}?",
            "if it is not between them, take another" if hangs
            else "half, a third, three quarters; step the shorter piece along the longer",
        )  # fmt: skip
    text = {
        Sort.LONGER: f"Is {_runs(view, one.points)} longer than {_runs(view, one.of)}?",
        Sort.HIGHER: f"Is {_the(name(one.points[0]))} higher than {_the(name(one.of[0]))}?"
        if one.of else "",
        Sort.LEFT: f"Is {_the(name(one.points[0]))} left of {_the(name(one.of[0]))}, as you see it?"
        if one.of else "",
    }[one.sort]  # fmt: skip
    return Asked(text, "one eye closed; yes, no, or alike")


def _thumbed(view: View) -> str:
    """How the unit is taken on the pencil; seen from the side it is no upright line."""
    slants = ", along the slant" if view.seen_from == "side" else ""
    return f"thumb at {_the(view.point_label(view.head[1]))}{slants}"


def _runs_across(view: View, one: Sighting) -> bool:
    """Whether what a fraction is counted on runs across the body, and not down it."""
    sides = {key[-2:] for key in one.points[::2]}
    return sides == {"_r", "_l"} or (one.along == "level" and not view.lies)


def _spoken(view: View, key: str) -> str:
    """A point with its side in full, as it is read from afar."""
    label = view.point_label(key)
    side = {"R ": "right ", "L ": "left "}.get(label[:2], "")
    return side + label[2:] if side else label


def _runs(view: View, points: tuple[str, ...]) -> str:
    return " to ".join(_spoken(view, key) for key in points)


def _the(label: str) -> str:
    return f"the {label}"


def _is_the(label: str) -> str:
    """`is the knee`, `are the knees`."""
    many = label.endswith("s") and not label.endswith(("is", "ss")) and " of " not in label
    return f"{'are' if many else 'is'} the {label}"


def _upper(text: str) -> str:
    return text[:1].upper() + text[1:]


def value_said(one: Sighting, *, short: bool = False) -> str:
    """The value in words; ``short``, as in a list: in figures where it is no simple one."""
    value = one.value
    if one.sort is Sort.LENGTH:
        if one.in_mm:
            return f"{value:.1f} mm"
        if short and " " in (said := heads_said(value)) and said.endswith("little"):
            return f"{value:.2f}"
        return simple_ratio(value) if one.of and value > 0.0 else heads_said(value)
    if one.sort is Sort.TILT:
        return _tilt_said(one, short=short)
    if one.sort in {Sort.PLUMB, Sort.LEVEL}:
        if abs(value) < 0.5 * one.u:
            return "on the line"
        ways = ("right", "left") if one.sort is Sort.PLUMB else ("below", "above")
        return f"{abs(value):.2f} {ways[0] if value > 0.0 else ways[1]}"
    if one.sort is Sort.FRACTION:
        return heads_said(value)
    if value == 0.0:
        return "alike"
    return "yes" if value > 0.0 else "no"


_NEARER_LEVEL = 45.0
"""Degrees from level below which a line is told from level, and not from plumb."""


def _tilt_said(one: Sighting, *, short: bool) -> str:
    """`R up 8°` of a line from side to side, `5° up to your right` of another that lies nearer
    level than plumb, `12° off plumb, foot left` of one that runs down."""
    lean = fold_degrees(one.value)
    if abs(lean) < 0.5:
        return "level"
    if one.points[0].endswith("_r") and one.points[1].endswith("_l"):
        right_up = (lean < 0.0) == (abs(wrap_degrees(one.value)) < 90.0)
        return f"{'R' if right_up else 'L'} up {abs(lean):.0f}°"
    if abs(lean) < _NEARER_LEVEL:
        way = "right" if lean > 0.0 else "left"
        return f"{abs(lean):.0f}° up {way}" if short else f"{abs(lean):.0f}° up to your {way}"
    off = fold_degrees(one.value + 90.0)
    if abs(off) < 0.5:
        return "plumb"
    foot = "right" if off > 0.0 else "left"
    return f"{abs(off):.0f}° {foot}" if short else f"{abs(off):.0f}° off plumb, foot {foot}"


def doubt_said(one: Sighting) -> str:
    """`± 0.12`, expanded (k = 2) as everywhere; nothing of an answer."""
    if one.sort.is_answer:
        return ""
    if one.sort is Sort.TILT:
        return f"± {spread(2.0 * one.u, 0)}°"
    return f"± {spread(2.0 * one.u, 0 if one.in_mm else 2)}"


_MIXED = re.compile(r"(?P<whole>\d+(?:\.\d+)?)?\s*(?:(?P<over>\d+)\s*/\s*(?P<under>\d+))?")
_RATIO = re.compile(r"(\d+(?:\.\d+)?)\s*(?::|to)\s*(\d+(?:\.\d+)?)")
_CLOCK = re.compile(r"(half|quarter|five|ten|twenty|twenty-five|\d+)\s+(to|past)\s+\w+")
_TIME = re.compile(r"\d{1,2}:(\d{2})")
_MINUTES = {"half": 30, "quarter": 15, "five": 5, "ten": 10, "twenty": 20, "twenty-five": 25}
_LITTLE = 0.05
"""Heads that *a little* is (chosen here, no source)."""

_ANSWERS = {"yes": 1.0, "y": 1.0, "no": -1.0, "n": -1.0, "alike": 0.0, "same": 0.0, "a": 0.0,
            "=": 0.0}  # fmt: skip


def read_value(view: View, one: Sighting, text: str, *, about: float = 0.0) -> Sighting:
    """The sighting with the value that was said.

    Lengths and fractions: `2.3`, `2 1/3`, `2 : 3`, with `less a little` or `and a little`; tilts in
    degrees (`-8`) or by the long hand of a clock (`five to three`, `2:55`); beside a plumb or level
    line `0.2 left`, `0.1 above`, `0`; answers `yes`, `no`, `alike`.

    Args:
        about: degrees; of a line that a clock gives without its ends the way nearer to this.

    Raises:
        UserError: it is none of these.
    """
    said = " ".join(text.lower().replace("−", "-").split())
    value = _read(one, said, about)
    if value is None or not math.isfinite(value):
        raise UserError(f"'{text}' is no answer; {_WANTED[one.sort]}")
    most, unit = _most(one)
    if abs(value) > most:
        raise UserError(
            f"'{text}' is more than can be, {most:g}{unit} at most; is its point missing?"
        )
    if one.sort is Sort.LENGTH and value <= 0.0:
        raise UserError(f"'{text}': a length is more than nothing")
    found = replace(one, value=value, said=text.strip())
    return replace(found, u=doubt_of(view, found))


def _most(one: Sighting) -> tuple[float, str]:
    """More than this is a slip of the pencil or of a key, whatever is sighted (chosen here, no
    source), and its unit."""
    if one.sort is Sort.TILT:
        return 360.0, "°"
    if one.sort is Sort.FRACTION or one.of:
        return 20.0, ""
    return (2000.0, " mm") if one.in_mm else (20.0, " heads")


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
        words = said.split()
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
            return float(said.removesuffix("°").removesuffix("degrees").strip())
        except ValueError:
            return None
    # A clock shows a line; which of its ends is which, the figure says.
    return _nearer(fold_degrees(90.0 - 6.0 * minutes), about)


_TILTED = re.compile(
    r"(?P<side>[rl]|right|left) up (?P<up>\d+(?:\.\d+)?)|"
    r"(?P<off>\d+(?:\.\d+)?) (?P<foot>left|right)|(?P<plain>level|plumb)|"
    r"(?P<rise>\d+(?:\.\d+)?) up (?P<end>left|right)"
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
