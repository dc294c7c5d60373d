"""`bralto record` and `bralto habits`: accuracy over time, and what is done every time."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.measure import Format
from bralto.cli.own_library import open_library
from bralto.cli.printed.terminal import tell, tell_document
from bralto.core.errors import UserError
from bralto.core.longitudinal.columns import Columns
from bralto.core.longitudinal.course import courses
from bralto.core.longitudinal.selection import ASPECTS, Counted
from bralto.core.longitudinal.told import habits_told, last_of
from bralto.core.words.phrases import how_many
from bralto.exchange.record_chart import write_chart
from bralto.exchange.record_report import (
    habits_csv,
    habits_document,
    habits_text,
    record_csv,
    record_document,
    record_text,
)
from bralto.store.record.recorded import counted_studies, read_traits_of

__all__ = ["habits", "record"]

Where = Annotated[
    list[str] | None,
    typer.Option(
        "--where",
        help="count only these, as ASPECT=VALUE; aspects: " + ", ".join(one.key for one in ASPECTS),
    ),
]
Output = Annotated[Format, typer.Option("--format", help="how to print it")]


def record(
    where: Where = None,
    output: Output = Format.text,
    chart: Annotated[
        Path | None, typer.Option(help="write the charts here, as .svg or .png, and end")
    ] = None,
) -> None:
    """Print accuracy over time: typical miss and every skill, with trend and uncertainty."""
    with open_library() as library:
        studies, what = _chosen(counted_studies(library), where or [])
    found = courses(studies)
    if chart is not None:
        said = ", ".join(value for value in what.values() if value)
        write_chart(chart, found, f"{how_many(len(studies), 'study')}: {said}")
        return
    if output is Format.csv:
        tell(record_csv(found, studies), end="")
    elif output is Format.json:
        _json(record_document(found, studies, what))
    else:
        tell(record_text(found, studies, what))


def habits(where: Where = None, output: Output = Format.text) -> None:
    """Print what is done every time, how surely, and what should be checked first."""
    with open_library() as library:
        studies, _ = _chosen(counted_studies(library), where or [])
        traits = read_traits_of(library, last_of(studies))
    told = habits_told(studies, traits)
    if output is Format.csv:
        tell(habits_csv(told), end="")
    elif output is Format.json:
        _json(habits_document(told))
    else:
        tell(habits_text(told))


def _json(document: object) -> None:
    tell_document(document)


def _chosen(studies: list[Counted], where: list[str]) -> tuple[tuple[Counted, ...], dict[str, str]]:
    aspects = {one.key: one for one in ASPECTS}
    asked = {}
    for one in where:
        key, sign, value = one.partition("=")
        if not sign or key not in aspects:
            raise UserError(f"--where {one}: write ASPECT=VALUE; aspects: {', '.join(aspects)}")
        asked[key] = value
    columns = Columns(studies)
    what = columns.first_choice(columns.chosen(asked)) | asked
    for key, value in asked.items():
        options = columns.options_of(what, aspects[key])
        there = [option for option, _, many in options if many]
        if value and value not in there:
            known = ", ".join(option for option in there if option) or "none"
            raise UserError(f"--where {key}={value}: no study is left; there is {known}")
    return columns.of(columns.chosen(what)), what
