"""From picture files to a kept study or state: checked and cleaned first, then one transaction."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import replace
from pathlib import Path

from bralto.core.errors import UserError
from bralto.core.study.stages import FIRST
from bralto.core.study.values import Picture, State, Study
from bralto.disk.names import name_of_file
from bralto.imaging.load import CleanPicture, clean_picture
from bralto.store.library import Library, StoredStudy

__all__ = ["add_state", "add_study", "add_study_from_files", "keeping", "picture_of"]


def picture_of(path: Path, clean: CleanPicture, permission: str | None) -> Picture:
    """What is said of a picture that came from that file; it has no marks yet."""
    return Picture(
        name_of_file(path),
        clean.width,
        clean.height,
        permission=permission,
        focal_35mm=clean.facts.focal_35mm,
    )


@contextmanager
def keeping(library: Library) -> Iterator[Callable[[CleanPicture], str]]:
    """A way to put pictures into the media folder for what is added inside; where that fails, they
    are taken out again: on a full disk the room is wanted."""
    put: list[str] = []

    def keep(clean: CleanPicture) -> str:
        put.append(library.media.put(clean))
        return put[-1]

    try:
        yield keep
    except BaseException:
        with suppress(UserError):
            library.media.remove(set(put) - library.media_in_use())
        raise


def add_state(
    library: Library, study_id: str, version: int, new: State, clean: CleanPicture
) -> StoredStudy:
    """Keep a further state of a drawing with its picture; gives the study as it is then.

    Raises:
        UserError: the disk or the library refused; nothing has been kept then.
    """
    with keeping(library) as keep:
        return library.edits.add_state(study_id, version, new, keep(clean))


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
    with keeping(library) as keep:
        media: dict[str, str] = {}
        states: tuple[State, ...] = ()
        seen = None
        if reference is not None:
            seen, media[""] = picture_of(*reference, said), keep(reference[1])
        if drawing is not None:
            media[FIRST] = keep(drawing[1])
            taken = drawing[1].facts.taken or made
            states = (State(FIRST, picture_of(*drawing, None), taken),)
        return library.add(replace(study, reference=seen, states=states), media, made)
