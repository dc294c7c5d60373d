"""Measures studies for the shelf: the digest of each, or why there is none."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import suppress

from bralto.core.errors import UserError
from bralto.core.examination.assessment import NO_DRAWING, measured
from bralto.core.examination.summary import SCIENCE
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.skills_besides import sighted_alone, skills_besides
from bralto.core.longitudinal.study_facts import answers_of, facts_of
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import notes_of
from bralto.core.sightings.figure.sketch import Stroke, sketch_of
from bralto.core.sightings.sighting_words import NOTHING_SIGHTED
from bralto.core.study.anchored import view_of
from bralto.core.study.values import Picture, Study
from bralto.core.words.phrases import how_many
from bralto.store.failures import LibraryError
from bralto.store.library import Library
from bralto.store.record.trait_documents import traits_document
from bralto.store.sqlite.reading import StoredStudy, UnreadableStudyError
from bralto.store.summaries import Digest, KeptDigest, ShelfRow, Shown, digest_document
from bralto.ui.boards.board_view import lay

__all__ = ["digest_of", "measure_studies"]

_ONE_GO_S = 0.8


def measure_studies(
    library: Library, ids: list[str], report: Callable[[Exception], None]
) -> list[tuple[ShelfRow | None, str]]:
    """Measure as many of these studies as a moment allows, and keep their digests.

    Args:
        report: is told of faults that are Bralto's own; the other studies are measured then too.

    Returns:
        For each that was looked at its row as it is now, or None where it is gone, and its id. A
        row with a ``fault`` could not be read.
    """
    until = time.monotonic() + _ONE_GO_S
    found: list[tuple[ShelfRow | None, str]] = []
    kept = []
    for study_id in ids:
        row = next(iter(library.rows([study_id])), None)
        if row is not None and not row.fault:
            row, digest = _measured(library, row, report)
            if digest is not None:
                kept.append(digest)
        found.append((row, study_id))
        if time.monotonic() > until:
            break
    if kept and not library.reading:
        with suppress(LibraryError):  # they are shown all the same, and measured again next time
            library.put_digests(kept)
    return found


def _measured(
    library: Library, row: ShelfRow, report: Callable[[Exception], None]
) -> tuple[ShelfRow, KeptDigest | None]:
    try:
        stored = library.stored(row.id)
    except UnreadableStudyError as error:
        return row._replace(fault=f"{error.place} is damaged"), None
    except UserError as error:
        return row._replace(fault=str(error)), None
    if stored is None:
        return row._replace(fault="gone"), None
    try:
        digest, traits = digest_of(stored)
        document = digest_document(digest)
    except UserError as error:
        return row._replace(fault=str(error)), None
    except Exception as error:
        report(error)
        fault = "a fault of Bralto's own; there is a report of it in Settings"
        return row._replace(fault=fault), None
    at = stored.version
    found = row._replace(version=at, stamp=at, science=SCIENCE, document=document)
    return found, KeptDigest(row.id, at, SCIENCE, document, traits)


def digest_of(stored: StoredStudy) -> tuple[Digest, str]:
    """Measure one study: its digest, and its traits as a document or ""."""
    study = stored.study
    summary, ratio, why, traits = None, None, "", ""
    try:
        found = measured(study)
    except UserError as error:
        why = str(error)
        summary = sighted_alone(study, why)
    else:
        kept = keep_of(found, study.guesses, skills_besides(study))
        summary, traits = kept.summary, traits_document(kept.traits)
        unit = found.assessment.unit
        if not isinstance(unit, NotMeasurable) and not isinstance(unit.drawing_px, NotMeasurable):
            ratio = unit.drawing_px / unit.reference_px
    drawn = study.states[-1] if study.states else None
    if drawn is None and (why == NO_DRAWING or study.from_life):
        many = 0 if study.sightings is None else len(study.sightings.items)
        why = NOTHING_SIGHTED if study.from_life else "no drawing yet"
        if many:
            why = f"{how_many(many, 'sighting')}, no drawing yet"
    digest = Digest(
        summary,
        why,
        ratio,
        None if study.reference is None else _shown(study.reference, stored.media.get("")),
        None if drawn is None else _shown(drawn.picture, stored.media.get(drawn.name)),
        _spent(study),
        facts_of(study),
        tuple(notes_of(study).log.items()),
        answers_of(study),
        _sketch(study) if drawn is None else (),
    )
    return digest, traits


def _sketch(study: Study) -> tuple[Stroke, ...]:
    if study.sightings is None or study.reference is not None:
        return ()
    try:
        return sketch_of(view_of(study), study.sightings.items)
    except UserError:
        return ()


def _shown(picture: Picture, media: str | None) -> Shown:
    view = lay(picture)
    return Shown(media, view.width, view.height, view.plumb_deg, view.flat, view.frame)


def _spent(study: Study) -> float:
    return float(sum(notes_of(study).seconds.values()))
