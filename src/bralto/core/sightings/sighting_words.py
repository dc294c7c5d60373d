"""Sightings in words: what is asked, how to take it, and values as practitioners say them."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from bralto.core.measures.kinds import fold_degrees, wrap_degrees
from bralto.core.sightings.figure.read_off import HeadChange
from bralto.core.study.taken import Sighting, Sort
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import View
from bralto.core.words.phrases import how_many, plain, signed, spread, with_doubt
from bralto.core.words.wording import simple_ratio

__all__ = [
    "NOTHING_SIGHTED", "Asked", "asked", "doubt_said", "error_said", "head_change_said",
    "heads_said", "implied_by_said", "label_of", "value_said",
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
    """`2 1/3`, or `4 less a little`: halves, thirds and quarters as the pencil tells them; in
    figures what is so short that the nearest of these is nothing."""
    sign, size = ("−" if value < 0.0 else ""), abs(value)
    whole = int(size)
    part = min(_PARTS, key=lambda one: abs(whole + float(one) - size))
    near = whole + float(part)
    if part == 1:
        whole, part = whole + 1, Fraction(0)
    said = f"{whole} {part}" if whole and part else f"{part}" if part else f"{whole}"
    if near == 0.0:
        return plain(value, 2) if size > _NEAR else "0"
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


NOTHING_SIGHTED = "nothing sighted yet"


def implied_by_said(many: int) -> str:
    """By how much a figure is known that sightings imply."""
    if not many:
        return NOTHING_SIGHTED
    return f"as {how_many(many, 'sighting')} impl{'ies' if many == 1 else 'y'} it"


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
        return f"± {spread(COVERAGE * one.u, 0)}°"
    return f"± {spread(COVERAGE * one.u, 0 if one.in_mm else 2)}"


def error_said(one: Sighting, error: float, u: float | None = None) -> str:
    """Drawn less sighted: `+0.35 ± 0.12`, `−3 ± 4°` of a tilt, `+12 %` of a length that is counted
    in another; ``u`` is its standard uncertainty."""
    factor, digits, unit = 1.0, 2, ""
    if one.sort is Sort.TILT:
        digits, unit = 0, "°"
    elif one.of:
        factor, digits, unit = 100.0, 0, " %"
    if u is None:
        return signed(factor * error, digits) + unit
    return with_doubt(factor * error, COVERAGE * factor * u, digits, sign=True) + unit
