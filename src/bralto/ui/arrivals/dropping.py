"""Files and pictures that are dropped or pasted."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QMimeData
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QImage

from bralto.core.errors import UserError
from bralto.ui.arrivals.passing import PassingFolder

__all__ = ["PICTURES", "Loose", "accept_pictures", "dropped_files"]

PICTURES = (
    "Pictures (*.jpg *.jpeg *.png *.heic *.heif *.hif *.avif *.tif *.tiff *.webp *.bmp *.pdf);;"
    "All files (*)"
)
"""Filter of a file dialog."""

_LINK = (
    "That is a link and not the picture itself. Copy the picture there and paste it here, or save "
    "it and drop the file."
)


class Loose:
    """Pictures that come without a file are given one, which is gone with this object."""

    def __init__(self) -> None:
        self._folder = PassingFolder()
        self._count = 0

    def files(self, data: QMimeData | None) -> list[Path]:
        """The files of what is dropped or pasted, or the picture in it as a file; none where there
        is neither.

        Raises:
            UserError: there is only a link to a picture, or no place for its file.
        """
        files = _local_files(data)
        if files or data is None:
            return files
        image = data.imageData() if data.hasImage() else None
        if isinstance(image, QImage) and not image.isNull():
            return [self._saved(image)]
        if data.hasUrls():
            raise UserError(_LINK)
        return []

    def pasted(self) -> list[Path]:
        """As `files`, of the clipboard.

        Raises:
            UserError: as there; or there is no picture on it.
        """
        clipboard = QGuiApplication.clipboard()
        files = self.files(None if clipboard is None else clipboard.mimeData())
        if not files:
            raise UserError("There is no picture on the clipboard.")
        return files

    def _saved(self, image: QImage) -> Path:
        self._count += 1
        packed = QBuffer()
        packed.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(packed, "PNG")
        number = f" {self._count}" if self._count > 1 else ""
        file = self._folder.path() / f"Pasted picture{number}.png"
        try:
            file.write_bytes(packed.data().data())
        except OSError as error:
            file.unlink(missing_ok=True)
            raise UserError(f"There is no room for the picture: {error.strerror}.") from None
        return file


def _local_files(data: QMimeData | None) -> list[Path]:
    urls = data.urls() if data is not None else []
    return [Path(url.toLocalFile()) for url in urls if url.isLocalFile()]


def accept_pictures(event: QDragEnterEvent | None) -> None:
    """Let files, pictures and links be dropped, and nothing else."""
    assert event is not None
    data = event.mimeData()
    if data is not None and (data.hasUrls() or data.hasImage()):
        event.acceptProposedAction()


def dropped_files(event: QDropEvent | None, loose: Loose) -> list[Path]:
    """The files of a drop, which is accepted where there are any.

    Raises:
        UserError: see `Loose.files`.
    """
    assert event is not None
    files = loose.files(event.mimeData())
    if files:
        event.acceptProposedAction()
    return files
