"""From picture files to a kept study: checked and cleaned first, then one transaction."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from bralto.core.study import Picture, State, Study
from bralto.imaging.load import CleanPicture, clean_picture, encode
from bralto.stand.demo import DemoStudy, demo_studies, worked_example
from bralto.store.library import Library

__all__ = ["add_study_from_files", "add_worked_example", "fill_with_demo", "now_utc"]


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


def fill_with_demo(root: Path, seed: int = 1) -> None:
    """Make a fresh library of demo data in an empty or missing folder."""
    with Library.open(root) as library:
        for one in demo_studies(seed):
            _keep_demo(library, one, one.study.states[-1].taken or now_utc())


def add_worked_example(library: Library) -> str:
    """Add one finished demo study, made now; gives its id."""
    return _keep_demo(library, worked_example(), now_utc())


def _keep_demo(library: Library, one: DemoStudy, made: str) -> str:
    pictures = {"": one.study.reference, **{s.name: s.picture for s in one.study.states}}
    media = {
        name: library.media.put(encode(one.pictures[value.file]))
        for name, value in pictures.items()
        if value is not None
    }
    return library.add(one.study, media, made)
