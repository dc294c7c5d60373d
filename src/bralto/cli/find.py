"""`bralto find STUDY`: what the marks tell before and beside the errors."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Annotated, Any

import numpy as np
import typer

from bralto.cli.measure import load_study
from bralto.cli.printed.action_and_light import beside_marks, beside_marks_lines, examined
from bralto.cli.printed.sighted import find_document, find_text
from bralto.cli.printed.terminal import tell
from bralto.cli.views import ListFormat, Output
from bralto.core.discover.balance import Balance
from bralto.core.discover.constructions import compare_forms
from bralto.core.discover.figures import Figure
from bralto.core.discover.foreshortening import surely_foreshortened
from bralto.core.discover.fractions import nice_fractions
from bralto.core.discover.life import Life
from bralto.core.discover.likeness import Likeness, likeness_words
from bralto.core.discover.lines import held_against
from bralto.core.discover.questions import ask
from bralto.core.errors import UserError
from bralto.core.examination.side_by_side import SideBySide
from bralto.core.examination.sides import Side
from bralto.core.heads.heads_held import HeadPair
from bralto.core.mannequin.known import known_lengths
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Picture, State, Study
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import View
from bralto.core.words.phrases import signed

__all__ = ["find"]

_FORM = 0.05
"""Forms that differ by less than this share are not worth a line (common practice, no source)."""


_ASLANT = 20.0
"""Degrees out of the picture plane beyond which a known length is worth a line: 6 % shorter."""


def find(
    study: Annotated[str, typer.Argument(help="study.json, *.bralto, or a study's id")],
    state: Annotated[str | None, typer.Option(help="name of the state; else the latest")] = None,
    answers: Annotated[bool, typer.Option(help="print the answers to the questions too")] = False,
    output: Output = ListFormat.text,
) -> None:
    """Find plumb lines, alignments, simple parts, questions, balance, the action and the light."""
    loaded = load_study(study)
    if loaded.from_life:
        if output is ListFormat.json:
            print(json.dumps(find_document(loaded), ensure_ascii=False, indent=1, allow_nan=False))
        else:
            tell(find_text(loaded))
        return
    if loaded.reference is None:
        raise UserError(f"{study}: there is no reference to look at")
    chosen = loaded.state(state)
    if state is not None and chosen is None:
        raise UserError(f"{study}: there is no state '{state}'")
    beside = examined(loaded, chosen)
    both = _both(loaded, loaded.reference, chosen) if beside is None else beside.both
    if isinstance(both.seen.figure, NotMeasurable):
        raise UserError(f"{study}: the reference: {both.seen.figure.reason}")
    found = _document(both, both.seen.figure)
    if output is ListFormat.json:
        found |= beside_marks(beside)
        print(json.dumps(found, ensure_ascii=False, indent=1, allow_nan=False))
    else:
        lines = beside_marks_lines(beside)
        tell("\n".join([_text(found, both.view, answers=answers), *lines]))


def _both(study: Study, reference: Picture, state: State | None) -> SideBySide:
    """Both pictures where nothing can be measured of them, or one is lacking."""
    view = view_of(study)
    grade = view.grade(study.grade)
    seen = Side(view, reference, grade)
    if state is None:
        blank = Picture("", reference.width, reference.height)
        return SideBySide(study, seen, Side(view, blank, grade, unseen="no drawing"))
    return SideBySide(study, seen, Side(view, state.picture, grade))


def _plain(value: object) -> Any:
    """A found value as JSON data."""
    if isinstance(value, NotMeasurable):
        return {"reason": value.reason}
    return {
        key: item.tolist() if isinstance(item, np.ndarray) else item
        for key, item in asdict(value).items()  # type: ignore[call-overload]
    }


def _document(both: SideBySide, figure: Figure) -> dict[str, Any]:
    """What is found, as JSON data; ``figure`` is the reference's."""
    study, seen, drawn = both.study, both.seen, both.drawn.figure
    known, rows = known_lengths(study), []
    for one in seen.alignments:
        row = _plain(one)
        held = None if isinstance(drawn, NotMeasurable) else held_against(one, drawn)
        row["drawing_miss"] = None if held is None else held.miss
        rows.append(row)
    return {
        "plumb": [_plain(line) for line in seen.lines],
        "level": [_plain(line) for line in seen.levels],
        "alignments": rows,
        "fractions": [_plain(one) for one in nice_fractions(figure, both.grade)],
        "questions": [_plain(one) for one in ask(figure)],
        "balance": {
            "reference": _plain(seen.balance),
            "drawing": _plain(both.drawn.balance),
        },
        "likeness": _likeness(both.person),
        "life": _plain(both.life),
        # Of a model it is known, not guessed.
        "foreshortened": [] if known else [_plain(one) for one in surely_foreshortened(figure)],
        "known_lengths": {key: {**asdict(one), "ratio": one.ratio} for key, one in known.items()},
        "cross_lines": {
            "reference": _plain(seen.cross_lines),
            "drawing": _plain(both.drawn.cross_lines),
        },
        "head": _heads(both.heads),
        "forms": []
        if isinstance(drawn, NotMeasurable)
        else [_plain(one) for one in compare_forms(figure, drawn)],
    }


