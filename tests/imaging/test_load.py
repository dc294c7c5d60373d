"""Pictures come in upright and without metadata; what is no picture is refused."""

from __future__ import annotations

import io
import struct
import zlib
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from bralto.core.errors import UserError
from bralto.imaging.decode import open_picture
from bralto.imaging.load import clean_picture

RED, BLUE = (200, 20, 20), (20, 20, 200)


def two_tone(width: int = 60, height: int = 40) -> Image.Image:
    """Red above, blue below."""
    image = Image.new("RGB", (width, height), BLUE)
    image.paste(RED, (0, 0, width, height // 2))
    return image


def with_exif(path: Path, orientation: int) -> Path:
    exif = Image.Exif()
    exif[0x0112] = orientation
    exif[0x010F] = "A Camera Maker"
    gps = exif.get_ifd(0x8825)
    gps[1], gps[2] = "N", (59.0, 20.0, 0.0)
    two_tone().save(path, "JPEG", exif=exif, quality=95)
    return path


@pytest.mark.parametrize(
    ("orientation", "size", "red_at"),
    [
        (1, (60, 40), (30, 5)),
        (3, (60, 40), (30, 35)),
        (6, (40, 60), (35, 30)),
        (8, (40, 60), (5, 30)),
    ],
)
def test_exif_turns_the_picture_and_its_location_is_dropped(
    tmp_path: Path, orientation: int, size: tuple[int, int], red_at: tuple[int, int]
) -> None:
    """Orientations 1, 3, 6, 8 of EXIF 2.32, 4.6.4: upright, upside down, right, left."""
    clean = clean_picture(with_exif(tmp_path / "a.jpg", orientation))
    kept = Image.open(io.BytesIO(clean.data))
    assert (clean.width, clean.height) == kept.size == size
    red, _, blue = kept.getpixel(red_at)
    assert red > 150 > 100 > blue
    assert not dict(kept.getexif())
    assert b"A Camera Maker" not in clean.data
    assert b"Exif" not in clean.data


def png_of(width: int, height: int) -> bytes:
    """A header that promises a size, and no pixels behind it."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        body = kind + data
        return struct.pack(">I", len(data)) + body + struct.pack(">I", zlib.crc32(body))

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", b"") + chunk(b"IEND", b"")


def jpeg() -> bytes:
    out = io.BytesIO()
    noise = np.random.default_rng(0).integers(0, 255, (200, 300, 3), dtype=np.uint8)
    Image.fromarray(noise).save(out, "JPEG")
    return out.getvalue()


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("a.jpg", b"once upon a time", "not a picture"),
        ("a.jpg", b"", "not a picture"),
        ("a.jpg", jpeg()[:4000], "damaged or cut short"),
        ("a.png", png_of(300, 300), "damaged or cut short"),
        ("a.png", png_of(30_000, 30_000), "30,000 × 30,000 pixels is more than"),
        ("a.png", png_of(1, 1), "1 × 1 pixels is too small"),
        ("a.heic", b"\0\0\0\x18ftypheic", "a.heic"),
    ],
)
def test_unfit_pictures_are_refused_in_one_sentence(
    tmp_path: Path, name: str, data: bytes, said: str
) -> None:
    path = tmp_path / name
    path.write_bytes(data)
    with pytest.raises(UserError, match=said) as refused:
        clean_picture(path)
    assert str(refused.value).startswith(name)


def test_a_folder_or_nothing_is_refused(tmp_path: Path) -> None:
    for path in (tmp_path, tmp_path / "none.png"):
        with pytest.raises(UserError):
            open_picture(path)


@pytest.mark.parametrize("mode", ["L", "RGBA", "P", "CMYK", "I;16", "1", "LA"])
def test_every_kind_of_pixel_becomes_rgb(tmp_path: Path, mode: str) -> None:
    path = tmp_path / ("a.tif" if mode == "CMYK" else "a.png")
    if mode == "I;16":
        Image.fromarray(np.full((50, 50), 32768, dtype=np.uint16)).save(path)
    else:
        two_tone(50, 50).convert(mode).save(path)
    image = open_picture(path)
    assert image.mode == "RGB"
    if mode == "I;16":
        assert image.getpixel((5, 5)) == (128, 128, 128)  # scaled, not clipped


def test_transparency_lies_on_white(tmp_path: Path) -> None:
    Image.new("RGBA", (40, 40), (0, 0, 0, 0)).save(tmp_path / "a.png")
    assert open_picture(tmp_path / "a.png").getpixel((3, 3)) == (255, 255, 255)


def test_a_heic_photo_is_read(tmp_path: Path) -> None:
    """The format of many phones; pillow-heif writes one to read."""
    import pillow_heif

    pillow_heif.register_heif_opener()
    two_tone(64, 64).save(tmp_path / "a.heic", quality=95)
    assert clean_picture(tmp_path / "a.heic").suffix == ".jpg"
