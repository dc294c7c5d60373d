"""The studies of a library as the record counts them, for what has no window."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from bralto.core.errors import UserError
from bralto.core.examination.assessment import measured
from bralto.core.examination.summary import SCIENCE, Summary
from bralto.core.longitudinal.kept import keep_of
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.skills_besides import sighted_alone, skills_besides
from bralto.core.longitudinal.study_facts import answers_of, facts_of
from bralto.core.longitudinal.traits.study_traits import StudyTraits
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import notes_of
from bralto.core.study.instants_read import instant_of
from bralto.core.study.values import Study
from bralto.store.library import Library
from bralto.store.record.trait_documents import read_traits_document
from bralto.store.summaries import TAG_SEPARATOR, Digest, ShelfRow, read_digest

__all__ = ["as_counted", "counted_studies", "read_traits_of"]


def as_counted(row: ShelfRow, when: datetime, digest: Digest) -> Counted | None:
    """A study as the record counts it, by what is kept of it; None where it could not be measured.

    Args:
        when: when it was made, aware. digest: in force.
    """
    if digest.summary is None:
        return None
    tags = tuple(sorted(row.tags.split(TAG_SEPARATOR))) if row.tags else ()
    return Counted(
        row.id, row.title, when, row.view, row.kind, tags, digest.seconds, digest.facts,
        digest.summary, digest.answers,
    )  # fmt: skip


def _counted(library: Library, row: ShelfRow) -> Counted | None:
    """The same, measured anew where what is kept is not in force; None too where it is in the bin
    or has no day."""
    if row.binned is not None or row.fault:
        return None
    when = instant_of(row.made)
    if when is None:
        return None
    in_force = (row.stamp, row.science) == (row.version, SCIENCE)
    digest = read_digest(row.document) if row.document and in_force else None
    if digest is None:
        try:
            study = library.find(row.id)
            if study is None:
                return None
            summary = _summary(study)
        except UserError:
            return None  # it cannot be read
        if summary is None:
            return None
        seconds = float(sum(notes_of(study).seconds.values()))
        digest = Digest(
            summary, "", None, None, None, seconds, facts_of(study), (), answers_of(study)
        )
    return as_counted(row, when, digest)


def _summary(study: Study) -> Summary | None:
    """None where there is nothing that the record could keep."""
    try:
        found = measured(study)
    except UserError as error:
        return sighted_alone(study, str(error))
    return keep_of(found, study.guesses, skills_besides(study)).summary


def counted_studies(library: Library) -> list[Counted]:
    """Every study that counts, newest first; measured where what is kept is not in force."""
    found = (_counted(library, row) for row in library.rows())
    return [one for one in found if one is not None]


def read_traits_of(library: Library, studies: Sequence[Counted]) -> dict[str, StudyTraits]:
    """The traits of these studies by id, of those that have any; what is not kept of them, as in a
    library that is only looked at, is measured."""
    kept = library.traits([one.id for one in studies], SCIENCE)
    found = {}
    for one in studies:
        traits = read_traits_document(kept[one.id]) if one.id in kept else None
        if one.id not in kept:
            traits = _traits_now(library, one.id)
        if traits is not None:
            found[one.id] = traits
    return found


def _traits_now(library: Library, study_id: str) -> StudyTraits | None:
    try:
        study = library.find(study_id)
        made = None if study is None else keep_of(measured(study)).traits
    except UserError:
        return None
    return None if isinstance(made, NotMeasurable) else made
