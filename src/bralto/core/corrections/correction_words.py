"""Moves in the trade's words: what to do on the sheet, how much, and what it takes away."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.candidates.moves import Move, MoveKind
from bralto.core.corrections.explained import Explained
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import MeasureKind, MeasureSpec, View
from bralto.core.words.lengths import length
from bralto.core.words.phrases import decimals_beside, spread

__all__ = ["Correction", "correction"]

_MINOR = 0.25
"""A component of a shift smaller than this share of the other is not worth a word."""

_ALIKE = 1.05
"""Both sides of a pair are set with one pair of dividers where neither is seen longer than this
times the other (chosen here, no source)."""


@dataclass(frozen=True, slots=True)
class Correction:
    """What to do to the drawing.

    Attributes:
        move: one of `moves.MOVES`.
        part: key of a limb or mark; None for the whole figure.
        amount: by how much, in ``unit``: + is longer, larger, wider, counter-clockwise.
        unit: the view's (``head``, of the reference), ``degree`` or ``percent``.
        mm: the same on the sheet (of an angle: how far the far end travels), where it is known.
        u: standard uncertainty of the amount from the placing of the marks.
        share: of the error that it takes away; the shares of a list add up.
        divider_mm: for a size, what the dividers must span on the sheet when it is right.
        across, up: for a shift, its components in heads, to the viewer's right and up.
        words: what to do; ``doubt`` is how sure that is, which the text puts in brackets.
        text: the whole in words.
        shifts: for each mark that it moves, how far to the right and up once what stands before
            it on the list is put right, in the units of the drawing's sight frame (mm where its
            sheet is known, else px).
        factor: for a size, how large it was drawn against what was seen.
        check: id of the measure that bears it out; ``check_words``, that measure in words.
        greatest: whether none on its list has a larger share.
        together: numbers of the corrections of its list, from 1, whose amounts hold only together
            with this one's; ``together_words`` says so.
    """

    move: MoveKind
    part: str | None
    amount: float
    unit: str
    mm: float | None
    u: float
    share: float
    divider_mm: float | None
    across: float | None
    up: float | None
    words: str
    doubt: str
    text: str
    shifts: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    factor: float | None = None
    check: str | None = None
    check_words: str = ""
    greatest: bool = False
    together: tuple[int, ...] = ()
    together_words: str = ""


def correction(
    view: View,
    found: Explained,
    p: Floats,
    scale: float,
    mm_per_head: float | None,
    check: MeasureSpec | None = None,
) -> Correction:
    """Say one move that was found as what to do about it, and by what to check it.

    Args:
        found: how the drawing differs from the reference.
        p: (n, 2) array, the reference in heads, sight frame (y up).
        scale: drawing heads a reference head, beside the moves.
        mm_per_head: mm on the sheet a drawing head, or None where the sheet is not known.
        check: the measure that bears it out.
    """
    made = _correction(view, found, p, scale, mm_per_head)
    if found.tied:
        others = " and ".join(_named(move) for move in found.tied)
        words = f"Its size holds only together with that of {others}"
        made = replace(made, together_words=words, text=f"{made.text}. {words}")
    if check is None:
        return made
    label = check.label.removesuffix(", level")
    against = "{label}" if label == view.sized_by else _CHECKED.get(check.kind, "{label}")
    words = against.format(label=label, whole=view.sized_by)
    text = f"{made.text}. Check: {words}"
    return replace(made, check=check.id, check_words=words, text=text)


_CHECKED: dict[MeasureKind, str] = {
    "span": "{label} against the {whole}",
    "height": "the height of the {label}",
    "tilt": "the tilt of the {label}",
}
"""A measure as what to hold against what, by its kind; of the others the label says it."""


def _drawn_at(theta: float) -> float:
    """By what factor the whole was drawn; of one that was drawn without any width, a sliver."""
    return 1.0 + theta if abs(1.0 + theta) > _SLIVER else math.copysign(_SLIVER, 1.0 + theta)


_SLIVER = 0.01


def _correction(
    view: View, found: Explained, p: Floats, scale: float, mm_per_head: float | None
) -> Correction:
    move, theta = found.move, float(found.parameter[0])
    u = math.sqrt(max(0.0, float(found.covariance[0, 0])))
    mm = None if mm_per_head is None else scale * mm_per_head
    if move.kind == "shift":
        return _shift(view, found, mm)
    if move.kind == "straighten":
        return _straightened(found, theta, u)
    if move.kind == "eye":
        return _from_another_eye(found, theta, u)
    if move.kind == "twist":
        return _untwisted(found, theta, u, mm)
    if move.kind in _TURNS_IN_SPACE:
        return _turned_in_space(found, theta, u, mm)
    if move.part is None and move.kind in {"scale", "stretch"}:
        extent = np.ptp(p[:, 0]) if move.kind == "stretch" else np.ptp(p[:, 1])
        ways = ("wider", "narrower") if move.kind == "stretch" else ("larger", "smaller")
        by = None if mm is None else -theta * float(extent) * mm
        return _by_percent(found, f"Make the {move.label}", ways, u, by)
    if move.kind in {"scale", "lengthen", "widen"}:
        return replace(_resized(view, found, p, mm, u), factor=1.0 + theta)
    size = float(np.mean(move.sizes_at(p)))
    amount, u_degrees = math.degrees(-theta), math.degrees(u)
    if move.kind == "lean":
        amount = math.degrees(math.atan(theta))
    reach = size if move.part is not None else float(np.ptp(p[:, 1]))
    by = None if mm is None else 2.0 * math.sin(math.radians(abs(amount)) / 2.0) * reach * mm
    words = _turn(view, move, amount, p)
    doubt = f"± {_degrees(_wide(u_degrees))}" + ("" if by is None else f", {length(by)} at the end")
    return _made(found, amount, "degree", by, u_degrees, words, doubt)


def _by_percent(
    found: Explained, start: str, ways: tuple[str, str], u: float, by: float | None, also: str = ""
) -> Correction:
    """A size as a share of what is drawn; ``by``, mm on the sheet; ``also``, more in the doubt."""
    drawn = _drawn_at(float(found.parameter[0]))
    amount, doubt = 100.0 * (1.0 / drawn - 1.0), 100.0 * u / drawn**2
    said = f"{abs(amount):.{decimals_beside(_wide(doubt), 0)}f} %"
    words = f"{start} {said} {_way(amount, ways)}"
    doubtful = f"± {spread(_wide(doubt), 0)} %{also}"
    return _made(found, amount, "percent", by, doubt, words, doubtful)


def _resized(view: View, found: Explained, p: Floats, mm: float | None, u: float) -> Correction:
    """A part, or several alike, longer, larger or wider, or two things further apart; as a share
    where no one length is its size: two sides are not seen alike long, or it grows on all sides."""
    move, theta = found.move, float(found.parameter[0])
    limb = next(one for one in view.limbs if move.part in one.parts)
    ways = ("larger", "smaller") if limb.grows == "larger" else ("longer", "shorter")
    start = f"Make {_named(move)}"
    if move.kind == "widen" and limb.apart:
        start, ways = f"Set the {limb.apart}", ("further apart", "nearer")
    elif move.kind == "widen":
        ways = ("wider", "narrower")
    sizes = move.sizes_at(p)
    size, uneven = sum(sizes) / len(sizes), max(sizes) > _ALIKE * min(sizes)
    amount, u_heads = -theta * size, u * size
    by = None if mm is None else amount * mm
    if uneven or (limb.grows == "larger" and not limb.span):
        ends = (theta * each for each in (min(sizes), max(sizes)))
        least, most = (_length(x, u_heads, mm and x * mm, view.unit) for x in ends)
        also = f", {least.rpartition(' ')[0]} to {most}" if uneven else ""
        return _by_percent(found, start, ways, u, by, also)
    words = f"{start} {_length(amount, u_heads, by, view.unit)} {_way(amount, ways)}"
    doubt, divider = _doubt(amount, u_heads, by, view.unit), None if mm is None else size * mm
    return _made(found, amount, view.unit, by, u_heads, words, doubt, divider)


def _degrees(size: float) -> str:
    """Tenths where whole degrees would say nothing."""
    return f"{spread(size, 1)}°" if size < 3.0 else f"{size:.0f}°"


def _wide(u: float) -> float:
    return COVERAGE * u


def _way(amount: float, ways: tuple[str, str]) -> str:
    return ways[0] if amount > 0.0 else ways[1]


def _length(heads: float, u: float, mm: float | None, unit: str) -> str:
    """On the sheet; else in the view's unit, as far as it is known."""
    if mm is not None:
        return length(abs(mm))
    return f"{abs(heads):.{decimals_beside(_wide(u), 2)}f} {unit}"


