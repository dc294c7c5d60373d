"""Decode a picture of any kind that a learner has: photo, scan or PDF, upright, RGB, in sRGB."""

from __future__ import annotations

import io
import struct
import threading
from collections.abc import Callable
from pathlib import Path
from typing import BinaryIO

from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from bralto.core.errors import UserError
from bralto.disk.regular import open_regular

__all__ = ["LARGEST_BYTES", "LARGEST_PIXELS", "SMALLEST_SIDE", "decode_picture", "open_picture"]

LARGEST_PIXELS = 80_000_000
"""A sheet of A3 scanned at 600 dots an inch has 69.6 million. A picture takes 4 bytes a pixel while
it is worked on, and so does what it is turned into: 640 MB at most."""

LARGEST_BYTES = 512 * 1024**2
"""Of a picture's file: that scan, not compressed, with 16 bits a colour, has 418 MB."""

SMALLEST_SIDE = 32
"""A picture with a shorter side (px) cannot carry marks."""

_PDF_DPI = 300
_PDF_POINT = 72

_STRIP = 256
"""Rows that are converted at a time, so that no third copy of a picture is ever held."""

# The size is checked here, right after the header is read and before anything is decoded.
Image.MAX_IMAGE_PIXELS = None

_PDF_AT_A_TIME = threading.Lock()
"""PDFium is not made for several threads."""


def open_picture(path: Path) -> Image.Image:
    """Open, check and decode a picture: upright, RGB, sRGB; ``format`` and EXIF stay with it.

    Raises:
        UserError: it is no file, no picture, damaged, or its size is out of bounds; one sentence.
    """
    # By its name alone, as every other fault of a picture is said.
    with open_regular(path, "a picture", LARGEST_BYTES, path.name) as file:
        return decode_picture(file, path.name)


def decode_picture(file: BinaryIO, name: str) -> Image.Image:
    """`open_picture` of a file that is open; ``name`` is for messages."""
    try:
        start = file.read(32)
        file.seek(0)
        if start[:5] == b"%PDF-":
            return _first_page(file, name)
        _with_heif(start)
        image = _opened(file, start)
        _check_size(name, *image.size)
        image.load()
        kind = image.format
        found = _in_srgb(_upright(image))
        found.format = kind
        return found
    except UserError:
        raise
    except UnidentifiedImageError:
        raise UserError(
            f"{name}: not a picture that Bralto can read; use JPEG, PNG, HEIC, AVIF, TIFF, "
            "WebP or PDF"
        ) from None
    except Exception as error:
        # A damaged file makes a decoder raise whatever it happened to meet.
        if isinstance(error, OSError) and error.strerror:
            raise UserError(f"{name}: cannot be read ({error.strerror})") from None
        raise UserError(
            f"{name}: damaged or cut short; copy it again from the camera or phone"
        ) from None


def _opened(file: BinaryIO, start: bytes) -> Image.Image:
    """The picture, its pixels still undecoded; a JPEG whose metadata cannot be read without it."""
    try:
        return Image.open(file)
    except (struct.error, SyntaxError, ValueError, KeyError, IndexError, OSError):
        if start[:2] != b"\xff\xd8":
            raise
        file.seek(0)
        return Image.open(io.BytesIO(_without_metadata(file.read(LARGEST_BYTES))))


def _without_metadata(data: bytes) -> bytes:
    """A JPEG less its APP1 segments (ISO/IEC 10918-1, B.1.1.4: marker, length, contents)."""
    out, at = bytearray(data[:2]), 2
    while at + 4 <= len(data) and data[at] == 0xFF and data[at + 1] != 0xDA:
        length = 2 + int.from_bytes(data[at + 2 : at + 4])
        if data[at + 1] != 0xE1:
            out += data[at : at + length]
        at += length
    return bytes(out + data[at:])


