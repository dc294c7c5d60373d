"""A picture at full size and halves of it, so that any zoom is painted from near its own size.

Reads the cleaned copies of the media folder: the pixels come in the layout that Qt paints and are
never held twice; the bends of a curled sheet are taken out. Runs off the GUI thread; a QImage may
be made anywhere.
"""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QImageReader

from bralto.core.errors import UserError
from bralto.imaging.jpeg import decode_jpeg, jpeg_size
from bralto.imaging.load import LARGEST_PIXELS
from bralto.ui.boards.pixels import pixels_within

if TYPE_CHECKING:
    from bralto.core.study.bend_grid import BendGrid

__all__ = ["level_of", "load_preview", "load_pyramid", "straightened"]

_SMALLEST = 512
_PREVIEW = 1400
_LONGEST = 32_766
"""Longest side that can be straightened at full size, px (OpenCV counts pixels in 16 bits)."""
_BYTES_A_PIXEL = 4
_ROOM_MB = 2 * _BYTES_A_PIXEL * LARGEST_PIXELS // 2**20


def load_preview(path: Path, bends: BendGrid | None = None) -> tuple[QImage, ...]:
    """The picture at about 1,400 px, which a JPEG gives without being decoded whole.

    Args:
        bends: how the sheet in it curls.

    Raises:
        UserError: the file is gone or damaged.
    """
    QImageReader.setAllocationLimit(_ROOM_MB)
    reader = QImageReader(str(path))
    size = reader.size()
    if size.isValid() and max(size.width(), size.height()) > _PREVIEW:
        reader.setScaledSize(size.scaled(_PREVIEW, _PREVIEW, Qt.AspectRatioMode.KeepAspectRatio))
    image = _checked(reader.read(), path)
    return (straightened(image, bends, size.width() if size.isValid() else image.width()),)


def level_of(levels: Sequence[QImage], wide: float) -> QImage | None:
    """The smallest level that is at least so wide, px, or the finest; None where there is none."""
    fine = [one for one in levels if one.width() >= wide]
    return fine[-1] if fine else next(iter(levels), None)


def _checked(image: QImage, path: Path) -> QImage:
    if image.isNull():
        fault = "is damaged" if path.exists() else "is gone"
        raise UserError(f"The picture {fault}; its marks are here and can still be measured.")
    image.convertTo(QImage.Format.Format_RGB32)
    return image


def load_pyramid(path: Path, bends: BendGrid | None = None) -> tuple[QImage, ...]:
    """Decode a picture and halve it until its longer side is below 512 px.

    Args:
        bends: how the sheet in it curls.

    Raises:
        UserError: the file is gone or damaged.
    """
    image = _whole(path)
    image = straightened(image, bends, image.width())
    levels = [image]
    while max(image.width(), image.height()) >= _SMALLEST:
        image = image.scaled(
            image.width() // 2,
            image.height() // 2,
            Qt.AspectRatioMode.IgnoreAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
        levels.append(image)
    return tuple(levels)


def straightened(image: QImage, bends: BendGrid | None, wide: int) -> QImage:
    """A picture of four bytes a pixel without the bends of its sheet; itself where it lies flat.

    Args:
        wide: width of the picture at full size, px.
    """
    if bends is None or image.isNull():
        return image
    from bralto.imaging.straightened import straighten  # slow to load

    if max(image.width(), image.height()) > _LONGEST:
        image = image.scaled(
            _LONGEST,
            _LONGEST,
            Qt.AspectRatioMode.KeepAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
    laid = QImage(image.size(), image.format())
    straighten(pixels_within(image), bends, wide, pixels_within(laid))
    return laid


def _whole(path: Path) -> QImage:
    """A picture at full size; a JPEG in a third of the time that Qt's own decoder takes."""
    QImageReader.setAllocationLimit(_ROOM_MB)
    data = path.read_bytes() if path.suffix == ".jpg" and path.exists() else b""
    size = jpeg_size(data)
    if size is not None and size[0] * size[1] <= LARGEST_PIXELS:
        image = QImage(*size, QImage.Format.Format_RGB32)
        if decode_jpeg(data, pixels_within(image)):
            return image
    return _checked(QImageReader(str(path)).read(), path)  # which says what is wrong
