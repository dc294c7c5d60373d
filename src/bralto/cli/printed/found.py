"""What `bralto find` tells, as lines of text."""

from __future__ import annotations

from typing import Any

from bralto.core.discover.balance import Balance
from bralto.core.discover.life import Life
from bralto.core.discover.likeness import likeness_words
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import View
from bralto.core.words.phrases import signed, spread, with_doubt

__all__ = ["found_lines"]

_FORM = 0.05
"""Forms that differ by less than this share are not worth a line (common practice, no source)."""


_ASLANT, _SHORTER = 20.0, 0.94
"""Degrees out of the picture plane beyond which a known length is worth a line, and the share of
its length that leaves: what slants but is nearer the eye may be no shorter."""


def found_lines(found: dict[str, Any], view: View, *, answers: bool) -> list[str]:
    """All of it but what is told beside marks.

    Args:
        found: as JSON has it.
        answers: print those of the questions too.
    """
    lines: list[str] = []

    def names(keys: list[str]) -> str:
        return ", ".join(view.point_label(key) for key in keys)

    for along, title in (("plumb", "Plumb lines"), ("level", "Levels")):
        lines.append(f"{title}, the fullest first:")
        for row in found[along]:
            anchor = view.point_label(row["anchor"])
            reach = f"{row['reach']:.1f} {view.unit}s"
            lines.append(f"  through the {anchor}: {names(row['keys'])} ({reach})")
    lines.append("Alignments, the most telling first:")
    for row in found["alignments"]:
        way = "below each other" if row["along"] == "plumb" else "level"
        within = _within(row["miss"], row["u"], view.unit)
        said = f"  {names(row['keys'])}: {way}{within and f' within {within}'}"
        if row["drawing_miss"] is not None:
            said += f", drawn within {row['drawing_miss']:.2f}"
        lines.append(said)
    lines.append("Simple parts:")
    for row in found["fractions"]:
        part, whole = (view.measure(row[name]) for name in ("part", "whole"))
        assert part is not None
        assert whole is not None
        ratio = f"{row['numerator']} : {row['denominator']}"
        error = _signed(row["error_percent"], row["u_percent"], 1)
        lines.append(f"  {part.label} is {ratio} of {whole.label} ({error} %)")
    lines.append("To be answered by eye first:")
    lines += [
        f"  {row['text']}" + (f" {row['answer']}." if answers else "") for row in found["questions"]
    ]
    if view.size == "figure":
        lines += [f"Balance, {whose}: {_balance(found['balance'][whose])}" for whose in BOARDS]
    life = found["life"]
    lines.append(
        f"Life of the pose: not known, {life['reason']}."
        if "reason" in life
        else f"Life of the pose: the tilts are drawn {100 * life['slope']:.0f} % as strong as seen "
        f"(± {spread(100 * COVERAGE * life['u'], 0)} %, {life['lines']} lines)."
    )
    return lines + _depth(found, view)


def _open(u: float, digits: int) -> bool:
    """Whether a doubt is worth a word: marks that are known leave none."""
    return COVERAGE * u >= 0.5 * 0.1 ** (digits + 1)


def _signed(value: float, u: float, digits: int) -> str:
    """'+0.4 ± 0.2', or '+0.4' where nothing is in doubt."""
    if _open(u, digits):
        return with_doubt(value, COVERAGE * u, digits, sign=True)
    return signed(value, digits)


def _within(value: float, u: float, unit: str) -> str:
    """'0.05 ± 0.01 head'; "" where it is nothing and nothing is in doubt."""
    if _open(u, 2):
        return f"{with_doubt(abs(value), COVERAGE * u, 2)} {unit}"
    figure = f"{abs(value):.2f}"
    return f"{figure} {unit}" if figure.strip("0.") else ""