def _doubt(heads: float, u: float, mm: float | None, unit: str) -> str:
    doubt = f"± {spread(_wide(u), 2)}"
    return doubt if mm is None else f"{_length(heads, u, None, unit)}, {doubt}"


def _named(move: Move) -> str:
    return f"both {move.label}" if move.both and move.kind != "shift" else f"the {move.label}"


def _turn(view: View, move: Move, degrees: float, p: Floats) -> str:
    """Clockwise and counter-clockwise are as seen on the sheet."""
    size = _degrees(abs(degrees))
    if move.kind == "lean":
        lean, back = ("right", "left") if degrees > 0.0 else ("left", "right")
        return (
            f"Lean the {move.label} {size} more to your {back}: against what is seen it leans to "
            f"your {lean}"
        )
    way = "counter-clockwise" if degrees > 0.0 else "clockwise"
    if move.kind != "tilt":
        return f"Turn the {move.label} {size} {way}"
    limb = next(one for one in view.limbs if one.key == move.part)
    middle = 0.5 * (move.ends[0] @ p + move.ends[1] @ p)
    rises = degrees * float((move.ends[0] @ p - middle)[0]) > 0.0
    up = limb.span[0] if rises else limb.span[1]
    return f"Tilt the {move.label} {size} {way}, {view.point_label(up)} up"


