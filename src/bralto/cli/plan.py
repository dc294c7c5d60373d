"""`bralto plan STUDY`: the sheet before a line is drawn, as text or JSON."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any

import typer

from bralto.cli.measure import load_study
from bralto.cli.printed.terminal import tell, tell_document
from bralto.cli.views import ListFormat, Output
from bralto.core.errors import UserError
from bralto.core.page.page_extent import Extent, extent_by_hand, extent_of_marks, scaled
from bralto.core.page.page_plan import PAPERS, SheetPlan, divider_words, paper_size, plan_sheet
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.sheet_extent import extent_of_sightings
from bralto.core.study.anchored import view_of
from bralto.core.study.taken import Sightings
from bralto.core.views.shipped_views import view_named
from bralto.core.words.lengths import length, size

__all__ = ["plan"]


def plan(
    study: Annotated[
        str | None, typer.Argument(help="study.json, *.bralto, or a study's id")
    ] = None,
    paper: Annotated[str, typer.Option(help=f"{', '.join(PAPERS)}, or mm as 300x400")] = "A3",
    margins: Annotated[float, typer.Option(help="mm on all four sides")] = 20.0,
    head: Annotated[
        float | None,
        typer.Option(help="a head wanted, mm (hand, limb; a thing's height), not the largest"),
    ] = None,
    landscape: Annotated[
        bool | None, typer.Option("--landscape/--upright", help="else what gives more room")
    ] = None,
    print_height: Annotated[
        float | None,
        typer.Option(help="mm that the picture stands high beside the sheet, for the dividers"),
    ] = None,
    by_hand: Annotated[
        str | None,
        typer.Option(help="measures instead of marks: 'height=7.5 width=2.6 chin=1 navel=3'"),
    ] = None,
    view: Annotated[str, typer.Option(help="view of the measures by hand")] = "figure-front",
    output: Output = ListFormat.text,
) -> None:
    """Plan the sheet: the largest figure that fits, its stations in mm, the divider setting."""
    if (study is None) == (by_hand is None):
        raise UserError("give a study, or measures with --by-hand, one of the two")
    extent = _measured(by_hand, view) if by_hand is not None else _marked(str(study), print_height)
    wanted = scaled(head, 1.0 / extent.sized_heads)
    found = plan_sheet(extent, paper_size(paper), margins, head_mm=wanted, landscape=landscape)
    if output is ListFormat.json:
        tell_document(_document(found, paper, margins))
    else:
        tell(_text(found, paper, margins))
    if not found.fits:
        raise typer.Exit(1)


def _marked(given: str, print_mm: float | None) -> Extent:
    loaded = load_study(given)
    extent: Extent | NotMeasurable
    if loaded.from_life:
        extent = extent_of_sightings(view_of(loaded), loaded.sightings or Sightings())
    elif loaded.reference is None:
        raise UserError(f"{given}: a plan needs a reference; or measure by hand")
    else:
        extent = extent_of_marks(view_of(loaded), loaded.reference, print_mm)
    if isinstance(extent, NotMeasurable):
        raise UserError(f"{given}: {extent.reason}")
    return extent


def _measured(words: str, view: str) -> Extent:
    figures: dict[str, float] = {}
    for word in words.replace(",", " ").split():
        name, _, value = word.partition("=")
        try:
            figures[name] = float(value)
        except ValueError:
            raise UserError(f"--by-hand: '{word}' is not NAME=FIGURE") from None
    if "height" not in figures or "width" not in figures:
        raise UserError("--by-hand wants height=... and width=... and any points of the view")
    height, width = figures.pop("height"), figures.pop("width")
    return extent_by_hand(view_named(view), height, width, figures)


def _document(found: SheetPlan, paper: str, margins: float) -> dict[str, Any]:
    whole = asdict(found)
    stations = whole.pop("stations")
    names = {"down": "from_top_mm", "across": "from_plumb_mm"}
    return {
        "paper": paper,
        "margins_mm": margins,
        "width_mm": found.width,
        "height_mm": found.height,
        "divider": {"mm_per_unit": found.scale, "unit": found.unit},
        "figure": {
            "top_mm": found.top, "left_mm": found.left, "tall_mm": found.tall,
            "wide_mm": found.wide, "plumb_mm": found.plumb, "head_mm": found.head,
        },
        "largest_head_mm": found.largest_head,
        "fits": found.fits,
        "leaving": list(found.leaving),
        "stations": [{names.get(k, k): v for k, v in row.items()} for row in stations],
    }  # fmt: skip


def _text(found: SheetPlan, paper: str, margins: float) -> str:
    way = "across" if found.width > found.height else "upright"
    lines = [
        f"{paper} {way}, {size(found.width, found.height)}, margins {length(margins)}",
        f"The whole {length(found.tall)} high and {length(found.wide)} wide, "
        f"from {length(abs(found.top))} {'below' if found.top >= 0.0 else 'above'} the top edge; "
        f"plumb line {length(found.plumb)} from the left edge.",
    ]
    if found.size is not None:
        lines.append(f"{found.sized_by.capitalize()} {length(found.size, 1)}.")
    lines.append(f"Dividers: {divider_words(found)}.")
    if not found.fits:
        most = (
            ""
            if found.largest is None
            else f"; the largest {found.sized_by} is {length(found.largest, 1)}"
        )
        lines.append(f"It does not fit within the margins{most}.")
    if found.leaving:
        lines.append(f"Leaves the paper: {', '.join(found.leaving)}.")
    lines += ["", f"{'station':<34} from the top   from plumb"]
    for one in found.stations:
        down, across = length(one.down, 1), ""
        if one.across is not None:
            across = length(one.across, 1) if one.across < 0.0 else f"+{length(one.across, 1)}"
        lines.append(f"{one.label:<34} {down:>12} {across:>12}")
    return "\n".join(lines)
