"""Pictures in a content-addressed folder: the name of a file is the SHA-256 of what is in it."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path
from typing import TYPE_CHECKING

from bralto.core.errors import UserError

if TYPE_CHECKING:  # Pillow is slow to load, and the window starts without it
    from bralto.imaging.load import CleanPicture

__all__ = ["MediaFolder"]


class MediaFolder:
    """Copies of the learner's pictures and their thumbnails; nothing is ever overwritten."""

    def __init__(self, root: Path) -> None:
        self._root = root

    def put(self, picture: CleanPicture) -> str:
        """Keep a picture and its thumbnail; gives its name in the folder."""
        digest = hashlib.sha256(picture.data).hexdigest()
        name = f"{digest[:2]}/{digest}{picture.suffix}"
        self._write(name, picture.data)
        self._write(self._thumbnail_name(name), picture.thumbnail)
        return name

    def path(self, name: str) -> Path:
        """Where a picture lies."""
        return self._root / name

    def thumbnail(self, name: str) -> Path:
        """Where its thumbnail lies."""
        return self._root / self._thumbnail_name(name)

    @staticmethod
    def _thumbnail_name(name: str) -> str:
        return f"{name.rsplit('.', 1)[0]}.small.jpg"

    def _write(self, name: str, data: bytes) -> None:
        path = self._root / name
        if path.exists():
            return
        try:
            path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
            # Whole or not at all: a crash leaves a stray temporary file, never half a picture.
            handle, temporary = tempfile.mkstemp(dir=path.parent)
            with os.fdopen(handle, "wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            Path(temporary).replace(path)
        except OSError as error:
            raise UserError(
                f"the picture could not be kept in {self._root} ({error.strerror})"
            ) from None