def _check_size(name: str, width: int, height: int) -> None:
    if width * height > LARGEST_PIXELS:
        raise UserError(
            f"{name}: {width:,} × {height:,} pixels is more than the "
            f"{LARGEST_PIXELS // 10**6} million that Bralto opens; save it smaller"
        )
    if min(width, height) < SMALLEST_SIDE:
        raise UserError(
            f"{name}: {width} × {height} pixels is too small to place marks on; "
            f"each side needs at least {SMALLEST_SIDE}"
        )


def _upright(image: Image.Image) -> Image.Image:
    """Turned as the camera was held; one whose EXIF cannot be read stays as it lies."""
    try:
        ImageOps.exif_transpose(image, in_place=True)
    except Exception:
        return image
    return image


def _in_srgb(image: Image.Image) -> Image.Image:
    """RGB on white in sRGB: profiles applied, sixteen bits scaled, palettes and CMYK resolved."""
    exif = image.info.get("exif")
    profile = image.info.get("icc_profile")
    to_srgb = _profile_map(image, profile) if profile else None
    clear = image.mode in {"RGBA", "LA", "PA"} or "transparency" in image.info

    def convert(part: Image.Image) -> Image.Image:
        if to_srgb is not None and part.mode in _WITH_PROFILE:
            return to_srgb(part)
        flat = _flat(part, clear)
        return flat if to_srgb is None else to_srgb(flat)

    if image.mode == "RGB" and not clear and to_srgb is None:
        found = image
    else:
        found = Image.new("RGB", image.size)
        for top in range(0, image.height, _STRIP):
            box = (0, top, image.width, min(top + _STRIP, image.height))
            part = image.crop(box)
            part.info = image.info
            found.paste(convert(part), box)
    found.info = {} if exif is None else {"exif": exif}
    return found


def _flat(image: Image.Image, clear: bool) -> Image.Image:
    """RGB on white; transparency has no meaning for a drawing."""
    if clear:
        rgba = image.convert("RGBA")
        ground = Image.new("RGB", image.size, "white")
        ground.paste(rgba, mask=rgba.getchannel("A"))
        return ground
    if image.mode.startswith(("I", "F")):
        # 16-bit scans: Pillow clips instead of scaling.
        return image.convert("I").point(lambda v: v / 256).convert("L").convert("RGB")
    return image.convert("RGB")


_WITH_PROFILE = frozenset({"CMYK", "RGB", "L", "LAB"})
"""A profile is one for the mode that the picture came in; others are flat RGB first."""


def _profile_map(image: Image.Image, profile: bytes) -> Callable[[Image.Image], Image.Image] | None:
    """Colours by the embedded profile; None where it does not fit or is damaged."""
    mode = image.mode if image.mode in _WITH_PROFILE else "RGB"
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "sRGB" in ImageCms.getProfileDescription(source) and mode == "RGB":
            return None  # it is there already
        target = ImageCms.createProfile("sRGB")
        made = ImageCms.buildTransform(source, target, mode, "RGB")
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        return None

    def convert(part: Image.Image) -> Image.Image:
        found = ImageCms.applyTransform(part, made)
        assert found is not None  # it is None where a picture is changed in place
        return found

    return convert


def _first_page(file: BinaryIO, name: str) -> Image.Image:
    """The first page of a scan, at 300 dots an inch or as fine as may be opened."""
    import pypdfium2  # loaded only where there is a PDF

    with _PDF_AT_A_TIME:
        try:
            document = pypdfium2.PdfDocument(file)
            try:
                page = document[0]
                width, height = (side / _PDF_POINT * _PDF_DPI for side in page.get_size())
                _check_size(name, round(width), round(height))
                drawn: Image.Image = page.render(scale=_PDF_DPI / _PDF_POINT).to_pil()
                image = drawn.convert("RGB")
            finally:
                document.close()
        except pypdfium2.PdfiumError:
            raise UserError(
                f"{name}: a PDF that is damaged or locked; save the scan as a picture"
            ) from None
    image.format = "PDF"
    return image


def _with_heif(start: bytes) -> None:
    """Teach Pillow HEIC only when one comes along: the library is slow to load."""
    if start[4:8] == b"ftyp" and start[8:12] not in {b"avif", b"avis"}:
        import pillow_heif

        pillow_heif.register_heif_opener()
