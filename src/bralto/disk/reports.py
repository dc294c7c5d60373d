"""Faults of Bralto's own, kept on disk for the learner to read or delete; never sent anywhere.

A report has types of exceptions, files and lines of the program, versions. It has no message of an
exception and no value: these can hold titles, places of marks and names of pictures.
"""

from __future__ import annotations

import os
import sys
from contextlib import suppress
from pathlib import Path

__all__ = ["Reports", "state_folder"]

_FILE, _OLDER, _STACKS = "faults.txt", "faults-older.txt", "stacks.txt"
_ROOM = 256 * 1024
_MOST_A_RUN = 20
_DEEPEST = 40


def state_folder() -> Path:
    """`$XDG_STATE_HOME/bralto`, after the XDG base directory specification."""
    said = os.environ.get("XDG_STATE_HOME", "")
    base = Path(said) if said.startswith("/") else Path.home() / ".local" / "state"
    return base / "bralto"


class Reports:
    """The reports of one machine's user; two files that take turns bound their size."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or state_folder()
        self._kept = 0

    def keep(self, error: BaseException, where: str) -> bool:
        """Write a fault down; gives whether it could be."""
        if self._kept >= _MOST_A_RUN:
            return False
        self._kept += 1
        try:
            self.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            path = self.folder / _FILE
            if path.exists() and path.stat().st_size > _ROOM:
                path.replace(self.folder / _OLDER)
            handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND | os.O_CLOEXEC, 0o600)
            with os.fdopen(handle, "a", encoding="utf-8") as file:
                file.write(_report(error, where))
        except OSError:
            return False
        return True

    def text(self) -> str:
        """All that is kept, the newest last, or ""."""
        parts = []
        for name in (_OLDER, _FILE, _STACKS):
            with suppress(OSError):
                parts.append((self.folder / name).read_text("utf-8", "replace"))
        return "\n".join(part for part in parts if part.strip())

    def delete(self) -> None:
        """Delete all of it."""
        for name in (_OLDER, _FILE, _STACKS):
            with suppress(OSError):
                (self.folder / name).unlink()

    def watch_for_crashes(self) -> None:
        """Have the stacks of functions written, too, should the process be brought down by a
        library (faulthandler)."""
        import faulthandler

        try:
            self.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            path = self.folder / _STACKS
            if path.exists() and path.stat().st_size > _ROOM:
                path.unlink()
            handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND | os.O_CLOEXEC, 0o600)
        except OSError:
            return
        faulthandler.enable(handle)  # for as long as the process runs


def _report(error: BaseException, where: str) -> str:
    # Few runs need any of these.
    import platform
    import traceback
    from datetime import UTC, datetime

    from bralto import __version__

    lines = [
        f"{datetime.now(UTC):%Y-%m-%d %H:%M:%S} UTC, {where}",
        f"Bralto {__version__}, Python {platform.python_version()}, {platform.system()} "
        f"{platform.machine()}",
    ]
    shown: BaseException | None = error
    seen: set[int] = set()
    while shown is not None and id(shown) not in seen:
        seen.add(id(shown))
        kind = type(shown)
        code = getattr(shown, "sqlite_errorname", None) or getattr(shown, "errno", None)
        lines.append(f"{kind.__module__}.{kind.__qualname__}{f' ({code})' if code else ''}")
        lines += [
            f"  {_program_file(frame.filename)}, line {frame.lineno}, {frame.name}"
            for frame in traceback.extract_tb(shown.__traceback__)[-_DEEPEST:]
        ]
        shown = shown.__cause__ or shown.__context__
    return "\n".join(lines) + "\n\n"


def _program_file(name: str) -> str:
    """A file of the program or of a library, without where it is installed."""
    for base in sys.path:
        if base and name.startswith(f"{base}/"):
            return name[len(base) + 1 :]
    return name.rsplit("/", 1)[-1]
