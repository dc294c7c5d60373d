"""`bralto sight STUDY`: asks for the next sighting from life, and keeps the answer."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Annotated, Any

import typer

from bralto.cli.measure import load_study
from bralto.cli.printed.sighted import contradiction_lines, doubts_document
from bralto.cli.printed.terminal import tell, tell_document
from bralto.cli.views import ListFormat, Output
from bralto.core.errors import UserError
from bralto.core.results import NotMeasurable
from bralto.core.sightings.answers_read import read_value
from bralto.core.sightings.figure.read_off import FARTHEST_MM, NEAREST_MM, carried_over
from bralto.core.sightings.next_question import Next, next_questions
from bralto.core.sightings.orders import MOST_TELLING, orders_of
from bralto.core.sightings.sighting_words import asked, doubt_said, label_of, value_said
from bralto.core.sightings.stance import otherwise_placed
from bralto.core.study.anchored import view_of
from bralto.core.study.taken import MOST_SIGHTINGS, Sightings
from bralto.core.study.values import Study
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named
from bralto.core.views.stances import Stance
from bralto.core.views.typical import stances_of
from bralto.core.words.phrases import how_many
from bralto.disk.names import name_of_file
from bralto.exchange.study_file import write_study

__all__ = ["sight"]


def sight(
    study: Annotated[str, typer.Argument(help="study.json; a new one is made where there is none")],
    view: Annotated[str, typer.Option(help="view of a new study")] = "figure-front",
    order: Annotated[
        str, typer.Option(help=f"'{MOST_TELLING}', or a school's order: heads, tilts, halves")
    ] = MOST_TELLING,
    only_next: Annotated[
        bool, typer.Option("--next", help="name the next one, ask nothing")
    ] = False,
    listed: Annotated[bool, typer.Option("--list", help="what was sighted so far")] = False,
    eye_mm: Annotated[
        float | None,
        typer.Option(help="mm from your eye to where lengths in mm are read off; keeps it"),
    ] = None,
    paper_mm: Annotated[
        float | None,
        typer.Option(help="mm from your eye to the paper, for sight-size; 0 for none; keeps it"),
    ] = None,
    moved: Annotated[
        bool, typer.Option(help="with --eye-mm: the lengths so far are carried over from before")
    ] = False,
    model: Annotated[
        Stance | None,
        typer.Option(help="how the model is placed; what faces you faces no side; keeps it"),
    ] = None,
    output: Output = ListFormat.text,
) -> None:
    """Sight a figure from life: one question after the other, each answer kept at once.

    An empty answer ends, `another` asks for something else, `back` takes the last one away.
    """
    path = Path(study)
    if not path.exists() and path.suffix == ".json":
        loaded = Study(
            Path(name_of_file(path)).stem, view_named(view).key, None, sightings=Sightings()
        )
    else:
        loaded = load_study(study)
    if loaded.reference is not None or loaded.canon is not None:
        raise UserError(f"{study}: it has a reference already; sightings are from life")
    kept = loaded.sightings or Sightings()
    seen = view_of(loaded)
    if model is not None and model is not kept.stance:
        if model not in stances_of(seen):
            possible = ", ".join(stances_of(seen)) or "none"
            raise UserError(f"in {seen.key} a model is placed as one of: {possible}")
        if path.suffix != ".json":
            raise UserError(f"{study}: how the model is placed is kept in a study.json")
        kept = otherwise_placed(seen, kept, model)
        loaded = replace(loaded, sightings=kept)
        write_study(loaded, path)
        seen = view_of(loaded)
    known = {one.key for one in orders_of(seen)} | {MOST_TELLING}
    if order not in known:
        raise UserError(f"unknown order '{order}'; use one of {', '.join(sorted(known))}")
    if moved and eye_mm is None:
        raise UserError("--moved says that lengths are carried over to --eye-mm: give both")
    if eye_mm is not None or paper_mm is not None:
        if path.suffix != ".json":
            raise UserError(f"{study}: distances are kept in a study.json, or said in the window")
        kept = _stood(kept, eye_mm, paper_mm, moved=moved)
        loaded = replace(loaded, sightings=kept)
        write_study(loaded, path)
    if listed:
        _list(loaded, seen, output)
    elif only_next or output is ListFormat.json:
        _tell_next(loaded, kept, seen, order, output)
    elif path.suffix != ".json":
        raise UserError(f"{study}: answers are kept in a study.json; or sight in the window")
    else:
        _ask(loaded, kept, seen, order, path)


def _stood(
    kept: Sightings, eye_mm: float | None, paper_mm: float | None, *, moved: bool
) -> Sightings:
    """The sightings with the distances that were given."""
    for mm in (eye_mm, paper_mm or None):
        if mm is not None and not NEAREST_MM <= mm <= FARTHEST_MM:
            raise UserError(f"distances from the eye are {NEAREST_MM:.0f} to {FARTHEST_MM:.0f} mm")
    if eye_mm is not None:
        kept = carried_over(kept, eye_mm) if moved else replace(kept, eye_mm=eye_mm)
    return kept if paper_mm is None else replace(kept, plane_mm=paper_mm or None)


def _next(
    loaded: Study, kept: Sightings, view: View, order: str, skipped: set[tuple[object, ...]]
) -> tuple[Next, ...]:
    found = next_questions(view, kept.items, view.grade(loaded.grade), order, skipped)
    if isinstance(found, NotMeasurable):
        raise UserError(found.reason)
    return found


def _tell_next(loaded: Study, kept: Sightings, view: View, order: str, output: ListFormat) -> None:
    found = _next(loaded, kept, view, order, set())
    if output is ListFormat.json:
        rows = [
            {"measure": one.sighting.measure, "question": asked(view, one.sighting).text,
             "how": asked(view, one.sighting).how, "about": one.about}
            for one in found
        ]  # fmt: skip
        tell_document({"next": rows})
    elif found:
        question = asked(view, found[0].sighting)
        tell(f"{question.text}\n  {question.how}")
    else:
        tell("Nothing is left to ask in this order.")


def _list(study: Study, view: View, output: ListFormat) -> None:
    items = (study.sightings or Sightings()).items
    if output is ListFormat.json:
        rows: list[dict[str, Any]] = [
            {"what": label_of(view, one), "value": one.value, "u": one.u, "said": one.said}
            for one in items
        ]
        tell_document({"sightings": rows, **doubts_document(view, items)})
        return
    for number, one in enumerate(items, start=1):
        tell(f"{number:>3}  {label_of(view, one):<38} {value_said(one):>16}  "
             f"{doubt_said(one)}")  # fmt: skip
    for line in contradiction_lines(study):
        tell(line)


def _ask(loaded: Study, kept: Sightings, view: View, order: str, path: Path) -> None:
    skipped: set[tuple[object, ...]] = set()
    while len(kept.items) < MOST_SIGHTINGS:
        found = _next(loaded, kept, view, order, skipped)
        if not found:
            tell("Nothing is left to ask in this order.")
            break
        one = found[0].sighting
        question = asked(view, one)
        tell(f"{len(kept.items) + 1}. {question.text}\n   ({question.how})")
        try:
            said = input("   > ").strip()
        except EOFError:
            break
        if not said:
            break
        items = kept.items
        if said in {"another", "skip", "n"} and not one.sort.is_answer:
            skipped.add(one.asks)
            continue
        if said == "back":
            items = items[:-1]
        else:
            try:
                items = (*items, read_value(view, one, said, about=one.value))
            except UserError as error:
                tell(f"   {error}")
                continue
        kept = replace(kept, items=items)
        write_study(replace(loaded, sightings=kept), path)
    _list(replace(loaded, sightings=kept), view, ListFormat.text)
    if kept.items:
        tell(f"{how_many(len(kept.items), 'sighting')} in {path}.")
