"""Bundles (`*.bralto`, a ZIP): written whole, and read as if a stranger had sent them."""

from __future__ import annotations

import json
import stat
import zipfile
import zlib
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path, PurePosixPath
from typing import BinaryIO

from bralto.core.errors import UserError
from bralto.core.study.values import Picture, Study
from bralto.disk.given import GIVEN
from bralto.disk.private import written_whole
from bralto.disk.regular import open_regular
from bralto.exchange.study_file import parse_study, study_document

__all__ = ["MIMETYPE", "Bundle", "open_bundle", "read_bundle", "write_bundle"]

MIMETYPE = "application/vnd.bralto.study+zip"

# Limits against archives made to hurt (common practice, no source). What an archive says of its own
# sizes is not trusted: reading stops where a limit is met.
_MOST_FILES = 500
_MOST_BYTES = 1024**3
_MOST_STUDY = 16 * 1024**2
_MOST_PICTURE = 192 * 1024**2
_MOST_LISTING = 256 * 1024

_SHOWN = "shown_as"
"""Under which a picture in a bundle keeps the name that the learner knew it by."""


class Bundle:
    """An open bundle: its study, and its pictures one at a time."""

    def __init__(self, archive: zipfile.ZipFile, where: str) -> None:
        self._archive, self._where = archive, where
        self._read = 0
        text = self._bytes("study.json", _MOST_STUDY)
        try:
            self.study = parse_study(text.decode("utf-8"), f"{where}: study.json")
        except UnicodeDecodeError:
            raise _damaged(where) from None

    def picture(self, picture: Picture) -> bytes | None:
        """The file of one of the study's pictures, or None where the bundle has none for it."""
        name = picture.file
        if not name.startswith("media/") or name not in self._archive.namelist():
            return None
        return self._bytes(name, _MOST_PICTURE)

    @staticmethod
    def shown(picture: Picture) -> Picture:
        """The picture under the name that the learner knew it by."""
        extra = dict(picture.extra)
        name = extra.pop(_SHOWN, None)
        known = name if isinstance(name, str) and name else PurePosixPath(picture.file).name
        return replace(picture, file=known, extra=extra)

    def _bytes(self, name: str, most: int) -> bytes:
        try:
            with self._archive.open(name) as file:
                data = file.read(min(most, _MOST_BYTES - self._read) + 1)
        except _FAULTS:
            raise _damaged(self._where) from None
        self._read += len(data)
        if len(data) > most or self._read > _MOST_BYTES:
            raise UserError(f"{self._where}: {name!r} is larger than it may be in a bundle")
        return data


# What a damaged archive makes of the standard library's reader.
_FAULTS = (
    zipfile.BadZipFile,
    zlib.error,
    EOFError,
    KeyError,
    NotImplementedError,
    RuntimeError,
    ValueError,
    OverflowError,
    OSError,
)


def _damaged(where: str) -> UserError:
    return UserError(f"{where}: not a Bralto bundle, or a damaged one")


@contextmanager
def open_bundle(path: Path) -> Iterator[Bundle]:
    """A bundle to read from.

    Raises:
        UserError: not a bundle, or one that breaks a limit; one sentence.
    """
    where = str(path)
    with open_regular(path, "a bundle", _MOST_BYTES) as file:
        _check_listing(file, where)
        try:
            archive = zipfile.ZipFile(file)
        except _FAULTS:
            raise _damaged(where) from None
        with archive:
            _check(archive, where)
            yield Bundle(archive, where)


def read_bundle(path: Path) -> Study:
    """The study inside a bundle; see `open_bundle`."""
    with open_bundle(path) as bundle:
        return bundle.study


def _check_listing(file: BinaryIO, where: str) -> None:
    """Refuse a list of files that is too long before it is read (APPNOTE.TXT 4.3.16)."""
    file.seek(0, 2)
    file.seek(max(0, file.tell() - 65_557))
    end = file.read(65_557)
    at = end.rfind(b"PK\5\6")
    if at < 0 or len(end) < at + 22:
        raise _damaged(where)
    files, size = int.from_bytes(end[at + 10 : at + 12], "little"), end[at + 12 : at + 16]
    if files > _MOST_FILES or int.from_bytes(size, "little") > _MOST_LISTING:
        raise UserError(f"{where}: holds more than a bundle may ({_MOST_FILES} files)")
    file.seek(0)


def _check(archive: zipfile.ZipFile, where: str) -> None:
    entries = archive.infolist()
    if len(entries) > _MOST_FILES:
        raise UserError(f"{where}: holds more than a bundle may ({_MOST_FILES} files)")
    for entry in entries:
        name = PurePosixPath(entry.filename)
        if name.is_absolute() or ".." in name.parts or "\\" in entry.filename:
            raise UserError(f"{where}: holds a file with a forbidden name, {entry.filename!r}")
        if stat.S_ISLNK(entry.external_attr >> 16):
            raise UserError(f"{where}: holds a link, {entry.filename!r}, which a bundle may not")
    if not entries or entries[0].filename != "mimetype":
        raise UserError(f"{where}: not a Bralto bundle; its first file must be its mimetype")
    try:
        with archive.open("mimetype") as file:
            said = file.read(len(MIMETYPE) + 8)
    except _FAULTS:
        raise _damaged(where) from None
    if said.strip() != MIMETYPE.encode():
        raise UserError(f"{where}: not a Bralto bundle; its first file must be its mimetype")
    if "study.json" not in archive.namelist():
        raise UserError(f"{where}: holds no study.json")


def write_bundle(
    study: Study,
    pictures: Mapping[str, tuple[str, Callable[[], bytes]]],
    thumbnail: bytes | None,
    path: Path,
) -> None:
    """Write a bundle whole or not at all.

    Args:
        pictures: by state name, the reference by "": the ending of its file, such as `.jpg`, and
            what reads it.
        thumbnail: a PNG, or None.

    Raises:
        UserError: it cannot be written there.
    """
    names: dict[str, str] = {}
    order = [state.name for state in study.states]
    for name in pictures:
        stem = f"state-{order.index(name) + 1}" if name else "reference"
        names[name] = f"media/{stem}{pictures[name][0]}"

    def filed(name: str, picture: Picture) -> Picture:
        if name not in names:
            return picture
        return replace(picture, file=names[name], extra={**picture.extra, _SHOWN: picture.file})

    whole = study.with_pictures(filed)
    text = json.dumps(study_document(whole), ensure_ascii=True, indent=1, allow_nan=False)
    try:
        with (
            written_whole(path, mode=GIVEN) as partial,
            zipfile.ZipFile(partial, "w", zipfile.ZIP_DEFLATED) as archive,
        ):
            archive.writestr("mimetype", MIMETYPE, zipfile.ZIP_STORED)
            archive.writestr("study.json", text + "\n")
            for name, (_, read) in pictures.items():
                archive.writestr(names[name], read(), zipfile.ZIP_STORED)  # packed already
            if thumbnail is not None:
                archive.writestr("thumbnail.png", thumbnail, zipfile.ZIP_STORED)
    except OSError as error:
        raise UserError(f"{path}: cannot be written ({error.strerror})") from None
