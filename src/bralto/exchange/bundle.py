"""Reads a bundle (`*.bralto`, a ZIP) as if a stranger had sent it."""

from __future__ import annotations

import stat
import zipfile
import zlib
from pathlib import Path, PurePosixPath

from bralto.core.errors import UserError
from bralto.core.study import Study
from bralto.exchange.study_file import parse_study

__all__ = ["MIMETYPE", "read_bundle"]

MIMETYPE = "application/vnd.bralto.study+zip"

# Limits against archives made to hurt (common practice, no source).
_MOST_FILES = 500
_MOST_BYTES = 1024**3
_MOST_RATIO = 200
_MOST_STUDY = 16 * 1024**2


def read_bundle(path: Path) -> Study:
    """The study inside a bundle; its pictures stay where they are.

    Raises:
        UserError: not a bundle, or one that breaks a limit; one sentence.
    """
    try:
        with zipfile.ZipFile(path) as archive:
            _check(archive, path)
            with archive.open("study.json") as file:
                data = file.read(_MOST_STUDY + 1)
            if len(data) > _MOST_STUDY:
                raise UserError(f"{path}: its study.json is too large to be one")
            return parse_study(data.decode("utf-8"), f"{path}: study.json")
    except FileNotFoundError:
        raise UserError(f"{path}: there is no such file; give the path of a bundle") from None
    except (zipfile.BadZipFile, zlib.error, UnicodeDecodeError, NotImplementedError, RuntimeError):
        raise UserError(f"{path}: not a Bralto bundle, or a damaged one") from None
    except OSError as error:
        raise UserError(f"{path}: cannot be read ({error.strerror})") from None


def _check(archive: zipfile.ZipFile, path: Path) -> None:
    entries = archive.infolist()
    if len(entries) > _MOST_FILES or sum(e.file_size for e in entries) > _MOST_BYTES:
        raise UserError(f"{path}: holds more than a bundle may ({_MOST_FILES} files, 1 GB)")
    for entry in entries:
        name = PurePosixPath(entry.filename)
        if name.is_absolute() or ".." in name.parts or "\\" in entry.filename:
            raise UserError(f"{path}: holds a file with a forbidden name, {entry.filename!r}")
        if stat.S_ISLNK(entry.external_attr >> 16):
            raise UserError(f"{path}: holds a link, {entry.filename!r}, which a bundle may not")
        if entry.file_size > _MOST_RATIO * max(1, entry.compress_size):
            raise UserError(f"{path}: {entry.filename!r} is packed beyond belief")
    names = [entry.filename for entry in entries]
    first_ok = bool(entries) and entries[0].filename == "mimetype"
    if not first_ok or archive.read("mimetype").strip() != MIMETYPE.encode():
        raise UserError(f"{path}: not a Bralto bundle; its first file must be its mimetype")
    if "study.json" not in names:
        raise UserError(f"{path}: holds no study.json")
