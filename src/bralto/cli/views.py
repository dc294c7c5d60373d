"""`bralto views` and `bralto measures VIEW`: what can be marked and measured."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.printed.terminal import tell, tell_document
from bralto.core.measures.view_kinds import UNITS
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.exchange.view_file import read_own_view

__all__ = ["measures", "views"]


class ListFormat(StrEnum):
    """How a list is printed."""

    text = "text"
    json = "json"


Output = Annotated[ListFormat, typer.Option("--format", help="how to print it")]


def views(
    view: Annotated[
        str | None, typer.Argument(help="a view to list, or a file with your own, to check")
    ] = None,
    output: Output = ListFormat.text,
) -> None:
    """List the landmark views, or the landmarks of one."""
    if view is None:
        rows = [
            {
                "view": v.key,
                "title": v.title,
                "landmarks": len(v.landmarks),
                "short_set": len(v.short),
                "school": v.school,
            }
            for v in map(view_named, view_keys())
        ]
        text = [
            f"{r['view']:<20} {r['title']:<28} {r['landmarks']} landmarks, "
            f"short set {r['short_set']}, fitted by {r['school']}"
            for r in rows
        ]
    else:
        found = read_own_view(Path(view)) if view.endswith(".toml") else view_named(view)
        short = {key for entry in found.short for key in entry}
        marks = [mark for key in found.placing if (mark := found.landmark(key))]
        rows = [
            {"mark": m.key, "label": m.label, "how": m.how, "short_set": m.key in short}
            for m in marks
        ]
        text = [
            f"{'*' if r['short_set'] else ' '} {r['mark']:<16} {r['label']}: {r['how']}"
            for r in rows
        ]
    if output is ListFormat.json:
        tell_document(rows)
    else:
        tell("\n".join(text))


def measures(
    view: Annotated[str, typer.Argument(help="key of the view")],
    output: Output = ListFormat.text,
) -> None:
    """List the measures of a view with their stable ids."""
    specs = view_named(view).measures
    if output is ListFormat.json:
        rows = [
            {
                "id": s.id,
                "label": s.label,
                "kind": s.kind,
                "unit": UNITS[s.kind],
                "points": list(s.points),
                "along": s.along,
            }
            for s in specs
        ]
        tell_document(rows)
    else:
        tell("\n".join(f"{s.id:<30} {s.label} [{UNITS[s.kind]}]" for s in specs))
