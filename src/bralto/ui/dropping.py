"""Files dropped on the window."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMimeData
from PyQt6.QtGui import QDragEnterEvent, QDropEvent

__all__ = ["PICTURES", "accept_files", "dropped_files", "local_files"]

PICTURES = (
    "Pictures (*.jpg *.jpeg *.png *.heic *.heif *.hif *.avif *.tif *.tiff *.webp *.bmp *.pdf);;"
    "All files (*)"
)
"""Filter of a file dialog."""


def local_files(data: QMimeData | None) -> list[Path]:
    """The files that are being dropped."""
    urls = data.urls() if data is not None else []
    return [Path(url.toLocalFile()) for url in urls if url.isLocalFile()]


def accept_files(event: QDragEnterEvent | None) -> None:
    """Let files be dropped, and nothing else."""
    assert event is not None
    if local_files(event.mimeData()):
        event.acceptProposedAction()


def dropped_files(event: QDropEvent | None) -> list[Path]:
    """The files of a drop, which is accepted where there are any."""
    assert event is not None
    files = local_files(event.mimeData())
    if files:
        event.acceptProposedAction()
    return files
