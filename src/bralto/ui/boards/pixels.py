"""Between Qt's pictures and arrays of pixels."""

from __future__ import annotations

import numpy as np
from PyQt6.QtGui import QImage

from bralto.core.arrays import Pixels

__all__ = ["as_image", "as_pixels", "pixels_within"]


def as_pixels(image: QImage) -> Pixels:
    """(h, w, 3) uint8 RGB copy of a picture, not to be written to."""
    plain = image.convertToFormat(QImage.Format.Format_RGB888)
    bits = plain.constBits()
    assert bits is not None
    rows = np.frombuffer(bits.asstring(plain.sizeInBytes()), dtype=np.uint8)
    rows = rows.reshape(plain.height(), plain.bytesPerLine())[:, : 3 * plain.width()]
    pixels: Pixels = rows.reshape(plain.height(), plain.width(), 3)
    return pixels


def as_image(pixels: Pixels) -> QImage:
    """A picture of (h, w, 3) uint8 RGB, with pixels of its own."""
    height, width = pixels.shape[:2]
    whole = np.ascontiguousarray(pixels).tobytes()
    image = QImage(whole, width, height, 3 * width, QImage.Format.Format_RGB888)
    return image.convertToFormat(QImage.Format.Format_RGB32)


def pixels_within(image: QImage) -> Pixels:
    """(h, w, 4) uint8 of a picture of four bytes a pixel, to be written to; as long as it lives."""
    bits = image.bits()
    assert bits is not None
    bits.setsize(image.sizeInBytes())
    pixels: Pixels = np.asarray(bits, dtype=np.uint8)
    return pixels.reshape(image.height(), image.width(), 4)
