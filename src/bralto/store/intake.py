"""From picture files to a kept study: checked and cleaned first, then one transaction."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from bralto.core.study import Picture, State, Study
from bralto.imaging.load import CleanPicture, clean_picture
from bralto.store.library import Library

__all__ = ["add_study_from_files", "now_utc"]


def now_utc() -> str:
    """This instant, ISO 8601, to the second."""
    return datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")


def add_study_from_files(
    library: Library, study: Study, reference: Path, drawing: Path, made: str
) -> str:
    """Keep a study with both pictures copied in, upright and without their metadata.

    Args:
        study: title, view, school, grade and permissions; its pictures are made here.
        made: ISO 8601 instant.

    Raises:
        UserError: a picture is not fit; nothing has been kept then.
    """
    seen, drawn = clean_picture(reference), clean_picture(drawing)
    complete = replace(
        study,
        reference=_picture(reference, seen, study.reference),
        states=(State("first", _picture(drawing, drawn, None), made),),
    )
    media = {"": library.media.put(seen), "first": library.media.put(drawn)}
    return library.add(complete, media, made)


def _picture(path: Path, clean: CleanPicture, said: Picture | None) -> Picture:
    permission = said.permission if said is not None else None
    return Picture(path.name, clean.width, clean.height, permission=permission)
