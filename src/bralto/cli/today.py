"""`bralto today`: what to practise, out of the minutes and days that were chosen."""

from __future__ import annotations

import csv
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.measure import Format
from bralto.cli.own_library import open_library
from bralto.cli.printed.terminal import tell, tell_document
from bralto.core.longitudinal.columns import Columns
from bralto.core.longitudinal.told import habits_told, last_of
from bralto.core.words.phrases import month_words, weekday
from bralto.disk.given import write_given
from bralto.exchange.calendar_file import plan_calendar
from bralto.store.record.recorded import counted_studies, read_traits_of
from bralto.store.record.todays import todays

__all__ = ["today"]


def today(
    output: Annotated[Format, typer.Option("--format", help="how to print it")] = Format.text,
    calendar: Annotated[
        Path | None, typer.Option(help="write the plan as iCalendar here, and end")
    ] = None,
) -> None:
    """Print what to practise today: warm-up, quick poses, a drill, a study."""
    now = datetime.now().astimezone()
    with open_library() as library:
        studies = counted_studies(library)
        columns = Columns(studies)
        usual = columns.first_choice(columns.chosen({}))
        counted = columns.of(columns.chosen(usual))
        told = habits_told(counted, read_traits_of(library, last_of(counted)))
        found = todays(library.practice(), studies, told, now)
    if calendar is not None:
        write_given(calendar, plan_calendar(found.plan, found.day, datetime.now(UTC)))
        return
    rows = [
        {"day": found.day.isoformat(), "item": one.key, "title": one.title, "minutes": one.minutes,
         "detail": one.detail, "done": one.key in found.done}
        for one in found.items
    ]  # fmt: skip
    if output is Format.json:
        body = {
            "day": found.day.isoformat(), "minutes": found.plan.minutes,
            "week": {"days_practised": len(found.week.practised), "days_meant": found.week.meant},
            "items": rows,
            "due": [{"study": one.study, "title": one.title, "since": one.since.isoformat()}
                    for one in found.due],
        }  # fmt: skip
        tell_document(body)
    elif output is Format.csv:
        table = csv.DictWriter(sys.stdout, list(rows[0]) if rows else ["day"], lineterminator="\n")
        table.writeheader()
        table.writerows(rows)
    else:
        day = (
            f"{weekday(found.day)}, {found.day.day} {month_words(found.day.year, found.day.month)}"
        )
        tell(f"{day}: {found.plan.minutes} minutes. {found.week.words}.\n")
        for one in found.items:
            tick = "x" if one.key in found.done else " "
            tell(f"  [{tick}] {one.minutes:>3} min  {one.title}: {one.detail}")
