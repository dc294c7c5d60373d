"""Bring a picture in safely: checked, EXIF-turned, in sRGB, without any metadata."""

from __future__ import annotations

import io
from dataclasses import dataclass, field
from pathlib import Path

from PIL import Image, ImageOps

from bralto.imaging.bare import bare_suffix
from bralto.imaging.decode import LARGEST_PIXELS, SMALLEST_SIDE, decode_picture, open_picture
from bralto.imaging.photo_facts import Facts, facts_of

__all__ = [
    "LARGEST_PIXELS",
    "SMALLEST_SIDE",
    "CleanPicture",
    "clean_picture",
    "encode",
    "mirrored_picture",
    "take_over",
]

THUMBNAIL = 480
"""Longest side of a thumbnail, px: sharp on the shelf at twice the usual density."""

_QUALITY = 95
_LARGE, _QUICK, _USUAL = 30_000_000, 1, 6
"""Pixels from which a PNG is packed quickly: a noisy picture of 48 million took 17 s otherwise, 6 s
so."""

_LOSSLESS = frozenset({"PNG", "TIFF", "BMP", "GIF"})


@dataclass(frozen=True, slots=True)
class CleanPicture:
    """An encoded picture without metadata, upright; ``suffix`` is `.jpg` or `.png`.

    ``facts`` are what the photo said of when and through which lens it was taken.
    """

    data: bytes
    suffix: str
    width: int
    height: int
    thumbnail: bytes
    facts: Facts = field(default_factory=Facts)


def clean_picture(path: Path) -> CleanPicture:
    """A picture ready for the media folder: upright, re-encoded, nothing but pixels.

    Raises:
        UserError: see `decode.open_picture`.
    """
    image = open_picture(path)
    return encode(image, lossless=image.format in _LOSSLESS, facts=facts_of(image))


def mirrored_picture(path: Path) -> CleanPicture:
    """The same with left and right exchanged: of a picture that was taken in a mirror.

    Raises:
        UserError: see `decode.open_picture`.
    """
    image = open_picture(path)
    return encode(ImageOps.mirror(image), lossless=image.format in _LOSSLESS)


def encode(
    image: Image.Image,
    *,
    lossless: bool = False,
    facts: Facts = Facts(),  # noqa: B008 - frozen
) -> CleanPicture:
    """Encode an RGB picture with its thumbnail; its ``info`` is emptied."""
    image.info = {}  # what is not there cannot be written
    out = io.BytesIO()
    if lossless:
        large = image.width * image.height > _LARGE
        image.save(out, "PNG", compress_level=_QUICK if large else _USUAL)
    else:
        image.save(out, "JPEG", quality=_QUALITY, subsampling=0)
    suffix = ".png" if lossless else ".jpg"
    return CleanPicture(out.getvalue(), suffix, image.width, image.height, _thumbnail(image), facts)


def _thumbnail(image: Image.Image) -> bytes:
    by = min(1.0, THUMBNAIL / max(image.size))
    size = (max(1, round(image.width * by)), max(1, round(image.height * by)))
    small = image.resize(size, Image.Resampling.LANCZOS, reducing_gap=3.0)
    out = io.BytesIO()
    small.save(out, "JPEG", quality=88)
    return out.getvalue()


def take_over(data: bytes, name: str) -> CleanPicture:
    """A picture that another Bralto wrote out, kept byte for byte where it is bare of metadata;
    any other is cleaned like every picture.

    Raises:
        UserError: see `decode.open_picture`.
    """
    suffix = bare_suffix(data)
    image = decode_picture(io.BytesIO(data), name)
    if suffix is None:
        return encode(image, lossless=image.format in _LOSSLESS, facts=facts_of(image))
    return CleanPicture(data, suffix, image.width, image.height, _thumbnail(image))
