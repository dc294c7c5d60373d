"""Studies out of the library as files of their own, and files in."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import partial
from pathlib import Path, PurePosixPath

from bralto.core.errors import UserError
from bralto.core.study.instants_read import instant_of
from bralto.core.study.values import Picture, Study
from bralto.disk.given import write_given
from bralto.disk.regular import read_bytes
from bralto.exchange.bundle import open_bundle, write_bundle
from bralto.exchange.study_file import read_study, write_study
from bralto.imaging.decode import LARGEST_BYTES
from bralto.imaging.load import CleanPicture, clean_picture, take_over
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import Library

__all__ = ["read_in", "write_out"]


def write_out(library: Library, study_id: str, path: Path) -> None:
    """Write a study with its pictures: a bundle, or a study file where the ending is `.json`, with
    its pictures beside it. One that is gone from the library is left out.

    Raises:
        UserError: there is no such study, or it cannot be written there.
    """
    stored = library.stored(study_id)
    if stored is None:
        raise UserError(f"{study_id}: there is no such study in the library {library.root}")

    def read(media: str) -> bytes:
        return read_bytes(library.media.path(media), "a picture of the study", LARGEST_BYTES)

    pictures: dict[str, tuple[str, Callable[[], bytes]]] = {}
    for name in stored.study.pictures():
        media = stored.media.get(name)
        if media is not None and library.media.path(media).exists():
            pictures[name] = (PurePosixPath(media).suffix, partial(read, media))
    if path.suffix == ".json":
        _write_beside(stored.study, pictures, path)
    else:
        last = stored.study.states[-1].name if stored.study.states else ""
        small = _thumbnail(library, stored.media[last]) if last in pictures else None
        write_bundle(stored.study, pictures, small, path)


def _thumbnail(library: Library, media: str) -> bytes | None:
    from PIL import Image

    from bralto.imaging.png import png_of

    try:
        with Image.open(library.media.thumbnail(media)) as small:
            return png_of(small)
    except OSError:
        return None


def _write_beside(
    study: Study, pictures: Mapping[str, tuple[str, Callable[[], bytes]]], path: Path
) -> None:
    """A study file and its pictures: `name.json`, `name-reference.jpg`, `name-state-1.jpg`."""
    order = [state.name for state in study.states]
    names = {
        name: f"{path.stem}-{f'state-{order.index(name) + 1}' if name else 'reference'}{ending}"
        for name, (ending, _) in pictures.items()
    }
    for name, (_, read) in pictures.items():
        write_given(path.parent / names[name], read())
    filed = study.with_pictures(lambda name, one: replace(one, file=names.get(name, one.file)))
    write_study(filed, path)


def read_in(library: Library, path: Path) -> str:
    """Take a bundle or a study file in, with the pictures that come with it; gives its id.

    Every picture is opened and checked. One that has other sides than the study says is left out:
    its marks would lie elsewhere.

    Raises:
        UserError: it is neither, breaks a limit, or a picture of it is no picture; nothing has been
            kept then.
    """
    with keeping(library) as keep:
        if path.suffix.lower() == ".json":
            study = read_study(path)
            if study.own_view is not None:
                raise UserError(
                    f"{path}: its view '{study.view}' is one of your own, which the library cannot "
                    "keep yet; measure the file itself"
                )
            find = partial(_beside, path)
            media = {
                name: keep(clean)
                for name, picture in study.pictures().items()
                if (clean := find(picture)) is not None
            }
            return library.add(study, media, _made(study))
        with open_bundle(path) as bundle:
            media = {}
            for name, picture in bundle.study.pictures().items():
                data = bundle.picture(picture)
                if data is not None:
                    clean = take_over(data, f"{path.name}: {picture.file}")
                    if _fits(clean, picture):
                        media[name] = keep(clean)
            whole = bundle.study.with_pictures(lambda _, picture: bundle.shown(picture))
        return library.add(whole, media, _made(whole))


def _beside(path: Path, picture: Picture) -> CleanPicture | None:
    """The picture that lies beside a study file, under a plain name."""
    name = PurePosixPath(picture.file)
    plain = name.parts and not name.is_absolute() and ".." not in name.parts
    if not plain or "\0" in picture.file or not (path.parent / name).is_file():
        return None
    clean = clean_picture(path.parent / name)
    return clean if _fits(clean, picture) else None


def _fits(clean: CleanPicture, picture: Picture) -> bool:
    return (clean.width, clean.height) == (picture.width, picture.height)


def _made(study: Study) -> str:
    """When the drawing was last photographed, where that is an instant in UTC; else now."""
    from datetime import UTC, datetime

    taken = study.states[-1].taken if study.states else None
    if taken is None or not taken.endswith("Z"):
        return now_utc()
    found = instant_of(taken)
    return taken if found is not None and found < datetime.now(UTC) else now_utc()
