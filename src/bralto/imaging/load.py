"""Bring a picture in safely: checked, EXIF-turned, without its location or any other metadata."""

from __future__ import annotations

import io
from dataclasses import dataclass
from pathlib import Path

from PIL import Image, ImageOps, UnidentifiedImageError

from bralto.core.errors import UserError

__all__ = ["LARGEST_PIXELS", "SMALLEST_SIDE", "CleanPicture", "clean_picture", "open_upright"]

LARGEST_PIXELS = 120_000_000
"""More than any camera a learner has (common practice, no source); 360 MB as RGB."""

SMALLEST_SIDE = 32
"""A picture with a shorter side (px) cannot carry marks."""

_QUALITY = 95

# The size is checked here, right after the header is read and before anything is decoded.
Image.MAX_IMAGE_PIXELS = None


@dataclass(frozen=True, slots=True)
class CleanPicture:
    """An encoded picture without metadata, upright; ``suffix`` is `.jpg` or `.png`."""

    data: bytes
    suffix: str
    width: int
    height: int
    thumbnail: bytes


def open_upright(path: Path) -> Image.Image:
    """Open, check, decode and EXIF-turn a picture; RGB.

    Raises:
        UserError: it is no picture, is damaged, or its size is out of bounds; one sentence.
    """
    _with_heif(path)
    try:
        with Image.open(path) as image:
            width, height = image.size
            if width * height > LARGEST_PIXELS:
                raise UserError(
                    f"{path.name}: {width:,} × {height:,} pixels is more than the "
                    f"{LARGEST_PIXELS // 10**6} million that Bralto opens; save it smaller"
                )
            if min(width, height) < SMALLEST_SIDE:
                raise UserError(
                    f"{path.name}: {width} × {height} pixels is too small to place marks on; "
                    f"each side needs at least {SMALLEST_SIDE}"
                )
            image.load()
            return _flat(ImageOps.exif_transpose(image))
    except FileNotFoundError:
        raise UserError(f"{path.name}: there is no such file") from None
    except UnidentifiedImageError:
        raise UserError(
            f"{path.name}: not a picture that Bralto can read; use JPEG, PNG, HEIC, TIFF or WebP"
        ) from None
    except (OSError, SyntaxError, ValueError, EOFError, IndexError) as error:
        if isinstance(error, OSError) and error.strerror:
            raise UserError(f"{path.name}: cannot be read ({error.strerror})") from None
        raise UserError(
            f"{path.name}: damaged or cut short; copy it again from the camera or phone"
        ) from None


def clean_picture(path: Path) -> CleanPicture:
    """A picture ready for the media folder: upright, re-encoded, nothing but pixels and colour.

    Raises:
        UserError: see `open_upright`.
    """
    image = open_upright(path)
    lossless = path.suffix.lower() in {".png", ".bmp", ".tif", ".tiff", ".gif"}
    return encode(image, lossless=lossless)


def encode(image: Image.Image, *, lossless: bool = False) -> CleanPicture:
    """Encode an RGB picture with its thumbnail."""
    profile = image.info.get("icc_profile")
    small = image.copy()
    small.thumbnail((THUMBNAIL, THUMBNAIL), Image.Resampling.LANCZOS, reducing_gap=3.0)
    thumb = io.BytesIO()
    small.save(thumb, "JPEG", quality=88, icc_profile=profile)
    out = io.BytesIO()
    if lossless:
        image.save(out, "PNG", icc_profile=profile)
    else:
        image.save(out, "JPEG", quality=_QUALITY, subsampling=0, icc_profile=profile)
    suffix = ".png" if lossless else ".jpg"
    return CleanPicture(out.getvalue(), suffix, image.width, image.height, thumb.getvalue())


THUMBNAIL = 480
"""Longest side of a thumbnail, px: sharp on the shelf at twice the usual density."""


def _flat(image: Image.Image) -> Image.Image:
    """RGB on white; transparency has no meaning for a drawing."""
    if image.mode in {"RGBA", "LA", "PA"} or "transparency" in image.info:
        rgba = image.convert("RGBA")
        ground = Image.new("RGB", image.size, "white")
        ground.paste(rgba, mask=rgba.getchannel("A"))
        return ground
    if image.mode.startswith(("I", "F")):
        # 16-bit scans: Pillow clips instead of scaling.
        return image.convert("I").point(lambda v: v / 256).convert("L").convert("RGB")
    return image if image.mode == "RGB" else image.convert("RGB")


def _with_heif(path: Path) -> None:
    """Teach Pillow HEIC only when one comes along: the library is slow to load."""
    if path.suffix.lower() in {".heic", ".heif", ".hif"}:
        import pillow_heif

        pillow_heif.register_heif_opener()
