"""Pictures in a content-addressed folder: the name of a file is the SHA-256 of what is in it."""

from __future__ import annotations

import errno
import re
import time
from collections.abc import Callable, Collection, Iterator
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

from bralto.disk.private import (
    PARTIAL,
    close_to_others,
    make_private_folder,
    sync_folder,
    write_private,
    written_whole,
)
from bralto.store.failures import LibraryError, of_system
from bralto.store.first_screen import FirstScreen

if TYPE_CHECKING:  # Pillow is slow to load, and the window starts without it
    from bralto.imaging.load import CleanPicture

__all__ = ["MediaFolder"]

_SMALL, _CARD = ".small.jpg", ".card-"

_NAME = re.compile(r"[\w-]{2}/[\w-]{1,100}(\.\w{1,8})?", re.ASCII)
_NOWHERE = "no/picture"
"""What a name in a row must look like, or else where it leads: a library may be damaged, or made by
somebody who wants another folder's files read, or removed."""

# How many cards of one picture stay: a screen of another ratio, another reference or a moved sheet
# asks for another (common practice, no source).
_CARDS = 6


class MediaFolder:
    """Copies of the learner's pictures and their thumbnails; nothing sound is ever overwritten."""

    def __init__(self, root: Path) -> None:
        self._root = root
        self.first_screen = FirstScreen(root / "first-screen")

    def put(self, picture: CleanPicture) -> str:
        """Keep a picture and its thumbnail; gives its name in the folder.

        Raises:
            LibraryError: the disk refused; nothing is left behind then.
        """
        import hashlib  # the shelf does without

        digest = hashlib.sha256(picture.data).hexdigest()
        name = f"{digest[:2]}/{digest}{picture.suffix}"
        fresh = self._write(name, picture.data)
        try:
            self._write(self._thumbnail_name(name), picture.thumbnail)
        except LibraryError:
            if fresh:
                self.path(name).unlink(missing_ok=True)
            raise
        return name

    def path(self, name: str) -> Path:
        """Where a picture lies; never outside of this folder."""
        return self._root / _known(name)

    def thumbnail(self, name: str) -> Path:
        """Where its thumbnail lies."""
        return self._root / self._thumbnail_name(_known(name))

    def put_card(self, path: Path, write: Callable[[Path], bool]) -> None:
        """Keep a picture as it was laid; of one picture only the latest few.

        Args:
            path: as `card` gives it.
            write: writes a JPEG to a path, and gives whether that went well.
        """
        with suppress(OSError), written_whole(path) as partial:
            if not write(partial):
                raise OSError(errno.EIO, "no card")
        stem = path.name.split(_CARD)[0]
        with suppress(OSError):
            others = sorted(path.parent.glob(f"{stem}{_CARD}*"), key=_written, reverse=True)
            for old in others[_CARDS:]:
                old.unlink(missing_ok=True)

    def card(self, name: str, laid: str) -> Path:
        """Where a picture lies as it was laid for a card; ``laid`` says how."""
        return self._root / f"{_known(name).rsplit('.', 1)[0]}{_CARD}{laid}.jpg"

    @staticmethod
    def _thumbnail_name(name: str) -> str:
        return f"{name.rsplit('.', 1)[0]}{_SMALL}"

    def _write(self, name: str, data: bytes) -> bool:
        """Write a file where it is not there whole; gives whether it was written."""
        path = self._root / name
        there = path.exists()
        try:
            # Not with its parents: where the library's folder is gone it must not come back empty.
            for folder in (self._root, path.parent):
                if not folder.exists():
                    make_private_folder(folder)
                    sync_folder(folder.parent)
            if there and _holds(path, data):
                return False
            write_private(path, data)  # one that was emptied or cut short is healed so
        except OSError as error:
            if not there:  # it may have its name already, and its folder not be on disk
                path.unlink(missing_ok=True)
            raise of_system(error, self._root) from None
        return True

    # Keeping house

    def names(self) -> Iterator[str]:
        """Every picture that lies there, thumbnails apart."""
        for path in sorted(self._root.glob("??/*")):
            if not path.name.startswith(".") and path.name.count(".") == 1:
                yield f"{path.parent.name}/{path.name}"

    def is_empty(self) -> bool:
        """Whether nothing lies there."""
        return next(self.names(), None) is None

    def is_sound(self, name: str) -> bool:
        """Whether a picture is what its name says."""
        import hashlib

        try:
            with self.path(name).open("rb") as file:
                found = hashlib.file_digest(file, "sha256").hexdigest()
        except OSError:
            return False
        return name.rsplit("/", 1)[-1].split(".", 1)[0] == found

    def size(self, names: Collection[str]) -> int:
        """Bytes of pictures with their thumbnails."""
        total = 0
        for name in names:
            for path in self._all_of(name):
                with suppress(OSError):
                    total += path.stat().st_size
        return total

    def remove(self, names: Collection[str]) -> int:
        """Remove pictures with their thumbnails and cards; gives the bytes that were freed."""
        freed = 0
        for name in names:
            for path in self._all_of(name):
                try:
                    size = path.stat().st_size
                    path.unlink()
                except OSError:
                    continue
                freed += size
        if names:
            self.first_screen.forget()
        return freed

    def _all_of(self, name: str) -> list[Path]:
        path = self.path(name)
        return list(path.parent.glob(f"{path.name.split('.', 1)[0]}.*"))

    def sweep(self, in_use: Collection[str], older_s: float) -> int:
        """Remove pictures that no study has and half-written files, once they are that old.

        Returns:
            How many files went.
        """
        latest, gone = time.time() - older_s, 0
        kept = {name.split(".", 1)[0] for name in in_use}
        for path in self._root.glob("??/*"):
            stem = f"{path.parent.name}/{path.name.split('.', 1)[0]}"
            stray = path.name.startswith((PARTIAL, "tmp"))
            try:
                if (stray or stem not in kept) and path.stat().st_mtime < latest:
                    path.unlink()
                    gone += 1
            except OSError:
                continue
        if gone:
            self.first_screen.forget()
        return gone

    def close_to_others(self) -> None:
        """Take every right on what lies there away from others."""
        for path in (self._root, *self._root.glob("*"), *self._root.glob("??/*")):
            close_to_others(path)


def _known(name: str) -> str:
    return name if _NAME.fullmatch(name) else _NOWHERE


def _written(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except FileNotFoundError:
        return 0.0


def _holds(path: Path, data: bytes) -> bool:
    try:
        return path.stat().st_size == len(data) and path.read_bytes() == data
    except FileNotFoundError:
        return False
