"""A picture as the bytes of a PNG file."""

from __future__ import annotations

import io

from PIL import Image

__all__ = ["png_of"]


def png_of(image: Image.Image) -> bytes:
    """The file in memory, to be written whole."""
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
