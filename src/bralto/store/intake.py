"""From picture files to a kept study or state: checked and cleaned first, then one transaction."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path

from bralto.core.study import Picture, State, Study
from bralto.imaging.load import CleanPicture, clean_picture
from bralto.store.library import Library

__all__ = ["TakenIn", "add_study", "add_study_from_files", "now_utc", "take_in"]


@dataclass(frozen=True, slots=True)
class TakenIn:
    """A picture that lies in the media folder: what is known of it, and its name there.

    ``taken`` is when the photo says it was taken, ISO 8601, or None.
    """

    picture: Picture
    media: str
    taken: str | None


def now_utc() -> str:
    """This instant, ISO 8601, to the second."""
    return datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")


def take_in(library: Library, path: Path, permission: str | None = None) -> TakenIn:
    """Copy a picture in, upright and without its metadata.

    Raises:
        UserError: it is not fit; nothing has been kept then.
    """
    return _kept(library, path, clean_picture(path), permission)


def _kept(library: Library, path: Path, clean: CleanPicture, permission: str | None) -> TakenIn:
    picture = Picture(
        path.name,
        clean.width,
        clean.height,
        permission=permission,
        focal_35mm=clean.facts.focal_35mm,
    )
    return TakenIn(picture, library.media.put(clean), clean.facts.taken)


def add_study_from_files(
    library: Library, study: Study, reference: Path, drawing: Path, made: str
) -> str:
    """Keep a study with both pictures copied in; see `add_study`.

    Raises:
        UserError: a picture is not fit; nothing has been kept then.
    """
    cleaned = clean_picture(reference), clean_picture(drawing)  # both, before any is kept
    return add_study(library, study, (reference, cleaned[0]), (drawing, cleaned[1]), made)


def add_study(
    library: Library,
    study: Study,
    reference: tuple[Path, CleanPicture] | None,
    drawing: tuple[Path, CleanPicture] | None,
    made: str,
) -> str:
    """Keep a study of pictures that have been cleaned already; gives its id.

    Args:
        study: title, view, school, grade and permissions; its pictures are made here.
        reference, drawing: where each came from, and what it is now. No drawing before a line is
            drawn, no reference for one from imagination.
        made: ISO 8601 instant.
    """
    said = study.reference.permission if study.reference is not None else None
    media: dict[str, str] = {}
    states: tuple[State, ...] = ()
    seen = None if reference is None else _kept(library, *reference, said)
    if seen is not None:
        media[""] = seen.media
    if drawing is not None:
        drawn = _kept(library, *drawing, None)
        media["first"] = drawn.media
        states = (State("first", drawn.picture, drawn.taken or made),)
    whole = replace(study, reference=seen.picture if seen else None, states=states)
    return library.add(whole, media, made)
