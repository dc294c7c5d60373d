"""`bralto find STUDY`: what the marks tell before and beside the errors."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any

import numpy as np
import typer

from bralto.cli.measure import load_study
from bralto.cli.printed.action_and_light import beside_marks, beside_marks_lines, examined
from bralto.cli.printed.found import found_lines
from bralto.cli.printed.sighted import find_document, find_text
from bralto.cli.printed.terminal import tell, tell_document
from bralto.cli.views import ListFormat, Output
from bralto.core.discover.constructions import compare_forms
from bralto.core.discover.figures import Figure
from bralto.core.discover.foreshortening import surely_foreshortened
from bralto.core.discover.fractions import nice_fractions
from bralto.core.discover.likeness import Likeness
from bralto.core.discover.lines import held_against
from bralto.core.discover.questions import ask
from bralto.core.errors import UserError
from bralto.core.examination.side_by_side import SideBySide
from bralto.core.examination.sides import Side
from bralto.core.heads.heads_held import HeadPair
from bralto.core.mannequin.known import known_lengths
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, State, Study

__all__ = ["find"]


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
            tell_document(find_document(loaded))
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
        tell_document(found)
    else:
        lines = [*found_lines(found, both.view, answers=answers), *beside_marks_lines(beside)]
        tell("\n".join(lines))


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
