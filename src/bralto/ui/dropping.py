"""Files dropped on the window."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMimeData

__all__ = ["PICTURES", "local_files"]

PICTURES = (
    "Pictures (*.jpg *.jpeg *.png *.heic *.heif *.hif *.avif *.tif *.tiff *.webp *.bmp *.pdf);;"
    "All files (*)"
)
"""Filter of a file dialog."""


def local_files(data: QMimeData | None) -> list[Path]:
    """The files that are being dropped."""
    urls = data.urls() if data is not None else []
    return [Path(url.toLocalFile()) for url in urls if url.isLocalFile()]
