"""`bralto measure STUDY`: the whole assessment as text, JSON or CSV."""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum
from functools import partial
from pathlib import Path
from typing import Annotated

import typer

from bralto.cli.printed.sighted import held_document, held_text
from bralto.cli.printed.terminal import tell, tell_document
from bralto.cli.printed.text import assessment_text, canon_text
from bralto.core.canons.compare import against_canon
from bralto.core.canons.shipped_canons import canon_named
from bralto.core.corrections.corrected import corrected_marks
from bralto.core.corrections.correction_words import Correction
from bralto.core.doubts.remedies import remedied
from bralto.core.errors import UserError
from bralto.core.examination.assessment import Assessment, assess
from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import Board
from bralto.core.study.values import State, Study
from bralto.core.terms import School
from bralto.core.tolerances import GRADES
from bralto.exchange.bundle import read_bundle
from bralto.exchange.report import assessment_csv, assessment_document, reading_document
from bralto.exchange.study_file import read_study

__all__ = ["Format", "load_study", "measure"]


class Format(StrEnum):
    """How figures are printed."""

    text = "text"
    json = "json"
    csv = "csv"


def load_study(given: str) -> Study:
    """A study from a `study.json`, a `*.bralto`, or the id of a study in the library."""
    path = Path(given)
    if path.suffix == ".bralto":
        return read_bundle(path)
    if path.suffix == ".json" or path.exists():
        return read_study(path)
    # Only here is the database needed; a file is measured without loading it.
    from bralto.store.learners import current_library
    from bralto.store.library import Library

    folder = current_library()
    if folder.exists():
        with Library.open(folder, reading=True) as library:
            found = library.find(given)
            if found is not None:
                return found
    raise UserError(f"{given}: neither a study file nor the id of a study in the library {folder}")


def measure(
    study: Annotated[str, typer.Argument(help="study.json, *.bralto, or a study's id")],
    state: Annotated[str | None, typer.Option(help="name of the state; else the latest")] = None,
    against: Annotated[
        str | None, typer.Option(help="an earlier state, in the reference's place")
    ] = None,
    school: Annotated[str | None, typer.Option(help=f"scale school: {', '.join(School)}")] = None,
    grade: Annotated[str | None, typer.Option(help="learning, developing or exacting")] = None,
    canon: Annotated[
        str | None, typer.Option(help="a canon to hold both pictures against as well")
    ] = None,
    as_remedied: Annotated[
        bool, typer.Option("--as-remedied", help="as if what can be done about doubts were done")
    ] = False,
    output: Annotated[Format, typer.Option("--format", help="how to print it")] = Format.text,
) -> None:
    """Measure a drawing against its reference: errors, uncertainty, verdicts, best fit."""
    loaded = load_study(study)
    chosen = loaded.state(state)
    for name in (state, against):
        if name is not None and loaded.state(name) is None:
            names = ", ".join(f"'{s.name}'" for s in loaded.states) or "none"
            raise UserError(f"{study}: there is no state '{name}'; there is {names}")
    if against is not None:
        loaded = loaded.against_state(against)
    if school is not None and school not in tuple(School):
        raise UserError(f"unknown school '{school}'; use one of {', '.join(School)}")
    by = None if school is None else School(school)
    if grade is not None and grade not in GRADES:
        raise UserError(f"unknown grade '{grade}'; use one of {', '.join(GRADES)}")
    try:
        assessment = assess(loaded, chosen, school=by, grade=grade, corrections=True)
        if as_remedied and chosen is not None:
            for doubt in assessment.doubts:
                loaded = remedied(view_of(loaded), loaded, chosen.name, doubt)
            chosen = loaded.state(chosen.name)
            assessment = assess(loaded, chosen, school=by, grade=grade, corrections=True)
    except UserError as error:
        raise UserError(f"{study}: {error}") from None
    if isinstance(assessment.unit, NotMeasurable):
        raise UserError(
            f"{study}: the {assessment.school} school has no unit: {assessment.unit.reason}; "
            "add it or choose another --school"
        )
    canonical = _held_against(loaded, chosen, canon, assessment.grade) if canon else {}
    drawn = chosen or loaded.state()
    if output is Format.json:
        document = assessment_document(assessment)
        if canon:
            rows = {
                whose: [reading_document(r) for r in found if r.verdict != Verdict.NOT_MEASURED]
                for whose, found in canonical.items()
            }
            document["canon"] = {"key": canon, "source": canon_named(canon).source} | rows
        if loaded.from_life and drawn is not None:
            document["sightings"] = held_document(loaded, drawn, assessment.grade)
        tell_document(document)
    elif output is Format.csv:
        tell(assessment_csv(assessment), end="")
    else:
        beside = partial(_beside, loaded, drawn)
        tell(assessment_text(assessment, beside, _once_corrected(loaded, drawn, assessment)))
        if loaded.from_life and drawn is not None:
            tell(held_text(loaded, drawn, assessment.grade))
        for whose, found in canonical.items():
            tell("\n" + canon_text(str(canon), whose, found))


def _once_corrected(study: Study, state: State | None, found: Assessment) -> Assessment | None:
    """The drawing measured as it would be with its list done; None without a list."""
    if state is None or isinstance(found.corrections, NotMeasurable) or not found.corrections:
        return None
    marks = corrected_marks(state.picture, found.corrections)
    if isinstance(marks, NotMeasurable):
        return None
    done = replace(state, picture=replace(state.picture, marks=marks))
    return assess(study, done, school=found.school, grade=found.grade)


def _beside(study: Study, state: State | None, one: Correction) -> str:
    """What the sweep that was drawn says beside a correction, or ""."""
    if one.move != "straighten":
        return ""
    # What knows sweeps is slow to load, and few lists ask for them.
    from bralto.cli.printed.action_and_light import examined
    from bralto.core.action.bend_and_leans import bend_beside

    found = examined(study, state)
    return "" if found is None else bend_beside(one, lambda: found.sweeps)


def _held_against(
    study: Study, state: State | None, canon: str, grade: str
) -> dict[Board, tuple[Reading, ...]]:
    """Reference and drawing against a canon, the reference first."""
    pictures = {Board.REFERENCE: study.reference, Board.DRAWING: state.picture if state else None}
    out = {}
    for whose, picture in pictures.items():
        if picture is not None:
            view = view_of(study)
            found = against_canon(view, canon_named(canon), picture, view.grade(grade))
            if isinstance(found, NotMeasurable):
                raise UserError(f"the {whose}: {found.reason}")
            out[whose] = found
    return out
