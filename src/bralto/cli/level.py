"""`bralto level STUDY OTHER`: the same head from two sides, its stations held level."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any

import typer

from bralto.cli.measure import load_study
from bralto.cli.printed.terminal import tell, tell_document
from bralto.cli.views import ListFormat, Output
from bralto.core.discover.figures import figure_of
from bralto.core.discover.levels import Tie
from bralto.core.errors import UserError
from bralto.core.mannequin.tied import picture_on, tied
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Study
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import signed

__all__ = ["level"]


def level(
    study: Annotated[str, typer.Argument(help="study.json, *.bralto, or a study's id")],
    other: Annotated[str, typer.Argument(help="the same head seen from another side")],
    output: Output = ListFormat.text,
) -> None:
    """Hold a head in two views level: what of it lies higher or lower in one than in the other."""
    one, two = load_study(study), load_study(other)
    found = {board: _ties(one, two, board) for board in BOARDS}
    reasons = [value.reason for value in found.values() if isinstance(value, NotMeasurable)]
    if len(reasons) == len(BOARDS):
        raise UserError(f"{study}, {other}: {reasons[0]}")
    if output is ListFormat.json:
        document = {board: _plain(value) for board, value in found.items()}
        tell_document(document)
    else:
        tell(_text(found))


def _ties(one: Study, two: Study, board: Board) -> tuple[Tie, ...] | NotMeasurable:
    picture = picture_on(one, board)
    if picture is None:
        return NotMeasurable(f"there is no {board} in the first of them")
    return tied(one, figure_of(view_of(one), picture), two, board)


def _plain(found: tuple[Tie, ...] | NotMeasurable) -> Any:
    if isinstance(found, NotMeasurable):
        return {"reason": found.reason}
    return [asdict(one) for one in found]


def _text(found: dict[Board, tuple[Tie, ...] | NotMeasurable]) -> str:
    lines = []
    for board, rows in found.items():
        if isinstance(rows, NotMeasurable):
            lines.append(f"{board.capitalize()}: not known, {rows.reason}.")
            continue
        lines.append(f"{board.capitalize()}, crown and chin level, heads lower (+) or higher (-):")
        for row in rows:
            doubt = f"{COVERAGE * row.u:.3f}"
            lines.append(f"  {row.label}: {signed(row.error, 3)} ± {doubt}, {_SAID[row.verdict]}")
    return "\n".join(lines)


_SAID = {
    Verdict.OVER: "lower than in the other",
    Verdict.UNDER: "higher than in the other",
    Verdict.WITHIN: "level",
    Verdict.CANNOT_TELL: "cannot tell",
}
"""Verdicts in words."""
