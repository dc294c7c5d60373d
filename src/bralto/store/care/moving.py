"""A library into another folder, while it is open and whatever has become of its own."""

from __future__ import annotations

import sqlite3
from contextlib import suppress
from pathlib import Path

from bralto.core.errors import UserError
from bralto.disk.private import close_to_others, make_private_folder
from bralto.store.failures import DATABASE_FAULTS, of_database, of_system
from bralto.store.media import MediaFolder
from bralto.store.sqlite.database import FILE
from bralto.store.sqlite.reading import media_in_use

__all__ = ["copy_library"]


def copy_library(connection: sqlite3.Connection, media: MediaFolder, root: Path) -> None:
    """Copy the database of an open connection, and the pictures that can still be read.

    Raises:
        UserError: there is a library already, or the folder cannot be written.
    """
    if (root / FILE).exists():
        raise UserError(f"{root}: there is a library already; choose another folder")
    try:
        make_private_folder(root, parents=True)
        made = sqlite3.connect(root / FILE)
        try:
            connection.backup(made)
        except DATABASE_FAULTS as error:
            raise of_database(error, root) from None
        finally:
            made.close()
        close_to_others(root / FILE)
    except OSError as error:
        raise of_system(error, root) from None
    target = MediaFolder(root / "media")
    for name in media_in_use(connection):
        for source, end in (
            (media.path(name), target.path(name)),
            (media.thumbnail(name), target.thumbnail(name)),
        ):
            with suppress(OSError):
                data = source.read_bytes()
                make_private_folder(end.parent, parents=True)
                end.write_bytes(data)
                close_to_others(end)