def _heads(pair: HeadPair) -> dict[str, Any]:
    """How the heads of both pictures stand in space, degrees."""
    out: dict[str, Any] = {}
    for whose, head in ((Board.REFERENCE, pair.seen), (Board.DRAWING, pair.drawn)):
        if isinstance(head, NotMeasurable):
            out[whose] = {"reason": head.reason}
            continue
        names = ("turned", "raised", "tipped")
        values = zip(names, head.angles.tolist(), head.u.tolist(), strict=True)
        out[whose] = {name: {"degrees": value, "u": u} for name, value, u in values}
    return out


def _likeness(found: Likeness | NotMeasurable) -> dict[str, Any]:
    """What makes this person, of a head."""
    if isinstance(found, NotMeasurable):
        return {"reason": found.reason}
    return {
        "departures": [asdict(one) for one in found.departures],
        "slope": _plain(found.slope),
    }


def _likeness_lines(found: dict[str, Any]) -> list[str]:
    if "reason" in found:
        return []
    lines = ["What makes this person, the largest first:"]
    for row in found["departures"]:
        kept = f", {row['kept']}" if row["kept"] else ""
        lines.append(
            f"  {row['words']}: {row['seen']:.2f} where the average is {row['average']:.2f} "
            f"({signed(row['size'], 0)} % ± {COVERAGE * row['u']:.0f}){kept}"
        )
    if not found["departures"]:
        lines.append("  nothing that stands out: this sitter is near the average")
    slope = found["slope"]
    if "slope" in slope:
        lines.append(likeness_words(Life(**slope)))
    return lines


def _text(found: dict[str, Any], view: View, *, answers: bool) -> str:
    lines: list[str] = []

    def names(keys: list[str]) -> str:
        return ", ".join(view.point_label(key) for key in keys)

    for along, title in (("plumb", "Plumb lines"), ("level", "Levels")):
        lines.append(f"{title}, the fullest first:")
        for row in found[along]:
            anchor = view.point_label(row["anchor"])
            lines.append(f"  through the {anchor}: {names(row['keys'])} ({row['reach']:.1f} heads)")
    lines.append("Alignments, the most telling first:")
    for row in found["alignments"]:
        way = "below each other" if row["along"] == "plumb" else "level"
        doubt = COVERAGE * row["u"]
        said = f"  {names(row['keys'])}: {way} within {row['miss']:.2f} ± {doubt:.2f} head"
        if row["drawing_miss"] is not None:
            said += f", drawn within {row['drawing_miss']:.2f}"
        lines.append(said)
    lines.append("Simple parts:")
    for row in found["fractions"]:
        part, whole = (view.measure(row[name]) for name in ("part", "whole"))
        assert part is not None
        assert whole is not None
        ratio = f"{row['numerator']} : {row['denominator']}"
        error = signed(row["error_percent"], 1)
        lines.append(f"  {part.label} is {ratio} of {whole.label} ({error} %)")
    lines.append("To be answered by eye first:")
    lines += [
        f"  {row['text']}" + (f" {row['answer']}." if answers else "") for row in found["questions"]
    ]
    lines += [f"Balance, {whose}: {_balance(found['balance'][whose])}" for whose in BOARDS]
    life = found["life"]
    lines.append(
        f"Life of the pose: not known, {life['reason']}."
        if "reason" in life
        else f"Life of the pose: the tilts are drawn {100 * life['slope']:.0f} % as strong as seen "
        f"(± {100 * COVERAGE * life['u']:.0f} %, {life['lines']} lines)."
    )
    lines += _depth(found, view)
    return "\n".join(lines)


def _depth(found: dict[str, Any], view: View) -> list[str]:
    """Foreshortened limbs, cross lines and the big forms, where there are any."""
    lines = []
    for key, row in found["known_lengths"].items():
        spec = view.measure(key)
        if spec is not None and abs(row["slant"]) > _ASLANT:
            way = "towards you" if row["slant"] > 0.0 else "away from you"
            lines.append(
                f"Foreshortened: {spec.label}, {100 * row['ratio']:.0f} % of its length, "
                f"{abs(row['slant']):.0f}° {way} (known of the model)."
            )
    for row in found["foreshortened"]:
        spec = view.measure(row["measure"])
        assert spec is not None
        doubt = COVERAGE * 100 * row["u_ratio"]
        ratio = f"{100 * row['ratio']:.0f} ± {doubt:.0f} % of its other side"
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
    off = [row for row in found["forms"] if max(abs(row["length"]), abs(row["width"])) > _FORM]
    off.sort(key=lambda row: -max(abs(row["length"]), abs(row["width"])))
    return lines + [
        f"Form: {_side_named(row['name'])} {signed(100 * row['length'], 0)} % long, "
        f"{signed(100 * row['width'], 0)} % wide, turned {signed(row['axis'], 0)}°."
        for row in off
    ]


def _head_lines(found: dict[str, Any]) -> list[str]:
    """How the heads stand in space, of a head."""
    lines = []
    for whose, row in found.items():
        if "reason" in row:
            continue
        said = [
            f"{_stands(words, row[name]['degrees'])} ± {COVERAGE * row[name]['u']:.0f}°"
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
    return (
        f"the weight falls {abs(found.offset):.2f} ± {COVERAGE * found.u:.2f} head to your {way} "
        f"of the middle of the feet, {place} them; {legs[found.bearing]} it (flat, in the picture)."
    )