def _straightened(found: Explained, theta: float, u: float) -> Correction:
    """How much of every lean is lacking, in percent of what is seen."""
    amount, doubt = 100.0 * theta, 100.0 * u
    drawn = 100.0 * (1.0 - theta)
    if theta > 0.0:
        words = f"Give the pose back its leans: they are drawn at {drawn:.0f} % of what is seen"
    else:
        words = f"Calm the pose: its leans are drawn at {drawn:.0f} % of what is seen"
    return _made(found, amount, "percent", None, doubt, words, f"± {spread(_wide(doubt), 0)} %")


def _untwisted(found: Explained, theta: float, u: float, mm: float | None) -> Correction:
    """How much of every twist is lacking, in percent of what is seen."""
    amount, doubt = 100.0 * theta, 100.0 * u
    drawn = 100.0 * (1.0 - theta)
    what = found.move.label
    way = f"Twist {what} further" if theta > 0.0 else f"Untwist {what}"
    words = f"{way} against the pelvis: {drawn:.0f} % of what is seen is drawn"
    by, reach = _farthest(found, theta, mm)
    said = f"± {spread(_wide(doubt), 0)} %{reach}"
    return _made(found, amount, "percent", by, doubt, words, said)


def _farthest(found: Explained, theta: float, mm: float | None) -> tuple[float | None, str]:
    """By how many mm a move in space takes the mark that goes farthest, and that in words."""
    assert found.move.ways is not None
    if mm is None:
        return None, ""
    by = abs(theta) * float(np.hypot(*found.move.ways[0].T).max()) * mm
    return by, f", {length(by)} at most"


def _from_another_eye(found: Explained, theta: float, u: float) -> Correction:
    """From how much higher or lower than it was seen it is drawn, heads."""
    way, less = ("lower", "less") if theta > 0.0 else ("higher", "more")
    words = f"Draw it as from {abs(theta):.1f} heads {way}: let what is nearer fall {less}"
    return _made(found, -theta, "head", None, u, words, f"± {spread(COVERAGE * u, 1)} heads")


_TURNS_IN_SPACE: dict[MoveKind, tuple[str, str, str]] = {
    "face": ("to your right", "to your left", "what is nearer goes that way"),
    "nod": ("up", "down", "what is nearer goes {way}, the back of the head goes {other}"),
    "tip": ("right", "left", ""),
}
"""By move: the ways of more and of less, and what goes along with it."""


def _turned_in_space(found: Explained, theta: float, u: float, mm: float | None) -> Correction:
    """By how much a head is turned, raised or tipped otherwise than it was seen."""
    amount, doubt = math.degrees(-theta), math.degrees(u)
    ways = _TURNS_IN_SPACE[found.move.kind]
    way, other = ways[:2] if amount > 0.0 else ways[1::-1]
    how = ways[2].format(way=way, other=other)
    size = _degrees(abs(amount))
    words = {
        "face": f"Turn the face {size} more {way}: {how}",
        "nod": f"{'Lift' if amount > 0.0 else 'Drop'} the chin {size}: {how}",
        "tip": f"Tip the head {size} more towards its {way} shoulder",
    }[found.move.kind]
    by, reach = _farthest(found, theta, mm)
    return _made(found, amount, "degree", by, doubt, words, f"± {_degrees(_wide(doubt))}{reach}")


def _shift(view: View, found: Explained, mm: float | None) -> Correction:
    assert found.move.ways is not None
    across, up = (-float(value) for value in found.parameter @ found.move.ways)
    amount = math.hypot(across, up)
    direction = -found.parameter / np.linalg.norm(found.parameter)
    u = math.sqrt(max(0.0, float(direction @ found.covariance @ direction)))
    ways = []
    for value, names in ((up, ("up", "down")), (across, ("to your right", "to your left"))):
        if abs(value) >= _MINOR * max(abs(across), abs(up)):
            by = None if mm is None else value * mm
            ways.append(f"{_length(value, u, by, view.unit)} {_way(value, names)}")
    by = None if mm is None else amount * mm
    words = f"Move the {found.move.label} {' and '.join(ways)}"
    doubt = _doubt(amount, u, by, view.unit)
    made = _made(found, amount, view.unit, by, u, words, doubt)
    return replace(made, across=across, up=up)


def _made(
    found: Explained,
    amount: float,
    unit: str,
    mm: float | None,
    u: float,
    words: str,
    doubt: str,
    divider: float | None = None,
) -> Correction:
    share = f"takes away {100.0 * found.share:.0f} %"
    set_to = "" if divider is None else f"; dividers to {length(divider)}"
    return Correction(
        move=found.move.kind,
        part=found.move.part,
        amount=amount,
        unit=unit,
        mm=mm,
        u=u,
        share=found.share,
        divider_mm=divider,
        across=None,
        up=None,
        words=words,
        doubt=doubt,
        text=f"{words} ({doubt}): {share}{set_to}",
    )
