"""Decode a picture of any kind that a learner has: photo, scan or PDF, upright, RGB, in sRGB."""

from __future__ import annotations

import io
import struct
import threading
from pathlib import Path

from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from bralto.core.errors import UserError

__all__ = ["LARGEST_PIXELS", "SMALLEST_SIDE", "open_picture"]

LARGEST_PIXELS = 120_000_000
"""More than any camera a learner has (common practice, no source); 360 MB as RGB."""

SMALLEST_SIDE = 32
"""A picture with a shorter side (px) cannot carry marks."""

_PDF_DPI = 300
_PDF_POINT = 72

# The size is checked here, right after the header is read and before anything is decoded.
Image.MAX_IMAGE_PIXELS = None

_PDF_AT_A_TIME = threading.Lock()
"""PDFium is not made for several threads."""


def open_picture(path: Path) -> Image.Image:
    """Open, check and decode a picture: upright, RGB, sRGB; ``format`` and EXIF stay with it.

    Raises:
        UserError: it is no picture, is damaged, or its size is out of bounds; one sentence.
    """
    try:
        with path.open("rb") as file:
            start = file.read(32)
        if start[:5] == b"%PDF-":
            return _first_page(path)
        _with_heif(start)
        with _opened(path) as image:
            _check_size(path, *image.size)
            image.load()
            kind = image.format
            found = _in_srgb(_upright(image))
            found.format = kind
            return found
    except UserError:
        raise
    except FileNotFoundError:
        raise UserError(f"{path.name}: there is no such file") from None
    except UnidentifiedImageError:
        raise UserError(
            f"{path.name}: not a picture that Bralto can read; use JPEG, PNG, HEIC, AVIF, TIFF, "
            "WebP or PDF"
        ) from None
    except Exception as error:
        # A damaged file makes a decoder raise whatever it happened to meet.
        if isinstance(error, OSError) and error.strerror:
            raise UserError(f"{path.name}: cannot be read ({error.strerror})") from None
        raise UserError(
            f"{path.name}: damaged or cut short; copy it again from the camera or phone"
        ) from None


def _opened(path: Path) -> Image.Image:
    """The picture, its pixels still undecoded; a JPEG whose metadata cannot be read without it."""
    try:
        return Image.open(path)
    except (struct.error, SyntaxError, ValueError, KeyError, IndexError, OSError):
        data = path.read_bytes()
        if data[:2] != b"\xff\xd8":
            raise
        return Image.open(io.BytesIO(_without_metadata(data)))


def _without_metadata(data: bytes) -> bytes:
    """A JPEG less its APP1 segments (ISO/IEC 10918-1, B.1.1.4: marker, length, contents)."""
    out, at = bytearray(data[:2]), 2
    while at + 4 <= len(data) and data[at] == 0xFF and data[at + 1] != 0xDA:
        length = 2 + int.from_bytes(data[at + 2 : at + 4])
        if data[at + 1] != 0xE1:
            out += data[at : at + length]
        at += length
    return bytes(out + data[at:])


def _check_size(path: Path, width: int, height: int) -> None:
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


def _upright(image: Image.Image) -> Image.Image:
    """Turned as the camera was held; one whose EXIF cannot be read stays as it lies."""
    try:
        return ImageOps.exif_transpose(image)
    except Exception:
        return image


def _in_srgb(image: Image.Image) -> Image.Image:
    """RGB on white in sRGB: profiles applied, sixteen bits scaled, palettes and CMYK resolved."""
    exif = image.info.get("exif")
    profile = image.info.get("icc_profile")
    flat = _flat(image)
    if profile:
        # A profile is one for the mode that the picture came in.
        source = image if image.mode in {"CMYK", "RGB", "L", "LAB"} else flat
        flat = _through_profile(source, profile) or flat
    flat.info = {} if exif is None else {"exif": exif}
    return flat


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
    return image.copy() if image.mode == "RGB" else image.convert("RGB")


def _through_profile(image: Image.Image, profile: bytes) -> Image.Image | None:
    """Colours by the embedded profile; None where it does not fit or is damaged."""
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "sRGB" in ImageCms.getProfileDescription(source) and image.mode == "RGB":
            return None  # it is there already
        target = ImageCms.createProfile("sRGB")
        return ImageCms.profileToProfile(image, source, target, outputMode="RGB")
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        return None


def _first_page(path: Path) -> Image.Image:
    """The first page of a scan, at 300 dots an inch or as fine as may be opened."""
    import pypdfium2  # loaded only where there is a PDF

    with _PDF_AT_A_TIME:
        try:
            document = pypdfium2.PdfDocument(path)
            try:
                page = document[0]
                width, height = (side / _PDF_POINT * _PDF_DPI for side in page.get_size())
                _check_size(path, round(width), round(height))
                drawn: Image.Image = page.render(scale=_PDF_DPI / _PDF_POINT).to_pil()
                image = drawn.convert("RGB")
            finally:
                document.close()
        except pypdfium2.PdfiumError:
            raise UserError(
                f"{path.name}: a PDF that is damaged or locked; save the scan as a picture"
            ) from None
    image.format = "PDF"
    return image


def _with_heif(start: bytes) -> None:
    """Teach Pillow HEIC only when one comes along: the library is slow to load."""
    if start[4:8] == b"ftyp" and start[8:12] not in {b"avif", b"avis"}:
        import pillow_heif

        pillow_heif.register_heif_opener()
