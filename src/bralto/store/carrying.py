"""Studies out of the library as files of their own, and files in."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path, PurePosixPath

from bralto.core.errors import UserError
from bralto.core.study import Picture, Study
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
    its pictures beside it.

    Raises:
        UserError: there is no such study, a picture of it is gone, or it cannot be written there.
    """
    stored = library.stored(study_id)
    if stored is None:
        raise UserError(f"{study_id}: there is no such study in the library {library.root}")

    def read(media: str) -> bytes:
        return read_bytes(library.media.path(media), "a picture of the study", LARGEST_BYTES)

    there = {name: media for name, media in stored.media.items()
             if library.media.path(media).exists()}  # fmt: skip
    if path.suffix == ".json":
        _write_beside(stored.study, {name: partial(read, m) for name, m in there.items()}, path,
                      {name: PurePosixPath(m).suffix for name, m in there.items()})  # fmt: skip
        return
    order = sorted(there, key=lambda name: (name != "", name))
    pictures = {name: (PurePosixPath(there[name]).suffix, partial(read, there[name]))
                for name in order}  # fmt: skip
    last = stored.study.states[-1].name if stored.study.states else ""
    write_bundle(stored.study, pictures, _thumbnail(library, there.get(last)), path)


def _thumbnail(library: Library, media: str | None) -> bytes | None:
    if media is None:
        return None
    from PIL import Image

    try:
        with Image.open(library.media.thumbnail(media)) as small:
            out = io.BytesIO()
            small.save(out, "PNG")
    except OSError:
        return None
    return out.getvalue()


def _write_beside(
    study: Study, pictures: dict[str, Callable[[], bytes]], path: Path, endings: dict[str, str]
) -> None:
    """A study file and its pictures: `name.json`, `name-reference.jpg`, `name-state-1.jpg`."""
    order = ["", *(state.name for state in study.states)]
    names = {
        name: f"{path.stem}-{f'state-{order.index(name)}' if name else 'reference'}{endings[name]}"
        for name in pictures
    }
    try:
        for name, read in pictures.items():
            (path.parent / names[name]).write_bytes(read())
    except OSError as error:
        raise UserError(f"{path.parent}: cannot be written ({error.strerror})") from None

    def filed(name: str, picture: Picture) -> Picture:
        return replace(picture, file=names.get(name, picture.file))

    whole = replace(
        study,
        reference=None if study.reference is None else filed("", study.reference),
        states=tuple(replace(one, picture=filed(one.name, one.picture)) for one in study.states),
    )
    write_study(whole, path)


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
                for name, picture in _pictures(study).items()
                if (clean := find(picture)) is not None
            }
            return library.add(study, media, _made(study))
        with open_bundle(path) as bundle:
            media = {}
            for name, picture in _pictures(bundle.study).items():
                data = bundle.picture(picture)
                if data is not None:
                    clean = take_over(data, f"{path.name}: {picture.file}")
                    if _fits(clean, picture):
                        media[name] = keep(clean)
            study = bundle.study
            whole = replace(
                study,
                reference=None if study.reference is None else bundle.shown(study.reference),
                states=tuple(
                    replace(one, picture=bundle.shown(one.picture)) for one in study.states
                ),
            )
        return library.add(whole, media, _made(study))


def _pictures(study: Study) -> dict[str, Picture]:
    found = {state.name: state.picture for state in study.states}
    if study.reference is not None:
        found[""] = study.reference
    return found


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
    taken = study.states[-1].taken if study.states else None
    return taken if taken is not None and _is_instant(taken) else now_utc()


def _is_instant(text: str) -> bool:
    from datetime import UTC, datetime

    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        return False
    return text.endswith("Z") and datetime(1970, 1, 1, tzinfo=UTC) < found < datetime.now(UTC)