def _depth(found: dict[str, Any], view: View) -> list[str]:
    """Foreshortened limbs, cross lines and the big forms, where there are any."""
    lines = []
    for key, row in found["known_lengths"].items():
        spec = view.measure(key)
        if spec is not None and abs(row["slant"]) > _ASLANT and row["ratio"] < _SHORTER:
            way = "towards you" if row["slant"] > 0.0 else "away from you"
            lines.append(
                f"Foreshortened: {spec.label}, {100 * row['ratio']:.0f} % of its length, "
                f"{abs(row['slant']):.0f}° {way} (known of the model)."
            )
    for row in found["foreshortened"]:
        spec = view.measure(row["measure"])
        assert spec is not None
        doubt = COVERAGE * 100 * row["u_ratio"]
        ratio = f"{100 * row['ratio']:.0f} ± {spread(doubt, 0)} % of its other side"
        lines.append(
            f"Foreshortened: {spec.label}, {ratio}, about {row['slant']:.0f}° out of view."
        )
    for whose, row in found["cross_lines"].items():
        if "reason" in row:
            continue
        if row["parallel"]:
            lines.append(f"Cross lines, {whose}: parallel, as far as marks can tell.")
        else:
            x, y = row["vanishing"]
            lines.append(
                f"Cross lines, {whose}: they meet {abs(x):.1f} heads to your "
                f"{'right' if x > 0 else 'left'} and {abs(y):.1f} heads "
                f"{'above' if y > 0 else 'below'} the plumb mark, within {row['spread']:.2f} head."
            )
    lines += _head_lines(found["head"])
    lines += _likeness_lines(found["likeness"])
    return lines + _form_lines(found["forms"])


def _form_lines(forms: list[dict[str, Any]]) -> list[str]:
    """The big forms that differ, the most first."""

    def most(row: dict[str, Any]) -> float:
        return float(max(abs(row["length"]), abs(row["width"])))

    off = sorted((row for row in forms if most(row) > _FORM), key=most, reverse=True)
    if not off:
        return []
    return [
        "Big forms, each picture's counted in its own head, against what is seen:",
        *(f"  {_side_named(row['name'])}: {', '.join(_differs(row))}" for row in off),
    ]


def _differs(row: dict[str, Any]) -> list[str]:
    """'12 % shorter', '9 % narrower', 'turned 2° clockwise'; of both alike 'smaller' alone."""
    along, across = round(100 * row["length"]), round(100 * row["width"])
    sizes = [(along, ("longer", "shorter")), (across, ("wider", "narrower"))]
    if along == across:
        sizes = [(along, ("larger", "smaller"))]
    said = [f"{abs(size)} % {words[size < 0]}" for size, words in sizes if size]
    if turned := round(row["axis"]):
        said.append(f"turned {abs(turned)}° {'counter-' if turned > 0 else ''}clockwise")
    return said


def _head_lines(found: dict[str, Any]) -> list[str]:
    """How the heads stand in space, of a head."""
    lines = []
    for whose, row in found.items():
        if "reason" in row:
            continue
        said = [
            f"{_stands(words, row[name]['degrees'])} ± {spread(COVERAGE * row[name]['u'], 0)}°"
            for name, words in _STANDS.items()
        ]
        # What a sitter is by nature is in both.
        against = " (± against the reference)" if whose == Board.DRAWING else ""
        lines.append(f"Head, {whose}: {', '.join(said)}{against}.")
    return lines


_STANDS = {
    "turned": ("turned to your right", "turned to your left", "turned to neither side"),
    "raised": ("chin raised", "chin dropped", "chin level"),
    "tipped": ("tipped to its right shoulder", "tipped to its left shoulder", "upright"),
}


def _stands(words: tuple[str, str, str], degrees: float) -> str:
    one_way, other_way, neither = words
    if round(abs(degrees)) == 0:
        return neither
    return f"{one_way if degrees > 0.0 else other_way} {abs(degrees):.0f}°"


def _side_named(name: str) -> str:
    sides = {"_r": "R ", "_l": "L "}
    return sides[name[-2:]] + name[:-2] if name[-2:] in sides else name


def _balance(row: dict[str, Any]) -> str:
    if "reason" in row:
        return f"not known, {row['reason']}."
    found = Balance(**row)
    legs = {"r": "the R leg bears", "l": "the L leg bears", "both": "both legs bear"}
    way = "right" if found.offset > 0.0 else "left"
    place = "inside" if found.inside else "outside"
    aside = _within(found.offset, found.u, "head")
    where = f"{aside} to your {way} of the middle of the feet, {place} them"
    return (
        f"the weight falls {where if aside else 'on the middle of the feet'}; "
        f"{legs[found.bearing]} it (flat, in the picture)."
    )


def _likeness_lines(found: dict[str, Any]) -> list[str]:
    if "reason" in found:
        return []
    lines = ["What makes this person, the largest first:"]
    for row in found["departures"]:
        kept = f", {row['kept']}" if row["kept"] else ""
        lines.append(
            f"  {row['words']}: {row['seen']:.2f} where the average is {row['average']:.2f} "
            f"({_signed(row['size'], row['u'], 0)} %){kept}"
        )
    if not found["departures"]:
        lines.append("  nothing that stands out: this sitter is near the average")
    slope = found["slope"]
    if "slope" in slope:
        lines.append(likeness_words(Life(**slope)))
    return lines
