"""A folder in which a phone or scanner saves: each new picture is told once it is whole."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QFileSystemWatcher, QObject, QTimer, pyqtSignal

__all__ = ["SUFFIXES", "FolderWatch"]

SUFFIXES = frozenset(
    {
        ".jpg",
        ".jpeg",
        ".png",
        ".heic",
        ".heif",
        ".hif",
        ".avif",
        ".tif",
        ".tiff",
        ".webp",
        ".bmp",
        ".pdf",
    }
)
"""Endings of files that are taken for pictures; what is in them decides."""

_SETTLED_MS = 600


class FolderWatch(QObject):
    """Emits `arrived` for each picture that appears after it began to watch."""

    arrived = pyqtSignal(Path)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.folder: Path | None = None
        self._watcher = QFileSystemWatcher(self)
        self._watcher.directoryChanged.connect(self._look)
        self._known: set[str] = set()
        self._sizes: dict[str, int] = {}
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_SETTLED_MS)
        self._timer.timeout.connect(self._look)

    def watch(self, folder: Path | None) -> bool:
        """Watch another folder, or none; one that cannot be watched changes nothing.

        Returns:
            Whether it is watched now.
        """
        if folder is not None and not folder.is_dir():
            return False
        watched = self._watcher.directories()
        if watched:
            self._watcher.removePaths(watched)
        self.folder = folder
        self._sizes.clear()
        if folder is None:
            return True
        self._known = set(self._pictures())
        return self._watcher.addPath(str(folder))

    def _pictures(self) -> dict[str, int]:
        """Names and sizes of the pictures in the folder."""
        if self.folder is None:
            return {}
        found = {}
        try:
            for path in self.folder.iterdir():
                if path.suffix.lower() in SUFFIXES and not path.name.startswith("."):
                    found[path.name] = path.stat().st_size
        except OSError:
            return {}
        return found

    def _look(self) -> None:
        """A file that has kept its size for a moment is whole."""
        now = self._pictures()
        waiting = False
        for name, size in sorted(now.items()):
            if name in self._known:
                continue
            if size and self._sizes.get(name) == size:
                self._known.add(name)
                assert self.folder is not None
                self.arrived.emit(self.folder / name)
            else:
                self._sizes[name] = size
                waiting = True
        self._known &= set(now)  # one that was taken away may come again
        if waiting:
            self._timer.start()
