"""Files dropped on the window."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMimeData

__all__ = ["local_files"]


def local_files(data: QMimeData | None) -> list[Path]:
    """The files that are being dropped."""
    urls = data.urls() if data is not None else []
    return [Path(url.toLocalFile()) for url in urls if url.isLocalFile()]
