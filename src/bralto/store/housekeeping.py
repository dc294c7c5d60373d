"""What is done now and then, off the GUI thread: a backup, the bin, what nobody has any more."""

from __future__ import annotations

from contextlib import suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path

from bralto.disk.private import PARTIAL
from bralto.store.care.backups import FOLDER, keep_backup
from bralto.store.failures import Failure, LibraryError
from bralto.store.instants import BIN_DAYS
from bralto.store.library import Library

__all__ = ["keep_house"]

_STRAY_S = 7 * 24 * 3600.0
"""How old a picture is that no study has before it goes: an import may be under way."""


def keep_house(root: Path, library: Library) -> bool:
    """Keep a backup where one is due, empty the bin of what is old, sweep the media folder.

    Returns:
        Whether the library is sound; of one that is damaged nothing is changed.

    Raises:
        UserError: the disk refuses; what was done until then stays.
    """
    now = datetime.now(UTC)
    try:
        keep_backup(root, now)
    except LibraryError as error:
        if error.kind is Failure.DAMAGED:
            return False
        raise
    oldest = (now - timedelta(days=BIN_DAYS)).isoformat(timespec="seconds")
    old = [row.id for row in library.rows() if row.binned is not None and row.binned < oldest]
    if old:
        library.media.remove(library.erase(old))
    library.media.sweep(library.media_in_use(), _STRAY_S)
    for folder in (root, root / FOLDER):
        _sweep_partial(folder, now.timestamp() - _STRAY_S)
    library.media.close_to_others()
    return True


def _sweep_partial(folder: Path, latest: float) -> None:
    """Files that a kill left half written, once they are that old (seconds since 1970)."""
    for path in folder.glob(f"{PARTIAL}*"):
        with suppress(OSError):
            if path.stat().st_mtime < latest:
                path.unlink()
