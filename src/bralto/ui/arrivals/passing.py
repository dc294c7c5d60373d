"""Where files lie that are on their way: pasted pictures, studies that are dragged out."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING
from weakref import ref

from PyQt6.QtCore import QCoreApplication

if TYPE_CHECKING:
    from bralto.disk.held_folder import HeldFolder

__all__ = ["PassingFolder"]


class PassingFolder:
    """A folder that no other user can open; gone with this object, or when Bralto is closed: a
    window that closes does not wait until all its objects are."""

    def __init__(self) -> None:
        self._folder: HeldFolder | None = None

    def path(self) -> Path:
        """The folder, made when it is first wanted, and again where it was cleared away.

        Raises:
            UserError: there is no place for it.
        """
        if self._folder is None or not self._folder.path.is_dir():
            from bralto.disk.held_folder import HeldFolder  # the shelf is painted without

            self._folder = HeldFolder()
            _remove_at_the_end(self._folder)
        return self._folder.path


def _remove_at_the_end(folder: HeldFolder) -> None:
    application, held = QCoreApplication.instance(), ref(folder)

    def remove() -> None:
        still = held()
        if still is not None:
            still.remove()

    if application is not None:
        application.aboutToQuit.connect(remove)
