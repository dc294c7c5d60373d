"""Where files lie that are on their way: pasted pictures, studies that are dragged out."""

from __future__ import annotations

from pathlib import Path
from weakref import ref

from PyQt6.QtCore import QCoreApplication, QTemporaryDir

from bralto.core.errors import UserError

__all__ = ["PassingFolder"]


class PassingFolder:
    """A folder that no other user can open; gone with this object, or when Bralto is closed: a
    window that closes does not wait until all its objects are."""

    def __init__(self) -> None:
        self._folder: QTemporaryDir | None = None

    def path(self) -> Path:
        """The folder, made when it is first wanted, and again where it was cleared away.

        Raises:
            UserError: there is no place for it.
        """
        if self._folder is None or not Path(self._folder.path()).is_dir():
            made = QTemporaryDir()
            if not made.isValid():
                raise UserError(f"There is no place for files on their way: {made.errorString()}.")
            _remove_at_the_end(made)
            self._folder = made
        return Path(self._folder.path())


def _remove_at_the_end(folder: QTemporaryDir) -> None:
    application, held = QCoreApplication.instance(), ref(folder)

    def remove() -> None:
        still = held()
        if still is not None:
            still.remove()

    if application is not None:
        application.aboutToQuit.connect(remove)
