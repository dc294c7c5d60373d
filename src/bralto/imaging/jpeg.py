"""JPEG straight into a buffer that somebody else paints from, by libjpeg-turbo."""

from __future__ import annotations

import simplejpeg

from bralto.core.arrays import Pixels

__all__ = ["decode_jpeg", "jpeg_size"]


def jpeg_size(data: bytes) -> tuple[int, int] | None:
    """Width and height, px; None where it is no JPEG."""
    try:
        height, width, _, _ = simplejpeg.decode_jpeg_header(data)
    except ValueError:
        return None
    return width, height


def decode_jpeg(data: bytes, into: Pixels) -> bool:
    """Decode into an (h, w, 4) uint8 array as blue, green, red and 255; no second copy is made.

    Returns:
        Whether it is whole: what is damaged is told by False, and the array may hold anything.
    """
    try:
        simplejpeg.decode_jpeg(data, "BGRA", buffer=into)
    except ValueError:
        return False
    return True
